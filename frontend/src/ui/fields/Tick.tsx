import type { ReactNode } from "react";
import { Checkbox } from "react-aria-components";
import styled from "styled-components";

interface TickProps {
  checked: boolean;
  onChange: (checked: boolean) => void;
  /** For a screen reader, where the words beside it are not enough. */
  label?: string;
  disabled?: boolean;
  children?: ReactNode;
}

/** Yes or no, with its words. */
export function Tick({ checked, onChange, label, disabled, children }: TickProps) {
  return (
    <Row isSelected={checked} onChange={onChange} aria-label={label} isDisabled={disabled}>
      <svg width="15" height="15" aria-hidden="true">
        <rect
          x="1"
          y="1"
          width="13"
          height="13"
          rx="2.5"
          fill="var(--raised)"
          stroke="currentColor"
          strokeWidth="1.4"
        />
        {checked && <path d="M3.8 7.7 6.4 10.6 11.3 4.4" fill="none" stroke="var(--ink)" strokeWidth="2.2" />}
      </svg>
      {children && <span>{children}</span>}
    </Row>
  );
}

const Row = styled(Checkbox)`
  display: inline-flex;
  align-items: baseline;
  gap: 0.4rem;
  color: var(--soft);
  cursor: pointer;
  svg {
    flex: none;
    align-self: start;
    margin-top: 0.28em;
  }
  &[data-focus-visible] svg {
    outline: 3px solid var(--river);
    outline-offset: 1px;
    border-radius: 3px;
  }
  &[data-disabled] {
    opacity: 0.5;
    cursor: default;
  }
  @media (forced-colors: active) {
    rect {
      fill: Canvas;
    }
    path {
      stroke: CanvasText;
    }
  }
`;
