import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { createPortal } from "react-dom";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useArrangement } from "../../api/hands";
import { useWriteLog } from "../../api/lessons";
import { keyboards } from "../../devices/midi";
import { Button, framing, KeyboardPad, KeyboardPicture, KeyCap, withSigns } from "../../ui";
import { useWorkspace } from "../song";
import { judge, type Slips } from "./rehearsal";

const Stage = styled.div`
  position: fixed; inset: 0; z-index: 20; background: var(--ground); display: grid; grid-template-rows: auto 1fr auto auto; padding: 1.6rem 3.5rem 1.2rem; gap: 0.8rem;
  h1 { font-size: 2.3rem; color: var(--soft); font-weight: 400; }
  .words { overflow: auto; font: 400 2.05rem/1.4 "Alegreya", "Signs", serif; max-width: 62rem; display: grid; align-content: start; gap: 0.7rem; scrollbar-width: thin; }
  .words[data-following="true"] p { opacity: 0.45; } .words[data-following="true"] p[data-now="true"], .words[data-following="true"] p[data-always="true"] { opacity: 1; }
  .grip { display: flex; gap: 2rem; align-items: center; } .grip b { font: 700 3.4rem/1 "Alegreya", "Signs", serif; min-width: 11rem; } .grip small { font-size: 1.25rem; color: var(--soft); display: block; font-weight: 400; }
  .foot { display: flex; gap: 1rem; align-items: center; color: var(--soft); flex-wrap: wrap; } .told { font-size: 1.3rem; color: var(--ink); }
`;

/** Long steps are scrolled by keys. */
const Words = styled.section.attrs({ tabIndex: 0 })``;

interface PrompterProps {
  steps: readonly Schemas["StepOut"][];
  from: number;
  tempi: readonly number[];
  onClose: () => void;
}

