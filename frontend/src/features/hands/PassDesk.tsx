import { useState } from "react";
import type { Schemas } from "../../api/client";
import { keyboards } from "../../devices/midi";
import type { PlayedKey } from "../../devices/recorder";
import { Button, Choice, Field, KeyboardPad, Line, named } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";
import type { Hands } from "./useHands";
import { usePass } from "./usePass";

const PRESSED_MS = 260;
type Feel = NonNullable<Schemas["TakePass"]["feel"]>;
type Which = NonNullable<Schemas["TakePass"]["hands"]>;
const FEELS: Record<Feel, string> = {
  auto: "as it lies nearest",
  straight: "straight",
  triplet: "in triplets",
  swing: "swung",
};
const STRENGTHS = [
  { value: 1, words: "on the counts" },
  { value: 0.5, words: "half way to them" },
  { value: 0, words: "as it was played" },
];
const WHICH: Record<Which, string> = { both: "both hands", left: "the left hand", right: "the right hand" };

/** Playing a pass in: both hands on a keyboard while the song runs, then taken bar by bar, for both hands or one. */
export function PassDesk({ hands }: { hands: Hands }) {
  const { part, song } = useWorkspace();
  const pass = usePass();
  const [told, setTold] = useState("");
  return (
    <section>
      <MarginHeading>Play it in</MarginHeading>
      <div style={{ display: "flex", gap: "0.6rem", flexWrap: "wrap", alignItems: "baseline" }}>
        {pass.recording ? (
          <Button onPress={pass.end}>Stop recording</Button>
        ) : (
          <Button onPress={pass.begin}>Record from part {part.number} on</Button>
        )}
        <Button $quiet onPress={() => void keyboards.connect().then(setTold)}>
          use a MIDI keyboard
        </Button>
        {song.recording_id !== null && !pass.recording && (
          <Button
            $quiet
            isDisabled={hands.changing}
            onPress={() =>
              hands.change({
                kind: "take_pass",
                start: `${part.start_beats}`,
                duration: `${part.end_beats - part.start_beats}`,
                heard: true,
              })
            }
          >
            take part {part.number} as a piano plays it in the recording
          </Button>
        )}
      </div>
      <p role="status" style={{ margin: 0 }}>
        {pass.recording ? `Playing along: ${pass.struck} key${pass.struck === 1 ? "" : "s"} so far.` : told}
      </p>
      {pass.recording && (
        <KeyboardPad
          low={36}
          high={84}
          pressed={new Set()}
          onToggle={(key) => {
            keyboards.press(key);
            setTimeout(() => keyboards.release(key), PRESSED_MS);
          }}
          width={252}
          height={56}
          label="A keyboard to play on"
        />
      )}
      {pass.passes.length > 0 && <TakenPass passes={pass.passes} hands={hands} onDone={pass.forget} />}
      {!pass.recording && pass.passes.length === 0 && (
        <p style={{ color: "var(--soft)", fontSize: "0.9rem" }}>
          The song runs as the bar below says: speed, repeat and count-in. What you play is shared between your hands
          and set on the counts; nothing changes until you take it.
        </p>
      )}
    </section>
  );
}

interface TakenPassProps {
  passes: PlayedKey[][];
  hands: Hands;
  onDone: () => void;
}

/** What was played: which bars of it, which hand, how strictly on the counts. */
function TakenPass({ passes, hands, onDone }: TakenPassProps) {
  const { chart } = useWorkspace();
  const [which, setWhich] = useState<Which>("both");
  const [feel, setFeel] = useState<Feel>("auto");
  const [strength, setStrength] = useState(1);
  const [round, setRound] = useState(passes.length - 1);
  const keys = passes[round] ?? [];
  const bars = barsOf(chart, keys);
  const [from, setFrom] = useState(bars.from);
  const [to, setTo] = useState(bars.to);
  const [a, b] = [startOfBar(chart, from), startOfBar(chart, to + 1)];
  const taken = keys.filter((k) => k.at >= a - 0.3 && k.at < b);
  const take = () => {
    hands.change({
      kind: "take_pass",
      start: `${a}`,
      duration: `${b - a}`,
      keys: taken.map((k) => ({ at: k.at.toFixed(3), lasting: k.lasting.toFixed(3), midi: k.midi, velocity: 64 })),
      hands: which,
      feel,
      strength,
    });
    onDone();
  };
  return (
    <div style={{ display: "grid", gap: "0.4rem", marginTop: "0.4rem" }}>
      <p role="status" style={{ margin: 0 }}>
        {keys.length} key{keys.length === 1 ? "" : "s"} in bars {bars.from} to {bars.to}
        {passes.length > 1 && `, ${passes.length} rounds played`}.
      </p>
      {passes.length > 1 && (
        <Field>
          <Choice
            label="round"
            value={round}
            options={passes.map((p, value) => ({ value, words: `${value + 1}: ${p.length} keys` }))}
            onChange={setRound}
          />
        </Field>
      )}
      <Field>
        <Line
          type="number"
          label="from bar"
          min={1}
          max={to}
          value={`${from}`}
          onChange={(bar) => setFrom(Number(bar))}
        />
        <Line
          type="number"
          label="to bar"
          min={from}
          max={chart.bars.at(-1)?.number}
          value={`${to}`}
          onChange={(bar) => setTo(Number(bar))}
        />
      </Field>
      <Field>
        <Choice label="take" value={which} options={named(WHICH)} onChange={setWhich} />
      </Field>
      <Field>
        <Choice label="time" value={feel} options={named(FEELS)} onChange={setFeel} />
      </Field>
      <Field>
        <Choice label="set" value={strength} options={STRENGTHS} onChange={setStrength} />
      </Field>
      <div style={{ display: "flex", gap: "0.6rem" }}>
        <Button onPress={take} isDisabled={hands.changing || taken.length === 0}>
          Take it
        </Button>
        <Button $quiet onPress={onDone}>
          throw it away
        </Button>
      </div>
    </div>
  );
}

type Chart = Schemas["ChartOut"];

/** First beat of a bar, or the end of the song. */
const startOfBar = (chart: Chart, bar: number) =>
  chart.bars.find((b) => b.number === bar)?.start_beats ?? chart.beats.length;

/** The bars in which keys were struck; one that is struck just before a bar line belongs to the bar after it. */
function barsOf(chart: Chart, keys: readonly PlayedKey[]) {
  const early = 0.2;
  const barAt = (beat: number) => chart.bars.findLast((b) => b.start_beats <= beat + early)?.number ?? 1;
  const ats = keys.map((k) => k.at);
  return { from: Math.max(1, barAt(Math.min(...ats))), to: Math.max(1, barAt(Math.max(...ats))) };
}
