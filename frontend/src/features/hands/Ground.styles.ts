import styled from "styled-components";

export const Sheet = styled.svg`
  display: block;
  overflow: visible;
  text {
    fill: var(--ink);
  }
  .chord {
    font: 700 22px "Alegreya", "Signs", serif;
  }
  .bar {
    font-size: 13px;
    fill: var(--soft);
  }
  .count {
    font-size: 14px;
    fill: var(--soft);
    text-anchor: end;
  }
  .pitch {
    font-weight: 700;
    font-size: 13px;
    text-anchor: middle;
    fill: var(--on-hand);
    pointer-events: none;
    font-family: "Alegreya Sans", "Signs";
  }
  .finger {
    font-size: 12px;
    fill: var(--soft);
    pointer-events: none;
  }
  .cue {
    font: italic 15px "Alegreya", serif;
    fill: var(--ink);
  }
  .grip {
    cursor: pointer;
    outline: none;
  }
  .mark {
    cursor: grab;
    touch-action: none;
  }
  .grip:focus-visible .hit {
    stroke: var(--river);
    stroke-width: 3;
  }
`;
