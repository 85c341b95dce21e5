import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";

/** How the stage looks: times the usual size, mirrored or not, times the lesson's own pace. */
export interface Look {
  size: number;
  mirrored: boolean;
  pace: number;
}
const KEPT = "valley-stage";
const USUAL: Look = { size: 1, mirrored: false, pace: 1 };
const within = (value: number, low: number, high: number) =>
  Math.round(100 * Math.min(high, Math.max(low, value))) / 100;

function kept(): Look {
  try {
    const { size, mirrored, pace } = { ...USUAL, ...(JSON.parse(localStorage.getItem(KEPT) ?? "{}") as Partial<Look>) };
    return {
      size: within(Number(size) || 1, 0.7, 2.2),
      mirrored: mirrored === true,
      pace: within(Number(pace) || 1, 0.3, 3),
    };
  } catch {
    return USUAL;
  }
}

/** Seconds that the stage stays at a place of a step when it runs by itself. */
export function staySeconds(
  step: Pick<Schemas["StepOut"], "speaking_seconds" | "playing_seconds">,
  places: number,
  pace: number,
): number {
  return Math.max(1.5, (step.speaking_seconds + step.playing_seconds) / Math.max(1, places)) / pace;
}

/** The look of the stage, which the browser remembers, and the running by itself; it stops at the end. */
export function useStage(
  step: Schemas["StepOut"] | undefined,
  places: number,
  last: boolean,
  turn: (by: number) => void,
) {
  const [look, setLook] = useState(kept);
  const [running, setRunning] = useState(false);
  const change = (what: Partial<Look>) => {
    const next = { ...look, ...what };
    const made = { ...next, size: within(next.size, 0.7, 2.2), pace: within(next.pace, 0.3, 3) };
    localStorage.setItem(KEPT, JSON.stringify(made));
    setLook(made);
  };
  useEffect(() => {
    if (!running || !step) return;
    const timer = setTimeout(() => (last ? setRunning(false) : turn(1)), 1000 * staySeconds(step, places, look.pace));
    return () => clearTimeout(timer);
  }, [running, step, places, last, look.pace, turn]);
  return { look, change, running, setRunning };
}
