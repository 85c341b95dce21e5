import type { Schemas } from "../../api/client";

export type Part = Schemas["PartOut"];

/** A place on the map: one distinct part, with the numbers of all its occurrences. */
export interface Place {
  part: Part;
  visits: number[];
  x: number;
  y: number;
}

/** A walk from one occurrence to the next. */
export interface Walk {
  from: Place;
  to: Place;
  step: number;
  returning: boolean;
  path: string;
}

/**
 * Places stand on a valley floor that winds from left to right, in the order in which they are first reached; a long
 * song goes on in a second row. Walks to the next new place follow the floor; all others arc above or below it,
 * each at a height of its own, so that no two lie on each other.
 */
export function layOutMap(parts: readonly Part[], width: number, height: number): { places: Place[]; walks: Walk[] } {
  const places: Place[] = [];
  const placeOf = new Map<number, Place>();
  for (const part of parts) {
    const known = part.same_as === null ? undefined : placeOf.get(part.same_as);
    const place = known ?? { part, visits: [], x: 0, y: 0 };
    if (!known) places.push(place);
    place.visits.push(part.number);
    placeOf.set(part.number, place);
  }
  const rows = places.length > 6 ? 2 : 1;
  const perRow = Math.ceil(places.length / rows);
  const gap = width / (perRow + 0.15);
  places.forEach((place, i) => {
    const row = Math.floor(i / perRow);
    const column = row % 2 ? perRow - 1 - (i % perRow) : i % perRow;
    place.x = gap * (column + 0.58);
    place.y = (height * (row + 0.5)) / rows + (i % 2 ? 0.09 : -0.05) * (height / rows);
  });
  let above = 0;
  let below = 0;
  const walks: Walk[] = [];
  for (let i = 1; i < parts.length; i++) {
    const from = placeOf.get((parts[i - 1] as Part).number) as Place;
    const to = placeOf.get((parts[i] as Part).number) as Place;
    const next = places.indexOf(to) === places.indexOf(from) + 1;
    const returning = !next || to.visits[0] !== (parts[i] as Part).number;
    const direct = next && !walks.some((w) => w.from === from && w.to === to);
    const ahead = to.x > from.x;
    const lift = direct ? 0 : ahead ? 1 + 0.22 * below++ : -(1 + 0.22 * above++);
    walks.push({ from, to, step: i, returning, path: walkPath(from, to, lift, height / rows) });
  }
  return { places, walks };
}

const RADIUS = 38;
const BELOW_TEXT = 68; // under the chords written below a place

/** An arc that leaves and reaches the rim of the places; `lift` is how far it swings off the floor. */
export function walkPath(
  from: { x: number; y: number },
  to: { x: number; y: number },
  lift: number,
  room: number,
): string {
  if (from.x === to.x && from.y === to.y) {
    const { x, y } = from;
    return `M${x - 20} ${y - 46}C${x - 50} ${y - 96} ${x + 50} ${y - 96} ${x + 20} ${y - 46}`;
  }
  const up = lift * room * 0.3;
  const mx = (from.x + to.x) / 2;
  const my = (from.y + to.y) / 2 + up;
  const ahead = Math.sign(to.x - from.x);
  const rim = (a: { x: number; y: number }, away: number): readonly [number, number] => {
    if (lift > 0) return [a.x + away * 22, a.y + BELOW_TEXT];
    if (lift < 0) return [a.x + away * 14, a.y - 26];
    const dx = mx - a.x;
    const dy = my - a.y;
    const length = Math.hypot(dx, dy) || 1;
    return [a.x + (dx / length) * (RADIUS + 12), a.y + (dy / length) * (RADIUS + 12)];
  };
  const [ax, ay] = rim(from, ahead);
  const [bx, by] = rim(to, -ahead);
  const f = (v: number) => v.toFixed(1);
  return `M${f(ax)} ${f(ay)}Q${f(mx)} ${f((from.y + to.y) / 2 + up * 1.6)} ${f(bx)} ${f(by)}`;
}
