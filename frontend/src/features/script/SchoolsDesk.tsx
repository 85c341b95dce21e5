import type { Schemas } from "../../api/client";
import type { SongEdits } from "../../api/edits";
import { Choice, Field } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";

const MINUTES = [0, 3, 5, 8, 10, 15, 20, 30].map((value) => ({
  value,
  words: value ? `about ${value} minutes` : "as long as it takes",
}));

/** The ways of teaching: where teachers differ, which one this lesson follows. */
export function SchoolsDesk({ lesson, edits }: { lesson: Schemas["LessonOut"]; edits: SongEdits }) {
  const { chart } = useWorkspace();
  return (
    <>
      <div>
        <MarginHeading as="p">Where teachers differ</MarginHeading>
        <h2>Your way</h2>
      </div>
      <section>
        {lesson.matters.map((m) => (
          <Field key={m.name}>
            <Choice
              label={m.words}
              value={m.school}
              options={m.schools.map((s) => ({ value: s.name, words: s.words }))}
              onChange={(school) => edits.edit.mutate({ edit: { kind: "set_school", matter: m.name, school } })}
            />
          </Field>
        ))}
        <Field>
          <Choice
            label="one lesson lasts"
            value={chart.lesson_minutes}
            options={MINUTES}
            onChange={(minutes) => edits.edit.mutate({ edit: { kind: "plan_lessons", minutes } })}
          />
        </Field>
      </section>
    </>
  );
}
