import styled from "styled-components";

/** A key of the computer's keyboard, shown where it helps. */
export const KeyCap = styled.kbd`
  display: inline-grid;
  place-items: center;
  min-width: 1.55rem;
  height: 1.55rem;
  padding: 0 0.35rem;
  border: 1.3px solid var(--soft);
  border-radius: 4px;
  background: var(--raised);
  margin-right: 0.25rem;
  font-size: 0.9rem;
  text-decoration: none;
  font-weight: 700;
  line-height: 1;
`;
