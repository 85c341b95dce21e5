import styled from "styled-components";

export const Steps = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0 1.4rem 1.5rem 0;
  max-width: 47rem;
  display: grid;
  gap: 0.2rem;
  > li {
    display: grid;
    grid-template-columns: 2.3rem 1fr auto;
    gap: 0 0.8rem;
    padding: 0.5rem 0.6rem 0.6rem 0.2rem;
    border-left: 4px solid transparent;
    cursor: pointer;
    scroll-margin: 1rem;
  }
  > li[data-sounding="true"] {
    border-left-color: var(--doubt);
  }
  > li[data-chosen="true"] {
    border-left-color: var(--ink);
    background: var(--raised);
  }
  > li > b {
    font: 700 1.35rem "Alegreya", serif;
    color: var(--soft);
    text-align: right;
    line-height: 1.25;
  }
  h2 {
    font-size: 1.3rem;
  }
  h2 button {
    all: unset;
    cursor: pointer;
  }
  h2 button:focus-visible {
    outline: 3px solid var(--river);
  }
  time {
    color: var(--soft);
    white-space: nowrap;
    padding-top: 0.15rem;
    font-variant-numeric: tabular-nums;
  }
  p {
    grid-column: 2 / 4;
    margin-top: 0.2rem;
    text-wrap: pretty;
  }
  p[data-inner="true"] {
    padding-left: 1.1rem;
    border-left: 2px solid var(--line);
  }
  .mark {
    grid-column: 2 / 4;
    color: var(--doubt);
    font-size: 0.98rem;
  }
  .own {
    grid-column: 2 / 4;
    color: var(--soft);
    font-size: 0.95rem;
  }
  @media print {
    max-width: none;
    > li {
      break-inside: avoid;
    }
  }
`;

export const Cut = styled.li`
  &&& {
    display: block;
    cursor: default;
    border: 0;
    border-top: 2px dashed var(--soft);
    color: var(--soft);
    padding: 0.2rem 0 0 3.1rem;
  }
`;

/** What Valley offers after the stage, above the steps. */
export const Offer = styled.div`
  display: flex;
  gap: 0.5rem 1rem;
  align-items: baseline;
  flex-wrap: wrap;
  max-width: 46rem;
  margin-bottom: 0.6rem;
  padding: 0.55rem 0.8rem;
  border-left: 4px solid var(--river);
  background: var(--raised);
  span {
    flex: 1 1 20rem;
  }
`;

export const Head = styled.div`
  display: flex;
  gap: 1rem;
  align-items: baseline;
  flex-wrap: wrap;
  padding-bottom: 0.4rem;
  color: var(--soft);
`;
