import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Button, Field, percent } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";
import { sayTrack, secondsOf } from "./estimate";

const MIXES = [
  ["both", "both hands"],
  ["left", "left hand alone"],
  ["right", "right hand alone"],
  ["ears", "left in the left ear, right in the right"],
  ["along", "the tune softer, to play along"],
] as const;
const RECORDING = "recording";
const SPEEDS = [0.5, 0.7, 0.85, 1] as const;
const KINDS = ["mp3", "flac", "opus"] as const;

/** What the hands play as sound: for viewers to practise with, heard here or downloaded. */
export function PracticeTracks({ parts }: { parts: readonly Schemas["PartOut"]["number"][] }) {
  const { song, chart } = useWorkspace();
  const [mix, setMix] = useState<string>("both");
  const [part, setPart] = useState(0);
  const [speed, setSpeed] = useState(0.7);
  const [countIn, setCountIn] = useState(true);
  const [metronome, setMetronome] = useState(false);
  const [kind, setKind] = useState<string>("mp3");
  const [heard, setHeard] = useState(false);
  const query = new URLSearchParams({
    mix,
    part: `${part}`,
    speed: `${speed}`,
    count_in: `${countIn}`,
    metronome: `${metronome}`,
    kind,
    version: `${chart.revision}`, // another version sounds otherwise: nothing old is taken from the browser's store
  });
  const slowed = mix === RECORDING; // a sound of its own: what follows is said of it
  const address = `/api/songs/${song.id}/${slowed ? "slowed" : "practice"}?${query}`;
  return (
    <section aria-label="Practice tracks">
      <MarginHeading>Practice tracks</MarginHeading>
      <Field>
        <select aria-label="Which hands" value={mix} onChange={(e) => setMix(e.target.value)}>
          {MIXES.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
          {song.recording_id !== null && <option value={RECORDING}>the recording, for your own rehearsal</option>}
        </select>
      </Field>
      <Field>
        <select aria-label="Which part" value={part} onChange={(e) => setPart(Number(e.target.value))}>
          <option value={0}>the whole song</option>
          {parts.map((n) => (
            <option key={n} value={n}>
              part {n}
            </option>
          ))}
        </select>
        <select aria-label="Speed" value={speed} onChange={(e) => setSpeed(Number(e.target.value))}>
          {SPEEDS.map((s) => (
            <option key={s} value={s}>
              {percent(s)}
            </option>
          ))}
        </select>
        <select aria-label="Kind of file" value={kind} onChange={(e) => setKind(e.target.value)}>
          {KINDS.map((k) => (
            <option key={k}>{k}</option>
          ))}
        </select>
      </Field>
      <Field>
        <input type="checkbox" checked={countIn} onChange={(e) => setCountIn(e.target.checked)} />{" "}
        {slowed ? "from the bar before" : "one bar counted in"}
      </Field>
      {slowed ? (
        <p role="note">
          At its own pitch. For you alone: the sound of the recording belongs to others. Hand out what Valley’s piano
          plays.
        </p>
      ) : (
        <Field>
          <input type="checkbox" checked={metronome} onChange={(e) => setMetronome(e.target.checked)} /> with a
          metronome
        </Field>
      )}
      <p>{sayTrack(secondsOf(chart, { part, speed, countIn }), kind, slowed)}</p>
      {heard ? (
        // biome-ignore lint/a11y/useMediaCaption: music alone; what the piano plays stands in the sheet music
        <audio
          key={address}
          style={{ width: "100%", height: "2.2rem" }}
          controls
          autoPlay
          src={`${address}&look=true`}
          aria-label={slowed ? "The recording, slower" : "The practice track"}
        />
      ) : (
        <Button $quiet onPress={() => setHeard(true)}>
          hear it
        </Button>
      )}{" "}
      <a href={address} download>
        download
      </a>
    </section>
  );
}
