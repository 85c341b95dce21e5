import { secondsAt } from "../../player";
import { addBeats, Button, beatsOf, bound, Deed, Deeds, isCompound, useShortcuts, withSigns } from "../../ui";
import { CorrectionError, MarginHeading, useCorrections, useWorkspace } from "../song";
import { barName, RowField } from "./RowField";

interface TuneDeskProps {
  note: string;
  onNote: (start: string) => void;
}

/** One note of the tune: pitch, place, length; and what may be done with it. */
export function TuneDesk({ note, onNote }: TuneDeskProps) {
  const { chart, player, selected, place, part } = useWorkspace();
  const corrections = useCorrections();
  const index = chart.melody.findIndex((m) => m.start === note);
  const here = chart.melody[index];
  const beat = Math.floor(here?.start_beats ?? beatsOf(place));
  const bar = chart.bars.find((b) => beat >= b.start_beats && beat < b.start_beats + b.beats);
  const step = (by: number) => {
    const next = chart.melody[index + by];
    if (next) onNote(next.start);
  };
  const unit = isCompound(chart.meter) ? 3 : 4;
  const change = (what: { to?: string; duration?: string; midi?: number; grace?: boolean }) => {
    if (!here) return;
    corrections.send({ kind: "change_note", start: here.start, ...what }, () => what.to && onNote(what.to));
    if (what.midi) void player.sound([what.midi], 0.8);
  };
  const remove = () => here && corrections.send({ kind: "delete_note", start: here.start }, () => step(1));
  const add = () => {
    const at = here ? addBeats(here.start, 1, 1) : selected;
    corrections.send({ kind: "add_note", start: at, duration: "1", midi: here?.midi ?? 67 }, () => onNote(at));
  };
  const cut = () =>
    here &&
    corrections.send({
      kind: "split_note",
      start: here.start,
      at: addBeats(here.start, Math.max(1, Math.round((here.duration_beats * unit) / 2)), unit),
    });
  const join = () => here && corrections.send({ kind: "join_note", start: here.start });
  const octave = (by: number) =>
    corrections.send({
      kind: "transpose_notes",
      start: `${part.start_beats}`,
      end: `${part.end_beats}`,
      semitones: by,
    });
  const snap = (size: string) =>
    corrections.send({ kind: "snap_notes", start: `${part.start_beats}`, end: `${part.end_beats}`, step: size });
  const hear = () => {
    if (!here) return;
    void player.playSpan(
      secondsAt(chart, Math.max(0, here.start_beats - 1)),
      secondsAt(chart, here.start_beats + here.duration_beats + 0.5),
    );
  };
  useShortcuts(
    bound("tune", {
      before: () => step(-1),
      after: () => step(1),
      higher: () => here && change({ midi: here.midi + 1 }),
      lower: () => here && change({ midi: here.midi - 1 }),
      octaveUp: () => here && change({ midi: here.midi + 12 }),
      octaveDown: () => here && change({ midi: here.midi - 12 }),
      earlier: () => here && change({ to: addBeats(here.start, -1, unit) }),
      later: () => here && change({ to: addBeats(here.start, 1, unit) }),
      shorter: () => here && here.duration_beats > 1 / unit && change({ duration: addBeats(here.duration, -1, unit) }),
      longer: () => here && change({ duration: addBeats(here.duration, 1, unit) }),
      add,
      takeOut: remove,
      again: cut,
      join,
      grace: () => here && change({ grace: !here.grace }),
      hear,
    }),
  );
  return (
    <>
      <div>
        <MarginHeading as="p">The tune{here && `, note ${index + 1} of ${chart.melody.length}`}</MarginHeading>
        <h2>{here ? `${withSigns(here.pitch)}${here.grace ? ", a grace note" : ""}` : "No note is chosen"}</h2>
        {here ? (
          <p>
            {here.place}; it lasts {here.lasts}
            {here.locked && ", set by you"}
          </p>
        ) : (
          <p>Choose one in the drawing, or walk along them with ← and →.</p>
        )}
      </div>
      <Deeds>
        <Deed cap="↑" onPress={() => here && change({ midi: here.midi + 1 })} disabled={!here}>
          higher
        </Deed>
        <Deed cap="↓" onPress={() => here && change({ midi: here.midi - 1 })} disabled={!here}>
          lower
        </Deed>
        <Deed cap="," onPress={() => here && change({ to: addBeats(here.start, -1, unit) })} disabled={!here}>
          earlier
        </Deed>
        <Deed cap="." onPress={() => here && change({ to: addBeats(here.start, 1, unit) })} disabled={!here}>
          later
        </Deed>
        <Deed cap="+" onPress={() => here && change({ duration: addBeats(here.duration, 1, unit) })} disabled={!here}>
          longer
        </Deed>
        <Deed
          cap="-"
          onPress={() =>
            here && here.duration_beats > 1 / unit && change({ duration: addBeats(here.duration, -1, unit) })
          }
          disabled={!here}
        >
          shorter
        </Deed>
        <Deed cap="A" onPress={add}>
          add a note
        </Deed>
        <Deed cap="X" onPress={remove} disabled={!here}>
          take out
        </Deed>
        <Deed cap="C" onPress={cut} disabled={!here}>
          strike again
        </Deed>
        <Deed cap="J" onPress={join} disabled={!here}>
          hold through the next
        </Deed>
        <Deed cap="E" onPress={() => here && change({ grace: !here.grace })} disabled={!here}>
          {here?.grace ? "a full note" : "a grace note"}
        </Deed>
        <Deed cap="G" onPress={hear} disabled={!here}>
          hear it
        </Deed>
      </Deeds>
      {bar && (
        <div>
          <MarginHeading>The tune typed, from {barName(bar)} on</MarginHeading>
          <RowField
            key={bar.number}
            label={`Notes from ${barName(bar)} on`}
            example="E5 D C:2 | G _ - A"
            help={
              "| between bars, E:2 lasts two beats, _\u00a0holds on, -\u00a0rests; a note without a number is the nearest to the one before."
            }
            onWrite={(text, done) => corrections.send({ kind: "write_tune", start: `${bar.start_beats}`, text }, done)}
          />
        </div>
      )}
      <div>
        <MarginHeading>All of part {part.number}</MarginHeading>
        <Button $quiet onPress={() => octave(12)}>
          an octave up
        </Button>{" "}
        <Button $quiet onPress={() => octave(-12)}>
          an octave down
        </Button>{" "}
        <Button $quiet onPress={() => snap("1/2")}>
          set on half beats
        </Button>{" "}
        <Button $quiet onPress={() => snap("1/4")}>
          on quarters of a beat
        </Button>
      </div>
      <CorrectionError corrections={corrections} />
    </>
  );
}
