import type { Schemas } from "../../api/client";

/** Of the drawing, in its own units. */
export const ROW_WIDTH = 880;
export const ROW_HEIGHT = 112;

export type Bar = Schemas["BarOut"];

export interface Terrace {
  part: number;
  first: boolean;
  bars: Bar[];
  /** Metre of the bar before the first one, so that a change is seen. */
  meterBefore: string;
  /** Bars for which it has room. */
  perRow: number;
}

/** How many bars a row has room for, so that no chord lies on another. */
export const barsPerRow = (width: number): number => (width >= 780 ? 4 : width >= 300 ? 2 : 1);

/** Bars four to a terrace, or fewer where there is less room, phrase by phrase: a part always begins a new one; a pickup stands with bar 1. */
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
        perRow,
      });
    } else {
      last.bars.push(bar);
    }
  }
  return rows;
}

/** Where a position in beats stands on a terrace, in drawing units; a pickup takes the share of its beats. */
export function placeOnTerrace(terrace: Terrace, beat: number): number {
  let x = 0;
  for (const bar of terrace.bars) {
    const width = barWidth(terrace, bar.number);
    if (beat < bar.start_beats + bar.beats || bar === terrace.bars.at(-1))
      return x + ((beat - bar.start_beats) / bar.beats) * width;
    x += width;
  }
  return x;
}

function barWidth(terrace: Terrace, number: number): number {
  const whole = ROW_WIDTH / terrace.perRow;
  if (!terrace.bars.some((b) => b.number === 0)) return whole;
  return number === 0 ? whole * 0.45 : (ROW_WIDTH - whole * 0.45) / terrace.perRow;
}

/** The beat at a place of the drawing: the inverse. */
export function beatOnTerrace(terrace: Terrace, x: number): number {
  let left = 0;
  for (const bar of terrace.bars) {
    const width = barWidth(terrace, bar.number);
    if (x < left + width || bar === terrace.bars.at(-1))
      return bar.start_beats + Math.min(1, Math.max(0, (x - left) / width)) * bar.beats;
    left += width;
  }
  return 0;
}
