import styled from "styled-components";

export const Sheet = styled.div.attrs({ tabIndex: 0 })`
  max-width: 54rem;
  padding: 0 1rem 1.5rem 0;
  display: grid;
  align-content: start;
  gap: 1rem;
  .paper {
    background: #fff;
    color: #000;
    border: 1.5px solid var(--line);
    border-radius: 3px;
    padding: 0.6rem;
  }
  .paper svg {
    display: block;
    width: 100%;
    height: auto;
  }
  iframe {
    width: 100%;
    height: 74vh;
    border: 1.5px solid var(--line);
    background: #fff;
  }
  .hands {
    width: auto;
    max-width: 100%;
    max-height: 66vh;
    background: #8d9aa0;
    border: 1.5px solid var(--line);
  }
  pre {
    white-space: pre-wrap;
    font: 1rem/1.5 "Alegreya Sans", "Signs", sans-serif;
    margin: 0;
    padding: 0.8rem 1rem;
    border: 1.5px solid var(--line);
    background: var(--raised);
    max-height: 74vh;
    overflow: auto;
  }
`;

export const Files = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.35rem;
  li {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 0 0.5rem;
    align-items: baseline;
    line-height: 1.25;
  }
  button.look {
    all: unset;
    cursor: pointer;
    font: 700 1.1rem "Alegreya", serif;
  }
  button.look[aria-pressed="true"] {
    text-decoration: underline;
    text-decoration-thickness: 2px;
    text-underline-offset: 3px;
  }
  button.look:focus-visible {
    outline: 3px solid var(--river);
  }
  span {
    grid-column: 1 / 3;
    color: var(--soft);
    font-size: 0.95rem;
  }
  a {
    color: var(--soft);
  }
`;

export const FilmRow = styled.div`
  display: grid;
  gap: 0.15rem;
  padding: 0.5rem 0;
  border-top: 1px solid var(--line);
  line-height: 1.3;
  overflow-wrap: anywhere;
  progress {
    width: 100%;
    accent-color: var(--river);
  }
  span {
    color: var(--soft);
    font-size: 0.95rem;
  }
`;
