import { useSongEdits } from "../../api/edits";
import { useRecords } from "../../api/records";
import { Button, ErrorNotice, Field, Line, leaveField, useDraft } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";

const NAMED = 3;

/** Names as they are said: one, two, or a few and how many others. */
export function nameAskers(handles: readonly string[]): string {
  const [first, ...rest] = handles;
  if (!first) return "";
  const named = handles.length > NAMED + 1 ? handles.slice(0, NAMED) : handles.slice(0, -1);
  const last = handles.length > NAMED + 1 ? `${handles.length - NAMED} others` : handles.at(-1);
  return rest.length === 0 ? first : `${named.join(", ")} and ${last}`;
}

/** Who asked for the song, thanked at the start of the lesson. */
export function Thanks() {
  const { song, chart } = useWorkspace();
  const { edit } = useSongEdits(song.id);
  const records = useRecords(song.id);
  const thank = (thanks: string) => edit.mutate({ edit: { kind: "plan_lessons", thanks } });
  const draft = useDraft(chart.thanks, thank);
  const asked = nameAskers((records.data?.askings ?? []).map((a) => a.handle));
  return (
    <div>
      <MarginHeading>Thanks to</MarginHeading>
      <Field style={{ width: "100%" }}>
        <Line
          label="Who is thanked at the start"
          hidden
          wide
          value={draft.value}
          maxLength={120}
          placeholder="who asked for it"
          onChange={draft.write}
          onBlur={draft.leave}
          onEnter={leaveField}
        />
      </Field>
      {asked && asked !== chart.thanks && (
        <Button $quiet onPress={() => thank(asked)}>
          {asked}
        </Button>
      )}
      {edit.error && <ErrorNotice error={edit.error} />}
    </div>
  );
}
