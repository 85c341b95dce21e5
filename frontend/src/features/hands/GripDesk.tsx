import { ToggleButton } from "react-aria-components";
import { useCandidates } from "../../api/hands";
import { Choice, Deed, Deeds, Field, framing, KeyboardPicture, KeyCap, useShortcuts, withSigns } from "../../ui";
import { FoundHere, isAbout, MarginHeading, useWorkspace } from "../song";
import { Notes, Reach, Ways } from "./GripDesk.styles";
import type { Hands, HeldNote, Where } from "./useHands";

const WHERE: [Where, string][] = [
  ["here", "only here"],
  ["chord", "wherever this chord is"],
  ["repeats", "in the repeats of this part"],
];

/** One grip in words and keys: its notes to change, its reach, the way to it, why it was chosen, and other ways. */
export function GripDesk({ hands, onHear }: { hands: Hands; onHear: () => void }) {
  const { song, chart } = useWorkspace();
  const { grip, note, notes, changeNote, changeGrip, arrangement } = hands;
  const others = useCandidates(song.id, grip?.start, chart.revision);
  const take = (place: number) => {
    const way = others.data?.[place];
    if (way) changeGrip({ action: "take", left: way.left.map((n) => n.midi), right: way.right.map((n) => n.midi) });
  };
  useShortcuts(Object.fromEntries([1, 2, 3, 4, 5, 6].map((n) => [String(n), () => take(n - 1)])));
  if (!grip || !arrangement) return <p>This part has no chords to hold.</p>;
  const most = arrangement.most_mm;
  const widest = Math.max(grip.reach_left_mm, grip.reach_right_mm);
  const lit = notes.map((n) => ({ midi: n.midi, hand: n.hand, optional: n.optional, finger: n.finger }));
  const frame = framing(lit.map((k) => k.midi));
  return (
    <>
      <div>
        <MarginHeading as="p">
          Bar {grip.bar}, on {grip.count}
          {grip.locked && " · set by you"}
        </MarginHeading>
        <h2>{withSigns(grip.symbol)}</h2>
        <p style={{ color: "var(--soft)" }}>{withSigns(grip.inversion)}</p>
      </div>
      <FoundHere
        show="hands"
        belongs={(f) => isAbout(f, "hands", grip.start_beats, grip.start_beats + grip.duration_beats)}
      />
      <Notes aria-label="Notes of the grip, from the lowest up">
        {notes.map((n) => (
          <li key={n.midi}>
            <ToggleButton
              data-hand={n.hand}
              isSelected={n === note}
              aria-label={`${withSigns(n.pitch)}, ${n.hand} hand, ${n.member || "tune"}${n.finger ? `, finger ${n.finger}` : ""}${n.optional ? ", may be left out" : ""}`}
              onPress={() => hands.pickNote(n.midi)}
            >
              <b>
                {withSigns(n.pitch)}
                {n.optional && "*"}
              </b>
              <small>
                {n.finger ?? "–"} · {short(n)}
              </small>
            </ToggleButton>
          </li>
        ))}
      </Notes>
      <KeyboardPicture
        low={frame.low}
        high={frame.high - 1}
        width={258}
        height={60}
        lit={lit}
        label={`Keys of ${withSigns(grip.symbol)}`}
      />
      <Deeds data-noprint aria-label="Change the chosen note">
        <Deed cap="," onPress={() => changeNote("move", -1)} disabled={!note}>
          lower
        </Deed>
        <Deed cap="." onPress={() => changeNote("move", 1)} disabled={!note}>
          higher
        </Deed>
        <Deed cap="O" onPress={() => changeNote("other-hand")} disabled={!note}>
          other hand
        </Deed>
        <Deed cap="X" onPress={() => changeNote("drop")} disabled={notes.length < 2}>
          drop
        </Deed>
        <Deed cap="D" onPress={() => changeNote("double", 1)} disabled={!note}>
          double
        </Deed>
        <Deed cap="S" onPress={() => changeNote("star")} disabled={!note}>
          star
        </Deed>
        <Deed cap="I" onPress={() => note && changeGrip({ action: "invert", hand: note.hand, by: 1 })} disabled={!note}>
          invert up
        </Deed>
        {grip.locked && (
          <Deed cap="B" onPress={() => changeGrip({ action: "release" })}>
            as Valley chose
          </Deed>
        )}
      </Deeds>
      <Field data-noprint>
        <Choice
          label="changes hold"
          value={hands.where}
          options={WHERE.map(([value, name]) => ({
            value,
            words: value === "chord" ? `${name} (${grip.twins + 1})` : name,
          }))}
          onChange={hands.setWhere}
        />
      </Field>
      <div>
        <MarginHeading>Reach</MarginHeading>
        left {Math.round(grip.reach_left_mm)} mm ({say(grip.white_left)}), right {Math.round(grip.reach_right_mm)} mm (
        {say(grip.white_right)})
        <Reach $share={widest / most} $strained={grip.strained} />
        {grip.caution && <p>{grip.caution}</p>}
        {grip.outside && <p role="note">Out of the hand's reach or of the camera's frame.</p>}
        {grip.collides && <p role="note">The hands stand on each other here.</p>}
      </div>
      {grip.move && (
        <div>
          <MarginHeading>From the grip before</MarginHeading>
          <p>{withSigns(grip.move)}</p>
        </div>
      )}
      <div>
        <MarginHeading>Why here</MarginHeading>
        <p style={{ fontFamily: "Alegreya, Signs", fontStyle: "italic" }}>{withSigns(grip.why)}</p>
        {grip.hint && <p>{withSigns(grip.hint)}</p>}
        {grip.omits.length > 0 && <p>Leaves out the {grip.omits.join(" and the ")}.</p>}
      </div>
      <div data-noprint>
        <MarginHeading>Other ways</MarginHeading>
        <Ways aria-label="Other grips for this chord">
          {others.data?.map((way, i) => {
            const same = way.left.concat(way.right).every((n) => notes.some((m) => m.midi === n.midi));
            const now = same && way.left.length + way.right.length === notes.length;
            return (
              <li
                key={way.left
                  .concat(way.right)
                  .map((n) => n.midi)
                  .join()}
              >
                <ToggleButton isSelected={now} onPress={() => take(i)}>
                  <KeyCap>{i + 1}</KeyCap>
                  <span title={withSigns(way.why)}>
                    <i>{withSigns(way.left.map((n) => n.pitch).join(" "))}</i> ·{" "}
                    <em>{withSigns(way.right.map((n) => n.pitch).join(" "))}</em>
                  </span>
                  <small>
                    {Math.round(Math.max(way.reach_left_mm, way.reach_right_mm))} mm, {way.movement} half steps away
                  </small>
                </ToggleButton>
              </li>
            );
          })}
        </Ways>
      </div>
      <Deeds data-noprint>
        <Deed cap="H" onPress={onHear}>
          hear it
        </Deed>
        <a href={`/api/songs/${song.id}/hands/picture.svg?start=${encodeURIComponent(grip.start)}`} download>
          picture of this grip
        </a>
      </Deeds>
      {hands.changing && <span role="status">Saving …</span>}
    </>
  );
}

const say = (keys: number) => (keys > 1 ? `${keys} white keys` : keys === 1 ? "one key" : "rests");

const SHORT: Record<string, string> = {
  root: "root",
  third: "3rd",
  "minor third": "min 3rd",
  fifth: "5th",
  seventh: "7th",
  "major seventh": "maj 7th",
  second: "2nd",
  ninth: "9th",
  sixth: "6th",
  fourth: "4th",
  eleventh: "11th",
  thirteenth: "13th",
};
const short = (note: HeldNote) => SHORT[note.member] ?? (note.member || "not of it");
