import { memo, useEffect, useMemo, useRef } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { beatsAt, secondsAt } from "../../player";
import {
  framing,
  KeyboardPicture,
  keyboardWidth,
  keyCentre,
  riverPath,
  sampleLevels,
  waver,
  withSigns,
} from "../../ui";
import { LOUDNESS_RATE, usePlayer, useWorkspace } from "../song";
import { bankEdge, bankPath, type Grip, joinNotes, type Note, stagger } from "./banks";

const LEFT_MARGIN = 128;
const KEYS_WIDTH = 640;
const WIDTH = LEFT_MARGIN + KEYS_WIDTH + 110;
const TOP = 34;

const Scroll = styled.div`
  overflow-y: auto; overflow-x: hidden; min-height: 0; flex: 1; scrollbar-width: thin; scrollbar-color: var(--line) transparent; max-width: ${WIDTH}px;
  .ruler { position: sticky; top: 0; z-index: 1; padding-left: ${LEFT_MARGIN}px; background: var(--ground); }
  @media print { overflow: visible; }
`;
const Sheet = styled.svg`
  display: block; overflow: visible;
  text { fill: var(--ink); }
  .chord { font: 700 22px "Alegreya", "Signs", serif; }
  .bar { font-size: 13px; fill: var(--soft); } .count { font-size: 14px; fill: var(--soft); text-anchor: end; }
  .pitch { font-weight: 700; font-size: 13px; text-anchor: middle; fill: var(--on-hand); pointer-events: none; font-family: "Alegreya Sans", "Signs"; }
  .grip { cursor: pointer; outline: none; }
  .grip:focus-visible .hit { stroke: var(--river); stroke-width: 3; }
`;

interface DrawingProps {
  arranged: Schemas["PartArrangementOut"];
  lowest: number;
  highest: number;
  current: number;
  onGrip: (index: number) => void;
}

export function ValleyDrawing({ arranged, lowest, highest, current, onGrip }: DrawingProps) {
  const { part, chart } = useWorkspace();
  const scroll = useRef<HTMLDivElement>(null);
  const frame = useMemo(() => {
    const keys = [
      ...arranged.notes.map((n) => n.midi),
      ...arranged.grips.flatMap((g) => [...g.left, ...g.right].map((n) => n.midi)),
    ];
    return framing(keys, lowest, highest);
  }, [arranged, lowest, highest]);
  const top = frame.high % 12 === 0 ? frame.high - 1 : frame.high;
  const scale = KEYS_WIDTH / keyboardWidth(frame.low, top);
  const step = chart.beats_per_bar === 2 ? 62 : 40;
  const y = (beat: number) => TOP + (beat - part.start_beats) * step;
  const grip = arranged.grips[current];
  const lit = grip
    ? [
        ...grip.left.map((n) => ({ midi: n.midi, hand: "left" as const })),
        ...grip.right.map((n) => ({ midi: n.midi, hand: "right" as const })),
      ]
    : [];
  const line = grip ? y(grip.start_beats) : 0;
  useEffect(() => {
    const box = scroll.current;
    if (!box) return;
    const room = box.clientHeight - 90;
    if (line + 90 > box.scrollTop + room || line < box.scrollTop + 20)
      box.scrollTo({ top: Math.max(0, line - room * 0.3), behavior: "smooth" });
  }, [line]);
  return (
    <Scroll ref={scroll} role="group" aria-label={`Both hands in part ${part.number}, from bar ${part.start_bar} on`}>
      <div className="ruler">
        <KeyboardPicture
          low={frame.low}
          high={top}
          width={KEYS_WIDTH}
          height={50}
          lit={lit}
          label="Keyboard with the held keys lit"
        />
      </div>
      <div style={{ position: "relative" }}>
        <Ground arranged={arranged} low={frame.low} scale={scale} step={step} current={current} onGrip={onGrip} />
        <PlayLine y={y} />
      </div>
    </Scroll>
  );
}

/** Where the recording is; the only thing that moves while it plays. */
function PlayLine({ y }: { y: (beat: number) => number }) {
  const { player, chart, part } = useWorkspace();
  const line = useRef<HTMLDivElement>(null);
  const playing = usePlayer(player, (s) => s.playing);
  useEffect(() => {
    let frame = 0;
    const draw = () => {
      const beat = beatsAt(chart.beats, player.now());
      const inside = beat >= part.start_beats && beat < part.end_beats;
      if (line.current) {
        line.current.style.transform = `translateY(${y(beat)}px)`;
        line.current.style.visibility = inside && (playing || player.now() > 0) ? "visible" : "hidden";
      }
      if (playing) frame = requestAnimationFrame(draw);
    };
    draw();
    const stop = player.subscribe(() => playing || draw());
    return () => {
      cancelAnimationFrame(frame);
      stop();
    };
  }, [playing, player, chart.beats, part, y]);
  return (
    <div
      ref={line}
      aria-hidden="true"
      style={{
        position: "absolute",
        top: 0,
        left: LEFT_MARGIN - 12,
        width: KEYS_WIDTH + 24,
        height: 2,
        background: "var(--doubt)",
        visibility: "hidden",
      }}
    />
  );
}

