import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { ProblemError } from "../../api/client";
import type { SongEdits } from "../../api/edits";
import { useReady } from "../../api/lessons";
import { Button, beatsOf, bound, ErrorNotice, KeyCap, useShortcuts, withSigns } from "../../ui";
import { OpenReports } from "../records";
import { MarginHeading, MeanThis, useWorkspace } from "../song";

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.6rem;
  li {
    border-left: 4px solid var(--line);
    padding-left: 0.6rem;
  }
  li[data-severity="error"] {
    border-color: var(--doubt);
  }
  li[data-severity="warning"] {
    border-color: var(--right);
  }
  small {
    color: var(--soft);
    display: block;
  }
  button {
    padding-block: 0.1rem;
  }
`;
/** Where what a finding is about is looked at. */
const PAGES: Record<Schemas["FindingOut"]["about"], string> = {
  chart: "survey",
  parts: "parts",
  hands: "valley",
  lesson: "script",
};
const WORDS: Record<string, string> = { error: "wrong", warning: "look at it", note: "to know" };

/** Everything that the checks found, the gravest first, with the mend where one is sure. */
export function FindingsDesk({
  lesson,
  edits,
  onStep,
}: {
  lesson: Schemas["LessonOut"];
  edits: SongEdits;
  onStep: (key: string) => void;
}) {
  const { song, chart, select } = useWorkspace();
  const ready = useReady(song.id);
  const first = lesson.findings.find((f) => f.mend);
  const mend = (f: Schemas["FindingOut"]) => f.mend && edits.edit.mutate({ edit: f.mend.edit });
  useShortcuts(bound("song", { mend: () => first && !edits.edit.isPending && mend(first) }));
  const open = ready.error instanceof ProblemError && ready.error.problem.kind === "findings";
  return (
    <>
      <div>
        <MarginHeading as="p">What the checks found</MarginHeading>
        <h2>
          {lesson.errors
            ? `${lesson.errors} ${lesson.errors > 1 ? "things are" : "thing is"} wrong`
            : lesson.findings.length
              ? "Nothing is wrong"
              : "Nothing to find fault with"}
        </h2>
      </div>
      <List aria-label="Findings">
        {lesson.findings.map((f, i) => (
          <li key={`${f.check}${i}`} data-severity={f.severity}>
            <small>{WORDS[f.severity]}</small>
            {withSigns(f.sentence)}
            <div>
              {f.mend && (
                <Button $quiet onPress={() => mend(f)} isDisabled={edits.edit.isPending}>
                  {f === first && <KeyCap>Z</KeyCap>} {withSigns(f.mend.words)}
                </Button>
              )}
              {f.step ? (
                <Button $quiet onPress={() => onStep(f.step)}>
                  go to the step
                </Button>
              ) : (
                f.start !== null && (
                  <Link
                    to={`/songs/${song.id}/${PAGES[f.about]}`}
                    onClick={() => {
                      const at = chart.chords.findLast((c) => c.start_beats <= beatsOf(f.start ?? "0"));
                      if (at) select(at.start);
                    }}
                  >
                    go there
                  </Link>
                )
              )}{" "}
              <MeanThis finding={f} edit={edits.edit} />
            </div>
          </li>
        ))}
      </List>
      {lesson.closed.length > 0 && (
        <details>
          <summary>Meant as they are: {lesson.closed.length}</summary>
          <List aria-label="Meant as they are">
            {lesson.closed.map((f) => (
              <li key={f.sentence}>
                {withSigns(f.sentence)}
                {f.reason && <small>{f.reason}</small>}
                <Button $quiet onPress={() => edits.edit.mutate({ edit: f.open })}>
                  look at it again
                </Button>
              </li>
            ))}
          </List>
        </details>
      )}
      <OpenReports song={song} onStep={onStep} />
      {(edits.edit.error || (ready.error && !open)) && <ErrorNotice error={edits.edit.error ?? ready.error} />}
      <section>
        <MarginHeading>Ready to film?</MarginHeading>
        {lesson.ready ? (
          <>
            <p>
              Marked ready
              {lesson.ready_despite > 0 &&
                `, with ${lesson.ready_despite} error${lesson.ready_despite > 1 ? "s" : ""} known and left open`}
              .
            </p>
            <Button $quiet onPress={() => ready.mutate({ ready: false, despite: false })}>
              not ready after all
            </Button>
          </>
        ) : (
          <>
            {open && <p role="alert">{(ready.error as ProblemError).message} Mend them, or mark it all the same.</p>}
            <Button onPress={() => ready.mutate({ ready: true, despite: open })}>
              {open ? "Ready all the same" : "Ready"}
            </Button>
          </>
        )}
      </section>
    </>
  );
}
