import { useMemo } from "react";
import styled from "styled-components";
import { waver, withSigns } from "../../ui";
import { useWorkspace } from "../song";
import { layOutMap } from "./mapLayout";

const WIDTH = 880;
const HEIGHT = 430;
const Sheet = styled.svg`
  width: 100%;
  flex: 1;
  min-height: 300px;
  overflow: visible;
  text {
    fill: var(--ink);
    text-anchor: middle;
    paint-order: stroke;
    stroke: var(--ground);
    stroke-width: 4px;
    stroke-linejoin: round;
  }
  .name {
    font: 700 19px "Alegreya", serif;
  }
  .bars {
    font-size: 15px;
    fill: var(--soft);
  }
  .chords {
    font: 700 15px "Alegreya", "Signs", serif;
  }
  .number {
    font-weight: 700;
    font-size: 17px;
    stroke: none;
  }
  g[role="button"] {
    cursor: pointer;
    outline: none;
  }
  g[role="button"]:focus-visible circle {
    stroke: var(--river);
    stroke-width: 4;
  }
`;

/** A hill of contour lines around a place, always the same for the same place. */
function hill(x: number, y: number, radius: number, seed: number): string {
  const points = Array.from({ length: 14 }, (_, i) => {
    const angle = (i / 14) * 2 * Math.PI;
    const r = radius * (1 + 0.1 * waver(seed + i * 1.7));
    return [x + r * 1.25 * Math.cos(angle), y + r * 0.9 * Math.sin(angle)] as const;
  });
  const mid = (i: number) => {
    const a = points[i % 14] as readonly [number, number];
    const b = points[(i + 1) % 14] as readonly [number, number];
    return `${((a[0] + b[0]) / 2).toFixed(1)} ${((a[1] + b[1]) / 2).toFixed(1)}`;
  };
  const curves = points.map((_, i) => {
    const p = points[(i + 1) % 14] as readonly [number, number];
    return `Q${p[0].toFixed(1)} ${p[1].toFixed(1)} ${mid(i + 1)}`;
  });
  return `M${mid(0)}${curves.join("")}Z`;
}

export function PartsMap() {
  const { chart, part, selectPart } = useWorkspace();
  const { places, walks } = useMemo(() => layOutMap(chart.parts, WIDTH, HEIGHT), [chart.parts]);
  const room = WIDTH / Math.min(places.length, 6);
  return (
    <Sheet
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      preserveAspectRatio="xMidYMid meet"
      role="group"
      aria-label="Map of the song's parts"
    >
      <defs>
        <marker
          id="tip"
          viewBox="0 0 10 10"
          refX="8"
          refY="5"
          markerWidth="9"
          markerHeight="9"
          markerUnits="userSpaceOnUse"
          orient="auto-start-reverse"
        >
          <path d="M1 1 9 5 1 9" fill="none" stroke="var(--ink)" strokeWidth="1.8" />
        </marker>
      </defs>
      {places.map((place) =>
        [46, 60, 74, 90].map((r, k) => (
          <path
            key={`${place.part.number}-${r}`}
            d={hill(place.x, place.y + 8, Math.min(r, room * 0.42 + k * 4), place.part.number * 31 + k * 0.15)}
            fill={k ? "none" : "var(--raised)"}
            stroke="var(--contour)"
            strokeWidth="1"
            opacity={1 - k * 0.2}
          />
        )),
      )}
      {walks.map((walk) => (
        <path
          key={walk.step}
          d={walk.path}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={walk.returning ? 1.7 : 2.2}
          strokeDasharray={walk.returning ? "2 5" : undefined}
          strokeLinecap="round"
          markerEnd="url(#tip)"
        />
      ))}
      {places.map((place) => {
        const shift = (place.visits.length - 1) * 16;
        const pattern = place.part.pattern;
        const most = Math.max(2, Math.floor(room / 38));
        const shown = pattern.slice(0, most).join(" ") + (pattern.length > most ? " …" : "");
        return (
          <g key={place.part.number}>
            {place.part.name && (
              <text className="name" x={place.x} y={place.y - 30}>
                {place.part.name}
              </text>
            )}
            {place.visits.map((number, i) => {
              const cx = place.x - shift + i * 32;
              const current = number === part.number;
              const p = chart.parts.find((q) => q.number === number);
              return (
                // biome-ignore lint/a11y/useSemanticElements: a button cannot stand inside a drawing
                <g
                  key={number}
                  role="button"
                  tabIndex={0}
                  aria-pressed={current}
                  aria-label={`Part ${number}, bars ${p?.start_bar} to ${p?.end_bar}, ${p?.words}`}
                  onClick={() => selectPart(number)}
                  onKeyDown={(e) => {
                    if (e.key === "Enter" || e.key === " ") {
                      e.preventDefault();
                      selectPart(number);
                    }
                  }}
                >
                  <circle
                    cx={cx}
                    cy={place.y}
                    r={17}
                    fill={current ? "var(--ink)" : "var(--ground)"}
                    stroke="var(--ink)"
                    strokeWidth="1.8"
                    strokeDasharray={i ? "3 3" : undefined}
                  />
                  <text
                    className="number"
                    x={cx}
                    y={place.y + 6}
                    style={{ fill: current ? "var(--ground)" : "var(--ink)" }}
                  >
                    {number}
                  </text>
                </g>
              );
            })}
            <text className="bars" x={place.x} y={place.y + 37}>
              {place.part.bars} {place.part.bars === 1 ? "bar" : "bars"}
            </text>
            <text className="chords" x={place.x} y={place.y + 57}>
              {withSigns(shown)}
            </text>
          </g>
        );
      })}
    </Sheet>
  );
}
