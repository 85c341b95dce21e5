import { useEffect, useRef } from "react";

export type Shortcuts = Record<string, (event: KeyboardEvent) => void>;

/** Does typing go into a field just now? Then letters belong to it. */
function typing(target: EventTarget | null): boolean {
  if (target instanceof HTMLInputElement && /^(checkbox|radio)$/.test(target.type)) return false;
  return (
    target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

/** Name of a key press: "n", "?", "arrowleft", "mod+z", "mod+shift+z". */
export function nameKey(event: Pick<KeyboardEvent, "key" | "ctrlKey" | "metaKey" | "shiftKey" | "altKey">): string {
  const key = event.key.toLowerCase();
  const mod = event.ctrlKey || event.metaKey ? "mod+" : "";
  const shift = event.shiftKey && (mod || key.length > 1) ? "shift+" : "";
  return `${event.altKey ? "alt+" : ""}${mod}${shift}${key}`;
}

/** Keys that act while no field has the focus. A focused button keeps its own Space and Enter. */
export function useShortcuts(shortcuts: Shortcuts): void {
  const current = useRef(shortcuts);
  current.current = shortcuts;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.defaultPrevented || typing(event.target)) return;
      const act = current.current[nameKey(event)];
      if (!act) return;
      if (
        (event.key === " " || event.key === "Enter") &&
        event.target instanceof HTMLElement &&
        event.target.closest("button,a,input,[role=option],[role=radio],[role=slider]")
      )
        return;
      event.preventDefault();
      act(event);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}
