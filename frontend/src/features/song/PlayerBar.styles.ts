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
  label {
    display: inline-flex;
    align-items: center;
    gap: 0.4rem;
    color: var(--soft);
  }
  select {
    font: inherit;
    color: var(--ink);
    background: var(--raised);
    border: 1.3px solid var(--soft);
    border-radius: 4px;
    padding: 0.15rem 0.3rem;
    max-width: 9.4rem;
  }
  .where {
    font-variant-numeric: tabular-nums;
    min-width: 9.2rem;
  }
  @media (max-width: 600px) {
    gap: 0.35rem 0.6rem;
    font-size: 0.92rem;
    .where {
      min-width: 6rem;
    }
  }
`;
