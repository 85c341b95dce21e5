import styled from "styled-components";
import type { Schemas } from "../../api/client";

export const Drawing = styled.svg`
  display: block;
  touch-action: none;
  outline: none;
  &:focus-visible [aria-selected="true"] .halo {
    stroke-width: 2.4;
  }
  text {
    fill: var(--soft);
    font-size: 11px;
  }
  .left {
    stroke: var(--left);
    fill: var(--left);
  }
  .right {
    stroke: var(--right);
    fill: var(--right);
  }
  .trail {
    stroke-width: 3;
  }
  .trail.rings {
    stroke-dasharray: 1 5;
    stroke-linecap: round;
  }
  .mark {
    stroke-width: 2;
  }
  .mark.proposed {
    fill: var(--ground);
  }
  [role="option"] {
    cursor: grab;
  }
  [aria-selected="true"] .halo {
    stroke: var(--ink);
    stroke-width: 1.5;
  }
  .halo {
    fill: transparent;
    stroke: none;
  }
  .ghost {
    opacity: 0.45;
    pointer-events: none;
  }
`;

interface NoteMarkProps {
  id: string;
  note: Schemas["BarNoteOut"];
  hand: "left" | "right";
  written: boolean;
  chosen: boolean;
  said: string;
  at: { x: number; y: number; end: number; size: number };
  onPress: (e: React.PointerEvent) => void;
}

/** A note of a bar seen close: its mark, and its trail as long as it is held. */
export function NoteMark({ id, note, hand, written, chosen, said, at, onPress }: NoteMarkProps) {
  const { x, y, end, size } = at;
  const look = `mark ${hand}${written ? "" : " proposed"}`;
  return (
    <g id={id} role="option" aria-selected={chosen} aria-label={said} onPointerDown={onPress}>
      {!note.grace && <line className={`trail ${hand}${note.rings ? " rings" : ""}`} x1={x} x2={x} y1={y} y2={end} />}
      <circle className="halo" cx={x} cy={y} r={11} />
      {hand === "left" ? (
        <rect className={look} x={x - size} y={y - size} width={2 * size} height={2 * size} />
      ) : (
        <circle className={look} cx={x} cy={y} r={size + 0.6} />
      )}
      {note.optional && (
        <text x={x + 7} y={y - 4}>
          *
        </text>
      )}
    </g>
  );
}
