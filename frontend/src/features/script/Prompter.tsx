import { type KeyboardEvent, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Dialog, Modal } from "react-aria-components";
import type { Schemas } from "../../api/client";
import { useArrangement } from "../../api/hands";
import { useWriteLog } from "../../api/lessons";
import { keyboards } from "../../devices/midi";
import { framing, KeyboardPicture, withSigns } from "../../ui";
import { useWorkspace } from "../song";
import { Stage, Whole, Words } from "./Prompter.styles";
import { PrompterFoot } from "./PrompterFoot";
import { useRehearsal } from "./useRehearsal";

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
  };
  const { told, setTold, slips } = useRehearsal(rehearsing, grip?.bar, wanted, turn);
  const close = () => {
    const lines = [...slips.current].map(([bar, count]) => ({
      kind: "slip" as const,
      text: `${count} slip${count > 1 ? "s" : ""} in bar ${bar} while rehearsing`,
      bar,
      count,
    }));
    if (lines.length) write.mutate(lines);
    onClose();
  };
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
  const onKeyDown = (event: KeyboardEvent) => {
    const deed = deeds[event.key.toLowerCase()];
    const onPad = event.target instanceof HTMLElement && event.target.closest("[role=listbox]");
    if (!deed || (onPad && event.key !== "Escape")) return;
    if (event.key === " " && event.target instanceof HTMLButtonElement) return;
    event.preventDefault();
    event.stopPropagation();
    deed();
  };

  useEffect(() => stage.current?.focus(), []);
  useEffect(() => keyboards.onPedal(() => turn(1)), [turn]);
  if (!step) return null;
  const lit = grip
    ? [
        ...grip.left.map((n) => ({ midi: n.midi, hand: "left" as const, optional: n.optional })),
        ...grip.right.map((n) => ({ midi: n.midi, hand: "right" as const, optional: n.optional })),
      ]
    : [];
  const frame = framing(lit.map((n) => n.midi));
  return (
    <Whole isOpen isKeyboardDismissDisabled>
      <Modal>
        <Dialog aria-label={`Prompter, step ${index + 1} of ${steps.length}`}>
          <Stage ref={stage} tabIndex={-1} onKeyDown={onKeyDown}>
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
            <PrompterFoot
              rehearsing={rehearsing}
              told={told}
              onTold={setTold}
              onTurn={turn}
              onRehearse={() => setRehearsing(!rehearsing)}
              onClose={close}
            />
          </Stage>
        </Dialog>
      </Modal>
    </Whole>
  );
}
