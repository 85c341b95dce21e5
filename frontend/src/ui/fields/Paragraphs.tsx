import { TextArea, TextField } from "react-aria-components";
import styled from "styled-components";
import { box } from "./fields.styles";

interface ParagraphsProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  onBlur?: () => void;
  /** Enter keeps it; a new line takes Shift. */
  onEnter?: () => void;
  spellCheck?: boolean;
  rows?: number;
  maxLength?: number;
  placeholder?: string;
  autoFocus?: boolean;
}

/** Several lines of text; what it is for is said by its place, and by the label to a screen reader. */
export function Paragraphs({ label, value, onChange, onBlur, onEnter, autoFocus, ...kept }: ParagraphsProps) {
  return (
    <TextField aria-label={label} value={value} onChange={onChange} onBlur={onBlur} autoFocus={autoFocus}>
      <Box
        {...kept}
        onKeyDown={(e) => {
          if (!onEnter || e.key !== "Enter" || e.shiftKey) return;
          e.preventDefault();
          onEnter();
        }}
      />
    </TextField>
  );
}

const Box = styled(TextArea)`
  ${box}
  width: 100%;
  padding: 0.4rem 0.55rem;
  resize: vertical;
  line-height: 1.4;
`;
