import { ModalOverlay } from "react-aria-components";
import styled from "styled-components";

export const Whole = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 20;
  background: var(--ground);
`;

export const Stage = styled.div<{ $size: number }>`
  height: 100dvh;
  outline: none;
  display: grid;
  grid-template-rows: auto 1fr auto auto;
  padding: 1.6rem 3.5rem 1.2rem;
  gap: 0.8rem;
  h1 {
    font-size: 2.3rem;
    color: var(--soft);
    font-weight: 400;
  }
  .words {
    overflow: auto;
    font: 400 ${(p) => 2.05 * p.$size}rem/1.4 "Alegreya", "Signs", serif;
    max-width: 62rem;
    display: grid;
    align-content: start;
    gap: 0.7rem;
    scrollbar-width: thin;
  }
  &[data-mirrored="true"] > :not(.foot) {
    transform: scaleX(-1);
  }
  .words[data-following="true"] p {
    opacity: 0.45;
  }
  .words[data-following="true"] p[data-now="true"], .words[data-following="true"] p[data-always="true"] {
    opacity: 1;
  }
  .grips {
    display: flex;
    gap: 1.2rem 2.4rem;
    align-items: flex-end;
    flex-wrap: wrap;
  }
  .grip {
    display: flex;
    gap: 1.6rem;
    align-items: center;
  }
  .grip[data-next="true"] {
    opacity: 0.75;
  }
  .grip[data-next="true"] b {
    font-size: 1.9rem;
    min-width: 4.5rem;
  }
  .grip b {
    font: 700 3.4rem/1 "Alegreya", "Signs", serif;
    min-width: 8rem;
  }
  .grip small {
    font-size: 1.25rem;
    color: var(--soft);
    display: block;
    font-weight: 400;
  }
  .foot {
    display: flex;
    gap: 1rem;
    align-items: center;
    color: var(--soft);
    flex-wrap: wrap;
  }
  .told {
    font-size: 1.3rem;
    color: var(--ink);
  }
`;

export const Words = styled.section.attrs({ tabIndex: 0 })``;
