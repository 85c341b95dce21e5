import { useState } from "react";
import type { Schemas } from "../../api/client";
import type { SongEdits } from "../../api/edits";
import { Button, Field } from "../../ui";

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
        <input
          // biome-ignore lint/a11y/noAutofocus: it was asked for just now
          autoFocus
          aria-label="Why it is meant so"
          placeholder="why, if you like"
          size={18}
          maxLength={120}
          value={reason}
          onChange={(e) => setReason(e.target.value)}
          onKeyDown={(e) => e.key === "Escape" && setReason(null)}
        />
      </Field>
      <Button $quiet type="submit">
        close it
      </Button>
    </form>
  );
}
