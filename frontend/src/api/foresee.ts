import { addBeats, beatsOf } from "../ui/fraction";
import type { Schemas } from "./client";
import type { Edit } from "./edits";

type Chart = Schemas["ChartOut"];
type Chord = Schemas["ChordOut"];

/** A chord from another beat on, or to another end; which bar that is, the answer tells. */
function between(chord: Chord, start: string, end: string): Chord {
  const [n = "0", d = "1"] = start.split("/");
  const duration = addBeats(end, -Number(n), Number(d));
  return { ...chord, start, start_beats: beatsOf(start), duration, duration_beats: beatsOf(duration) };
}

function endOf(chord: Chord): string {
  const [n = "0", d = "1"] = chord.duration.split("/");
  return addBeats(chord.start, Number(n), Number(d));
}

/** The chords with those from `first` on, `taken` of them, replaced. */
const replaced = (chart: Chart, first: number, taken: number, by: Chord[]): Chart => ({
  ...chart,
  chords: [...chart.chords.slice(0, first), ...by, ...chart.chords.slice(first + taken)],
});

function moveChange(chart: Chart, start: string, to: string): Chart {
  const i = chart.chords.findIndex((c) => c.start === start);
  const [before, here] = [chart.chords[i - 1], chart.chords[i]];
  const at = beatsOf(to);
  if (!before || !here || at <= before.start_beats || at >= here.start_beats + here.duration_beats) return chart;
  return replaced(chart, i - 1, 2, [
    between(before, before.start, to),
    { ...between(here, to, endOf(here)), locked: true },
  ]);
}

function splitChord(chart: Chart, at: string): Chart {
  const beats = beatsOf(at);
  const i = chart.chords.findIndex((c) => c.start_beats < beats && beats < c.start_beats + c.duration_beats);
  const here = chart.chords[i];
  if (!here) return chart;
  return replaced(chart, i, 1, [between(here, here.start, at), between(here, at, endOf(here))]);
}

/** The chord that begins at `start` gives its time to the one before it. */
function joinChord(chart: Chart, start: string): Chart {
  const i = chart.chords.findIndex((c) => c.start === start);
  const [before, here] = [chart.chords[i - 1], chart.chords[i]];
  return before && here ? replaced(chart, i - 1, 2, [between(before, before.start, endOf(here))]) : chart;
}

/** How the chart will look after a correction, as far as that needs no rules of music; the server has the last word. */
export function foresee(chart: Chart, edit: Edit): Chart {
  switch (edit.kind) {
    case "set_chord": {
      const start = String(edit.start);
      return {
        ...chart,
        chords: chart.chords.map((c) => {
          if (c.start !== start) return c;
          const reading = c.readings.find((r) => r.label === edit.text);
          return { ...c, symbol: reading?.symbol ?? edit.text ?? c.symbol, locked: true, doubtful: false };
        }),
      };
    }
    case "move_change":
      return moveChange(chart, String(edit.start), String(edit.to));
    case "split_chord":
      return splitChord(chart, String(edit.at));
    case "join_chord":
    case "delete_chord":
      return joinChord(chart, String(edit.start));
    case "change_note": {
      const start = String(edit.start);
      const { midi, grace } = edit;
      return {
        ...chart,
        melody: chart.melody.map((n) =>
          n.start === start ? { ...n, midi: midi ?? n.midi, grace: grace ?? n.grace } : n,
        ),
      };
    }
    case "delete_note":
      return { ...chart, melody: chart.melody.filter((n) => n.start !== String(edit.start)) };
    case "rename_part":
      return {
        ...chart,
        parts: chart.parts.map((p) => (p.number === edit.number ? { ...p, name: edit.name ?? p.name } : p)),
      };
    default:
      return chart;
  }
}
