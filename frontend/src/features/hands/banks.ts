import type { Schemas } from "../../api/client";

export type Grip = Schemas["GripOut"];
export type Note = Schemas["HandNoteOut"];

/** From which note of the grip before each note of a hand comes: its nearest, each used once where numbers allow. */
export function joinNotes(before: readonly Note[], after: readonly Note[]): [Note, Note][] {
  const links: [Note, Note][] = [];
  const free = new Set(before);
  const ordered = [...after].sort((a, b) => Number(b.kept) - Number(a.kept));
  for (const note of ordered) {
    const pool = free.size ? [...free] : [...before];
    const from = pool.reduce<Note | null>(
      (best, n) => (!best || Math.abs(n.midi - note.midi) < Math.abs(best.midi - note.midi) ? n : best),
      null,
    );
    if (!from) continue;
    free.delete(from);
    links.push([from, note]);
  }
  return links;
}

/** A bank's edge down the page: the outermost key of the hand while each grip lasts, held where the hand rests. */
export function bankEdge(
  grips: readonly Grip[],
  hand: "left" | "right",
  side: "low" | "high",
  place: (midi: number) => number,
  played: readonly Pick<Schemas["PlayedNoteOut"], "hand" | "midi" | "start_beats">[] = [],
): number[] {
  let last = Number.NaN;
  const edge = grips.map((grip) => {
    const end = grip.start_beats + grip.duration_beats;
    const meanwhile = played.filter((n) => n.hand === hand && n.start_beats >= grip.start_beats && n.start_beats < end);
    const keys = [...grip[hand], ...meanwhile].map((n) => n.midi);
    if (keys.length) last = place(side === "low" ? Math.min(...keys) : Math.max(...keys));
    return last;
  });
  const first = edge.find((x) => !Number.isNaN(x)) ?? 0;
  return edge.map((x) => (Number.isNaN(x) ? first : x));
}

/** A bank as a closed shape: down one edge, up the other, smooth between grips. */
export function bankPath(
  near: readonly number[],
  far: readonly number[],
  ys: readonly number[],
  bottom: number,
  margin: number,
): string {
  if (!ys.length) return "";
  const down = [...ys, bottom];
  const side = (edge: readonly number[], offset: number) =>
    down.map((y, i) => [(edge[Math.min(i, edge.length - 1)] ?? 0) + offset, y] as const);
  const curve = (points: readonly (readonly [number, number])[]) =>
    points
      .map(([x, y], i) => {
        const before = points[i - 1];
        if (!before) return `${x.toFixed(1)} ${y.toFixed(1)}`;
        const my = ((before[1] + y) / 2).toFixed(1);
        return `C${before[0].toFixed(1)} ${my} ${x.toFixed(1)} ${my} ${x.toFixed(1)} ${y.toFixed(1)}`;
      })
      .join("");
  const there = side(near, -margin);
  const back = side(far, margin).reverse();
  return `M${curve(there)}L${curve(back)}Z`;
}

/** How far each mark of a hand stands above or below its line, so that neighbouring keys do not hide each other. */
export function stagger(xs: readonly number[], size: number): number[] {
  const offsets = xs.map(() => 0);
  for (let i = 1; i < xs.length; i++) {
    if ((xs[i] as number) - (xs[i - 1] as number) >= size) continue;
    const before = offsets[i - 1] as number;
    if (before === 0) offsets[i - 1] = size / 3;
    offsets[i] = (offsets[i - 1] as number) > 0 ? -size / 3 : size / 3;
  }
  return offsets;
}
