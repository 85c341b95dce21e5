/** Geometry of the piano keyboard in white-key widths. */

const WHITE_BEFORE = [0, 1, 1, 2, 2, 3, 4, 4, 5, 5, 6, 6];
const BLACK = [false, true, false, true, false, false, true, false, true, false, true, false];
// A black key stands on the line between its neighbours, moved as on a real keyboard.
const BLACK_SHIFT: Record<number, number> = { 1: -0.09, 3: 0.09, 6: -0.14, 8: 0, 10: 0.14 };
const BLACK_WIDTH = 0.58;

export const isBlack = (midi: number): boolean => BLACK[midi % 12] ?? false;

function whiteIndex(midi: number): number {
  return 7 * Math.floor(midi / 12) + (WHITE_BEFORE[midi % 12] ?? 0);
}

/** Left edge and width of a key, measured from the left edge of the white key `low`. */
export function keyBox(midi: number, low: number): { x: number; width: number } {
  const x = whiteIndex(midi) - whiteIndex(low);
  if (!isBlack(midi)) return { x, width: 1 };
  return { x: x - BLACK_WIDTH / 2 + (BLACK_SHIFT[midi % 12] ?? 0), width: BLACK_WIDTH };
}

/** Middle of a key. */
export function keyCentre(midi: number, low: number): number {
  const box = keyBox(midi, low);
  return box.x + box.width / 2;
}

/** Width of a stretch of keyboard from one white key to another. */
export function keyboardWidth(low: number, high: number): number {
  return whiteIndex(high) - whiteIndex(low) + 1;
}

/** The stretch from a C to a B (or C) that holds all keys, with at least two octaves. */
export function framing(keys: readonly number[], lowest = 21, highest = 108): { low: number; high: number } {
  const from = keys.length ? Math.min(...keys) : 48;
  const to = keys.length ? Math.max(...keys) : 72;
  let low = Math.floor((from - 1) / 12) * 12;
  let high = Math.ceil((to + 1) / 12) * 12;
  if (high - low < 24) high = low + 24;
  if (low < lowest) low = lowest;
  if (high > highest) high = highest;
  return { low, high };
}
