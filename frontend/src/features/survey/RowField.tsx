import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Button, Field, Line } from "../../ui";

/** "bar 5", or the pickup. */
export const barName = (bar: Schemas["BarOut"]) => (bar.number ? `bar ${bar.number}` : "the pickup");

interface RowFieldProps {
  label: string;
  example: string;
  help: string;
  /** Sends what was typed; ``done`` empties the field once it is taken. */
  onWrite: (text: string, done: () => void) => void;
}

/** A row of bars to type: Enter or the button sends it. */
export function RowField({ label, example, help, onWrite }: RowFieldProps) {
  const [row, setRow] = useState("");
  const write = () => row.trim() && onWrite(row, () => setRow(""));
  return (
    <>
      <Field>
        <Line
          label={label}
          hidden
          size={15}
          maxLength={2000}
          value={row}
          placeholder={example}
          onChange={setRow}
          onEnter={write}
        />
        <Button $quiet isDisabled={!row.trim()} onPress={write}>
          write them
        </Button>
      </Field>
      <p style={{ color: "var(--soft)" }}>{help}</p>
    </>
  );
}
