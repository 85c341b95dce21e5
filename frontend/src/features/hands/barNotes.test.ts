import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { beatsOf } from "../../ui";
import { gauge, KEYS } from "./barGauge";
import { changeByKey, foresee, type Hand, neighbour, type Place, sayNote } from "./barNotes";

type BarNote = Schemas["BarNoteOut"];

const note = (start_beats: number, midi: number, more: Partial<BarNote> = {}): BarNote => ({
  start: `${8 + start_beats}`,
  start_beats,
  midi,
  pitch: `k${midi}`,
  duration: "1",
  duration_beats: 1,
  finger: null,
  grace: false,
  optional: false,
  rings: false,
  ...more,
});

const handBar = (hand: Hand, ...notes: BarNote[]) => ({ hand, notes, text: "", written: true });

/** The third bar of a song in four, from beat 8 on. */
const bar = {
  bar: 3,
  start: "8",
  duration: "4",
  duration_beats: 4,
  counts: ["1", "2", "3", "4"],
  hands: [handBar("left", note(0, 43), note(2, 50)), handBar("right", note(0, 67), note(1, 71), note(2, 74))],
} as unknown as Schemas["BarCloseOut"];

const place = (hand: Hand, n: BarNote): Place => ({ hand, start: n.start, midi: n.midi });
const press = (key: string, more: Partial<KeyboardEvent> = {}) => ({
  key,
  shiftKey: false,
  ctrlKey: false,
  metaKey: false,
  altKey: false,
  ...more,
});

describe("a note in words", () => {
  it("says hand, key, count and length", () => {
    expect(sayNote("left", note(0, 43, { pitch: "G2" }), bar)).toBe("left hand: G2 on 1, a beat");
    expect(sayNote("right", note(1, 71, { pitch: "B4", duration: "2", finger: 3 }), bar)).toBe(
      "right hand: B4 on 2, 2 beats, third finger",
    );
  });
  it("says what lies between the counts", () => {
    const half = note(2.5, 74, { pitch: "D5", duration: "1/2" });
    expect(sayNote("right", half, bar)).toBe("right hand: D5 after 3, 1/2 of a beat");
    expect(sayNote("right", note(3.75, 74, { pitch: "D5", duration: "3/2" }), bar)).toBe(
      "right hand: D5 past 4, 3/2 beats",
    );
  });
  it("counts on where the bar has no name for it", () => {
    expect(sayNote("left", note(5, 43, { pitch: "G2" }), bar)).toBe("left hand: G2 on 6, a beat");
  });
  it("says graces, what may be left out and what rings on", () => {
    expect(sayNote("left", note(0, 43, { pitch: "G2", grace: true }), bar)).toBe("left hand: G2 on 1, a grace");
    expect(sayNote("left", note(0, 43, { pitch: "G2", optional: true, rings: true, finger: 1 }), bar)).toBe(
      "left hand: G2 on 1, a beat, thumb, may be left out, rings on",
    );
  });
});

describe("from note to note", () => {
  it("goes through both hands in the order of time, the lower first, and round", () => {
    const seen: number[] = [];
    let here: Place | null = null;
    for (let i = 0; i < 6; i++) {
      here = neighbour(bar, here, 1) ?? null;
      seen.push(here?.midi ?? 0);
    }
    expect(seen).toEqual([43, 67, 71, 50, 74, 43]);
  });
  it("goes back again, and begins where nothing is chosen", () => {
    expect(neighbour(bar, place("left", note(0, 43)), -1)?.midi).toBe(74);
    expect(neighbour(bar, { hand: "left", start: "99", midi: 1 }, 1)?.midi).toBe(43);
    expect(neighbour({ ...bar, hands: [] }, null, 1)).toBeUndefined();
  });
});

