import type { ReactNode } from "react";
import styled from "styled-components";
import { ProblemError } from "../api/client";

const Box = styled.div<{ $bad: boolean }>`
  border-left: 4px solid ${(p) => (p.$bad ? "var(--doubt)" : "var(--river)")};
  padding: 0.5rem 0.9rem;
  background: var(--raised);
  max-width: 44rem;
  strong {
    display: block;
  }
  div {
    margin-top: 0.4rem;
    display: flex;
    align-items: baseline;
    gap: 0.6rem;
    flex-wrap: wrap;
  }
`;

interface NoticeProps {
  title: string;
  detail?: string;
  bad?: boolean;
  children?: ReactNode;
}

/** Something to know or to do, said aloud to screen readers. */
export function Notice({ title, detail, bad = false, children }: NoticeProps) {
  return (
    <Box role={bad ? "alert" : "status"} $bad={bad}>
      <strong>{title}</strong>
      {detail}
      {children && <div>{children}</div>}
    </Box>
  );
}

/** An error of a call, in its own words. */
export function ErrorNotice({ error, children }: { error: unknown; children?: ReactNode }) {
  const problem = error instanceof ProblemError ? error.problem : null;
  return (
    <Notice
      bad
      title={problem?.title ?? "Something went wrong."}
      detail={problem?.detail ?? "Try again; what was saved is safe."}
    >
      {children}
    </Notice>
  );
}
