import { useState } from "react";
import { useCloseBar } from "../../api/hands";
import { Button, Choice, ErrorNotice, Field, Tick } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";
import { CloseBar } from "./CloseBar";
import { HandLine } from "./HandLine";
import type { Hands } from "./useHands";

const STEPS = [
  { value: 1, words: "beats" },
  { value: 2, words: "halves" },
  { value: 3, words: "thirds" },
  { value: 4, words: "quarters" },
  { value: 6, words: "sixths" },
];

/** A bar of the valley seen close: where each key falls, and each hand's notes as a line that can be typed. */
export function BarDesk({ hands }: { hands: Hands }) {
  const { grip } = hands;
  if (!grip) return <p>This part has no chords; choose another part to see a bar of it close.</p>;
  return <OpenBar key={grip.start} hands={hands} from={grip.start} />;
}

function OpenBar({ hands, from }: { hands: Hands; from: string }) {
  const { song, chart } = useWorkspace();
  const [at, setAt] = useState(from);
  const [steps, setSteps] = useState<number | null>(null);
  const [everywhere, setEverywhere] = useState<boolean | null>(null);
  const close = useCloseBar(song.id, at, chart.revision);
  const bar = close.data;
  if (close.error) return <ErrorNotice error={close.error} />;
  if (!bar) return <p role="status">Opening the bar …</p>;
  const division = steps ?? (bar.thirds ? 3 : 2);
  const everyTime = everywhere ?? bar.hands.some((h) => h.holds.endsWith("every time"));
  const times = everyTime ? null : [];
  return (
    <>
      <div style={{ display: "flex", gap: "0.8rem", alignItems: "baseline", flexWrap: "wrap" }}>
        <MarginHeading as="p">{bar.bar ? `Bar ${bar.bar}, seen close` : "The pickup, seen close"}</MarginHeading>
        <Button $quiet isDisabled={bar.before === null} onPress={() => bar.before !== null && setAt(bar.before)}>
          before
        </Button>
        <Button $quiet isDisabled={bar.after === null} onPress={() => bar.after !== null && setAt(bar.after)}>
          after
        </Button>
      </div>
      <CloseBar
        bar={bar}
        division={division}
        onChange={(change) => hands.change({ kind: "change_played", ...change, times })}
      />
      <div style={{ display: "flex", gap: "0.8rem", alignItems: "center", flexWrap: "wrap" }}>
        <Field>
          <Choice label="in steps of" value={division} options={STEPS} onChange={setSteps} />
        </Field>
        {bar.repeated && (
          <Tick checked={everyTime} onChange={setEverywhere}>
            every time
          </Tick>
        )}
      </div>
      {bar.hands.map((hand) => (
        <HandLine key={`${bar.start} ${hand.hand} ${hand.text}`} bar={bar} hand={hand} hands={hands} times={times} />
      ))}
      <details>
        <summary>How to change notes</summary>
        <p style={{ color: "var(--soft)" }}>
          Press an empty place to put a note, pull a note to move it. Comma and full stop go from note to note; arrows
          move the chosen one (Shift: by an octave), + and − its length, 1 to 5 its finger, H to the other hand, S a
          star, N another after it, Delete takes it out.
        </p>
        <p style={{ color: "var(--soft)" }}>
          A line is counts and notes: 1 C3 G3 2&amp; E4. A note lasts to the next count. C3:5 is the fifth finger, E4*
          may be left out, 4 - is a rest, (B3) a grace, C3=2 two beats, C3~ rings on; / begins a second line.
        </p>
      </details>
    </>
  );
}
