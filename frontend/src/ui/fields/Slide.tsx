import { useLayoutEffect, useRef } from "react";
import { Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";

interface SlideProps {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  /** How the place is said. */
  words: (value: number) => string;
  onChange: (value: number) => void;
  /** Only the pointer and the keys act: what is seen is drawn by what lies under it. */
  bare?: boolean;
}

/** A place on a line: pulled, pressed, or moved by arrows. */
export function Slide({ label, value, min, max, step, words, onChange, bare }: SlideProps) {
  const thumb = useRef<HTMLInputElement>(null);
  const said = words(value);
  // The slider says its number; a place in a song is said in minutes and seconds.
  useLayoutEffect(() => thumb.current?.setAttribute("aria-valuetext", said));
  return (
    <Row
      aria-label={label}
      value={Math.min(max, Math.max(min, value))}
      minValue={min}
      maxValue={max}
      step={step}
      onChange={(to) => onChange(to as number)}
      data-bare={bare}
    >
      <SliderTrack>
        <SliderThumb inputRef={thumb} />
      </SliderTrack>
    </Row>
  );
}

const Row = styled(Slider)`
  display: block;
  min-width: 8rem;
  .react-aria-SliderTrack {
    height: 1.3rem;
    margin: 0 0.55rem;
    cursor: pointer;
    background: linear-gradient(var(--soft), var(--soft)) center / 100% 2px no-repeat;
  }
  .react-aria-SliderThumb {
    top: 50%;
    width: 1.1rem;
    height: 1.1rem;
    border-radius: 50%;
    background: var(--ink);
  }
  .react-aria-SliderThumb[data-focus-visible] {
    outline: 3px solid var(--river);
    outline-offset: 2px;
  }
  &[data-bare="true"] {
    position: absolute;
    inset: 0;
  }
  &[data-bare="true"] .react-aria-SliderTrack {
    height: 100%;
    margin: 0;
    background: none;
  }
  &[data-bare="true"] .react-aria-SliderThumb {
    opacity: 0;
  }
`;
