import { type RefObject, useEffect, useState } from "react";
import { barsPerRow, ROW_WIDTH } from "./terraces";

/** What the drawing makes of the room it has: bars in a row, and how far its letters have to be widened, as it is narrower than it is drawn. */
export function useRoom(field: RefObject<HTMLElement | null>): { perRow: number; widen: number } {
  const [width, setWidth] = useState(() => Math.min(window.innerWidth, ROW_WIDTH + 12));
  useEffect(() => {
    const box = field.current;
    if (!box || !("ResizeObserver" in window)) return;
    const watch = new ResizeObserver(() => box.clientWidth && setWidth(Math.min(box.clientWidth, ROW_WIDTH + 12)));
    watch.observe(box);
    return () => watch.disconnect();
  }, [field]);
  return { perRow: barsPerRow(width), widen: (ROW_WIDTH + 12) / width };
}
