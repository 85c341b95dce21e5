import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Button, Paragraphs } from "../../ui";
import type { Hands } from "./useHands";

const Lines = styled.form`
  display: grid;
  gap: 0.35rem;
  p {
    margin: 0;
    color: var(--soft);
  }
`;

interface HandLineProps {
  bar: Schemas["BarCloseOut"];
  hand: Schemas["HandBarOut"];
  hands: Hands;
  times: number[] | null;
}

/** What a hand plays in a bar as counts and notes: read, typed, written down, or given back to Valley. */
export function HandLine({ bar, hand, hands, times }: HandLineProps) {
  const [text, setText] = useState(hand.text);
  const name = hand.hand as "left" | "right";
  const said = name === "left" ? "Left hand" : "Right hand";
  const place = { start: bar.start, hand: name, duration: bar.duration };
  const write = () => {
    if (text !== hand.text || !hand.written)
      hands.change({ kind: "write_passage", ...place, ...(text.trim() ? { text } : { notes: [] }), times });
  };
  return (
    <Lines
      onSubmit={(e) => {
        e.preventDefault();
        write();
      }}
    >
      <p aria-hidden="true">{said}</p>
      <Paragraphs label={said} rows={2} spellCheck={false} value={text} onChange={setText} onEnter={write} />
      <div style={{ display: "flex", gap: "0.6rem", flexWrap: "wrap", alignItems: "baseline" }}>
        <Button type="submit" isDisabled={hands.changing || (text === hand.text && hand.written)}>
          Write it
        </Button>
        {hand.written && (
          <Button $quiet onPress={() => hands.change({ kind: "forget_passage", ...place })}>
            As Valley proposes
          </Button>
        )}
        <p>{hand.written ? hand.holds : "as Valley proposes it"}</p>
      </div>
    </Lines>
  );
}
