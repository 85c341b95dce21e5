import type { Schemas } from "../../api/client";

export type Bar = Schemas["BarOut"];

export interface Terrace {
  part: number;
  first: boolean;
  bars: Bar[];
  /** Metre of the bar before the first one, so that a change is seen. */
  meterBefore: string;
}

/** Bars four to a terrace, phrase by phrase: a part always begins a new one; a pickup stands with bar 1. */
export function makeTerraces(bars: readonly Bar[], perRow = 4): Terrace[] {
  const rows: Terrace[] = [];
  for (const bar of bars) {
    const last = rows.at(-1);
    const full = last ? last.bars.filter((b) => b.number > 0).length >= perRow : true;
    if (!last || full || last.part !== bar.part) {
      rows.push({
        part: bar.part,
        first: last?.part !== bar.part,
        bars: [bar],
        meterBefore: last?.bars.at(-1)?.meter ?? bar.meter,
      });
    } else {
      last.bars.push(bar);
    }
  }
  return rows;
}
