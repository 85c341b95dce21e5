import styled from "styled-components";

export const Foot = styled.footer`
  border-top: 1.5px solid var(--line);
  margin-top: 0.5rem;
  padding: 0.45rem 0 0.2rem;
  display: flex;
  align-items: center;
  gap: 0.9rem;
  flex-wrap: wrap;
  button.play {
    all: unset;
    cursor: pointer;
    width: 2.5rem;
    height: 2.5rem;
    border-radius: 50%;
    background: var(--ink);
    color: var(--ground);
    display: grid;
    place-items: center;
  }
  button.play:focus-visible {
    outline: 3px solid var(--river);
    outline-offset: 2px;
  }
  [aria-haspopup="listbox"] {
    max-width: 9.4rem;
  }
  .where {
    font-variant-numeric: tabular-nums;
    min-width: 9.2rem;
  }
  /* One row under the bar, to be pushed sideways where it is too long. */
  @media (max-height: 560px), (max-width: 600px) {
    display: grid;
    grid-template-rows: auto auto;
    grid-auto-flow: column;
    justify-content: start;
    gap: 0.1rem 0.9rem;
    margin-top: 0.1rem;
    padding: 0.2rem 0 0;
    overflow: auto hidden;
    white-space: nowrap;
    > * {
      grid-row: 2;
    }
    > :first-child {
      grid-row: 1;
      grid-column: 1 / span 14;
      position: sticky;
      left: 0;
      width: calc(100vw - 1.9rem);
    }
    button.play {
      width: 1.9rem;
      height: 1.9rem;
    }
    .where {
      min-width: max-content;
    }
  }
  @media (max-width: 600px) {
    font-size: 0.92rem;
  }
`;
