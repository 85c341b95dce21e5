import type { Schemas } from "../../api/client";
import type { Grip } from "./banks";
import type { Frame } from "./frame";

/** The pattern between the grips: small squares and rounds on their keys. */
export function Strokes({
  notes,
  grips,
  frame: { x, y },
}: {
  notes: readonly Schemas["PlayedNoteOut"][];
  grips: readonly Grip[];
  frame: Frame;
}) {
  const starts = new Set(grips.map((g) => g.start_beats));
  return notes
    .filter((n) => !n.melody && !n.link && !starts.has(n.start_beats))
    .map((n) => {
      const [cx, cy] = [x(n.midi), y(n.start_beats)];
      return n.hand === "left" ? (
        <rect
          key={`${n.start_beats}l${n.midi}`}
          x={cx - 3.6}
          y={cy - 3.6}
          width={7.2}
          height={7.2}
          fill="var(--left)"
          opacity="0.8"
        />
      ) : (
        <circle key={`${n.start_beats}r${n.midi}`} cx={cx} cy={cy} r={3.8} fill="var(--right)" opacity="0.8" />
      );
    });
}

/** What joins two chords: hollow stones on a dotted path. */
export function Links({ notes, frame: { x, y } }: { notes: readonly Schemas["PlayedNoteOut"][]; frame: Frame }) {
  const joined = notes.filter((n) => n.link);
  return (["left", "right"] as const).map((hand) => {
    const mine = joined.filter((n) => n.hand === hand);
    return (
      <g key={hand} fill="var(--ground)" stroke={`var(--${hand})`} strokeWidth="2">
        {mine.map((n) =>
          hand === "left" ? (
            <rect
              key={`${n.start_beats}-${n.midi}`}
              x={x(n.midi) - 5}
              y={y(n.start_beats) - 5}
              width={10}
              height={10}
            />
          ) : (
            <circle
              key={`${n.start_beats}-${n.midi}`}
              cx={x(n.midi) - (n.grace ? 9 : 0)}
              cy={y(n.start_beats) - (n.grace ? 8 : 0)}
              r={n.grace ? 3 : 5.4}
            />
          ),
        )}
      </g>
    );
  });
}

/** The tune between the grips: a small round for each note, with a tail as long as it lasts. */
export function Tune({ notes, frame: { x, y } }: { notes: readonly Schemas["PlayedNoteOut"][]; frame: Frame }) {
  return notes
    .filter((n) => n.melody && !n.grace)
    .map((n) => (
      <g key={`${n.start_beats}-${n.midi}`}>
        <path
          d={`M${x(n.midi)} ${y(n.start_beats)}V${y(n.start_beats + n.duration_beats) - 3}`}
          stroke="var(--right)"
          strokeWidth="2"
          opacity="0.45"
        />
        <circle cx={x(n.midi)} cy={y(n.start_beats)} r={5} fill="var(--right)" />
      </g>
    ));
}
