import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { isBlack } from "../../ui";
import { type Gauge, KEYS } from "./barGauge";

const Lines = styled.g`
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
  .part {
    stroke: var(--soft);
    stroke-width: 0.5;
    stroke-dasharray: 1 4;
  }
`;

/** The keyboard on top and a line for every beat, with its count. */
export function Ruling({ bar, rule }: { bar: Schemas["BarCloseOut"]; rule: Gauge }) {
  const drawn = [...rule.keys.filter((m) => !isBlack(m)), ...rule.keys.filter(isBlack)];
  const parts = bar.thirds ? [1 / 3, 2 / 3] : [0.5];
  return (
    <Lines aria-hidden>
      {drawn.map((midi) => (
        <rect
          key={midi}
          className={isBlack(midi) ? "key black" : "key"}
          x={rule.box(midi).x}
          width={rule.box(midi).width}
          height={isBlack(midi) ? KEYS * 0.62 : KEYS}
        />
      ))}
      {rule.keys
        .filter((m) => m % 12 === 0)
        .map((midi) => (
          <text key={midi} x={rule.box(midi).x + 1} y={KEYS + 11} style={{ fontSize: 9 }}>
            C{midi / 12 - 1}
          </text>
        ))}
      {bar.counts.map((count, i) => (
        <g key={count}>
          <line className="beat" x1={rule.left - 2} x2={rule.width} y1={rule.down(i)} y2={rule.down(i)} />
          {parts
            .filter((p) => i + p < bar.duration_beats)
            .map((p) => (
              <line
                key={p}
                className="part"
                x1={rule.left - 2}
                x2={rule.width}
                y1={rule.down(i + p)}
                y2={rule.down(i + p)}
              />
            ))}
          <text x={0} y={rule.down(i) + 4}>
            {count}
          </text>
        </g>
      ))}
    </Lines>
  );
}
