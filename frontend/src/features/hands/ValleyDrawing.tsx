import { useEffect, useMemo, useRef, useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { framing, isCompound, KeyboardPicture, keyboardWidth } from "../../ui";
import { useFollow, useWorkspace } from "../song";
import { KEYS_WIDTH, LEFT_MARGIN, makeFrame, WIDTH } from "./frame";
import type { MarkedNote } from "./GripMark";
import { Ground } from "./Ground";
import { PlayLine } from "./PlayLine";

const Scroll = styled.div`
  overflow-y: auto;
  overflow-x: hidden;
  min-height: 0;
  flex: 1;
  scrollbar-width: thin;
  scrollbar-color: var(--line) transparent;
  max-width: ${WIDTH}px;
  .ruler {
    position: sticky;
    top: 0;
    z-index: 1;
    padding-left: ${LEFT_MARGIN}px;
    background: var(--ground);
  }
  @media print {
    overflow: visible;
  }
`;
interface DrawingProps {
  arranged: Schemas["PartArrangementOut"];
  arrangement: Schemas["ArrangementOut"];
  current: number;
  note: number | null;
  onGrip: (index: number) => void;
  onNote?: (index: number, midi: number) => void;
  onMove?: (index: number, note: MarkedNote, by: number) => void;
}

/** The keyboard as the ruler at the top, the valley below it, and the line where the recording is. */
/** How long a beat is drawn: dotted and half-note beats longer, the eighths of 7/8 shorter than a quarter. */
function beatLength(meter: string): number {
  if (isCompound(meter) || meter.endsWith("/2")) return 62;
  return meter.endsWith("/8") ? 26 : meter === "2/4" ? 62 : 40;
}

export function ValleyDrawing({ arranged, arrangement, current, note, onGrip, onNote, onMove }: DrawingProps) {
  const { lowest, highest } = arrangement;
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
  const step = beatLength(chart.meter);
  const y = useMemo(
    () => makeFrame(frame.low, scale, step, part.start_beats).y,
    [frame.low, scale, step, part.start_beats],
  );
  const grip = arranged.grips[current];
  const lit = grip
    ? [
        ...grip.left.map((n) => ({ midi: n.midi, hand: "left" as const })),
        ...grip.right.map((n) => ({ midi: n.midi, hand: "right" as const })),
      ]
    : [];
  // On a narrow screen the whole drawing is made smaller, so that both hands stay in sight.
  const [zoom, setZoom] = useState(1);
  useEffect(() => {
    const box = scroll.current;
    if (!box || !("ResizeObserver" in window)) return;
    const watch = new ResizeObserver(() => {
      if (box.clientWidth) setZoom(Math.min(1, box.clientWidth / WIDTH));
    });
    watch.observe(box);
    return () => watch.disconnect();
  }, []);
  const keepInSight = (at: number) => {
    const box = scroll.current;
    if (!box) return;
    const room = box.clientHeight - 90;
    if (at + 90 > box.scrollTop + room || at < box.scrollTop + 20)
      box.scrollTo({ top: Math.max(0, at - room * 0.3), behavior: "smooth" });
  };
  useFollow(scroll, (beat) => {
    if (beat >= part.start_beats && beat < part.end_beats) keepInSight(y(beat) * zoom);
  });
  const line = (grip ? y(grip.start_beats) : 0) * zoom;
  // biome-ignore lint/correctness/useExhaustiveDependencies: only where the grip in hand is another
  useEffect(() => keepInSight(line), [line]);
  return (
    <Scroll ref={scroll} role="group" aria-label={`Both hands in part ${part.number}, from bar ${part.start_bar} on`}>
      <div className="ruler" style={{ zoom }}>
        <KeyboardPicture
          low={frame.low}
          high={top}
          width={KEYS_WIDTH}
          height={50}
          lit={lit}
          label="Keyboard with the held keys lit"
        />
      </div>
      <div style={{ position: "relative", zoom }}>
        <Ground
          arranged={arranged}
          arrangement={arrangement}
          low={frame.low}
          scale={scale}
          step={step}
          current={current}
          note={note}
          onGrip={onGrip}
          onNote={onNote}
          onMove={onMove}
        />
        <PlayLine y={y} />
      </div>
    </Scroll>
  );
}
