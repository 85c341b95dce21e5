import { useState } from "react";
import type { Schemas } from "../../api/client";
import type { SongEdits } from "../../api/edits";
import { Button, Field, Line } from "../../ui";

interface MeanThisProps {
  finding: Schemas["FindingOut"];
  edit: SongEdits["edit"];
}

/** Closes a finding that is meant as it is, with a reason if there is one to give. */
export function MeanThis({ finding, edit }: MeanThisProps) {
  const [reason, setReason] = useState<string | null>(null);
  if (reason === null)
    return (
      <Button $quiet onPress={() => setReason("")}>
        I mean this
      </Button>
    );
  return (
    <form
      style={{ display: "flex", gap: "0.4rem", flexWrap: "wrap", alignItems: "baseline" }}
      onSubmit={(e) => {
        e.preventDefault();
        edit.mutate({ edit: { ...finding.meant, reason } });
      }}
    >
      <Field>
        <Line
          label="Why it is meant so"
          hidden
          autoFocus
          placeholder="why, if you like"
          size={18}
          maxLength={120}
          value={reason}
          onChange={setReason}
          onEscape={() => setReason(null)}
        />
      </Field>
      <Button $quiet type="submit">
        close it
      </Button>
    </form>
  );
}
