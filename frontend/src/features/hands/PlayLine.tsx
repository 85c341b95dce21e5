import { useEffect, useRef } from "react";
import { beatsAt } from "../../player";
import { usePlayer, useWorkspace } from "../song";
import { KEYS_WIDTH, LEFT_MARGIN } from "./frame";

/** Where the recording is; the only thing that moves while it plays. */
export function PlayLine({ y }: { y: (beat: number) => number }) {
  const { player, chart, part } = useWorkspace();
  const line = useRef<HTMLDivElement>(null);
  const playing = usePlayer(player, (s) => s.playing);
  useEffect(() => {
    let frame = 0;
    const draw = () => {
      const beat = beatsAt(chart, player.now());
      const inside = beat >= part.start_beats && beat < part.end_beats;
      if (line.current) {
        line.current.style.transform = `translateY(${y(beat)}px)`;
        line.current.style.visibility = inside && (playing || player.now() > 0) ? "visible" : "hidden";
      }
      if (playing) frame = requestAnimationFrame(draw);
    };
    draw();
    const stop = player.subscribe(() => playing || draw());
    return () => {
      cancelAnimationFrame(frame);
      stop();
    };
  }, [playing, player, chart, part, y]);
  return (
    <div
      ref={line}
      aria-hidden="true"
      style={{
        position: "absolute",
        top: 0,
        left: LEFT_MARGIN - 12,
        width: KEYS_WIDTH + 24,
        height: 2,
        background: "var(--doubt)",
        visibility: "hidden",
      }}
    />
  );
}
