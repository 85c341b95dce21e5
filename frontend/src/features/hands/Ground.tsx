import { memo, useMemo } from "react";
import type { Schemas } from "../../api/client";
import { useWorkspace } from "../song";
import { type Grip, joinNotes } from "./banks";
import { type Frame, KEYS_WIDTH, LEFT_MARGIN, makeFrame, WIDTH } from "./frame";
import { GripMark, type MarkedNote } from "./GripMark";
import { Sheet } from "./Ground.styles";
import { Links, Strokes, Tune } from "./Strokes";
import { Terrain } from "./Terrain";

interface GroundProps {
  arranged: Schemas["PartArrangementOut"];
  arrangement: Schemas["ArrangementOut"];
  note: number | null;
  onNote?: (index: number, midi: number) => void;
  onMove?: (index: number, note: MarkedNote, by: number) => void;
  low: number;
  scale: number;
  step: number;
  current: number;
  onGrip: (index: number) => void;
}

/** Everything of the drawing that stands still while the recording plays. */
export const Ground = memo(function Ground({
  arranged,
  arrangement,
  low,
  scale,
  step,
  current,
  note,
  onGrip,
  onNote,
  onMove,
}: GroundProps) {
  const { part, chart } = useWorkspace();
  const { grips, notes } = arranged;
  const frame = useMemo(() => makeFrame(low, scale, step, part.start_beats), [low, scale, step, part.start_beats]);
  const height = frame.y(part.end_beats) + 24;
  return (
    <Sheet width={WIDTH} height={height} viewBox={`0 0 ${WIDTH} ${height}`}>
      <Terrain grips={grips} notes={notes} frame={frame} />
      <Counts from={part.start_beats} to={part.end_beats} bars={chart.bars} frame={frame} />
      <OutOfShot arrangement={arrangement} frame={frame} height={height} />
      <Ways grips={grips} frame={frame} />
      <Strokes notes={notes} grips={grips} frame={frame} />
      <Tune notes={notes} frame={frame} />
      <Links notes={notes} frame={frame} />
      <Cues from={part.start_beats} to={part.end_beats} cues={chart.cues} frame={frame} />
      {arrangement.settings.pedal && <PedalLine grips={grips} frame={frame} />}
      {grips.map((grip, i) => (
        <GripMark
          key={grip.start_beats}
          grip={grip}
          frame={frame}
          index={i}
          newBar={i === 0 || grips[i - 1]?.bar !== grip.bar}
          current={i === current}
          note={note}
          fingers={arrangement.settings.fingers}
          onGrip={onGrip}
          onNote={onNote}
          onMove={onMove}
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

/** What the camera does not show lies in the shade. */
function OutOfShot({
  arrangement,
  frame,
  height,
}: {
  arrangement: Schemas["ArrangementOut"];
  frame: Frame;
  height: number;
}) {
  if (!arrangement.settings.frame) return null;
  const left = frame.x(arrangement.frame_low) - 10;
  const right = frame.x(arrangement.frame_high) + 10;
  const end = LEFT_MARGIN + KEYS_WIDTH;
  return (
    <g fill="var(--ink)" opacity="0.09">
      {left > LEFT_MARGIN && <rect x={LEFT_MARGIN} y={0} width={left - LEFT_MARGIN} height={height} />}
      {right < end && <rect x={right} y={0} width={end - right} height={height} />}
    </g>
  );
}

interface CuesProps {
  from: number;
  to: number;
  cues: readonly Schemas["CueOut"][];
  frame: Frame;
}

/** The creator's cue words, at the right of their beat. */
function Cues({ from, to, cues, frame }: CuesProps) {
  return cues
    .filter((c) => c.start_beats >= from && c.start_beats < to)
    .map((c) => (
      <text key={c.start} className="cue" x={LEFT_MARGIN + KEYS_WIDTH + 28} y={frame.y(c.start_beats) + 5}>
        {c.text}
      </text>
    ));
}

/** The pedal: down at each chord, up and down again where the next begins. */
function PedalLine({ grips, frame: { y } }: { grips: readonly Grip[]; frame: Frame }) {
  const x = LEFT_MARGIN + KEYS_WIDTH + 14;
  return (
    <g fill="none" stroke="var(--soft)" strokeWidth="1.3">
      <title>pedal, changed with every chord</title>
      {grips.map((g) => (
        <path
          key={g.start}
          d={`M${x - 5} ${y(g.start_beats) - 4}l5 6V${y(g.start_beats + g.duration_beats) - 6}l-5 2`}
        />
      ))}
    </g>
  );
}
