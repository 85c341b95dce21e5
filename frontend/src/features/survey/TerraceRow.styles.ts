import styled from "styled-components";
import { ROW_HEIGHT, ROW_WIDTH } from "./terraces";

export const Row = styled.div`
  position: relative;
  height: ${ROW_HEIGHT}px;
  width: 100%;
  max-width: ${ROW_WIDTH + 12}px;
  /* Rows out of sight are laid out when they come into it. */
  content-visibility: auto;
  contain-intrinsic-size: auto ${ROW_WIDTH + 12}px auto ${ROW_HEIGHT}px;
  overflow-clip-margin: 28px;
  @media print {
    content-visibility: visible;
  }
  > svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    overflow: visible;
  }
  text {
    font-size: 13px;
    fill: var(--soft);
    transform-box: fill-box;
    transform: scaleX(var(--widen, 1));
  }
`;

/** Its ink is as full as `--sure`, 0 to 1: a variable, as a class for every chord takes longer to make than the row to draw. */
export const ChordMark = styled.button`
  all: unset;
  cursor: pointer;
  position: absolute;
  top: 14px;
  line-height: 1.05;
  white-space: nowrap;
  padding: 0 5px;
  border-radius: 4px;
  scroll-margin: 120px;
  font-family: "Alegreya", "Signs", serif;
  font-weight: 700;
  font-size: calc((1.08 + 0.42 * var(--sure)) * 1rem);
  color: color-mix(in srgb, var(--ink) calc(35% + 65% * var(--sure)), var(--soft));
  &[data-doubtful="true"] {
    text-decoration: underline dotted 2px;
    text-underline-offset: 5px;
  }
  &[data-long="true"] {
    font-size: 1.05rem;
    top: 18px;
  }
  @media (max-width: 420px) {
    && {
      font-size: 1.05rem;
      padding: 0 2px;
    }
  }
  sup {
    font: 700 0.8rem "Alegreya Sans";
    color: var(--doubt);
    margin-left: 3px;
    vertical-align: super;
  }
  svg {
    width: 11px;
    height: 11px;
    margin-left: 3px;
    vertical-align: 0.2em;
    fill: var(--done);
  }
  &[aria-pressed="true"] {
    background: var(--raised);
    box-shadow: -3px 0 0 var(--ink), 0 0 0 1px var(--line);
  }
  &:focus-visible {
    outline: 3px solid var(--river);
  }
`;

/** A chord that a terrace begins in the middle of: said again, softly. */
export const Held = styled.span`
  position: absolute;
  top: 18px;
  padding: 0 5px;
  font: italic 400 1.05rem "Alegreya", "Signs", serif;
  color: var(--soft);
`;
