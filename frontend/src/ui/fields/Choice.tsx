import { useState } from "react";
import { Button, Label, ListBox, ListBoxItem, Popover, Select, SelectValue } from "react-aria-components";
import styled from "styled-components";
import { box, row } from "./fields.styles";
import { pageFirst } from "./pageFirst";

export interface Option<T extends string | number> {
  value: T;
  words: string;
  /** Said under the words: what this choice is for. */
  hint?: string;
}

interface ChoiceProps<T extends string | number> {
  /** Seen before it; `hidden` where its place says it, and only a screen reader is told. */
  label: string;
  hidden?: boolean;
  value: T;
  options: readonly Option<T>[];
  onChange: (value: T) => void;
  disabled?: boolean;
  title?: string;
}

/** One of several, from a list that opens by Enter or a press: arrows and first letters move in it, Enter takes, Esc leaves. */
export function Choice<T extends string | number>(props: ChoiceProps<T>) {
  const { label, hidden, value, options, onChange, disabled, title } = props;
  const [open, setOpen] = useState(false);
  // A list that is closed has only what is chosen: pages with many lists stand sooner.
  const listed = open ? options : options.filter((o) => o.value === value);
  return (
    <span role="presentation" style={{ display: "contents" }} onKeyDownCapture={pageFirst}>
      <Row
        aria-label={hidden ? label : undefined}
        isOpen={open}
        onOpenChange={setOpen}
        value={value}
        onChange={(key) => onChange(key as T)}
        isDisabled={disabled}
      >
        {!hidden && <Label>{label}</Label>}
        <Box {...(title ? { "aria-description": title } : {})}>
          <SelectValue>{({ selectedText }) => selectedText || "choose"}</SelectValue>
          <svg width="9" height="6" aria-hidden="true">
            <path d="M0.5 0.5 4.5 5 8.5 0.5" fill="none" stroke="currentColor" strokeWidth="1.5" />
          </svg>
        </Box>
        <Sheet placement="bottom start" offset={3}>
          <ListBox>
            {listed.map(({ value, words, hint }) => (
              <ListBoxItem key={value} id={value} textValue={words}>
                {words}
                {hint && <small>{hint}</small>}
              </ListBoxItem>
            ))}
          </ListBox>
        </Sheet>
      </Row>
    </span>
  );
}

/** What has words only: the words are the values. */
export const plain = <T extends string>(values: readonly T[]): Option<T>[] =>
  values.map((value) => ({ value, words: value }));

/** What is named by a table. */
export const named = <T extends string>(table: Readonly<Record<T, string>>): Option<T>[] =>
  (Object.entries(table) as [T, string][]).map(([value, words]) => ({ value, words }));

const Row = styled(Select)`
  ${row}
  max-width: calc(100% - 4px); /* the frame of what has the focus is seen on all sides */
` as typeof Select;

const Box = styled(Button)`
  ${box}
  display: inline-flex;
  align-items: center;
  gap: 0.45rem;
  cursor: pointer;
  text-align: start;
  max-width: 100%;
  > span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  svg {
    flex: none;
  }
`;

const Sheet = styled(Popover)`
  background: var(--ground);
  color: var(--ink);
  border: 1.5px solid var(--ink);
  border-radius: 5px;
  min-width: var(--trigger-width);
  max-width: min(26rem, 94vw);
  overflow: auto;
  padding: 0.2rem 0;
  [role="option"] {
    padding: 0.22rem 0.8rem;
    cursor: pointer;
    outline: none;
  }
  [role="option"][data-focused] {
    background: var(--raised);
    box-shadow: inset 4px 0 0 var(--river);
  }
  [role="option"][data-selected] {
    font-weight: 700;
  }
  small {
    display: block;
    font-size: 0.85rem;
    font-weight: 400;
    color: var(--soft);
  }
`;
