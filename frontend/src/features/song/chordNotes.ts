import type { Schemas } from "../../api/client";
import type { PianoNote } from "../../player";

/** The plain grip by which the server lets a chord be heard, over the chord's time; its first key is the bass. */
export function chordNotes(chord: Schemas["ChordOut"]): PianoNote[] {
  return chord.midi.map((midi, i) => ({
    start: chord.start_beats,
    duration: chord.duration_beats,
    midi,
    hand: i ? "right" : "left",
  }));
}

export const tuneNotes = (note: Schemas["MelodyOut"]): PianoNote => ({
  start: note.start_beats,
  duration: note.duration_beats,
  midi: note.midi,
  hand: "tune",
});

/** What both hands play, as the piano sounds it. */
export const handNotes = (arrangement: Schemas["ArrangementOut"] | undefined): PianoNote[] =>
  arrangement?.parts.flatMap((p) =>
    p.notes.map((n) => ({ start: n.start_beats, duration: n.sounds_beats, midi: n.midi, hand: n.hand })),
  ) ?? [];
