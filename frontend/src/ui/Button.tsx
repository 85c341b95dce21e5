import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";

/** Ink on paper; `$strong` is the one thing to do next. */
export const Button = styled(AriaButton)<{ $strong?: boolean; $quiet?: boolean }>`
  font: inherit;
  font-weight: 700;
  cursor: pointer;
  border-radius: 5px;
  padding: 0.35rem 0.85rem;
  color: ${(p) => (p.$strong ? "var(--ground)" : "var(--ink)")};
  background: ${(p) => (p.$strong ? "var(--ink)" : "transparent")};
  border: ${(p) => (p.$quiet ? "1.5px solid transparent" : "1.5px solid var(--ink)")};
  ${(p) => p.$quiet && "text-decoration: underline; text-underline-offset: 3px; font-weight: 400; padding: 0.35rem 0.3rem;"}
  kbd {
    color: var(--ink);
  }
  &[data-hovered] {
    background: ${(p) => (p.$strong ? "var(--soft)" : "var(--raised)")};
  }
  &[data-pressed] {
    transform: translateY(1px);
  }
  &[data-disabled] {
    opacity: 0.5;
    cursor: default;
  }
`;
