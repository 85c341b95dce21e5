import { ToggleButton } from "react-aria-components";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { smoothPath, wayPoints } from "../../ui";

const STEP = 92;
const Frame = styled.div`
  position: relative;
  height: 4.9rem;
  min-width: ${9 * STEP + 40}px;
  svg {
    position: absolute;
    inset: 0;
    pointer-events: none;
  }
  button {
    all: unset;
    box-sizing: border-box;
    position: absolute;
    transform: translateX(-50%);
    text-align: center;
    cursor: pointer;
    color: var(--soft);
    line-height: 1.1;
    padding: 0.1rem 0.3rem;
  }
  button b {
    display: grid;
    place-items: center;
    width: 2.1rem;
    height: 2.1rem;
    border-radius: 50%;
    margin: 0 auto 0.2rem;
    border: 1.7px solid var(--ink);
    background: var(--ground);
    color: var(--ink);
  }
  button[data-empty="true"] b {
    border-style: dashed;
    color: var(--soft);
    font-weight: 400;
  }
  button[aria-pressed="true"] {
    color: var(--ink);
    font-weight: 700;
  }
  button[aria-pressed="true"] b {
    background: var(--ink);
    forced-color-adjust: none;
    color: var(--ground);
  }
  button:focus-visible {
    outline: 3px solid var(--river);
    outline-offset: 1px;
    border-radius: 4px;
  }
`;

interface WayFilterProps {
  stages: Schemas["StageOut"][];
  chosen: string;
  onChoose: (stage: string) => void;
}

/** The way from wish to lesson with how many songs stand at each waymark; a press shows only those, another all again. */
export function WayFilter({ stages, chosen, onChoose }: WayFilterProps) {
  const points = wayPoints(4, STEP, 22, 7).map(([x, y]) => [x + 26, y] as const);
  return (
    <fieldset
      style={{ overflowX: "auto", minWidth: 0, border: 0, margin: 0, padding: 0 }}
      aria-label="Only songs at one waymark"
    >
      <Frame>
        <svg width={9 * STEP + 40} height="60" aria-hidden="true">
          <path
            d={smoothPath(points)}
            fill="none"
            stroke="var(--soft)"
            strokeWidth="2.5"
            strokeDasharray="0.1 6"
            strokeLinecap="round"
          />
        </svg>
        {stages.map((stage, i) => (
          <ToggleButton
            key={stage.name}
            isSelected={chosen === stage.name}
            data-empty={stage.songs === 0}
            style={{ left: points[i]?.[0], top: (points[i]?.[1] ?? 0) - 18 }}
            onPress={() => onChoose(chosen === stage.name ? "" : stage.name)}
          >
            <b>{stage.songs}</b>
            {stage.name}
          </ToggleButton>
        ))}
      </Frame>
    </fieldset>
  );
}