interface GroundProps {
  arranged: Schemas["PartArrangementOut"];
  low: number;
  scale: number;
  step: number;
  current: number;
  onGrip: (index: number) => void;
}

const Ground = memo(function Ground({ arranged, low, scale, step, current, onGrip }: GroundProps) {
  const { part, chart, loudness } = useWorkspace();
  const { grips, notes } = arranged;
  const y = (beat: number) => TOP + (beat - part.start_beats) * step;
  const x = (midi: number) => LEFT_MARGIN + keyCentre(midi, low) * scale;
  const bottom = y(part.end_beats);
  const ys = grips.map((g) => y(g.start_beats));
  const edge = (hand: "left" | "right", side: "low" | "high") =>
    bankEdge(grips, hand, side, low, scale).map((v) => v + LEFT_MARGIN);
  const leftLow = edge("left", "low");
  const leftHigh = edge("left", "high");
  const melody = notes.filter((n) => n.melody);
  const hasRight = grips.some((g) => g.right.length);
  const rightLow = hasRight ? edge("right", "low") : [];
  const rightHigh = hasRight ? edge("right", "high") : [];
  const from = secondsAt(chart.beats, part.start_beats);
  const to = secondsAt(chart.beats, part.end_beats);
  const points = Math.round((bottom - TOP) / 4);
  const levels = useMemo(() => sampleLevels(loudness, from, to, LOUDNESS_RATE, points), [loudness, from, to, points]);
  const middle = (i: number) => {
    const here = TOP + i * 4;
    let k = ys.findLastIndex((v) => v <= here);
    if (k < 0) k = 0;
    const mid = (j: number) =>
      ((leftHigh[Math.min(j, leftHigh.length - 1)] ?? LEFT_MARGIN + 200) +
        (rightLow[Math.min(j, rightLow.length - 1)] ?? LEFT_MARGIN + 420)) /
      2;
    const a = ys[k] ?? TOP;
    const b = ys[k + 1] ?? bottom;
    const t = Math.min(1, Math.max(0, (here - a) / Math.max(1, b - a)));
    const ease = t * t * (3 - 2 * t);
    return mid(k) * (1 - ease) + mid(k + 1) * ease;
  };
  const gap = Math.min(...grips.map((_, i) => (rightLow[i] ?? 9999) - (leftHigh[i] ?? 0)), 160);
  const beats = Array.from({ length: Math.round(part.end_beats - part.start_beats) }, (_, i) => part.start_beats + i);
  return (
    <Sheet width={WIDTH} height={bottom + 24} viewBox={`0 0 ${WIDTH} ${bottom + 24}`}>
      {[22, 38, 56].map((d, k) => (
        <path
          key={d}
          d={bankPath(
            leftLow.map((v) => v - d),
            leftLow.map((v) => v - d),
            ys,
            bottom,
            0,
          )}
          fill="none"
          stroke="var(--contour)"
          opacity={0.9 - k * 0.25}
        />
      ))}
      {hasRight &&
        [22, 38, 56].map((d, k) => (
          <path
            key={d}
            d={bankPath(
              rightHigh.map((v) => v + d),
              rightHigh.map((v) => v + d),
              ys,
              bottom,
              0,
            )}
            fill="none"
            stroke="var(--contour)"
            opacity={0.9 - k * 0.25}
          />
        ))}
      <path d={bankPath(leftLow, leftHigh, ys, bottom, 14)} fill="var(--left-bank)" />
      {hasRight && <path d={bankPath(rightLow, rightHigh, ys, bottom, 14)} fill="var(--right-bank)" />}
      {hasRight && gap > 30 && (
        <path
          d={bankPath(
            leftHigh.map((v) => v + 14),
            rightLow.map((v) => v - 14),
            ys,
            bottom,
            0,
          )}
          fill="var(--water)"
        />
      )}
      <path
        d={riverPath(levels, middle, TOP, 4, Math.max(8, Math.min(46, gap * 0.36)))}
        fill="var(--river)"
        opacity="0.55"
      />
      {beats.map((beat) => {
        const bar = chart.bars.find((b) => b.start_beats === beat);
        return (
          <g key={beat}>
            {bar && (
              <path
                d={`M${LEFT_MARGIN - 8} ${y(beat)}H${LEFT_MARGIN + KEYS_WIDTH}`}
                stroke="var(--contour)"
                strokeWidth="1.2"
              />
            )}
            <text className="count" x={LEFT_MARGIN - 14} y={y(beat) + 5}>
              {countOf(beat, chart.bars)}
            </text>
          </g>
        );
      })}
      {grips.slice(1).flatMap((grip, i) => {
        const before = grips[i] as Grip;
        return (["left", "right"] as const).flatMap((hand) =>
          joinNotes(before[hand], grip[hand]).map(([a, b]) => {
            const [x1, y1, x2, y2] = [x(a.midi), y(before.start_beats), x(b.midi), y(grip.start_beats)];
            const m = (y1 + y2) / 2;
            return (
              <path
                key={`${grip.start_beats}-${hand}-${b.midi}`}
                d={`M${x1} ${y1}C${x1} ${m} ${x2} ${m} ${x2} ${y2}`}
                fill="none"
                stroke={`var(--${hand})`}
                strokeWidth={a.midi === b.midi ? 4 : 1.3}
                opacity={a.midi === b.midi ? 0.75 : 0.6}
              />
            );
          }),
        );
      })}
      {melody.map((n) => (
        <g key={`${n.start_beats}-${n.midi}`}>
          <path
            d={`M${x(n.midi)} ${y(n.start_beats)}V${y(n.start_beats + n.duration_beats) - 3}`}
            stroke="var(--right)"
            strokeWidth="2"
            opacity="0.45"
          />
          <circle cx={x(n.midi)} cy={y(n.start_beats)} r={5} fill="var(--right)" />
        </g>
      ))}
      {grips.map((grip, i) => {
        const place = y(grip.start_beats);
        const newBar = i === 0 || grips[i - 1]?.bar !== grip.bar;
        return (
          // biome-ignore lint/a11y/useSemanticElements: a button cannot stand inside a drawing
          <g
            key={grip.start_beats}
            className="grip"
            role="button"
            tabIndex={0}
            aria-pressed={i === current}
            onClick={() => onGrip(i)}
            aria-label={`Bar ${grip.bar}, on ${grip.count}: ${withSigns(grip.symbol)}; left ${sayNotes(grip.left)}; right ${sayNotes(grip.right)}`}
            onKeyDown={(e) => {
              if (e.key === "Enter" || e.key === " ") {
                e.preventDefault();
                onGrip(i);
              }
            }}
          >
            <rect
              className="hit"
              x={0}
              y={place - 16}
              width={LEFT_MARGIN + KEYS_WIDTH}
              height={34}
              fill="transparent"
            />
            {i === current && (
              <path d={`M8 ${place - 17}H2V${place + 17}H8`} fill="none" stroke="var(--ink)" strokeWidth="2.4" />
            )}
            {newBar && (
              <text className="bar" x={14} y={place - 14}>
                bar {grip.bar}
              </text>
            )}
            <text className="chord" x={14} y={place + 7} style={grip.symbol.length > 6 ? { fontSize: 17 } : undefined}>
              {withSigns(grip.symbol)}
            </text>
            {grip.strained && <Break x={x(grip.left[0]?.midi ?? low) - 24} y={place} seed={i} />}
            <Marks notes={grip.left} hand="left" x={x} y={place} />
            <Marks notes={grip.right} hand="right" x={x} y={place} />
          </g>
        );
      })}
    </Sheet>
  );
});

