import type { Schemas } from "../../api/client";
import { addBeats, beatsOf } from "../../ui";

type BarNote = Schemas["BarNoteOut"];
type Bar = Schemas["BarCloseOut"];
export type Hand = "left" | "right";

/** Which note of a bar is meant. */
export interface Place {
  hand: Hand;
  start: string;
  midi: number;
}

/** What is done to it, as the edit says it. */
export type Change = Place & Partial<Schemas["ChangePlayed"]>;

const FINGERS = ["thumb", "second finger", "third finger", "fourth finger", "fifth finger"];

const lengthOf = (text: string): string => {
  const beats = beatsOf(text);
  if (beats === 1) return "a beat";
  return Number.isInteger(beats) ? `${beats} beats` : `${text} ${beats > 1 ? "beats" : "of a beat"}`;
};

/** A note in words: "left hand: D2 on 1, a beat, fifth finger". */
export function sayNote(hand: Hand, note: BarNote, bar: Bar): string {
  const whole = Math.floor(note.start_beats + 1e-6);
  const rest = note.start_beats - whole;
  const count = bar.counts[whole] ?? `${whole + 1}`;
  const on = rest < 1e-6 ? `on ${count}` : Math.abs(rest - 0.5) < 1e-6 ? `after ${count}` : `past ${count}`;
  const more = [
    note.grace ? "a grace" : lengthOf(note.duration),
    note.finger && FINGERS[note.finger - 1],
    note.optional && "may be left out",
    note.rings && "rings on",
  ].filter(Boolean);
  return `${hand} hand: ${note.pitch} ${on}, ${more.join(", ")}`;
}

type Press = Pick<KeyboardEvent, "key" | "shiftKey" | "ctrlKey" | "metaKey" | "altKey">;

export interface Made {
  change: Change;
  next: Place;
}

/** The note as it will be when a change has been made: what the next key is about, before the answer is there. */
export function foresee({ change, next }: Made, note: BarNote, bar: Bar): BarNote {
  return {
    ...note,
    start: next.start,
    start_beats: beatsOf(next.start) - beatsOf(bar.start),
    midi: next.midi,
    pitch: next.midi === note.midi ? note.pitch : "",
    duration: change.lasting ?? note.duration,
    duration_beats: change.lasting ? beatsOf(change.lasting) : note.duration_beats,
    finger: change.finger === undefined ? note.finger : change.finger || null,
    optional: note.optional !== Boolean(change.star),
  };
}

/** The note before or after another, through both hands in the order of time. */
export function neighbour(bar: Bar, place: Place | null, by: number): Place | undefined {
  const all = bar.hands
    .flatMap((h) => h.notes.map((n) => ({ hand: h.hand as Hand, start: n.start, midi: n.midi, at: n.start_beats })))
    .sort((a, b) => a.at - b.at || a.midi - b.midi);
  const here = all.findIndex((n) => n.hand === place?.hand && n.start === place.start && n.midi === place.midi);
  const found = all[here < 0 ? 0 : (here + by + all.length) % all.length];
  return found && { hand: found.hand, start: found.start, midi: found.midi };
}

/** What a key does to a note: arrows move it over keys and time, + and − its length, 1–5 its finger, H its hand, S its star, Delete takes it out. */
export function changeByKey(press: Press, place: Place, note: BarNote, bar: Bar, division: number): Made | null {
  if (press.ctrlKey || press.metaKey || press.altKey) return null;
  const toKey = (by: number): Made => ({
    change: { ...place, key: place.midi + by },
    next: { ...place, midi: place.midi + by },
  });
  const toTime = (steps: number): Made | null => {
    const to = addBeats(place.start, steps, division);
    const away = note.start_beats + steps / division;
    if (away < 0 || away >= bar.duration_beats) return null;
    return { change: { ...place, to }, next: { ...place, start: to } };
  };
  const lasting = (steps: number): Made | null => {
    const length = addBeats(note.duration, steps, division);
    return beatsOf(length) > 0 ? { change: { ...place, lasting: length }, next: place } : null;
  };
  const put = (): Made | null => {
    const start = addBeats(place.start, 1, division);
    if (note.start_beats + 1 / division >= bar.duration_beats) return null;
    return {
      change: { ...place, start, lasting: addBeats("0", 1, division), add: true },
      next: { ...place, start },
    };
  };
  const key = press.key.toLowerCase();
  if (/^[0-5]$/.test(key)) return { change: { ...place, finger: Number(key) }, next: place };
  const octave = press.shiftKey ? 12 : 1;
  const acts: Record<string, () => Made | null> = {
    arrowleft: () => toKey(-octave),
    arrowright: () => toKey(octave),
    arrowup: () => toTime(-1),
    arrowdown: () => toTime(1),
    "+": () => lasting(1),
    "=": () => lasting(1),
    "-": () => lasting(-1),
    n: put,
    h: () => ({
      change: { ...place, other_hand: true },
      next: { ...place, hand: place.hand === "left" ? "right" : "left" },
    }),
    s: () => ({ change: { ...place, star: true }, next: place }),
    delete: () => ({ change: { ...place, remove: true }, next: place }),
    backspace: () => ({ change: { ...place, remove: true }, next: place }),
  };
  return acts[key]?.() ?? null;
}
