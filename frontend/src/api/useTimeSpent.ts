import { useEffect, useRef } from "react";
import { client, unwrap } from "./client";

const TICK_MS = 5_000;
const IDLE_MS = 90_000;
const REPORT_AFTER = 60; // seconds

/** Which waymark the work on a page leads to. */
const TOWARDS: Record<string, number> = { survey: 3, parts: 3, valley: 4, script: 5, "hand-outs": 7 };

/** While someone works at a page – it is in sight, and keys or pointer move – the minutes are noted with the song. */
export function useTimeSpent(songId: number, view: string): void {
  const last = useRef(Date.now());
  useEffect(() => {
    const stage = TOWARDS[view];
    if (!stage) return;
    let seconds = 0;
    last.current = Date.now();
    const touch = () => {
      last.current = Date.now();
    };
    const report = () => {
      if (seconds < 5) return;
      const minutes = seconds / 60;
      seconds = 0;
      void unwrap(
        client.POST("/api/songs/{song_id}/time", {
          params: { path: { song_id: songId } },
          body: { stage, minutes, by_hand: false },
        }),
      ).catch(() => undefined); // a minute that is lost does no harm
    };
    const timer = setInterval(() => {
      if (document.visibilityState === "visible" && Date.now() - last.current < IDLE_MS) seconds += TICK_MS / 1000;
      if (seconds >= REPORT_AFTER) report();
    }, TICK_MS);
    for (const kind of ["pointermove", "keydown", "wheel"]) window.addEventListener(kind, touch, { passive: true });
    return () => {
      clearInterval(timer);
      for (const kind of ["pointermove", "keydown", "wheel"]) window.removeEventListener(kind, touch);
      report();
    };
  }, [songId, view]);
}
