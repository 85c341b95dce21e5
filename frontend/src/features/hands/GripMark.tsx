import { type PointerEvent, useRef, useState } from "react";
import { waver, withSigns } from "../../ui";
import { type Grip, type Note, stagger } from "./banks";
import { type Frame, KEYS_WIDTH, LEFT_MARGIN } from "./frame";

export interface MarkedNote extends Note {
  hand: "left" | "right";
}

interface GripMarkProps {
  grip: Grip;
  frame: Frame;
  index: number;
  newBar: boolean;
  current: boolean;
  note: number | null;
  fingers: boolean;
  onGrip: (index: number) => void;
  onNote?: (index: number, midi: number) => void;
  onMove?: (index: number, note: MarkedNote, by: number) => void;
}

/** One grip across the valley: its chord as a stone at the left, its keys on their banks. */
export function GripMark({
  grip,
  frame,
  index,
  newBar,
  current,
  note,
  fingers,
  onGrip,
  onNote,
  onMove,
}: GripMarkProps) {
  const { x, y } = frame;
  const place = y(grip.start_beats);
  const bad = grip.strained || grip.outside;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a button cannot stand inside a drawing
    <g
      className="grip"
      role="button"
      tabIndex={0}
      aria-pressed={current}
      onClick={() => onGrip(index)}
      aria-label={`Bar ${grip.bar}, on ${grip.count}: ${withSigns(grip.symbol)}; left ${sayNotes(grip.left)}; right ${sayNotes(grip.right)}`}
      onKeyDown={(e) => {
        if (e.key === "Enter" || e.key === " ") {
          e.preventDefault();
          onGrip(index);
        }
      }}
    >
      <rect className="hit" x={0} y={place - 16} width={LEFT_MARGIN + KEYS_WIDTH} height={34} fill="transparent" />
      {current && <path d={`M8 ${place - 17}H2V${place + 17}H8`} fill="none" stroke="var(--ink)" strokeWidth="2.4" />}
      {newBar && (
        <text className="bar" x={14} y={place - 14}>
          bar {grip.bar}
        </text>
      )}
      <text className="chord" x={14} y={place + 7} style={grip.symbol.length > 6 ? { fontSize: 17 } : undefined}>
        {withSigns(grip.symbol)}
      </text>
      {grip.locked && (
        <path
          d={`M${14} ${place + 13}h26`}
          stroke="var(--ink)"
          strokeWidth="1.6"
          strokeDasharray="1 3"
          strokeLinecap="round"
        >
          <title>set by you</title>
        </path>
      )}
      {bad && <Break x={x(grip.left[0]?.midi ?? grip.right[0]?.midi ?? 60) - 24} y={place} seed={index} />}
      {grip.collides && (
        <path
          d={`M${x(grip.left.at(-1)?.midi ?? 60)} ${place - 15}V${place + 15}`}
          stroke="var(--doubt)"
          strokeWidth="3"
        />
      )}
      {(["left", "right"] as const).map((hand) => (
        <Marks
          key={hand}
          notes={grip[hand]}
          hand={hand}
          frame={frame}
          y={place}
          chosen={current ? note : null}
          fingers={fingers}
          onNote={onNote && ((midi) => onNote(index, midi))}
          onMove={onMove && ((n, by) => onMove(index, n, by))}
        />
      ))}
    </g>
  );
}

interface MarksProps {
  notes: readonly Note[];
  hand: "left" | "right";
  frame: Frame;
  y: number;
  chosen: number | null;
  fingers: boolean;
  onNote?: (midi: number) => void;
  onMove?: (note: MarkedNote, by: number) => void;
}

/** The keys of one hand: squares for the left, rounds for the right, hollow where they may be left out; each can be drawn to another key. */
function Marks({ notes, hand, frame, y, chosen, fingers, onNote, onMove }: MarksProps) {
  const places = notes.map((n) => frame.x(n.midi));
  const offsets = stagger(places, 25);
  return notes.map((n, i) => (
    <Mark
      key={n.midi}
      note={{ ...n, hand }}
      cx={places[i] as number}
      cy={y + (offsets[i] as number)}
      half={offsets[i] ? 10 : 12.5}
      chosen={n.midi === chosen}
      finger={fingers ? n.finger : null}
      frame={frame}
      onNote={onNote}
      onMove={onMove}
    />
  ));
}

interface MarkProps {
  note: MarkedNote;
  cx: number;
  cy: number;
  half: number;
  chosen: boolean;
  finger: number | null;
  frame: Frame;
  onNote?: (midi: number) => void;
  onMove?: (note: MarkedNote, by: number) => void;
}

function Mark({ note, cx, cy, half, chosen, finger, frame, onNote, onMove }: MarkProps) {
  const from = useRef<number | null>(null);
  const [drawn, setDrawn] = useState(0);
  const colour = `var(--${note.hand})`;
  const key = drawn ? frame.keyAt(cx + drawn) : note.midi;
  const scaled = (e: PointerEvent<SVGGElement>) => {
    const box = e.currentTarget.ownerSVGElement?.getBoundingClientRect();
    const width = e.currentTarget.ownerSVGElement?.viewBox.baseVal.width ?? 1;
    return box ? ((e.clientX - (from.current ?? e.clientX)) * width) / box.width : 0;
  };
  const look = note.optional
    ? { fill: "var(--ground)", stroke: colour, strokeWidth: 2.6 }
    : { fill: colour, stroke: chosen ? "var(--ink)" : "none", strokeWidth: 2.4 };
  const x = drawn ? frame.x(key) : cx;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the notes are buttons in the margin, and the grip has keys for them
    <g
      className="mark"
      onClick={() => onNote?.(note.midi)}
      onPointerDown={(e) => {
        if (!onMove) return;
        from.current = e.clientX;
        e.currentTarget.setPointerCapture?.(e.pointerId);
      }}
      onPointerMove={(e) => from.current !== null && setDrawn(Math.abs(scaled(e)) > 6 ? scaled(e) : 0)}
      onPointerUp={() => {
        if (drawn && key !== note.midi) onMove?.(note, key - note.midi);
        from.current = null;
        setDrawn(0);
      }}
    >
      {chosen && <circle cx={x} cy={cy} r={half + 5} fill="none" stroke="var(--ink)" strokeWidth="1.6" />}
      {note.hand === "left" ? (
        <rect x={x - half} y={cy - half} width={2 * half} height={2 * half} rx={2} {...look} />
      ) : (
        <circle cx={x} cy={cy} r={half + 0.5} {...look} />
      )}
      <text className="pitch" x={x} y={cy + 4.5} style={note.optional ? { fill: "var(--ink)" } : undefined}>
        {withSigns(note.pitch.replace(/-?\d+$/, ""))}
      </text>
      {finger !== null && (
        <text className="finger" x={x + half + 2} y={cy + half + 3}>
          {finger}
        </text>
      )}
    </g>
  );
}

const sayNotes = (notes: readonly Note[]) => withSigns(notes.map((n) => n.pitch).join(" ")) || "rests";

/** A crack in the bank: the hand reaches further here than is comfortable. */
function Break({ x, y, seed }: { x: number; y: number; seed: number }) {
  const points = Array.from({ length: 6 }, (_, i) => `${x + 5 * waver(seed * 9 + i)} ${y - 15 + i * 6}`);
  return <path d={`M${points.join("L")}`} fill="none" stroke="var(--doubt)" strokeWidth="2.4" />;
}
