import { useEffect, useRef } from "react";

/** Where Space belongs to what has the focus: text is typed there, or nothing else can turn it on. */
const OWN_SPACE =
  'input:not([type="range"]),textarea,[contenteditable="true"],[role="option"],[role="radio"],[role="switch"],[role="dialog"],[role="menu"]';

/** Space plays or stops wherever the focus is, so that a hand at the piano need not look: a button that was clicked last is pressed by Enter. */
export function usePlayKey(toggle: () => void): void {
  const current = useRef(toggle);
  current.current = toggle;
  useEffect(() => {
    const isOurs = (event: KeyboardEvent) =>
      event.key === " " &&
      !event.ctrlKey &&
      !event.metaKey &&
      !event.altKey &&
      !(event.target instanceof Element && event.target.closest(OWN_SPACE));
    const onDown = (event: KeyboardEvent) => {
      if (!isOurs(event)) return;
      event.preventDefault();
      event.stopPropagation();
      if (!event.repeat) current.current();
    };
    const onUp = (event: KeyboardEvent) => {
      if (isOurs(event)) event.preventDefault(); // a native button acts as its key comes up
    };
    window.addEventListener("keydown", onDown, true);
    window.addEventListener("keyup", onUp, true);
    return () => {
      window.removeEventListener("keydown", onDown, true);
      window.removeEventListener("keyup", onUp, true);
    };
  }, []);
}
