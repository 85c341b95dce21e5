const PLACE: Record<string, number> = {
  low: 0,
  bass: 0,
  "-8": -1,
  "1": 0,
  "2": 1,
  "3": 2,
  "4": 3,
  "5": 4,
  "+5": 1,
  "+8": 2,
  "+10": 3,
  "+12": 4,
  "+15": 5,
  top: 2.6,
  walk: 0.6,
  over: 5,
};
const SPREAD: Record<string, number[]> = { all: [0, 1.2, 2.4], upper: [1.2, 2.4] };

interface Stroke {
  at: number;
  beats: number;
  places: number[];
}

/** Strokes of one hand as they are written; what cannot be read yet is passed over. */
export function readStrokes(text: string): Stroke[] {
  let at = 0;
  const strokes: Stroke[] = [];
  for (const word of text.trim().split(/\s+/)) {
    const match = /^([^@]+)@(\d+)(?:\/(\d+))?/.exec(word);
    if (!match) continue;
    const beats = Number(match[2]) / Number(match[3] ?? 1);
    const names = match[1] === "-" ? [] : (match[1] ?? "").split("&");
    strokes.push({ at, beats, places: names.flatMap((n) => SPREAD[n] ?? (n in PLACE ? [PLACE[n] as number] : [])) });
    at += beats;
  }
  return strokes;
}

/** A pattern as stones along a path: the left hand's squares below, the right hand's rounds above. */
export function PatternPicture({ left, right, wide = false }: { left: string; right: string; wide?: boolean }) {
  const [width, height] = wide ? [258, 54] : [98, 30];
  const hands = { left: readStrokes(left), right: readStrokes(right) };
  const total = Math.max(1, ...Object.values(hands).map((s) => (s.at(-1)?.at ?? 0) + (s.at(-1)?.beats ?? 0)));
  const half = right.trim() ? height / 2 : height;
  const unit = (half - 8) / 6;
  const size = wide ? 3.4 : 2.2;
  return (
    <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} aria-hidden="true">
      {(["left", "right"] as const).flatMap((hand) =>
        hands[hand].flatMap((s) => {
          const x = 4 + (s.at / total) * (width - 8);
          const floor = hand === "left" ? height - 4 : half - 4;
          return s.places.map((p) => {
            const y = floor - (p + 1) * unit;
            const long = Math.max(0, (s.beats / total) * (width - 8) - 3);
            return (
              <g key={`${hand}${s.at}-${p}`} fill={`var(--${hand})`}>
                <path d={`M${x} ${y}h${long}`} stroke={`var(--${hand})`} strokeWidth="1" opacity="0.5" />
                {hand === "left" ? (
                  <rect x={x - size} y={y - size} width={2 * size} height={2 * size} />
                ) : (
                  <circle cx={x} cy={y} r={size} />
                )}
              </g>
            );
          });
        }),
      )}
    </svg>
  );
}
