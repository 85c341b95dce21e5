import { waver, withSigns } from "../../ui";
import { type Grip, type Note, stagger } from "./banks";
import { type Frame, KEYS_WIDTH, LEFT_MARGIN } from "./frame";

interface GripMarkProps {
  grip: Grip;
  frame: Frame;
  index: number;
  newBar: boolean;
  current: boolean;
  onGrip: (index: number) => void;
}

/** One grip across the valley: its chord as a stone at the left, its keys on their banks. */
export function GripMark({ grip, frame, index, newBar, current, onGrip }: GripMarkProps) {
  const { x, y } = frame;
  const place = y(grip.start_beats);
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
      {grip.strained && <Break x={x(grip.left[0]?.midi ?? grip.right[0]?.midi ?? 60) - 24} y={place} seed={index} />}
      <Marks notes={grip.left} hand="left" x={x} y={place} />
      <Marks notes={grip.right} hand="right" x={x} y={place} />
    </g>
  );
}

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
