import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { framing, isBlack, keyBox, keyboardWidth, withSigns } from "../../ui";

const WIDTH = 258;
const KEYS = 34;
const BEAT = 46;

const Drawing = styled.svg`
  display: block;
  .key {
    fill: var(--white-key);
    stroke: var(--key-line);
  }
  .key.black {
    fill: var(--black-key);
  }
  .beat {
    stroke: var(--soft);
    stroke-width: 0.8;
  }
  .half {
    stroke: var(--soft);
    stroke-width: 0.5;
    stroke-dasharray: 1 4;
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
    fill: var(--paper);
  }
`;

interface CloseBarProps {
  bar: Schemas["BarCloseOut"];
}

/** A bar opened downwards: time runs down, every mark stands under its key and trails as long as it sounds; outlined is proposed, full is written. */
export function CloseBar({ bar }: CloseBarProps) {
  const keys = bar.hands.flatMap((h) => h.notes.map((n) => n.midi));
  const frame = framing(keys.length ? keys : [60]);
  const [low, high] = [frame.low, frame.high - 1];
  const scale = (WIDTH - 16) / keyboardWidth(low, high);
  const middle = (midi: number) => {
    const box = keyBox(midi, low);
    return 16 + (box.x + box.width / 2) * scale;
  };
  const down = (beats: number) => KEYS + 14 + beats * BEAT;
  const all = Array.from({ length: high - low + 1 }, (_, i) => low + i);
  const drawn = [...all.filter((m) => !isBlack(m)), ...all.filter(isBlack)];
  return (
    <Drawing width={WIDTH} height={down(bar.duration_beats) + 6} role="img" aria-label={say(bar)}>
      {drawn.map((midi) => {
        const box = keyBox(midi, low);
        return (
          <rect
            key={midi}
            className={isBlack(midi) ? "key black" : "key"}
            x={16 + box.x * scale}
            width={box.width * scale}
            height={isBlack(midi) ? KEYS * 0.62 : KEYS}
          />
        );
      })}
      {bar.counts.map((count, i) => (
        <g key={count}>
          <line className="beat" x1={14} x2={WIDTH} y1={down(i)} y2={down(i)} />
          {i + 0.5 < bar.duration_beats && (
            <line className="half" x1={14} x2={WIDTH} y1={down(i + 0.5)} y2={down(i + 0.5)} />
          )}
          <text x={0} y={down(i) + 4}>
            {count}
          </text>
        </g>
      ))}
      {bar.hands.map((hand) =>
        hand.notes.map((n) => {
          const x = middle(n.midi) - (n.grace ? 6 : 0);
          const y = down(n.start_beats) - (n.grace ? 6 : 0);
          const size = n.grace ? 3 : 5;
          const look = `mark ${hand.hand}${hand.written ? "" : " proposed"}`;
          return (
            <g key={`${hand.hand} ${n.start_beats} ${n.midi} ${n.grace}`}>
              {!n.grace && (
                <line
                  className={`trail ${hand.hand}${n.rings ? " rings" : ""}`}
                  x1={x}
                  x2={x}
                  y1={y}
                  y2={Math.max(y + 2, down(n.start_beats + n.duration_beats) - 7)}
                />
              )}
              {hand.hand === "left" ? (
                <rect className={look} x={x - size} y={y - size} width={2 * size} height={2 * size} />
              ) : (
                <circle className={look} cx={x} cy={y} r={size + 0.6} />
              )}
            </g>
          );
        }),
      )}
    </Drawing>
  );
}

const say = (bar: Schemas["BarCloseOut"]) =>
  bar.hands.map((h) => `${h.hand} hand: ${withSigns(h.text) || "rests"}`).join(". ");
