import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Button, Choice, Field, named, plain, Tick } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";
import { sayTrack, secondsOf } from "./estimate";
import { PartChoice, SpeedChoice } from "./PartAndSpeed";

const MIXES = named({
  both: "both hands",
  left: "left hand alone",
  right: "right hand alone",
  ears: "left in the left ear, right in the right",
  along: "the tune softer, to play along",
});
const RECORDING = named({ recording: "the recording, for your own rehearsal" });
const KINDS = ["mp3", "flac", "opus"] as const;

/** What the hands play as sound: for viewers to practise with, heard here or downloaded. */
export function PracticeTracks({ parts }: { parts: readonly Schemas["PartOut"]["number"][] }) {
  const { song, chart } = useWorkspace();
  const [mix, setMix] = useState<"both" | "left" | "right" | "ears" | "along" | "recording">("both");
  const [part, setPart] = useState(0);
  const [speed, setSpeed] = useState(0.7);
  const [countIn, setCountIn] = useState(true);
  const [metronome, setMetronome] = useState(false);
  const [kind, setKind] = useState<(typeof KINDS)[number]>("mp3");
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
  const slowed = mix === "recording"; // a sound of its own: what follows is said of it
  const address = `/api/songs/${song.id}/${slowed ? "slowed" : "practice"}?${query}`;
  return (
    <section aria-label="Practice tracks">
      <MarginHeading>Practice tracks</MarginHeading>
      <Field>
        <Choice
          label="Which hands"
          hidden
          value={mix}
          options={song.recording_id === null ? MIXES : [...MIXES, ...RECORDING]}
          onChange={setMix}
        />
      </Field>
      <Field>
        <PartChoice label="Which part" parts={parts} value={part} onChange={setPart} />
        <SpeedChoice label="Speed" value={speed} onChange={setSpeed} />
        <Choice label="Kind of file" hidden value={kind} options={plain(KINDS)} onChange={setKind} />
      </Field>
      <Field>
        <Tick checked={countIn} onChange={setCountIn}>
          {slowed ? "from the bar before" : "one bar counted in"}
        </Tick>
      </Field>
      {slowed ? (
        <p role="note">
          At its own pitch. For you alone: the sound of the recording belongs to others. Hand out what Valley’s piano
          plays.
        </p>
      ) : (
        <Field>
          <Tick checked={metronome} onChange={setMetronome}>
            with a metronome
          </Tick>
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
