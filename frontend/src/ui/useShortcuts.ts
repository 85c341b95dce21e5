import { useLayoutEffect, useRef } from "react";

export type Shortcuts = Record<string, (event: KeyboardEvent) => void>;

/** Does typing go into a field just now, or does a letter look for a choice in an open list? Then letters belong to it. */
function typing(target: EventTarget | null): boolean {
  if (target instanceof HTMLInputElement && /^(checkbox|radio|range)$/.test(target.type)) return false;
  if (target instanceof Element && target.closest('[role="listbox"]')) return true;
  return (
    target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

const SWITCH = "valley-letters";

/** Whether single keys act; who speaks to the computer, or trembles, turns them off. Keys with Ctrl or Alt, arrows and Space stay. */
export const lettersAct = (): boolean => localStorage.getItem(SWITCH) !== "off";
export const setLettersAct = (on: boolean): void => localStorage.setItem(SWITCH, on ? "on" : "off");

/** A sheet is open over the page: its keys are its own. */
function covered(target: EventTarget | null): boolean {
  if (target instanceof Element && target.closest('[role="dialog"],[role="alertdialog"]')) return true;
  return document.querySelector('[role="dialog"][data-rac],[role="alertdialog"]') !== null;
}

/** Name of a key press: "n", "shift+s", "?", "arrowleft", "mod+z", "mod+shift+z". */
export function nameKey(event: Pick<KeyboardEvent, "key" | "ctrlKey" | "metaKey" | "shiftKey" | "altKey">): string {
  const key = event.key.toLowerCase();
  const mod = event.ctrlKey || event.metaKey ? "mod+" : "";
  const shift = event.shiftKey && (mod || key.length > 1 || /^[a-z]$/.test(key)) ? "shift+" : "";
  return `${event.altKey ? "alt+" : ""}${mod}${shift}${key}`;
}

/** Keys that act while no field has the focus. A focused button keeps its own Space and Enter. */
export function useShortcuts(shortcuts: Shortcuts): void {
  const current = useRef(shortcuts);
  current.current = shortcuts;
  // Before the page is seen, so that no key is lost that is pressed as soon as it stands there.
  useLayoutEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.defaultPrevented || typing(event.target) || covered(event.target)) return;
      if (
        event.key.length === 1 &&
        event.key !== " " &&
        !event.ctrlKey &&
        !event.metaKey &&
        !event.altKey &&
        !lettersAct()
      )
        return;
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
