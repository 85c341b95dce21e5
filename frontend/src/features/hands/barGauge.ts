import type { Schemas } from "../../api/client";
import { addBeats, framing, keyBox, keyboardWidth } from "../../ui";
import type { Hand } from "./barNotes";

const WIDTH = 268;
const LEFT = 16;
export const KEYS = 34;
const BEAT = 46;

export type Gauge = ReturnType<typeof gauge>;

/** Where keys and beats of a bar lie on paper, and what lies under a point. */
export function gauge(bar: Schemas["BarCloseOut"], division: number) {
  const keys = bar.hands.flatMap((h) => h.notes.map((n) => n.midi));
  const frame = framing(keys.length ? keys : [60]);
  const low = frame.low;
  const high = frame.high - 1;
  const scale = (WIDTH - LEFT - 4) / keyboardWidth(low, high);
  const all = Array.from({ length: high - low + 1 }, (_, i) => low + i);
  const box = (midi: number) => {
    const { x, width } = keyBox(midi, low);
    return { x: LEFT + x * scale, width: width * scale };
  };
  const across = (midi: number) => box(midi).x + box(midi).width / 2;
  const down = (beats: number) => KEYS + 14 + beats * BEAT;
  const middle = (hand: string) => {
    const notes = bar.hands.find((h) => h.hand === hand)?.notes ?? [];
    return notes.length ? notes.reduce((sum, n) => sum + n.midi, 0) / notes.length : null;
  };
  const steps = Math.ceil(bar.duration_beats * division);
  return {
    width: WIDTH,
    height: down(bar.duration_beats) + 6,
    left: LEFT,
    keys: all,
    box,
    across,
    down,
    /** A step of the bar as a beat of the song. */
    beat: (step: number) => addBeats(bar.start, step, division),
    mark: (n: Schemas["BarNoteOut"]) => ({
      x: across(n.midi) - (n.grace ? 7 : 0),
      y: down(n.start_beats) - (n.grace ? 6 : 0),
      end: Math.max(down(n.start_beats) + 2, down(n.start_beats + n.duration_beats) - 7),
      size: n.grace ? 3 : 5,
    }),
    /** The key nearest to a point, and the step of the bar; ``inside``: below the keyboard and above the bar's end. */
    under: (x: number, y: number) => {
      const midi = all.reduce((best, m) => (Math.abs(across(m) - x) < Math.abs(across(best) - x) ? m : best), low);
      const step = Math.round(((y - KEYS - 14) / BEAT) * division);
      return { midi, step: Math.min(Math.max(step, 0), steps - 1), inside: y > KEYS + 4 };
    },
    /** The hand that is nearer to a key. */
    handAt: (midi: number): Hand => {
      const left = middle("left") ?? 48;
      const right = middle("right") ?? 72;
      return Math.abs(midi - left) <= Math.abs(midi - right) ? "left" : "right";
    },
  };
}
