import type { Schemas } from "../../api/client";
import type { SongEdits } from "../../api/edits";
import { Button, clock } from "../../ui";
import { Offer } from "./ScriptView.styles";
import type { Took } from "./useStageClock";

interface RehearsedTimesProps {
  took: readonly Took[];
  steps: readonly Schemas["StepOut"][];
  edits: SongEdits;
  onDone: () => void;
}

/** After the stage: what was timed there, against what was reckoned, to be taken or let go. */
export function RehearsedTimes({ took, steps, edits, onDone }: RehearsedTimesProps) {
  const reckoned = steps
    .filter((s) => took.some((t) => t.key === s.key))
    .reduce((sum, s) => sum + s.speaking_seconds + s.playing_seconds, 0);
  const taken = took.reduce((sum, t) => sum + t.seconds, 0);
  const take = () => {
    edits.edit.mutate({ edit: { kind: "time_steps", took: [...took] } });
    onDone();
  };
  return (
    <Offer role="status" aria-label="Times of your rehearsal" data-noprint>
      <span>
        {took.length === 1 ? "One step" : `${took.length} steps`} took you {clock(taken)}; until now{" "}
        {took.length === 1 ? "it was" : "they were"} given {clock(reckoned)}. Captions, chapters and shot list can go by
        your own pace.
      </span>
      <Button onPress={take}>take these times</Button>
      <Button $quiet onPress={onDone}>
        let them go
      </Button>
    </Offer>
  );
}
