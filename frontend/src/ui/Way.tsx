import { smoothPath } from "./draw";
import { STAGES, wayPoints } from "./way";

/** How far a song is on its way, as waymarks on a path: full where it has been. */
export function Way({ seed, stage }: { seed: number; stage: number }) {
  const points = wayPoints(seed, 26, 13, 5);
  return (
    <svg
      width="234"
      height="28"
      role="img"
      aria-label={`On its way: ${STAGES[stage]}, ${stage + 1} of ${STAGES.length}`}
    >
      <path
        d={smoothPath(points)}
        fill="none"
        stroke="var(--soft)"
        strokeWidth="2"
        strokeDasharray="0.1 5.5"
        strokeLinecap="round"
      />
      {points.map(([x, y], i) => (
        <circle
          key={STAGES[i]}
          cx={x}
          cy={y}
          r={i === stage ? 6.5 : 4.5}
          fill={i <= stage ? "var(--ink)" : "var(--ground)"}
          stroke="var(--ink)"
          strokeWidth="1.5"
        >
          <title>{STAGES[i]}</title>
        </circle>
      ))}
    </svg>
  );
}
