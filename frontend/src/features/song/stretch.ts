import type { Schemas } from "../../api/client";

type Bar = Schemas["BarOut"];

/** Bars that are marked: between two bars, whichever comes first; while ``to`` is null they reach as far as the place in hand. */
export interface Marked {
  from: number;
  to: number | null;
}

/** Marked bars as they stand in the song, in numbers and beats; ``growing`` while they go along with the place in hand. */
export interface Stretch {
  first: number;
  last: number;
  from: number;
  to: number;
  growing: boolean;
}

/** The bar of a place in beats. */
export function barAt(bars: readonly Bar[], beat: number): Bar | undefined {
  return bars.findLast((b) => b.start_beats <= beat + 1e-6) ?? bars[0];
}

/** What is marked, with the place in hand at a beat; null where nothing is, or where the song has no such bars any more. */
export function stretchOf(bars: readonly Bar[], marked: Marked | null, place: number): Stretch | null {
  if (!marked) return null;
  const here = marked.to ?? barAt(bars, place)?.number ?? marked.from;
  const [first, last] = [Math.min(marked.from, here), Math.max(marked.from, here)];
  const a = bars.find((b) => b.number === first);
  const b = bars.find((x) => x.number === last);
  return a && b ? { first, last, from: a.start_beats, to: b.start_beats + b.beats, growing: marked.to === null } : null;
}

/** The key that marks: from this bar, then up to this bar, then no more. */
export function markNext(marked: Marked | null, here: number): Marked | null {
  if (!marked) return { from: here, to: null };
  return marked.to === null ? { from: marked.from, to: here } : null;
}

/** "bar 5", "bars 5 to 8", "the pickup", "the pickup to bar 2". */
export function sayBars(first: number, last: number): string {
  if (first === 0) return last === 0 ? "the pickup" : `the pickup to bar ${last}`;
  return first === last ? `bar ${first}` : `bars ${first} to ${last}`;
}
