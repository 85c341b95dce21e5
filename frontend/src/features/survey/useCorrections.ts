import { ProblemError, type Schemas } from "../../api/client";
import { useChartEdits } from "../../api/queries";
import { useWorkspace } from "../song";

export type Correction = Schemas["EditIn"]["edit"];

/** Send corrections of the chart in hand, and know how the last one fared. */
export function useCorrections() {
  const { song, chart } = useWorkspace();
  const { edit } = useChartEdits(song.id);
  const last = edit.variables?.edit;
  return {
    send: (correction: Correction, after?: () => void) =>
      edit.mutate({ revision: chart.revision, edit: correction, spread: [] }, { onSuccess: () => after?.() }),
    /** Once more, on the chart as it stands now: for a change that another window got in the way of. */
    again: () => last && edit.mutate({ revision: chart.revision, edit: last, spread: [] }),
    error: edit.error,
    conflict: edit.error instanceof ProblemError && edit.error.problem.kind === "conflict",
    reset: edit.reset,
    pending: edit.isPending,
  };
}
