import { type KeyboardEvent, useId, useState } from "react";
import styled from "styled-components";
import { isBlack, keyBox, keyboardWidth } from "./keyboard";

interface KeyboardPadProps {
  low: number;
  high: number;
  pressed: ReadonlySet<number>;
  onToggle: (midi: number) => void;
  width: number;
  height: number;
  label: string;
}

const Pad = styled.div`
  position: relative;
  border-radius: 3px;
  outline-offset: 3px;
  &:focus-visible {
    outline: 3px solid var(--river);
  }
  div[role="option"] {
    position: absolute;
    top: 0;
    box-sizing: border-box;
    border: 1px solid var(--key-line);
    cursor: pointer;
    background: var(--white-key);
  }
  div[data-black="true"] {
    background: var(--black-key);
    z-index: 1;
  }
  div[aria-selected="true"] {
    background: var(--right);
  }
  div[data-cursor="true"] {
    box-shadow: inset 0 -5px 0 var(--doubt);
  }
`;

const LETTERS: Record<string, number> = { c: 0, d: 2, e: 4, f: 5, g: 7, a: 9, b: 11 };

/** The nearest key of a letter at or above the cursor. */
export function keyOfLetter(letter: string, from: number, high: number): number | null {
  const pitch = LETTERS[letter];
  if (pitch === undefined) return null;
  const midi = from + ((pitch - (from % 12) + 12) % 12);
  return midi <= high ? midi : midi - 12;
}

/**
 * Keys to press by mouse, by touch or by the letters of the notes: C D E … puts down the next such key going up,
 * ↑ and ↓ sharpen and flatten it, ← → walk along the keys and Space presses or lets go.
 */
export function KeyboardPad({ low, high, pressed, onToggle, width, height, label }: KeyboardPadProps) {
  const id = useId();
  const [cursor, setCursor] = useState(60);
  const scale = width / keyboardWidth(low, high);
  const keys = Array.from({ length: high - low + 1 }, (_, i) => low + i);

  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const letter = keyOfLetter(event.key.toLowerCase(), pressed.size ? Math.max(...pressed) : low + 12, high);
    const walk = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const bend = { ArrowUp: 1, ArrowDown: -1 }[event.key];
    if (letter !== null) {
      if (!pressed.has(letter)) onToggle(letter);
      setCursor(letter);
    } else if (walk) setCursor(Math.min(high, Math.max(low, cursor + walk)));
    else if (bend) {
      const to = Math.min(high, Math.max(low, cursor + bend));
      if (pressed.has(cursor)) onToggle(cursor);
      if (!pressed.has(to)) onToggle(to);
      setCursor(to);
    } else if (event.key === " ") onToggle(cursor);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Pad
      role="listbox"
      aria-multiselectable="true"
      aria-label={label}
      aria-activedescendant={`${id}-${cursor}`}
      tabIndex={0}
      style={{ width, height }}
      onKeyDown={onKeyDown}
    >
      {keys.map((midi) => {
        const box = keyBox(midi, low);
        return (
          // biome-ignore lint/a11y/useFocusableInteractive: the listbox holds the focus and names its active key
          // biome-ignore lint/a11y/useKeyWithClickEvents: the listbox takes the keys
          <div
            key={midi}
            id={`${id}-${midi}`}
            role="option"
            aria-selected={pressed.has(midi)}
            aria-label={`${["C", "C sharp", "D", "E flat", "E", "F", "F sharp", "G", "A flat", "A", "B flat", "B"][midi % 12]}${Math.floor(midi / 12) - 1}`}
            data-black={isBlack(midi)}
            data-cursor={midi === cursor}
            style={{ left: box.x * scale, width: box.width * scale, height: isBlack(midi) ? height * 0.62 : height }}
            onClick={() => {
              onToggle(midi);
              setCursor(midi);
            }}
          />
        );
      })}
    </Pad>
  );
}
