import { useState } from "react";
import { Choice, Deed, Deeds, Field, Tick, withSigns } from "../../ui";
import { MarginHeading, useCorrections, useWorkspace } from "../song";

const MAJOR = ["C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B"];
const WITH_MINOR_THIRD = ["minor", "dorian", "phrygian", "locrian"];
const MINOR = ["C", "C#", "D", "Eb", "E", "F", "F#", "G", "G#", "A", "Bb", "B"];
const PITCH: Record<string, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

const pitchClass = (name: string) =>
  ((PITCH[name[0] ?? "C"] ?? 0) + (name.match(/#/g)?.length ?? 0) - (name.slice(1).match(/b/g)?.length ?? 0) + 12) % 12;

/** Half steps from one tonic to another, the nearer way round. */
export function halfSteps(from: string, to: string): number {
  const up = (pitchClass(to) - pitchClass(from) + 12) % 12;
  return up > 6 ? up - 12 : up;
}

/** The whole song in another key: by a half step, or to a tonic. */
export function TransposeDesk() {
  const { chart } = useWorkspace();
  const corrections = useCorrections();
  const [carried, setCarried] = useState(false);
  const [tonic = "C", mode = "major"] = (chart.keys[0]?.name ?? "C major").split(" ");
  const hands = carried ? "carried" : "anew";
  const move = (half_steps: number, to = "") =>
    half_steps && corrections.send({ kind: "transpose_song", half_steps, tonic: to, hands });
  const names = WITH_MINOR_THIRD.includes(mode) ? MINOR : MAJOR;
  return (
    <section>
      <MarginHeading>The whole song in another key</MarginHeading>
      <Field>
        <Choice
          label="Move the song to"
          hidden
          value={tonic}
          options={(names.includes(tonic) ? names : [tonic, ...names]).map((value) => ({
            value,
            words: `${withSigns(value)} ${mode}`,
          }))}
          onChange={(to) => move(halfSteps(tonic, to), to)}
        />
      </Field>
      <Deeds>
        <Deed onPress={() => move(-1)}>a half step down</Deed>
        <Deed onPress={() => move(1)}>a half step up</Deed>
      </Deeds>
      <Field>
        <Tick checked={carried} onChange={setCarried}>
          keep the hands, only moved
        </Tick>
      </Field>
      {chart.transposed !== 0 && (
        <p style={{ color: "var(--soft)" }}>
          The recording stays as it is: it sounds {Math.abs(chart.transposed)} half step
          {Math.abs(chart.transposed) === 1 ? "" : "s"} {chart.transposed > 0 ? "lower" : "higher"} than the piano.
        </p>
      )}
    </section>
  );
}
