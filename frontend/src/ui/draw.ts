/** Paths for the drawings; pure, so that they can be tested. */

export type Point = readonly [number, number];

const n = (x: number) => (Math.round(x * 10) / 10).toString();

/** A smooth line through points, by quadratic halves. */
export function smoothPath(points: readonly Point[]): string {
  const [first, ...rest] = points;
  if (!first) return "";
  let path = `M${n(first[0])} ${n(first[1])}`;
  for (let i = 0; i < rest.length; i++) {
    const [x, y] = rest[i] as Point;
    const next = rest[i + 1];
    const [ex, ey] = next ? [(x + next[0]) / 2, (y + next[1]) / 2] : [x, y];
    path += ` Q${n(x)} ${n(y)} ${n(ex)} ${n(ey)}`;
  }
  return path;
}

/** Levels (0 to 1) of a stretch of the recording, brought to so many points by their maxima. */
export function sampleLevels(
  levels: readonly number[],
  from: number,
  to: number,
  rate: number,
  points: number,
): number[] {
  const out: number[] = [];
  for (let i = 0; i < points; i++) {
    const a = Math.floor((from + ((to - from) * i) / points) * rate);
    const b = Math.max(a + 1, Math.floor((from + ((to - from) * (i + 1)) / points) * rate));
    let top = 0;
    for (let k = a; k < b; k++) top = Math.max(top, levels[k] ?? 0);
    out.push(top);
  }
  return out;
}

/** Grass: levels as blades that stand on a ground line. */
export function grassPath(levels: readonly number[], x: number, width: number, ground: number, height: number): string {
  if (!levels.length) return "";
  const step = width / levels.length;
  const points = levels.map(
    (level, i) =>
      `L${n(x + i * step)} ${n(ground - Math.max(1, level * height))} L${n(x + (i + 0.7) * step)} ${n(ground - level * height * 0.6)}`,
  );
  return `M${n(x)} ${n(ground)} ${points.join(" ")} L${n(x + width)} ${n(ground)} Z`;
}

/** A river downwards: levels as half widths either side of a wandering middle. */
export function riverPath(
  levels: readonly number[],
  middle: (i: number) => number,
  top: number,
  step: number,
  half: number,
): string {
  if (!levels.length) return "";
  const left = levels.map((l, i) => `${n(middle(i) - Math.max(1.5, l * half))} ${n(top + i * step)}`);
  const right = levels.map((l, i) => `${n(middle(i) + Math.max(1.5, l * half))} ${n(top + i * step)}`).reverse();
  return `M${left.join(" L")} L${right.join(" L")} Z`;
}

/** A number that is the same for the same place, -1 to 1: so that drawn lines waver but never change. */
export function waver(seed: number): number {
  const x = Math.sin(seed * 12.9898) * 43758.5453;
  return 2 * (x - Math.floor(x)) - 1;
}
