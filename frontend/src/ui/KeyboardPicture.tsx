import { memo } from "react";
import styled from "styled-components";
import { isBlack, keyBox, keyboardWidth } from "./keyboard";

export interface LitKey {
  midi: number;
  hand: "left" | "right";
  optional?: boolean;
  finger?: number | null;
}

interface KeyboardPictureProps {
  low: number;
  high: number;
  lit: readonly LitKey[];
  width: number;
  height: number;
  label: string;
}

const Drawing = styled.svg`
  display: block;
  rect {
    stroke: var(--key-line);
    stroke-width: 1;
  }
  .white {
    fill: var(--white-key);
  }
  .black {
    fill: var(--black-key);
  }
  .left.white {
    fill: color-mix(in srgb, var(--left) 25%, var(--white-key));
  }
  .right.white {
    fill: color-mix(in srgb, var(--right) 30%, var(--white-key));
  }
  .left.black {
    fill: var(--left);
  }
  .right.black {
    fill: var(--right);
  }
  text {
    fill: #645b4c;
    font-size: 11px;
    text-anchor: middle;
  }
  .mark-left {
    fill: #5a2d5c;
    stroke: none;
  }
  .mark-right {
    fill: #a05e08;
  }
  .hollow {
    fill: #fffdf7;
    stroke: #5a2d5c;
    stroke-width: 2;
  }
  circle.hollow {
    stroke: #a05e08;
  }
`;

/** A stretch of keyboard with the keys of each hand lit: squares for the left, rounds for the right. */
export const KeyboardPicture = memo(function KeyboardPicture({
  low,
  high,
  lit,
  width,
  height,
  label,
}: KeyboardPictureProps) {
  const scale = width / keyboardWidth(low, high);
  const held = new Map(lit.map((k) => [k.midi, k]));
  const all = Array.from({ length: high - low + 1 }, (_, i) => low + i);
  const ordered = [...all.filter((m) => !isBlack(m)), ...all.filter(isBlack)];
  return (
    <Drawing width={width} height={height} role="img" aria-label={label} viewBox={`0 0 ${width} ${height}`}>
      {ordered.map((midi) => {
        const box = keyBox(midi, low);
        const tall = isBlack(midi) ? height * 0.6 : height - 1;
        const hand = held.get(midi)?.hand;
        const hollow = held.get(midi)?.optional ? "hollow" : undefined;
        const x = box.x * scale + 0.5;
        const w = box.width * scale - (isBlack(midi) ? 0 : 0.5);
        const middle = x + w / 2;
        const base = isBlack(midi) ? height * 0.45 : height * 0.8;
        return (
          <g key={midi}>
            <rect
              className={`${isBlack(midi) ? "black" : "white"} ${hand ?? ""}`}
              x={x}
              y={0.5}
              width={w}
              height={tall}
            />
            {hand === "left" && !isBlack(midi) && (
              <rect className={hollow ?? "mark-left"} x={middle - 4} y={base - 4} width={8} height={8} />
            )}
            {hand === "right" && !isBlack(midi) && (
              <circle className={hollow ?? "mark-right"} cx={middle} cy={base} r={4.5} />
            )}
            {midi % 12 === 0 && scale * box.width > 15 && !hand && (
              <text x={middle} y={height - 5}>
                C{midi / 12 - 1}
              </text>
            )}
          </g>
        );
      })}
    </Drawing>
  );
});
