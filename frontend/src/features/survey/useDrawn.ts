import { useDeferredValue } from "react";
import type { Terrace } from "./terraces";

const AROUND = 6; // rows: more than are seen at once

/** Which rows are drawn: those around the place in hand and the part at once, all others when the page stands and nothing else is waited for. */
export function useDrawn(terraces: readonly Terrace[], ...beats: readonly number[]) {
  const all = useDeferredValue(true, false);
  if (all) return { all, drawn: () => true };
  const rows = beats.map((beat) =>
    terraces.findIndex((t) => t.bars.some((b) => beat >= b.start_beats && beat < b.start_beats + b.beats)),
  );
  return { all, drawn: (row: number) => rows.some((here) => Math.abs(row - Math.max(0, here)) <= AROUND) };
}
