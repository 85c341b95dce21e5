import type { Schemas } from "./client";
import type { Edit } from "./edits";

type Chart = Schemas["ChartOut"];

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
