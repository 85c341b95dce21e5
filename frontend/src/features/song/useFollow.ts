import { type RefObject, useEffect, useRef } from "react";
import { beatsAt } from "../../player";
import { useWorkspace } from "./context";

/** While it plays, what sounds is kept in sight; when it stops, the page comes back to where the eyes were. */
export function useFollow(field: RefObject<HTMLElement | null>, rowAt: (beat: number) => Element | null | undefined) {
  const { player, chart } = useWorkspace();
  const find = useRef(rowAt);
  find.current = rowAt;
  useEffect(() => {
    let home: number | null = null;
    let last: Element | null | undefined;
    return player.subscribe(() => {
      const { playing, counting, time } = player.getState();
      const ground = field.current;
      if (!ground) return;
      if (playing) {
        home ??= ground.scrollTop;
        const row = find.current(beatsAt(chart.beats, time));
        if (row !== last) row?.scrollIntoView({ block: "nearest", behavior: "smooth" });
        last = row;
      } else if (!counting && home !== null) {
        ground.scrollTop = home;
        home = null;
        last = undefined;
      }
    });
  }, [player, chart.beats, field]);
}
