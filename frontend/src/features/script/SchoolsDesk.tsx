import type { Schemas } from "../../api/client";
import type { SongEdits } from "../../api/edits";
import { Choice, Field } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";

const WORDS: Record<string, string> = {
  order: "order",
  hands: "hands",
  language: "language",
  length: "length",
  joining: "joining",
  bass: "bass",
  naming: "notes",
  flats: "signs",
  spelling: "spelling",
  added: "added ninth",
  suspended: "second",
  major_seventh: "major seventh",
  half_diminished: "half-diminished",
  inversions: "inversions",
  octaves: "middle C",
  fingering: "fingers",
  alignment: "counting",
  "block-first": "blocks first, pattern later",
  "pattern-first": "the pattern from the start",
  "pattern-last": "patterns when all parts are known",
  "plain-first": "the whole song plain, then fuller",
  "right-left-together": "right, left, together",
  "chord-by-chord": "both, chord by chord",
  en: "English",
  fr: "français",
  de: "Deutsch",
  es: "español",
  usual: "usual",
  short: "short",
  thorough: "thorough",
  cumulative: "1, then 1 and 2, …",
  "at-the-end": "the whole at the end",
  slash: "slash",
  root: "keeps the root",
  syllables: "do re mi",
  german: "German letters",
  written: "B♭",
  spoken: "B flat",
  strict: "strict, as on paper",
  simple: "the easy name",
  words: "in words",
  c4: "C4",
  c3: "C3",
  shown: "shown",
  hidden: "left to the player",
  "every-note": "every note",
  anchors: "only on the beat",
};

/** The ways of teaching: where teachers differ, which one this lesson follows. */
export function SchoolsDesk({ lesson, edits }: { lesson: Schemas["LessonOut"]; edits: SongEdits }) {
  const { chart } = useWorkspace();
  return (
    <>
      <div>
        <MarginHeading as="p">Where teachers differ</MarginHeading>
        <h2>Your way</h2>
      </div>
      {lesson.matters.map((m) => (
        <Field key={m.name}>
          <Choice
            label={WORDS[m.name] ?? m.name}
            value={m.school}
            options={m.schools.map((value) => ({ value, words: WORDS[value] ?? value }))}
            onChange={(school) => edits.edit.mutate({ edit: { kind: "set_school", matter: m.name, school } })}
          />
        </Field>
      ))}
      <Field>
        <Choice
          label="one lesson lasts"
          value={chart.lesson_minutes}
          options={[0, 3, 5, 8, 10, 15, 20, 30].map((value) => ({
            value,
            words: value ? `about ${value} minutes` : "as long as it takes",
          }))}
          onChange={(minutes) => edits.edit.mutate({ edit: { kind: "plan_lessons", minutes } })}
        />
      </Field>
    </>
  );
}
