import { type InputHTMLAttributes, type KeyboardEvent, type Ref, useId } from "react";
import { Input, Label, TextField } from "react-aria-components";
import styled from "styled-components";
import { box, row } from "./fields.styles";

type Kept =
  | "size"
  | "placeholder"
  | "maxLength"
  | "autoComplete"
  | "spellCheck"
  | "inputMode"
  | "min"
  | "max"
  | "step"
  | "title";

interface LineProps extends Pick<InputHTMLAttributes<HTMLInputElement>, Kept> {
  /** Seen before it; `hidden` where its place says it. */
  label: string;
  hidden?: boolean;
  /** Takes the room that is left on its line. */
  wide?: boolean;
  value: string;
  onChange: (value: string) => void;
  onEnter?: () => void;
  onEscape?: () => void;
  onBlur?: () => void;
  onKeyDown?: (event: KeyboardEvent<HTMLInputElement>) => void;
  type?: "text" | "search" | "number" | "date" | "email" | "password" | "url";
  required?: boolean;
  disabled?: boolean;
  invalid?: boolean;
  autoFocus?: boolean;
  inputRef?: Ref<HTMLInputElement>;
  /** What is usually written here, offered while one writes. */
  offers?: readonly string[];
}

/** One line of text. */
export function Line(props: LineProps) {
  const {
    label,
    hidden,
    wide,
    value,
    onChange,
    onEnter,
    onEscape,
    onBlur,
    onKeyDown,
    type,
    required,
    disabled,
    invalid,
    autoFocus,
    inputRef,
    offers,
    ...kept
  } = props;
  const list = useId();
  return (
    <Row
      aria-label={hidden ? label : undefined}
      data-wide={wide}
      value={value}
      onChange={onChange}
      onBlur={onBlur}
      type={type ?? "text"}
      isRequired={required}
      isDisabled={disabled}
      isInvalid={invalid}
      autoFocus={autoFocus}
    >
      {!hidden && <Label>{label}</Label>}
      <Box
        ref={inputRef}
        list={offers && list}
        {...kept}
        onKeyDown={(e) => {
          onKeyDown?.(e);
          if (e.key === "Enter") onEnter?.();
          if (e.key === "Escape") onEscape?.();
        }}
      />
      {offers && (
        <datalist id={list}>
          {offers.map((o) => (
            <option key={o} value={o} />
          ))}
        </datalist>
      )}
    </Row>
  );
}

const Row = styled(TextField)`
  ${row}
  &[data-wide="true"] {
    flex: 1;
  }
  &[data-wide="true"] input {
    flex: 1;
    width: 100%;
  }
`;
const Box = styled(Input)`
  ${box}
`;
