import { useState } from "react";
import { Button, bound, Choice, Deed, Deeds, Field, Line, leaveField, useShortcuts, withSigns } from "../../ui";
import { CorrectionError, FoundHere, MarginHeading, useCorrections, useWorkspace } from "../song";
import { MinutesOf } from "./MinutesOf";

const NAMES = ["intro", "verse", "lift", "chorus", "bridge", "riff", "interlude", "ending"];

/** One part: what it is, how it differs, and its edges, name and kinship to change. */
export function PartDesk() {
  const { chart, part, selectPart } = useWorkspace();
  const corrections = useCorrections();
  const [name, setName] = useState<string | null>(null);
  const [cut, setCut] = useState("");
  const suggestion = chart.suggestions.find((s) => s.number === part.number);
  const merge = () =>
    part.number > 1 && corrections.send({ kind: "merge_part", number: part.number }, () => selectPart(part.number - 1));
  const begin = (by: number) =>
    part.number > 1 && corrections.send({ kind: "move_part", number: part.number, bar: part.start_bar + by });
  const models = chart.parts
    .filter((p) => p.number < part.number && p.same_as === null)
    .map((p) => ({ value: p.number, words: `part ${p.number} ${p.name}`.trim() }));
  const relate = (to: number) => corrections.send({ kind: "mark_repeat", number: part.number, same_as: to || null });
  useShortcuts(bound("part", { join: merge, earlier: () => begin(-1), later: () => begin(1) }));
  return (
    <>
      <div>
        <h2>
          Part {part.number} {part.name}
        </h2>
        <p>
          bars {part.start_bar}–{part.end_bar}, {withSigns(part.words)}
        </p>
        <p style={{ color: "var(--soft)" }}>
          <MinutesOf part={part.number} long />
        </p>
      </div>
      <FoundHere belongs={(f) => f.about === "parts" && f.part === part.number} />
      {suggestion && (
        <div>
          <p>
            It could be part {suggestion.model} again: {withSigns(suggestion.why)}.
          </p>
          <Button onPress={() => relate(suggestion.model)}>Teach it as part {suggestion.model} again</Button>
        </div>
      )}
      {part.differences.length > 0 && (
        <div>
          <MarginHeading>So teach “as {part.same_as}, but …”</MarginHeading>
          <ul style={{ margin: 0, padding: 0, listStyle: "none", display: "grid", gap: "0.3rem" }}>
            {part.differences.map((d) => (
              <li key={d}>{withSigns(d)}</li>
            ))}
          </ul>
        </div>
      )}
      {part.same_as !== null && part.differences.length === 0 && (
        <p style={{ fontFamily: "Alegreya", fontStyle: "italic" }}>Nothing new: play part {part.same_as} once more.</p>
      )}
      <div>
        <MarginHeading>Chords in order</MarginHeading>
        <p style={{ fontFamily: "Alegreya, Signs", fontWeight: 700 }}>{withSigns(part.pattern.join("  "))}</p>
      </div>
      <section>
        <MarginHeading>Name and repeat</MarginHeading>
        <Field>
          <Line
            label="called"
            offers={NAMES}
            size={12}
            maxLength={40}
            value={name ?? part.name}
            placeholder="verse, riff …"
            onChange={setName}
            onBlur={() => {
              if (name !== null && name !== part.name)
                corrections.send({ kind: "rename_part", number: part.number, name });
              setName(null);
            }}
            onEnter={leaveField}
          />
        </Field>
        <Field>
          <Choice
            label="repeats"
            value={part.same_as ?? 0}
            disabled={part.number === 1}
            options={[{ value: 0, words: "no other part" }, ...models]}
            onChange={relate}
          />
        </Field>
      </section>
      <section>
        <MarginHeading>Where it begins</MarginHeading>
        <Deeds>
          <Deed cap="," onPress={() => begin(-1)} disabled={part.number === 1}>
            begin a bar earlier
          </Deed>
          <Deed cap="." onPress={() => begin(1)} disabled={part.number === 1}>
            a bar later
          </Deed>
          <Deed cap="J" onPress={merge} disabled={part.number === 1}>
            {part.number === 1 ? "join to the one before" : `join to part ${part.number - 1}`}
          </Deed>
        </Deeds>
        <form
          onSubmit={(event) => {
            event.preventDefault();
            corrections.send({ kind: "split_part", bar: Number(cut) }, () => setCut(""));
          }}
        >
          <Field>
            <Line
              label="new part at bar"
              inputMode="numeric"
              size={3}
              value={cut}
              placeholder={String(Math.floor((part.start_bar + part.end_bar + 1) / 2))}
              onChange={(bar) => setCut(bar.replace(/\D/g, ""))}
            />
            <Button type="submit" $quiet isDisabled={!cut}>
              split
            </Button>
          </Field>
        </form>
      </section>
      <CorrectionError corrections={corrections} />
    </>
  );
}
