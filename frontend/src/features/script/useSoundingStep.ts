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
  const part = usePlayer(player, (s) => {
    const beat = beatsAt(chart, s.time);
    return s.playing ? (chart.parts.findLast((p) => p.start_beats <= beat + 1e-6)?.number ?? 0) : 0;
  });
  const sounding = part && steps[index]?.part !== part ? steps.findIndex((s) => s.part === part) : -1;
  const left = useRef(false);
  useEffect(() => {
    if (sounding < 0 && !left.current) return;
    left.current = sounding >= 0;
    const step = list.current?.querySelector(`[data-step="${sounding >= 0 ? sounding : index}"]`);
    step?.scrollIntoView?.({ block: "nearest", behavior: "smooth" });
  }, [sounding, index, list]);
  return sounding;
}