/** The lesson at arm's length: one step at a time, the grip in hand as a picture; forward by key, page-turner or pedal. Rehearsing, the keyboard is listened to. */
export function Prompter({ steps, from, onClose }: PrompterProps) {
  const { song } = useWorkspace();
  const arrangement = useArrangement(song.id);
  const write = useWriteLog(song.id);
  const [index, setIndex] = useState(from);
  const [at, setAt] = useState(0);
  const [rehearsing, setRehearsing] = useState(false);
  const [told, setTold] = useState("");
  const slips = useRef<Slips>(new Map());
  const stage = useRef<HTMLDivElement>(null);
  const step = steps[index];
  const grips = useMemo(() => {
    const part = arrangement.data?.parts.find((p) => p.part === step?.part);
    const inside = part?.grips.filter(
      (g) => step?.start_beats != null && g.start_beats >= step.start_beats && g.start_beats < (step.end_beats ?? 0),
    );
    return inside ?? [];
  }, [arrangement.data, step]);
  const grip = grips[at];
  const wanted = useMemo(() => {
    if (!grip || !step) return [];
    const hands =
      step.hands === "left" ? grip.left : step.hands === "right" ? grip.right : [...grip.left, ...grip.right];
    return hands.filter((n) => !n.optional).map((n) => n.midi);
  }, [grip, step]);

  const turn = useCallback(
    (by: number) => {
      setTold("");
      if (by > 0 && at + 1 < grips.length) return setAt(at + 1);
      if (by < 0 && at > 0) return setAt(at - 1);
      const to = Math.min(steps.length - 1, Math.max(0, index + by));
      if (to !== index) {
        setIndex(to);
        setAt(0);
      }
    },
    [at, grips.length, index, steps.length],
  );
  const jump = (by: number) => {
    setIndex(Math.min(steps.length - 1, Math.max(0, index + by)));
    setAt(0);
    setTold("");
  };
  const close = () => {
    if (slips.current.size)
      write.mutate(
        [...slips.current].map(([bar, count]) => ({
          kind: "slip" as const,
          text: `${count} slip${count > 1 ? "s" : ""} in bar ${bar} while rehearsing`,
          bar,
          count,
        })),
      );
    onClose();
  };

  useEffect(() => stage.current?.focus(), []);
  useEffect(() => keyboards.onPedal(() => turn(1)), [turn]);
  useEffect(() => {
    if (!rehearsing || !grip) return;
    const struck = new Set<number>();
    return keyboards.listen((held) => {
      if (held.size === 0) {
        struck.clear();
        return;
      }
      for (const key of held) struck.add(key);
      const answer = judge(struck, wanted);
      if (answer.wrong.length) {
        slips.current.set(grip.bar, (slips.current.get(grip.bar) ?? 0) + 1);
        setTold(
          `Not ${answer.wrong.map(nameKeyOf).join(", ")}; ${answer.missing.length} of ${wanted.length} still to come.`,
        );
        struck.clear();
      } else if (answer.missing.length === 0) {
        setTold("Right.");
        turn(1);
      } else setTold(`${answer.missing.length} more.`);
    });
  }, [rehearsing, grip, wanted, turn]);

  if (!step) return null;
  const lit = grip
    ? [
        ...grip.left.map((n) => ({ midi: n.midi, hand: "left" as const, optional: n.optional })),
        ...grip.right.map((n) => ({ midi: n.midi, hand: "right" as const, optional: n.optional })),
      ]
    : [];
  const frame = framing(lit.map((n) => n.midi));
  return createPortal(
    <Stage
      ref={stage}
      role="dialog"
      aria-modal="true"
      aria-label={`Prompter, step ${index + 1} of ${steps.length}`}
      tabIndex={-1}
      onKeyDown={(e) => {
        const deeds: Record<string, () => void> = {
          escape: close,
          " ": () => turn(1),
          arrowright: () => turn(1),
          pagedown: () => turn(1),
          arrowleft: () => turn(-1),
          pageup: () => turn(-1),
          arrowdown: () => jump(1),
          arrowup: () => jump(-1),
          r: () => setRehearsing(!rehearsing),
        };
        const deed = deeds[e.key.toLowerCase()];
        const onPad = e.target instanceof HTMLElement && e.target.closest("[role=listbox]");
        if (!deed || (onPad && e.key !== "Escape")) return;
        if (e.key === " " && e.target instanceof HTMLButtonElement) return;
        e.preventDefault();
        e.stopPropagation();
        deed();
      }}
    >
      <h1>
        {index + 1}. {withSigns(step.title)}
      </h1>
      <Words
        className="words"
        data-following={grip !== undefined && step.lines.some((l) => l.item && l.beat !== null)}
        aria-label="What to say"
      >
        {step.lines.map((line, i) => {
          const now = grip !== undefined && line.item && line.beat === grip.start_beats;
          return (
            <p
              key={i}
              data-now={now}
              data-always={!line.item}
              ref={(p) => {
                if (now) p?.scrollIntoView?.({ block: "nearest" });
              }}
            >
              {withSigns(line.text)}
            </p>
          );
        })}
      </Words>
      {grip ? (
        <div className="grip">
          <b>
            {withSigns(grip.symbol)}
            <small>
              bar {grip.bar}, on {grip.count}
            </small>
          </b>
          <KeyboardPicture
            low={frame.low}
            high={frame.high - 1}
            width={720}
            height={150}
            lit={lit}
            label={`Keys of ${withSigns(grip.symbol)}`}
          />
        </div>
      ) : (
        <span />
      )}
      <div className="foot">
        <Button onPress={() => turn(1)}>
          <KeyCap>Space</KeyCap> next
        </Button>
        <Button $quiet onPress={() => turn(-1)}>
          <KeyCap>←</KeyCap> back
        </Button>
        <Button $quiet onPress={() => setRehearsing(!rehearsing)} aria-pressed={rehearsing}>
          <KeyCap>R</KeyCap> {rehearsing ? "stop listening" : "rehearse"}
        </Button>
        <Button $quiet onPress={close}>
          <KeyCap>Esc</KeyCap> close
        </Button>
        <span>pedal or page-turner: next</span>
        <span className="told" role="status">
          {told}
        </span>
        {rehearsing && (
          <>
            <Button $quiet onPress={() => void keyboards.connect().then(setTold)}>
              use a MIDI keyboard
            </Button>
            <KeyboardPad
              low={36}
              high={95}
              pressed={new Set()}
              onToggle={(key) => {
                keyboards.press(key);
              }}
              width={620}
              height={54}
              label="A keyboard to rehearse on"
            />
            <Button
              $quiet
              onPress={() => {
                for (let key = 21; key < 109; key++) keyboards.release(key);
              }}
            >
              let go
            </Button>
          </>
        )}
      </div>
    </Stage>,
    document.body,
  );
}

const NAMES = ["C", "C♯", "D", "E♭", "E", "F", "F♯", "G", "A♭", "A", "B♭", "B"];
const nameKeyOf = (midi: number) => `${NAMES[midi % 12]}${Math.floor(midi / 12) - 1}`;
