import { memo, useMemo } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useWorkspace } from "../song";
import { type Grip, joinNotes } from "./banks";
import { type Frame, KEYS_WIDTH, LEFT_MARGIN, makeFrame, WIDTH } from "./frame";
import { GripMark } from "./GripMark";
import { Terrain } from "./Terrain";

const Sheet = styled.svg`
  display: block; overflow: visible;
  text { fill: var(--ink); }
  .chord { font: 700 22px "Alegreya", "Signs", serif; }
  .bar { font-size: 13px; fill: var(--soft); } .count { font-size: 14px; fill: var(--soft); text-anchor: end; }
  .pitch { font-weight: 700; font-size: 13px; text-anchor: middle; fill: var(--on-hand); pointer-events: none; font-family: "Alegreya Sans", "Signs"; }
  .grip { cursor: pointer; outline: none; }
  .grip:focus-visible .hit { stroke: var(--river); stroke-width: 3; }
`;

interface GroundProps {
  arranged: Schemas["PartArrangementOut"];
  low: number;
  scale: number;
  step: number;
  current: number;
  onGrip: (index: number) => void;
}

/** Everything of the drawing that stands still while the recording plays. */
export const Ground = memo(function Ground({ arranged, low, scale, step, current, onGrip }: GroundProps) {
  const { part, chart } = useWorkspace();
  const { grips, notes } = arranged;
  const frame = useMemo(() => makeFrame(low, scale, step, part.start_beats), [low, scale, step, part.start_beats]);
  const height = frame.y(part.end_beats) + 24;
  return (
    <Sheet width={WIDTH} height={height} viewBox={`0 0 ${WIDTH} ${height}`}>
      <Terrain grips={grips} frame={frame} />
      <Counts from={part.start_beats} to={part.end_beats} bars={chart.bars} frame={frame} />
      <Ways grips={grips} frame={frame} />
      <Tune notes={notes} frame={frame} />
      {grips.map((grip, i) => (
        <GripMark
          key={grip.start_beats}
          grip={grip}
          frame={frame}
          index={i}
          newBar={i === 0 || grips[i - 1]?.bar !== grip.bar}
          current={i === current}
          onGrip={onGrip}
        />
      ))}
    </Sheet>
  );
});

interface CountsProps {
  from: number;
  to: number;
  bars: readonly Schemas["BarOut"][];
  frame: Frame;
}

/** Bar lines and the count of every beat. */
function Counts({ from, to, bars, frame }: CountsProps) {
  const beats = Array.from({ length: Math.round(to - from) }, (_, i) => from + i);
  return beats.map((beat) => {
    const bar = bars.findLast((b) => b.start_beats <= beat);
    const y = frame.y(beat);
    return (
      <g key={beat}>
        {bar?.start_beats === beat && (
          <path d={`M${LEFT_MARGIN - 8} ${y}H${LEFT_MARGIN + KEYS_WIDTH}`} stroke="var(--contour)" strokeWidth="1.2" />
        )}
        <text className="count" x={LEFT_MARGIN - 14} y={y + 5}>
          {bar ? Math.round(beat - bar.start_beats) + 1 : 1}
        </text>
      </g>
    );
  });
}

/** What each finger does from grip to grip: thick where a key stays down, thin where it moves. */
function Ways({ grips, frame: { x, y } }: { grips: readonly Grip[]; frame: Frame }) {
  return grips.slice(1).flatMap((grip, i) => {
    const before = grips[i] as Grip;
    return (["left", "right"] as const).flatMap((hand) =>
      joinNotes(before[hand], grip[hand]).map(([a, b]) => {
        const kept = a.midi === b.midi;
        const [top, bottom] = [y(before.start_beats), y(grip.start_beats)];
        const middle = (top + bottom) / 2;
        return (
          <path
            key={`${grip.start_beats}-${hand}-${b.midi}`}
            d={`M${x(a.midi)} ${top}C${x(a.midi)} ${middle} ${x(b.midi)} ${middle} ${x(b.midi)} ${bottom}`}
            fill="none"
            stroke={`var(--${hand})`}
            strokeWidth={kept ? 4 : 1.3}
            opacity={kept ? 0.75 : 0.6}
          />
        );
      }),
    );
  });
}

/** The tune between the grips: a small round for each note, with a tail as long as it lasts. */
function Tune({ notes, frame: { x, y } }: { notes: readonly Schemas["PlayedNoteOut"][]; frame: Frame }) {
  return notes
    .filter((n) => n.melody)
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
