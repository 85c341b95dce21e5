import type { KeyboardEvent } from "react";

/**
 * A closed list asks the page first: what was chosen last has the focus, and the next key means the song. Arrows that
 * the page has no use for are the list's; letters change nothing in what is closed; Space, Enter and Tab keep their meaning.
 */
export function pageFirst(event: KeyboardEvent<HTMLElement>): void {
  const { key, code, shiftKey, ctrlKey, altKey, metaKey } = event;
  const ours = key.startsWith("Arrow") || (key.length === 1 && key !== " ");
  const closed = event.target instanceof Element && event.target.getAttribute("aria-expanded") === "false";
  if (!ours || !closed) return;
  const told = { key, code, shiftKey, ctrlKey, altKey, metaKey, bubbles: true, cancelable: true };
  if (document.body.dispatchEvent(new window.KeyboardEvent("keydown", told))) return;
  event.preventDefault();
  event.stopPropagation();
}