interface MarksProps {
  notes: readonly Note[];
  hand: "left" | "right";
  x: (midi: number) => number;
  y: number;
}

/** The keys of one hand: squares for the left, rounds for the right, each with its name. */
function Marks({ notes, hand, x, y }: MarksProps) {
  const places = notes.map((n) => x(n.midi));
  const offsets = stagger(places, 25);
  return notes.map((n, i) => {
    const cx = places[i] as number;
    const cy = y + (offsets[i] as number);
    const half = offsets[i] ? 10 : 12.5;
    return (
      <g key={n.midi}>
        {hand === "left" ? (
          <rect x={cx - half} y={cy - half} width={2 * half} height={2 * half} rx={2} fill="var(--left)" />
        ) : (
          <circle cx={cx} cy={cy} r={half + 0.5} fill="var(--right)" />
        )}
        <text className="pitch" x={cx} y={cy + 4.5}>
          {withSigns(n.pitch.replace(/-?\d+$/, ""))}
        </text>
      </g>
    );
  });
}

const sayNotes = (notes: readonly Note[]) => withSigns(notes.map((n) => n.pitch).join(" ")) || "rests";

/** A crack in the bank: the hand reaches further here than is comfortable. */
function Break({ x, y, seed }: { x: number; y: number; seed: number }) {
  const points = Array.from({ length: 6 }, (_, i) => `${x + 5 * waver(seed * 9 + i)} ${y - 15 + i * 6}`);
  return <path d={`M${points.join("L")}`} fill="none" stroke="var(--doubt)" strokeWidth="2.4" />;
}

function countOf(beat: number, bars: readonly Schemas["BarOut"][]): number {
  const bar = bars.findLast((b) => b.start_beats <= beat);
  return bar ? Math.round(beat - bar.start_beats) + 1 : 1;
}