describe("keys on a note", () => {
  const mine = note(1, 71);
  const here = place("right", mine);
  const made = (key: string, more: Partial<KeyboardEvent> = {}) => changeByKey(press(key, more), here, mine, bar, 2);

  it("moves it over the keys, by octaves with Shift", () => {
    expect(made("ArrowLeft")?.change).toEqual({ ...here, key: 70 });
    expect(made("ArrowRight")?.next.midi).toBe(72);
    expect(made("ArrowRight", { shiftKey: true })?.change.key).toBe(83);
    expect(made("ArrowLeft", { shiftKey: true })?.next.midi).toBe(59);
  });
  it("moves it in time by the steps of the bar, and not out of it", () => {
    expect(made("ArrowUp")?.change.to).toBe("17/2");
    expect(made("ArrowDown")?.next.start).toBe("19/2");
    const last = note(3.5, 74, { start: "23/2" });
    expect(changeByKey(press("ArrowDown"), place("right", last), last, bar, 2)).toBeNull();
    const first = note(0, 67);
    expect(changeByKey(press("ArrowUp"), place("right", first), first, bar, 2)).toBeNull();
  });
  it("makes it longer and shorter, but never nothing", () => {
    expect(made("+")?.change.lasting).toBe("3/2");
    expect(made("=")?.change.lasting).toBe("3/2");
    expect(made("-")?.change.lasting).toBe("1/2");
    const short = note(1, 71, { duration: "1/2", duration_beats: 0.5 });
    expect(changeByKey(press("-"), here, short, bar, 2)).toBeNull();
  });
  it("gives it a finger, takes it, stars it, hands it over, takes it out", () => {
    expect(["0", "1", "5"].map((key) => made(key)?.change.finger)).toEqual([0, 1, 5]);
    expect(made("s")?.change.star).toBe(true);
    expect(made("H")?.change.other_hand).toBe(true);
    expect(made("h")?.next.hand).toBe("left");
    expect([made("Delete"), made("Backspace")].map((m) => m?.change.remove)).toEqual([true, true]);
  });
  it("puts a new one a step later, inside the bar", () => {
    expect(made("n")?.change).toEqual({ ...here, start: "19/2", lasting: "1/2", add: true });
    const last = note(3.5, 74, { start: "23/2" });
    expect(changeByKey(press("n"), place("right", last), last, bar, 2)).toBeNull();
  });
  it("leaves alone what belongs to the browser, and keys that mean nothing", () => {
    expect(["ctrlKey", "metaKey", "altKey"].map((k) => made("s", { [k]: true }))).toEqual([null, null, null]);
    expect([made("x"), made("6"), made("Enter")]).toEqual([null, null, null]);
  });

  it.each(["ArrowLeft", "ArrowRight", "ArrowUp", "ArrowDown", "+", "-", "3", "s"])(
    "foresees what %s makes of it, so that the next key is about the note as it will be",
    (key) => {
      const done = made(key);
      if (!done) throw new Error("nothing was made");
      const after = foresee(done, mine, bar);
      expect([after.start, after.midi]).toEqual([done.next.start, done.next.midi]);
      expect(after.start_beats).toBeCloseTo(beatsOf(after.start) - 8);
      expect(after.duration_beats).toBeCloseTo(beatsOf(after.duration));
      expect(after.optional).toBe(key === "s");
      expect(after.pitch).toBe(after.midi === mine.midi ? "k71" : ""); // its name is the server's to say
    },
  );
  it("foresees a finger that is taken away", () => {
    const fingered = { ...mine, finger: 4 };
    const done = changeByKey(press("0"), here, fingered, bar, 2);
    expect(done && foresee(done, fingered, bar).finger).toBeNull();
  });
});

describe("the bar on paper", () => {
  const paper = gauge(bar, 2);

  it("finds every key and step under the point where it is drawn", () => {
    for (const midi of paper.keys) {
      for (let step = 0; step < 8; step++) {
        const found = paper.under(paper.across(midi), paper.down(step / 2));
        expect(found).toEqual({ midi, step, inside: true });
      }
    }
  });
  it("keeps points outside at the edge", () => {
    expect(paper.under(-500, 0)).toEqual({ midi: paper.keys[0], step: 0, inside: false });
    expect(paper.under(9999, 9999)).toMatchObject({ midi: paper.keys.at(-1), step: 7 });
    expect(paper.under(100, KEYS).inside).toBe(false);
  });
  it("draws keys from left to right inside the sheet, and beats downward", () => {
    const centres = paper.keys.map(paper.across);
    expect([...centres].sort((a, b) => a - b)).toEqual(centres);
    expect(Math.min(...paper.keys.map((k) => paper.box(k).x))).toBeGreaterThanOrEqual(paper.left);
    expect(Math.max(...paper.keys.map((k) => paper.box(k).x + paper.box(k).width))).toBeLessThanOrEqual(paper.width);
    expect(paper.down(0)).toBeLessThan(paper.down(1));
    expect(paper.down(4)).toBeLessThan(paper.height);
  });
  it("holds a note from its beginning to its end, and a grace beside its key", () => {
    const plain = paper.mark(note(1, 71));
    expect(plain.x).toBeCloseTo(paper.across(71));
    expect(plain.y).toBeCloseTo(paper.down(1));
    expect(plain.end).toBeGreaterThan(plain.y);
    expect(plain.end).toBeLessThan(paper.down(2));
    const grace = paper.mark(note(1, 71, { grace: true, duration_beats: 0 }));
    expect(grace.x).toBeLessThan(plain.x);
    expect(grace.size).toBeLessThan(plain.size);
  });
  it("gives a new key to the hand that is nearer", () => {
    expect([43, 50, 67, 74].map(paper.handAt)).toEqual(["left", "left", "right", "right"]);
    expect(gauge({ ...bar, hands: [] }, 2).handAt(48)).toBe("left");
    expect(gauge({ ...bar, hands: [] }, 2).handAt(72)).toBe("right");
  });
  it("says a step as a beat of the song", () => {
    expect([0, 1, 7].map(paper.beat)).toEqual(["8", "17/2", "23/2"]);
  });
});
