import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { Button, Field, Line, Tick } from "../../ui";
import { MarginHeading, sayBars, useCorrections, useWorkspace } from "../song";
import { barName, RowField } from "./RowField";

type Bar = Schemas["BarOut"];

/** Where bars from one number to another begin and end, in beats; null where the song has no such bars. */
export function spanOfBars(bars: readonly Bar[], first: number, last: number): { start: string; end: string } | null {
  const a = bars.find((b) => b.number === first);
  const b = bars.find((x) => x.number === last);
  return a && b && last >= first ? { start: `${a.start_beats}`, end: `${b.start_beats + b.beats}` } : null;
}

interface NumberOfProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
}

function NumberOf({ label, value, onChange }: NumberOfProps) {
  return (
    <Line
      label={label}
      hidden
      inputMode="numeric"
      size={2}
      value={value}
      onChange={(text) => onChange(text.replace(/[^\d+-]/g, ""))}
    />
  );
}

/** More than one bar at once, from the bar in hand on: chords typed in a row, or other bars copied here. */
export function SeveralBars({ bar }: { bar: Bar }) {
  const { chart, part, stretch } = useWorkspace();
  const corrections = useCorrections();
  const [first, setFirst] = useState("");
  const [last, setLast] = useState("");
  const [times, setTimes] = useState("1");
  const [higher, setHigher] = useState("0");
  const [tune, setTune] = useState(true);
  const [from, to] = [stretch?.first, stretch?.last];
  useEffect(() => {
    if (from === undefined || to === undefined) return;
    setFirst(`${from}`);
    setLast(`${to}`);
  }, [from, to]);
  const here = barName(bar);
  const start = `${bar.start_beats}`;
  const final = chart.bars[chart.bars.length - 1]?.number ?? 0;
  const span = spanOfBars(chart.bars, Number(first), Number(last || first));
  const copy = () =>
    span &&
    corrections.send({
      kind: "copy_bars",
      ...span,
      to: start,
      times: Number(times) || 1,
      half_steps: Number(higher) || 0,
      tune,
    });
  const moveBy = (half_steps: number) =>
    stretch &&
    corrections.send({
      kind: "copy_bars",
      start: `${stretch.from}`,
      end: `${stretch.to}`,
      to: `${stretch.from}`,
      times: 1,
      half_steps,
      tune,
    });
  return (
    <section>
      <MarginHeading>The bars that are marked</MarginHeading>
      {stretch ? (
        <Field>
          {sayBars(stretch.first, stretch.last)}, chords{tune && " and tune"}:
          <Button $quiet onPress={() => moveBy(1)} aria-label="these bars half a step up">
            half a step up
          </Button>
          <Button $quiet onPress={() => moveBy(-1)} aria-label="these bars half a step down">
            half a step down
          </Button>
        </Field>
      ) : (
        <p>B marks bars from the one in hand, B again up to another; or click with Shift on the ground.</p>
      )}
      <MarginHeading>Several bars, from {here} on</MarginHeading>
      <RowField
        label={`Chords from ${here} on`}
        example="C | Am F | % | G7"
        help={"| between bars, % the bar before again, _\u00a0holds on, G:3 lasts 3\u00a0beats."}
        onWrite={(text, done) => corrections.send({ kind: "write_bars", start, text }, done)}
      />
      <Field>
        copy bars
        <NumberOf label="First bar to copy" value={first} onChange={setFirst} /> to
        <NumberOf label="Last bar to copy" value={last} onChange={setLast} />
        <Button
          $quiet
          onPress={() => {
            setFirst(`${part.start_bar}`);
            setLast(`${part.end_bar}`);
          }}
        >
          part {part.number}
        </Button>
      </Field>
      <Field>
        <NumberOf label="How many times" value={times} onChange={setTimes} /> times,
        <NumberOf label="Half steps higher" value={higher} onChange={setHigher} /> half steps up
      </Field>
      <Field>
        <Tick checked={tune} onChange={setTune}>
          with the tune
        </Tick>
      </Field>
      <Button $quiet isDisabled={!span} onPress={copy}>
        copy them to {here}
      </Button>
      {first && !span && <p role="status">This song has bars 1 to {final}.</p>}
    </section>
  );
}
