import { useEffect, useState } from "react";
import { flushSync } from "react-dom";
import type { Schemas } from "../../api/client";
import { beatsAt, type Player } from "../../player";
import { KEY_MAP, nameKey } from "../../ui";

/** Views that show one part at a time; the others show the whole song, and scroll. */
const BY_PART = new Set(["valley", "hand-outs"]);
const PLAYING = new Set(Object.values(KEY_MAP.player).flatMap((row) => row.keys));

/**
 * The part that sounds, where a view shows one part at a time; null when nothing plays, or what was in hand is wanted back: any key that is not the
 * player's, and any touch of the page, is meant for what was chosen before, and finds it there.
 */
export function useSoundingPart(player: Player, chart: Schemas["ChartOut"] | undefined, view: string): number | null {
  const [part, setPart] = useState<number | null>(null);
  useEffect(() => {
    if (!chart || !BY_PART.has(view)) return;
    let wantedBack = false;
    const silent = player.subscribe(() => {
      const { playing, time } = player.getState();
      wantedBack &&= playing;
      const beat = beatsAt(chart, time);
      setPart(
        playing && !wantedBack ? (chart.parts.findLast((p) => p.start_beats <= beat + 1e-6)?.number ?? null) : null,
      );
    });
    const comeBack = () => {
      if (wantedBack || !player.getState().playing) return;
      wantedBack = true;
      flushSync(() => setPart(null)); // before the key acts
    };
    const onKey = (event: KeyboardEvent) => {
      if (!PLAYING.has(nameKey(event)) && !/^(Shift|Control|Alt|Meta)$/.test(event.key)) comeBack();
    };
    const onTouch = (event: PointerEvent) => {
      if (event.target instanceof Element && event.target.closest("#view")) comeBack();
    };
    document.addEventListener("keydown", onKey, true);
    document.addEventListener("pointerdown", onTouch, true);
    return () => {
      silent();
      setPart(null);
      document.removeEventListener("keydown", onKey, true);
      document.removeEventListener("pointerdown", onTouch, true);
    };
  }, [player, chart, view]);
  return part;
}
