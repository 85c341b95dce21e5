import { useMemo } from "react";
import type { Schemas } from "../../api/client";
import { secondsAt } from "../../player";
import { riverPath, sampleLevels } from "../../ui";
import { LOUDNESS_RATE, useWorkspace } from "../song";
import { bankEdge, bankPath, type Grip } from "./banks";
import { type Frame, LEFT_MARGIN, TOP } from "./frame";

const CONTOURS = [22, 38, 56];
const STEP = 4; // of the river's drawing

/** The ground under the hands: contour lines, the two banks, the water between, and the recording as the river. */
export function Terrain({
  grips,
  notes,
  frame,
}: {
  grips: readonly Grip[];
  notes: readonly Schemas["PlayedNoteOut"][];
  frame: Frame;
}) {
  const { part, chart, loudness } = useWorkspace();
  const bottom = frame.y(part.end_beats);
  const ys = grips.map((g) => frame.y(g.start_beats));
  const edge = (hand: "left" | "right", side: "low" | "high") => bankEdge(grips, hand, side, frame.x, notes);
  const leftLow = edge("left", "low");
  const leftHigh = edge("left", "high");
  const hasRight = grips.some((g) => g.right.length) || notes.some((n) => n.hand === "right");
  const rightLow = hasRight ? edge("right", "low") : [];
  const rightHigh = hasRight ? edge("right", "high") : [];
  const from = secondsAt(chart, part.start_beats);
  const to = secondsAt(chart, part.end_beats);
  const points = Math.round((bottom - TOP) / STEP);
  const levels = useMemo(() => sampleLevels(loudness, from, to, LOUDNESS_RATE, points), [loudness, from, to, points]);
  const gap = Math.min(...grips.map((_, i) => (rightLow[i] ?? 9999) - (leftHigh[i] ?? 0)), 160);

  const between = (i: number) =>
    ((leftHigh[Math.min(i, leftHigh.length - 1)] ?? LEFT_MARGIN + 200) +
      (rightLow[Math.min(i, rightLow.length - 1)] ?? LEFT_MARGIN + 420)) /
    2;
  const middle = (i: number) => {
    const here = TOP + i * STEP;
    const k = Math.max(
      0,
      ys.findLastIndex((v) => v <= here),
    );
    const a = ys[k] ?? TOP;
    const b = ys[k + 1] ?? bottom;
    const t = Math.min(1, Math.max(0, (here - a) / Math.max(1, b - a)));
    const ease = t * t * (3 - 2 * t);
    return between(k) * (1 - ease) + between(k + 1) * ease;
  };
  const contour = (line: readonly number[], away: number) => {
    const moved = line.map((v) => v + away);
    return bankPath(moved, moved, ys, bottom, 0);
  };
  const shore = (line: readonly number[], away: number) => line.map((v) => v + away);
  return (
    <>
      {CONTOURS.map((d, k) => (
        <g key={d} fill="none" stroke="var(--contour)" opacity={0.9 - k * 0.25}>
          <path d={contour(leftLow, -d)} />
          {hasRight && <path d={contour(rightHigh, d)} />}
        </g>
      ))}
      <path d={bankPath(leftLow, leftHigh, ys, bottom, 14)} fill="var(--left-bank)" />
      {hasRight && <path d={bankPath(rightLow, rightHigh, ys, bottom, 14)} fill="var(--right-bank)" />}
      {hasRight && gap > 30 && (
        <path d={bankPath(shore(leftHigh, 14), shore(rightLow, -14), ys, bottom, 0)} fill="var(--water)" />
      )}
      <path
        d={riverPath(levels, middle, TOP, STEP, Math.max(8, Math.min(46, gap * 0.36)))}
        fill="var(--river)"
        opacity="0.55"
      />
    </>
  );
}
