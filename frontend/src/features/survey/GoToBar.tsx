import { useState } from "react";
import { Field, Line, leaveField } from "../../ui";
import { useWorkspace } from "../song";

/** A bar's number leads to the bar. */
export function GoToBar() {
  const { chart, select } = useWorkspace();
  const [number, setNumber] = useState("");
  const go = () => {
    const wanted = chart.bars.find((b) => b.number === Number(number));
    if (!wanted) return;
    select(`${wanted.start_beats}`);
    setNumber("");
    leaveField();
  };
  return (
    <Field>
      <Line label="go to bar" inputMode="numeric" size={4} value={number} onChange={setNumber} onEnter={go} />
    </Field>
  );
}
