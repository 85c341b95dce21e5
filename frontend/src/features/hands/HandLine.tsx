import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Button, Field } from "../../ui";
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
