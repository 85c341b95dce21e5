import type { ReactNode } from "react";
import styled from "styled-components";
import { Button } from "./Button";
import { KeyCap } from "./KeyCap";

/** A row of small deeds, each with its key. */
export const Deeds = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.1rem 0.9rem;
  button {
    white-space: nowrap;
    padding-block: 0.12rem;
  }
`;

export function Deed({
  cap,
  onPress,
  disabled,
  children,
}: {
  cap?: string;
  onPress: () => void;
  disabled?: boolean;
  children: ReactNode;
}) {
  return (
    <Button $quiet onPress={onPress} isDisabled={disabled}>
      {cap && <KeyCap>{cap}</KeyCap>} {children}
    </Button>
  );
}

/** Controls that belong together, on a line. */
export const Field = styled.div`
  display: flex;
  align-items: baseline;
  gap: 0.5rem;
  color: var(--soft);
  flex-wrap: wrap;
  margin: 0.2rem 0;
`;
