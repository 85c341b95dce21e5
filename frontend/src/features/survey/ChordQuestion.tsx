import { type FormEvent, useEffect, useRef, useState } from "react";
import styled from "styled-components";
import { ProblemError } from "../../api/client";
import { useChartEdits, useChordPreview } from "../../api/queries";
import { secondsAt } from "../../player";
import { Button, ErrorNotice, KeyboardPicture, KeyCap, percent, useShortcuts, withSigns } from "../../ui";
import { Margin, MarginHeading, useWorkspace } from "../song";

const Readings = styled.ol`
  list-style: none; margin: 0; padding: 0; display: grid; gap: 0.25rem;
  button {
    all: unset; box-sizing: border-box; cursor: pointer; width: 100%; display: grid; grid-template-columns: 1.8rem 1fr auto; gap: 0 0.6rem; align-items: center;
    padding: 0.1rem 0.25rem; border-radius: 4px;
  }
  button:hover, button[aria-pressed="true"] { background: var(--raised); }
  button:focus-visible { outline: 3px solid var(--river); }
  b { font: 700 1.25rem "Alegreya", "Signs", serif; }
  .bar { grid-column: 2 / 4; height: 3px; background: var(--line); border-radius: 2px; }
  .bar i { display: block; height: 100%; background: var(--ink); border-radius: 2px; }
  em { grid-column: 2 / 4; font-family: "Alegreya", "Signs", serif; color: var(--soft); font-size: 0.95rem; line-height: 1.15; }
`;
const Typing = styled.form`
  input { font: 700 1.2rem "Alegreya", "Signs", serif; width: 100%; color: var(--ink); background: var(--raised); border: 1.3px solid var(--soft); border-radius: 4px; padding: 0.25rem 0.5rem; }
  p { color: var(--soft); min-height: 1.4em; margin: 0.35rem 0; font-size: 0.95rem; }
  p[data-bad="true"] { color: var(--doubt); }
`;

/** One question: what is the chord here? Pick a reading, or type it; hear it either way. */
export function ChordQuestion({ onNextDoubt }: { onNextDoubt: () => void }) {
  const { song, chart, selected, player } = useWorkspace();
  const { setChord } = useChartEdits(song.id);
  const [text, setText] = useState("");
  const field = useRef<HTMLInputElement>(null);
  const preview = useChordPreview(text);
  const chord = chart.chords.find((c) => c.start === selected);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another chord is another question
  useEffect(() => {
    setText("");
    setChord.reset();
  }, [selected]);

  const name = (value: string) => {
    if (!chord || setChord.isPending) return;
    setChord.mutate({ revision: chart.revision, start: chord.start, text: value }, { onSuccess: () => setText("") });
  };
  const hearChord = () => {
    const typed = text.trim() && preview.data?.ok ? preview.data.midi : null;
    void player.sound(typed ?? chord?.midi ?? []);
  };
  const hearPlace = () => {
    if (!chord) return;
    const from = secondsAt(chart.beats, Math.max(0, chord.start_beats - 1));
    void player.playSpan(Math.max(0, from), secondsAt(chart.beats, chord.start_beats + chord.duration_beats));
  };
  const pick = (n: number) => {
    const reading = chord?.readings[n];
    if (reading) name(reading.label);
  };
  useShortcuts({
    "1": () => pick(0),
    "2": () => pick(1),
    "3": () => pick(2),
    "4": () => pick(3),
    "5": () => pick(4),
    t: () => field.current?.focus(),
    h: hearChord,
    g: hearPlace,
  });
  if (!chord) return <Margin>There are no chords in this chart yet.</Margin>;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (text.trim()) name(text);
  };
  const bad = text.trim() !== "" && preview.data?.ok === false;
  const shown = text.trim() && preview.data?.ok ? preview.data.midi : chord.midi;
  const bass = shown[0];
  const conflict = setChord.error instanceof ProblemError && setChord.error.problem.kind === "conflict";
  return (
    <Margin aria-label="The selected chord" data-noprint>
      <div>
        <MarginHeading as="p">
          Bar {chord.bar}, beat {chord.beat} · {withSigns(chord.spoken)}
        </MarginHeading>
        <h2>
          {chord.locked
            ? `${withSigns(chord.symbol)}, set by you`
            : chord.doubtful
              ? "What is it?"
              : withSigns(chord.symbol)}
        </h2>
      </div>
      <div>
        {chart.doubts.length ? (
          <Button onPress={onNextDoubt}>
            <KeyCap>N</KeyCap> {chart.doubts.length} {chart.doubts.length === 1 ? "place" : "places"} to check
          </Button>
        ) : (
          <p>Every place is sure or set by you.</p>
        )}
      </div>
      <Readings aria-label="Readings of this chord">
        {chord.readings.map((r, i) => (
          <li key={r.label}>
            <button type="button" aria-pressed={r.label === chord.label} onClick={() => pick(i)}>
              <KeyCap>{i + 1}</KeyCap>
              <b>{withSigns(r.symbol)}</b>
              <span>{percent(r.probability)}</span>
              <span className="bar">
                <i style={{ width: `${Math.max(1, 100 * r.probability)}%` }} />
              </span>
              <em>{withSigns(r.why)}</em>
            </button>
          </li>
        ))}
      </Readings>
      <Typing onSubmit={submit}>
        <label htmlFor="chord-text">
          <MarginHeading as="span">
            <KeyCap>T</KeyCap> Type it
          </MarginHeading>
        </label>
        <input
          id="chord-text"
          ref={field}
          value={text}
          autoComplete="off"
          spellCheck={false}
          placeholder={withSigns(chord.symbol)}
          aria-invalid={bad}
          aria-describedby="chord-says"
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => e.key === "Escape" && field.current?.blur()}
        />
        <p id="chord-says" data-bad={bad} role="status">
          {text.trim() === ""
            ? "Cm7, F#m7b5/C, Bbadd9, or N for none"
            : bad
              ? preview.data?.message
              : preview.data &&
                `${withSigns(preview.data.symbol)}: ${withSigns(preview.data.notes.join(" "))}. Enter keeps it.`}
        </p>
        <KeyboardPicture
          low={36}
          high={83}
          width={252}
          height={52}
          label={`Keys of ${withSigns(chord.symbol)}`}
          lit={shown.map((midi) => ({ midi, hand: midi === bass ? "left" : "right" }))}
        />
      </Typing>
      {setChord.error && (
        <ErrorNotice error={setChord.error}>
          {conflict && (
            <Button onPress={() => name(String((setChord.error as ProblemError).problem.data?.yours ?? ""))}>
              Use mine here too
            </Button>
          )}
        </ErrorNotice>
      )}
      <div>
        <MarginHeading>Hear</MarginHeading>
        <Button $quiet onPress={hearPlace}>
          <KeyCap>G</KeyCap> recording
        </Button>
        <Button $quiet onPress={hearChord}>
          <KeyCap>H</KeyCap> piano
        </Button>
      </div>
    </Margin>
  );
}
