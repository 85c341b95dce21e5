import { ProblemError } from "../../api/client";
import { type Edit, useSongEdits } from "../../api/edits";
import { useWorkspace } from "./context";

/** Send corrections of the chart in hand, and know how the last one fared. */
export function useCorrections() {
  const { song } = useWorkspace();
  const { edit } = useSongEdits(song.id);
  const last = edit.variables?.edit;
  return {
    send: (correction: Edit, after?: () => void) => edit.mutate({ edit: correction }, { onSuccess: () => after?.() }),
    /** Once more, on the chart as it stands now: for a change that another window got in the way of. */
    again: () => last && edit.mutate({ edit: last }),
    error: edit.error,
    conflict: edit.error instanceof ProblemError && edit.error.problem.kind === "conflict",
    reset: edit.reset,
    pending: edit.isPending,
  };
}
