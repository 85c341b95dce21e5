import { type RefObject, useEffect, useRef } from "react";
import type { Schemas } from "../../api/client";
import { beatsAt } from "../../player";
import { usePlayer, useWorkspace } from "../song";

/**
 * Where the part that sounds begins in the script, kept in sight while it plays; -1 in silence, and while what sounds is of the step in hand.
 * When it stops, the page comes back to the step in hand.
 */
export function useSoundingStep(
  list: RefObject<HTMLElement | null>,
  steps: readonly Schemas["StepOut"][],
  index: number,
): number {
  const { player, chart } = useWorkspace();
  const step = steps[index];
  const sounding = usePlayer(player, (s) => {
    if (!s.playing) return -1;
    const beat = beatsAt(chart, s.time);
    const [from, to] = [step?.start_beats ?? null, step?.end_beats ?? null];
    if (from !== null && to !== null && beat >= from - 1e-6 && beat < to) return -1;
    const part = chart.parts.findLast((p) => p.start_beats <= beat + 1e-6)?.number;
    return part === step?.part ? -1 : steps.findIndex((other) => other.part === part);
  });
  const left = useRef(false);
  useEffect(() => {
    if (sounding < 0 && !left.current) return;
    left.current = sounding >= 0;
    const shown = list.current?.querySelector(`[data-step="${sounding >= 0 ? sounding : index}"]`);
    shown?.scrollIntoView?.({ block: "nearest", behavior: "smooth" });
  }, [sounding, index, list]);
  return sounding;
}
