import { useState } from "react";

/** A field that is written in: what it shows, and, when it is left, what was written and what stood there when the writing began. */
export function useDraft(value: string, save: (written: string, seen: string) => void) {
  const [draft, setDraft] = useState<{ written: string; seen: string } | null>(null);
  return {
    open: draft !== null,
    value: draft?.written ?? value,
    write: (written: string) => setDraft((now) => ({ written, seen: now?.seen ?? value })),
    drop: () => setDraft(null),
    leave: () => {
      if (draft && draft.written.trim() !== draft.seen) save(draft.written, draft.seen);
      setDraft(null);
    },
  };
}
