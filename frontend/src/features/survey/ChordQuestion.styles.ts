import styled from "styled-components";

export const Readings = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.25rem;
  button {
    all: unset;
    box-sizing: border-box;
    cursor: pointer;
    width: 100%;
    display: grid;
    grid-template-columns: 1.8rem 1fr auto;
    gap: 0 0.6rem;
    align-items: center;
    padding: 0.1rem 0.25rem;
    border-radius: 4px;
  }
  button:hover, button[aria-pressed="true"] {
    background: var(--raised);
  }
  button:focus-visible {
    outline: 3px solid var(--river);
  }
  b {
    font: 700 1.25rem "Alegreya", "Signs", serif;
  }
  .bar {
    grid-column: 2 / 4;
    height: 3px;
    background: var(--line);
    border-radius: 2px;
  }
  .bar i {
    display: block;
    height: 100%;
    background: var(--ink);
    border-radius: 2px;
  }
  em {
    grid-column: 2 / 4;
    font-family: "Alegreya", "Signs", serif;
    color: var(--soft);
    font-size: 0.95rem;
    line-height: 1.15;
  }
`;

export const Typing = styled.form`
  input {
    font: 700 1.2rem "Alegreya", "Signs", serif;
    width: 100%;
    color: var(--ink);
    background: var(--raised);
    border: 1.3px solid var(--soft);
    border-radius: 4px;
    padding: 0.25rem 0.5rem;
  }
  p {
    color: var(--soft);
    min-height: 1.4em;
    margin: 0.35rem 0;
    font-size: 0.95rem;
  }
  p[data-bad="true"] {
    color: var(--doubt);
  }
`;
