import styled from "styled-components";

export const Notes = styled.ul`
  list-style: none;
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem;
  margin: 0;
  padding: 0;
  button {
    all: unset;
    cursor: pointer;
    min-width: 2.1rem;
    text-align: center;
    padding: 0.1rem 0.3rem;
    border: 1.5px solid var(--line);
    line-height: 1.15;
  }
  button[data-hand="left"] {
    border-radius: 3px;
    border-color: var(--left);
  }
  button[data-hand="right"] {
    border-radius: 1rem;
    border-color: var(--right);
  }
  button[aria-pressed="true"] {
    background: var(--raised);
    box-shadow: 0 0 0 2.5px var(--ink);
  }
  button:focus-visible {
    outline: 3px solid var(--river);
    outline-offset: 2px;
  }
  b {
    font: 700 1.1rem "Alegreya", "Signs", serif;
  }
  small {
    display: block;
    color: var(--soft);
    font-size: 0.8rem;
  }
`;

export const Reach = styled.div<{ $share: number; $strained: boolean }>`
  height: 7px;
  background: var(--line);
  border-radius: 2px;
  margin: 0.25rem 0;
  &::after {
    content: "";
    display: block;
    height: 100%;
    width: ${(p) => Math.min(100, 100 * p.$share)}%;
    border-radius: 2px;
    background: ${(p) => (p.$strained ? "var(--doubt)" : "var(--ink)")};
  }
`;

export const Ways = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.2rem;
  button {
    all: unset;
    cursor: pointer;
    display: grid;
    grid-template-columns: 1.4rem 1fr auto;
    gap: 0.4rem;
    padding: 0.15rem 0.3rem;
    border-radius: 4px;
    width: 100%;
    box-sizing: border-box;
    line-height: 1.2;
  }
  button:hover, button[aria-pressed="true"] {
    background: var(--raised);
  }
  button:focus-visible {
    outline: 3px solid var(--river);
  }
  small {
    color: var(--soft);
  }
  b {
    font-weight: 700;
  }
  i {
    font-style: normal;
    color: var(--left);
  }
  em {
    font-style: normal;
    color: var(--right);
  }
`;
