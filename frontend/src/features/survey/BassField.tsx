import { useState } from "react";
import { Button, Field, Line } from "../../ui";
import type { useCorrections } from "../song";

/** The bass alone: another note under the same chord. */
export function BassField({ chord, corrections }: { chord: string; corrections: ReturnType<typeof useCorrections> }) {
  const [note, setNote] = useState("");
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        corrections.send({ kind: "set_bass", start: chord, note }, () => setNote(""));
      }}
    >
      <Field>
        <Line label="bass alone" size={4} value={note} placeholder="root" onChange={setNote} />
        <Button type="submit" $quiet>
          set it
        </Button>
      </Field>
    </form>
  );
}
