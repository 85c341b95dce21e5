import { useEffect, useRef, useState } from "react";
import { ToggleButton } from "react-aria-components";
import styled from "styled-components";
import { useChoices, usePatternCheck } from "../../api/hands";
import { Button, Choice, Deeds, Field, Line, Tick, withSigns } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";
import { PatternPicture } from "./PatternPicture";
import type { Hands } from "./useHands";

const Rows = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.1rem;
  button {
    all: unset;
    cursor: pointer;
    display: grid;
    grid-template-columns: 1fr 6.2rem;
    align-items: center;
    gap: 0.4rem;
    padding: 0.15rem 0.3rem;
    border-radius: 4px;
    width: 100%;
    box-sizing: border-box;
    line-height: 1.2;
  }
  button:hover, button[aria-pressed="true"] {
    background: var(--raised);
  }
  button[aria-pressed="true"] {
    font-weight: 700;
  }
  button:focus-visible {
    outline: 3px solid var(--river);
  }
`;
const Editor = styled.form`
  display: grid;
  gap: 0.35rem;
  .react-aria-TextField {
    display: grid;
    gap: 0;
  }
  p {
    margin: 0;
  }
`;

/** Which accompaniment the part, or one chord, is played in; and the creator's own. */
export function PatternDesk({ hands }: { hands: Hands }) {
  const { chart, part } = useWorkspace();
  const choices = useChoices();
  const { arrangement, arranged, grip, change } = hands;
  const [scope, setScope] = useState<"song" | "part" | "chord">("part");
  const [writing, setWriting] = useState(false);
  if (!choices.data || !arrangement || !arranged) return null;
  const meter = chart.bars.find((b) => b.number === part.start_bar)?.meter ?? chart.meter;
  const patterns = [...arrangement.settings.own_patterns, ...choices.data.patterns].filter((p) =>
    p.forms.some((f) => f.meter === meter),
  );
  const now =
    scope === "chord"
      ? grip?.pattern || arranged.pattern
      : scope === "part"
        ? arranged.pattern
        : arrangement.settings.pattern;
  const choose = (name: string) => {
    if (scope === "chord") {
      if (grip)
        change({ kind: "set_chord_pattern", start: grip.start, pattern: name === arranged.pattern ? "" : name });
    } else change({ kind: "set_hands", pattern: name, ...(scope === "part" && { part: part.number }) });
  };
  return (
    <>
      <div>
        <MarginHeading as="p">Pattern in {meter}</MarginHeading>
        <h2>How it moves</h2>
      </div>
      <Field>
        <Choice
          label="for"
          value={scope}
          options={[
            { value: "song", words: "the whole song" },
            { value: "part", words: `part ${part.number}` },
            ...(grip ? [{ value: "chord", words: `only ${withSigns(grip.symbol)} in bar ${grip.bar}` } as const] : []),
          ]}
          onChange={setScope}
        />
      </Field>
      <Rows aria-label="Patterns">
        {patterns.map((p) => {
          const form = p.forms.find((f) => f.meter === meter);
          return (
            <li key={p.name}>
              <ToggleButton isSelected={p.name === now} onPress={() => choose(p.name)}>
                <span title={p.summary}>{p.title}</span>
                {form && <PatternPicture left={form.left} right={form.right} />}
              </ToggleButton>
            </li>
          );
        })}
      </Rows>
      {arranged.notices.map((n) => (
        <p key={n} role="note" style={{ color: "var(--doubt)" }}>
          {withSigns(n)}
        </p>
      ))}
      {writing ? (
        <OwnPattern meter={meter} hands={hands} onDone={() => setWriting(false)} />
      ) : (
        <Deeds data-noprint>
          <Button $quiet onPress={() => setWriting(true)}>
            write a pattern of your own
          </Button>
          {arrangement.settings.own_patterns.map((p) => (
            <Button key={p.name} $quiet onPress={() => change({ kind: "write_pattern", name: p.name, meter })}>
              take away {p.title}
            </Button>
          ))}
        </Deeds>
      )}
    </>
  );
}

/** The creator's own pattern: strokes as text, counted and checked while typing. */
function OwnPattern({ meter, hands, onDone }: { meter: string; hands: Hands; onDone: () => void }) {
  const [name, setName] = useState("");
  const [left, setLeft] = useState("low@1 upper@1");
  const [right, setRight] = useState("");
  const [runsOn, setRunsOn] = useState(false);
  const check = usePatternCheck({ meter, left, right });
  const first = useRef<HTMLInputElement>(null);
  useEffect(() => {
    first.current?.focus();
    first.current?.form?.scrollIntoView?.({ block: "nearest" });
  }, []);
  return (
    <Editor
      aria-label="A pattern of your own"
      onSubmit={(e) => {
        e.preventDefault();
        hands.change({ kind: "write_pattern", name, title: name, meter, left, right, runs_on: runsOn });
        onDone();
      }}
    >
      <Line inputRef={first} label="name" value={name} onChange={setName} maxLength={40} required />
      <Line label="left hand" value={left} onChange={setLeft} spellCheck={false} />
      <Line label="right hand" value={right} onChange={setRight} spellCheck={false} placeholder="holds" />
      <Tick checked={runsOn} onChange={setRunsOn}>
        goes on through the bar where the chord changes, instead of beginning anew
      </Tick>
      <p role="status" style={{ color: check.data && !check.data.ok ? "var(--doubt)" : undefined }}>
        {check.data?.message}
      </p>
      <PatternPicture left={left} right={right} wide />
      <p>
        {check.data?.strokes
          .map((s) => s.count)
          .filter((c, i, all) => all.indexOf(c) === i)
          .join("  ·  ")}
      </p>
      <p style={{ color: "var(--soft)", fontSize: "0.95rem" }}>
        Keys @ beats: <i>low, 2, 3, top, upper, all</i> of the grip, <i>bass, +5, +8, +10</i> above the bass, <i>-</i>{" "}
        rests; <i>&</i> joins keys, <i>~</i> rings on, <i>&gt;</i> accents.
      </p>
      <Deeds>
        <Button type="submit" isDisabled={!check.data?.ok || !name.trim()}>
          Keep it
        </Button>
        <Button $quiet onPress={onDone}>
          leave
        </Button>
      </Deeds>
    </Editor>
  );
}
