import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useCloseBar } from "../../api/hands";
import { Button, Field } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";
import { CloseBar } from "./CloseBar";
import type { Hands } from "./useHands";

const Lines = styled.form`
  display: grid;
  gap: 0.35rem;
  textarea {
    font: inherit;
    width: 100%;
    box-sizing: border-box;
    color: var(--ink);
    background: var(--raised);
    border: 1.3px solid var(--soft);
    border-radius: 4px;
    padding: 0.25rem 0.4rem;
    resize: vertical;
  }
  p {
    margin: 0;
    color: var(--soft);
  }
`;

type HandBar = Schemas["HandBarOut"];

/** A bar of the valley seen close: where each key falls, and each hand's notes as a line that can be typed. */
export function BarDesk({ hands }: { hands: Hands }) {
  const { song, chart } = useWorkspace();
  const { grip } = hands;
  const close = useCloseBar(song.id, grip?.start, chart.revision);
  const bar = close.data;
  if (!grip) return <p>This part has no chords; choose another part to see a bar of it close.</p>;
  if (!bar) return <p role="status">Opening the bar …</p>;
  return (
    <>
      <MarginHeading as="p">{bar.bar ? `Bar ${bar.bar}, seen close` : "The pickup, seen close"}</MarginHeading>
      <CloseBar bar={bar} />
      {bar.hands.map((hand) => (
        <HandLine key={`${bar.start} ${hand.hand} ${hand.text}`} bar={bar} hand={hand} hands={hands} />
      ))}
      <p style={{ color: "var(--soft)" }}>
        Counts and notes: 1 C3 G3 2&amp; E4. A note lasts to the next count. C3:5 is the fifth finger, E4* may be left
        out, 4 - is a rest, (B3) a grace, C3=2 two beats, C3~ rings on; / begins a second line.
      </p>
    </>
  );
}

function HandLine({ bar, hand, hands }: { bar: Schemas["BarCloseOut"]; hand: HandBar; hands: Hands }) {
  const [text, setText] = useState(hand.text);
  const [everyTime, setEveryTime] = useState(hand.holds.endsWith("every time"));
  const name = hand.hand as "left" | "right";
  const place = { start: bar.start, hand: name, duration: bar.duration };
  const write = () =>
    hands.change(
      text.trim()
        ? { kind: "write_passage", ...place, text, times: everyTime ? null : [] }
        : { kind: "write_passage", ...place, notes: [], times: everyTime ? null : [] },
    );
  return (
    <Lines
      onSubmit={(e) => {
        e.preventDefault();
        write();
      }}
    >
      <Field>
        {name === "left" ? "Left hand" : "Right hand"}
        <textarea
          rows={2}
          spellCheck={false}
          value={text}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => {
            if (e.key !== "Enter" || e.shiftKey) return;
            e.preventDefault();
            write();
          }}
        />
      </Field>
      <p>{hand.written ? hand.holds : "as Valley proposes it"}</p>
      {bar.repeated && (
        <label>
          <input type="checkbox" checked={everyTime} onChange={(e) => setEveryTime(e.target.checked)} /> in every repeat
        </label>
      )}
      <div style={{ display: "flex", gap: "0.6rem", flexWrap: "wrap" }}>
        <Button type="submit" isDisabled={hands.changing}>
          Write it
        </Button>
        {hand.written && (
          <Button $quiet onPress={() => hands.change({ kind: "forget_passage", ...place })}>
            As Valley proposes
          </Button>
        )}
      </div>
    </Lines>
  );
}
