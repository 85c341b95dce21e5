import { type FormEvent, useLayoutEffect, useRef, useState } from "react";
import { Input } from "react-aria-components";
import { useChordPreview } from "../../api/chords";
import type { Schemas } from "../../api/client";
import { Button, beatsOf, bound, Deed, Deeds, KeyboardPicture, KeyCap, useShortcuts, withSigns } from "../../ui";
import { OpenReports } from "../records";
import { CorrectionError, FoundHere, isAbout, MarginHeading, useCorrections, useWorkspace } from "../song";
import { BassField } from "./BassField";
import { Typing } from "./ChordQuestion.styles";
import { PlayedChord } from "./PlayedChord";
import { ReadingList } from "./ReadingList";
import { useChordDeeds } from "./useChordDeeds";

/** "bar 5, beat 3", of a place in beats. */
function placeWords(bars: readonly Schemas["BarOut"][], beat: number): string {
  const bar = bars.findLast((b) => b.start_beats <= beat + 1e-6);
  return bar ? `bar ${bar.number || 1}, beat ${Math.floor(beat - bar.start_beats) + 1}` : "";
}

/** One question: what is the chord here? Pick a reading, type it or play it; hear it; move, split, join it. */
export function ChordQuestion({ onNextDoubt }: { onNextDoubt: () => void }) {
  const { song, chart, selected, place, player } = useWorkspace();
  const corrections = useCorrections();
  const [text, setText] = useState("");
  const [playing, setPlaying] = useState(false);
  const field = useRef<HTMLInputElement>(null);
  const preview = useChordPreview(text);
  const chord = chart.chords.find((c) => c.start === selected);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another chord is another question
  useLayoutEffect(() => {
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
  const pick = (n: number) => {
    const reading = chord?.readings[n];
    if (reading) name(reading.label);
  };
  const { hearPlace, move, split, insert, join, remove } = useChordDeeds(chord, corrections, () =>
    field.current?.focus(),
  );
  useShortcuts(
    bound("chord", {
      reading1: () => pick(0),
      reading2: () => pick(1),
      reading3: () => pick(2),
      reading4: () => pick(3),
      reading5: () => pick(4),
      none: () => name("N"),
      type: () => field.current?.focus(),
      playIt: () => setPlaying(!playing),
      hear: hearChord,
      hearPlace: hearPlace,
      split,
      insert,
      join,
      takeOut: remove,
      earlier: () => move(-1),
      later: () => move(1),
      muchEarlier: () => move(-2),
      muchLater: () => move(2),
    }),
  );
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
        {place !== selected && (
          <p>
            {withSigns(chord.symbol)} goes on here, {placeWords(chart.bars, beatsOf(place))}. <KeyCap>I</KeyCap> puts a
            chord in.
          </p>
        )}
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
      <ReadingList chord={chord} onPick={pick} />
      <CorrectionError corrections={corrections} />
      <Typing onSubmit={submit}>
        <label htmlFor="chord-text">
          <MarginHeading as="span">
            <KeyCap>T</KeyCap> Type it
          </MarginHeading>
        </label>
        <Input
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
        <BassField key={chord.start} chord={chord.start} corrections={corrections} />
      </div>
    </>
  );
}
