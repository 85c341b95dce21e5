import { css } from "styled-components";

/** A label and what it names, on one line where there is room. */
export const row = css`
  display: inline-flex;
  align-items: baseline;
  gap: 0.4rem;
  color: var(--soft);
  min-width: 0;
  max-width: 100%;
`;

/** What is written or chosen in. */
export const box = css`
  font: inherit;
  color: var(--ink);
  background: var(--raised);
  border: 1.3px solid var(--soft);
  border-radius: 4px;
  padding: 0.15rem 0.4rem;
  min-width: 0;
  &[data-focus-visible],
  &:focus-visible {
    outline: 3px solid var(--river);
    outline-offset: 1px;
  }
  &[data-disabled] {
    opacity: 0.5;
  }
`;
