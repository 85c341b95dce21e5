import styled from "styled-components";
import { secondsAt } from "../../player";
import { grassPath, sampleLevels } from "../../ui";
import { LOUDNESS_RATE, usePlayer, useWorkspace } from "../song";

const WIDTH = 880;
const Sheet = styled.svg`
  width: 100%;
  height: 84px;
  flex: none;
  overflow: visible;
  text {
    font-size: 14px;
    fill: var(--ink);
  }
  .soft {
    fill: var(--soft);
  }
  rect {
    cursor: pointer;
  }
`;

/** The whole recording below the map, cut into its parts; a press moves the recording there. */
export function RecordingSpan() {
  const { chart, song, loudness, part, player, selectPart } = useWorkspace();
  const time = usePlayer(player, (s) => Math.round(s.time * 4) / 4);
  const at = (seconds: number) => (WIDTH * seconds) / Math.max(1, song.duration, chart.beats.at(-1) ?? 0);
  return (
    <Sheet viewBox={`0 0 ${WIDTH} 84`} preserveAspectRatio="none" aria-hidden="true">
      {chart.parts.map((p) => {
        const from = secondsAt(chart, p.start_beats);
        const to = secondsAt(chart, p.end_beats);
        const wide = at(to) - at(from);
        return (
          <g key={p.number}>
            <path
              d={grassPath(
                sampleLevels(loudness, from, to, LOUDNESS_RATE, Math.max(8, Math.round(wide / 4))),
                at(from),
                wide,
                52,
                40,
              )}
              fill="var(--river)"
              opacity={p.number === part.number ? 1 : 0.45}
            />
            <path d={`M${at(from)} 8V62`} stroke="var(--ink)" strokeWidth="1.3" />
            <text x={at(from) + 5} y={77} fontWeight="700">
              {p.number}
            </text>
            {wide > 90 && (
              <text className="soft" x={at(from) + 22} y={77}>
                bar {p.start_bar}
              </text>
            )}
            <rect
              x={at(from)}
              y={0}
              width={wide}
              height={84}
              fill="transparent"
              onPointerDown={() => {
                selectPart(p.number);
                player.seek(from);
              }}
            />
          </g>
        );
      })}
      <path d={`M0 52H${WIDTH}`} stroke="var(--ink)" strokeWidth="1.4" />
      {time > 0 && <path d={`M${at(time)} 4V58`} stroke="var(--doubt)" strokeWidth="2" />}
    </Sheet>
  );
}
