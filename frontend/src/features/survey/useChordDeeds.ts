import type { Schemas } from "../../api/client";
import { beatsAt, secondsAt } from "../../player";
import { addBeats } from "../../ui";
import { type useCorrections, useWorkspace } from "../song";

/** What is done to the chord in hand: heard in its place, moved, split, joined, taken out; a new one set. */
export function useChordDeeds(
  chord: Schemas["ChordOut"] | undefined,
  corrections: ReturnType<typeof useCorrections>,
  onInserted: () => void,
) {
  const { chart, selected, select, place, player } = useWorkspace();
  const hearPlace = () => {
    if (!chord) return;
    const from = secondsAt(chart, Math.max(0, chord.start_beats - 1));
    void player.playSpan(Math.max(0, from), secondsAt(chart, chord.start_beats + chord.duration_beats));
  };
  const move = (halves: number) => {
    if (!chord) return;
    const to = addBeats(chord.start, halves, 2);
    corrections.send({ kind: "move_change", start: chord.start, to });
    select(to); // at once: the next press means the chord in its new place
  };
  const split = () => {
    if (!chord) return;
    const at = addBeats(chord.start, Math.max(1, Math.floor(chord.duration_beats)), 2);
    corrections.send({ kind: "split_chord", at });
    select(at);
  };
  /** A new chord at the place in hand where none begins there, else where the recording stands, to the nearest half beat; what is typed next names it. */
  const insert = () => {
    const halves = Math.round(2 * beatsAt(chart, player.getState().time));
    const at = place !== selected ? place : addBeats("0", halves, 2);
    if (chart.chords.some((c) => c.start === at)) select(at);
    else
      corrections.send({ kind: "split_chord", at }, () => {
        select(at);
        onInserted();
      });
  };
  const before = () => chart.chords[chart.chords.findIndex((c) => c.start === selected) - 1]?.start ?? "0";
  const giveUp = (kind: "join_chord" | "delete_chord") => {
    if (!chord) return;
    corrections.send({ kind, start: chord.start });
    select(before());
  };
  const join = () => giveUp("join_chord");
  const remove = () => giveUp("delete_chord");
  return { hearPlace, move, split, insert, join, remove };
}
