import { type RefObject, useEffect, useRef } from "react";
import { beatsAt } from "../../player";
import { useWorkspace } from "./context";

/** While it plays, what sounds is kept in sight; when it stops, the page comes back to where the eyes were. `keep` brings a beat into sight. */
export function useFollow(field: RefObject<HTMLElement | null>, keep: (beat: number) => void) {
  const { player, chart } = useWorkspace();
  const current = useRef(keep);
  current.current = keep;
  useEffect(() => {
    let home: number | null = null;
    return player.subscribe(() => {
      const { playing, counting, time } = player.getState();
      const ground = field.current;
      if (!ground) return;
      if (playing) {
        home ??= ground.scrollTop;
        current.current(beatsAt(chart, time));
      } else if (!counting && home !== null) {
        ground.scrollTop = home;
        home = null;
      }
    });
  }, [player, chart, field]);
}
