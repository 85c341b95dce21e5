import { type FormEvent, useEffect, useRef, useState } from "react";
import styled from "styled-components";
import { useChordPreview } from "../../api/chords";
import { beatsAt, secondsAt } from "../../player";
import { addBeats, Button, KeyboardPicture, KeyCap, percent, useShortcuts, withSigns } from "../../ui";
import { OpenReports } from "../records";
import { FoundHere, isAbout, MarginHeading, useWorkspace } from "../song";
import { PlayedChord } from "./PlayedChord";
import { CorrectionError, Deed, Deeds, Field } from "./parts";
import { useCorrections } from "./useCorrections";

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

/** One question: what is the chord here? Pick a reading, type it or play it; hear it; move, split, join it. */
export function ChordQuestion({ onNextDoubt }: { onNextDoubt: () => void }) {
  const { song, chart, selected, select, player } = useWorkspace();
  const corrections = useCorrections();
  const [text, setText] = useState("");
  const [playing, setPlaying] = useState(false);
  const field = useRef<HTMLInputElement>(null);
  const preview = useChordPreview(text);
  const chord = chart.chords.find((c) => c.start === selected);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another chord is another question
  useEffect(() => {
    setText("");
    corrections.reset();
  }, [selected]);

  const name = (value: string) => {
    if (chord) corrections.send({ kind: "set_chord", start: chord.start, text: value }, () => setText(""));
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
  const move = (halves: number) => {
    if (!chord) return;
    const to = addBeats(chord.start, halves, 2);
    corrections.send({ kind: "move_change", start: chord.start, to }, () => select(to));
  };
  const split = () => {
    if (!chord) return;
    const at = addBeats(chord.start, Math.max(1, Math.floor(chord.duration_beats)), 2);
    corrections.send({ kind: "split_chord", at }, () => select(at));
  };
  /** A new chord where the recording stands, to the nearest half beat; what is typed next names it. */
  const insert = () => {
    const halves = Math.round(2 * beatsAt(chart.beats, player.getState().time));
    const at = addBeats("0", halves, 2);
    if (chart.chords.some((c) => c.start === at)) select(at);
    else
      corrections.send({ kind: "split_chord", at }, () => {
        select(at);
        field.current?.focus();
      });
  };
  const before = () => chart.chords[chart.chords.findIndex((c) => c.start === selected) - 1]?.start ?? "0";
  const join = () => chord && corrections.send({ kind: "join_chord", start: chord.start }, () => select(before()));
  const remove = () => chord && corrections.send({ kind: "delete_chord", start: chord.start }, () => select(before()));
  useShortcuts({
    "1": () => pick(0),
    "2": () => pick(1),
    "3": () => pick(2),
    "4": () => pick(3),
    "5": () => pick(4),
    "0": () => name("N"),
    t: () => field.current?.focus(),
    p: () => setPlaying(!playing),
    h: hearChord,
    g: hearPlace,
    s: split,
    i: insert,
    j: join,
    x: remove,
    ",": () => move(-1),
    ".": () => move(1),
    "<": () => move(-2),
    ">": () => move(2),
  });
  if (!chord) return <p>There are no chords in this chart yet.</p>;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (text.trim()) name(text);
  };
  const bad = text.trim() !== "" && preview.data?.ok === false;
  const shown = text.trim() && preview.data?.ok ? preview.data.midi : chord.midi;
  const bass = shown[0];
  return (
    <>
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
        {chord.heard_otherwise && <p>Valley hears {withSigns(chord.heard_otherwise)} here.</p>}
      </div>
      <OpenReports song={song} bar={chord.bar} />
      <FoundHere belongs={(f) => isAbout(f, "chart", chord.start_beats, chord.start_beats + chord.duration_beats)} />
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
      <CorrectionError corrections={corrections} />
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
          list="chord-forms"
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => e.key === "Escape" && field.current?.blur()}
        />
        <datalist id="chord-forms">
          {(preview.data?.completions ?? []).map((form) => (
            <option key={form} value={form} />
          ))}
        </datalist>
        <p id="chord-says" data-bad={bad} role="status">
          {text.trim() === ""
            ? "Cm7, F#m7b5/C, Bbadd9, or N for none"
            : bad
              ? preview.data?.message
              : preview.data &&
                `${withSigns(preview.data.symbol)}: ${withSigns(preview.data.notes.join(" "))}. Enter keeps it.`}
        </p>
        {!playing && (
          <KeyboardPicture
            low={36}
            high={83}
            width={252}
            height={52}
            label={`Keys of ${withSigns(chord.symbol)}`}
            lit={shown.map((midi) => ({ midi, hand: midi === bass ? "left" : "right" }))}
          />
        )}
      </Typing>
      {playing && <PlayedChord beat={chord.start} onName={name} />}
      <div>
        <MarginHeading>Hear, play</MarginHeading>
        <Deeds>
          <Deed cap="G" onPress={hearPlace}>
            recording
          </Deed>
          <Deed cap="H" onPress={hearChord}>
            piano
          </Deed>
          <Deed cap="P" onPress={() => setPlaying(!playing)}>
            {playing ? "put the keys away" : "play it yourself"}
          </Deed>
        </Deeds>
      </div>
      <div>
        <MarginHeading>The change to this chord</MarginHeading>
        <Deeds>
          <Deed cap="," onPress={() => move(-1)}>
            half a beat earlier
          </Deed>
          <Deed cap="." onPress={() => move(1)}>
            half a beat later
          </Deed>
          <Deed cap="S" onPress={split}>
            split
          </Deed>
          <Deed cap="I" onPress={insert}>
            new chord where the recording is
          </Deed>
          <Deed cap="J" onPress={join}>
            join to the one before
          </Deed>
          <Deed cap="X" onPress={remove}>
            take out
          </Deed>
          <Deed cap="0" onPress={() => name("N")}>
            no chord
          </Deed>
        </Deeds>
        <Bass key={chord.start} chord={chord.start} corrections={corrections} />
      </div>
    </>
  );
}

/** The bass alone: another note under the same chord. */
function Bass({ chord, corrections }: { chord: string; corrections: ReturnType<typeof useCorrections> }) {
  const [note, setNote] = useState("");
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        corrections.send({ kind: "set_bass", start: chord, note }, () => setNote(""));
      }}
    >
      <Field>
        bass alone
        <input
          aria-label="Bass note"
          size={4}
          value={note}
          placeholder="root"
          onChange={(e) => setNote(e.target.value)}
        />
        <Button type="submit" $quiet>
          set it
        </Button>
      </Field>
    </form>
  );
}
