import { useRef, useState } from "react";
import { secondsAt } from "../../player";
import {
  Button,
  beatsOf,
  bound,
  Choice,
  Deed,
  Deeds,
  Field,
  KeyCap,
  Line,
  leaveField,
  percent,
  plain,
  Tick,
  useShortcuts,
  withSigns,
} from "../../ui";
import { CorrectionError, MarginHeading, useCorrections, usePlayer, useWorkspace } from "../song";
import { GoToBar } from "./GoToBar";
import { Levels } from "./Levels";
import { SeveralBars } from "./SeveralBars";
import { TransposeDesk } from "./TransposeDesk";

const TONICS = ["C", "C#", "Db", "D", "Eb", "E", "F", "F#", "Gb", "G", "Ab", "A", "Bb", "B"].map((value) => ({
  value,
  words: withSigns(value),
}));
const MODES = ["major", "minor", "dorian", "phrygian", "lydian", "mixolydian", "locrian"];
const FEELS = ["straight", "light swing", "swing", "shuffle", "swung sixteenths"];
const METERS = [
  "2/2",
  "3/2",
  "4/2",
  "2/4",
  "3/4",
  "4/4",
  "5/4",
  "6/4",
  "7/4",
  "3/8",
  "5/8",
  "6/8",
  "7/8",
  "9/8",
  "12/8",
];
const NUDGE = 0.02;

/** The grid under the selected place: metre, bar lines, beats, tempo; the key; a cue word. */
export function BarDesk() {
  const { chart, selected, place, player } = useWorkspace();
  const corrections = useCorrections();
  const chord = chart.chords.find((c) => c.start === selected) ?? chart.chords[0];
  const beat = Math.floor(beatsOf(place));
  const bar = chart.bars.find((b) => beat >= b.start_beats && beat < b.start_beats + b.beats);
  const key = [...chart.keys].reverse().find((k) => k.start_beats <= beat);
  const keyStarts = chart.keys.some((k) => k.start_beats === beat && beat > 0);
  const cue = chart.cues.find((c) => c.start_beats === beatsOf(place));
  const [follow, setFollow] = useState(true);
  const [tonic, setTonic] = useState("");
  const [mode, setMode] = useState("");
  const [word, setWord] = useState<string | null>(null);
  const taps = useRef<number[]>([]);
  const [tapped, setTapped] = useState(0);
  const playing = usePlayer(player, (s) => s.playing);

  const nudge = (by: number) => corrections.send({ kind: "nudge_beat", beat, seconds: by, follow });
  const tap = () => {
    if (!player.getState().playing) {
      taps.current = [];
      setTapped(0);
      player.seek(secondsAt(chart, Math.max(0, beat)));
      void player.play(false);
      return;
    }
    taps.current.push(player.now());
    setTapped(taps.current.length);
  };
  const keepTaps = () => {
    player.pause();
    corrections.send({ kind: "tap_tempo", taps: taps.current });
    taps.current = [];
    setTapped(0);
  };
  const setKey = () =>
    corrections.send({
      kind: "set_key",
      start: `${beat}`,
      tonic: tonic || key?.tonic || "C",
      mode: mode || key?.mode || "major",
    });
  useShortcuts(
    bound("bar", {
      tap,
      earlier: () => nudge(-NUDGE),
      later: () => nudge(NUDGE),
    }),
  );
  if (!chord || !bar) return <p>There are no bars in this chart yet.</p>;
  return (
    <>
      <div>
        <MarginHeading as="p">
          {bar.number ? `Bar ${bar.number}, beat ${beat - bar.start_beats + 1}` : "The pickup"}
        </MarginHeading>
        <h2>
          {bar.meter}, {withSigns(key?.name ?? "")}
        </h2>
        <p>
          {Math.round(chart.bpm)} beats to the minute
          {chart.odds !== null && `, ${percent(chart.odds)} sure`}
        </p>
        <GoToBar />
        {bar.agreement && (
          <p style={{ color: "var(--soft)" }}>
            Against the recording: {bar.agreement.words} ({percent(bar.agreement.whole)} in all).
          </p>
        )}
      </div>
      <SeveralBars key={bar.number} bar={bar} />
      <section>
        <MarginHeading>Metre and bar lines</MarginHeading>
        <Field>
          <Choice
            label="metre from this bar on"
            value={bar.meter}
            options={plain(METERS)}
            onChange={(meter) => corrections.send({ kind: "set_meter", bar: Math.max(1, bar.number), meter })}
          />
        </Field>
        <Deeds>
          <Deed onPress={() => corrections.send({ kind: "set_bar_one", beat })}>a bar begins at this beat</Deed>
        </Deeds>
      </section>
      <section>
        <MarginHeading>Straight or swung</MarginHeading>
        <Field>
          <Choice
            label="the whole song"
            value={chart.feel}
            options={plain(FEELS)}
            onChange={(feel) => corrections.send({ kind: "set_feel", feel })}
          />
        </Field>
        <p style={{ color: "var(--soft)" }}>
          Swung notes are written and counted as even ones, and sound long and short.
        </p>
      </section>
      <section>
        <MarginHeading>Beats</MarginHeading>
        <Deeds>
          <Deed cap="," onPress={() => nudge(-NUDGE)}>
            a touch earlier
          </Deed>
          <Deed cap="." onPress={() => nudge(NUDGE)}>
            a touch later
          </Deed>
        </Deeds>
        <Field>
          <Tick checked={follow} onChange={setFollow}>
            all later beats follow
          </Tick>
        </Field>
        <Deeds>
          <Levels />
        </Deeds>
        <Button onPress={tap}>
          <KeyCap>T</KeyCap> {playing ? `Tap on every beat${tapped ? ` · ${tapped}` : ""}` : "Tap the tempo"}
        </Button>{" "}
        {tapped >= 4 && (
          <Button $quiet onPress={keepTaps}>
            use these taps
          </Button>
        )}
      </section>
      <section>
        <MarginHeading>Key from here on</MarginHeading>
        <Field>
          <Choice label="Tonic" hidden value={tonic || key?.tonic || "C"} options={TONICS} onChange={setTonic} />
          <Choice label="Mode" hidden value={mode || key?.mode || "major"} options={plain(MODES)} onChange={setMode} />
          <Button $quiet onPress={setKey}>
            set it
          </Button>
          {keyStarts && (
            <Button $quiet onPress={() => corrections.send({ kind: "remove_key", start: `${beat}` })}>
              no change here
            </Button>
          )}
        </Field>
      </section>
      <TransposeDesk />
      <section>
        <MarginHeading>Cue word at this place</MarginHeading>
        <Field>
          <Line
            label="Cue word"
            hidden
            maxLength={80}
            size={16}
            value={word ?? cue?.text ?? ""}
            placeholder="your own short word"
            onChange={setWord}
            onBlur={() => {
              if (word !== null && word !== (cue?.text ?? ""))
                corrections.send({ kind: "set_cue", start: place, text: word });
              setWord(null);
            }}
            onEnter={leaveField}
          />
        </Field>
      </section>
      <CorrectionError corrections={corrections} />
    </>
  );
}
