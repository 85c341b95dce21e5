import { type KeyboardEvent, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Dialog, Modal } from "react-aria-components";
import type { Schemas } from "../../api/client";
import { useArrangement } from "../../api/hands";
import { useWriteLog } from "../../api/lessons";
import { keyboards } from "../../devices/midi";
import { bound, nameKey, withSigns } from "../../ui";
import { useWorkspace } from "../song";
import { GripShown } from "./GripShown";
import { hearStep } from "./hearStep";
import { Stage, Whole, Words } from "./Prompter.styles";
import { PrompterFoot } from "./PrompterFoot";
import { useRehearsal } from "./useRehearsal";
import { useStage } from "./useStage";
import { type Took, useStageClock } from "./useStageClock";

interface PrompterProps {
  steps: readonly Schemas["StepOut"][];
  from: number;
  tempi: readonly number[];
  onClose: (took: Took[]) => void;
}

/** The lesson at arm's length: one step at a time, the grip in hand as a picture; forward by key, page-turner or pedal. Rehearsing, the keyboard is listened to. */
export function Prompter({ steps, from, onClose }: PrompterProps) {
  const { song, chart, player } = useWorkspace();
  const arrangement = useArrangement(song.id);
  const write = useWriteLog(song.id);
  const [index, setIndex] = useState(from);
  const [at, setAt] = useState(0);
  const [rehearsing, setRehearsing] = useState(false);
  const [timing, setTiming] = useState(false);
  const stage = useRef<HTMLDivElement>(null);
  const step = steps[index];
  const clock = useStageClock(step?.key, timing);
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
  const last = index === steps.length - 1 && at >= grips.length - 1;
  const { look, change, running, setRunning } = useStage(step, grips.length, last, turn);
  const hear = () => step && hearStep(player, chart, step, grip);
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
    onClose(clock.took());
  };
  const deeds = bound("prompter", {
    close,
    next: () => turn(1),
    back: () => turn(-1),
    stepAfter: () => jump(1),
    stepBefore: () => jump(-1),
    rehearse: () => setRehearsing(!rehearsing),
    time: () => setTiming(!timing),
    hear,
    run: () => setRunning(!running),
    faster: () => change({ pace: look.pace * 1.15 }),
    slower: () => change({ pace: look.pace / 1.15 }),
    larger: () => change({ size: look.size + 0.15 }),
    smaller: () => change({ size: look.size - 0.15 }),
    mirror: () => change({ mirrored: !look.mirrored }),
  });
  // On stage the page's own keys are silent: what is not ours goes no further.
  const onKeyDown = (event: KeyboardEvent) => {
    event.stopPropagation();
    const deed = deeds[nameKey(event.nativeEvent)];
    const onPad = event.target instanceof HTMLElement && event.target.closest("[role=listbox]");
    if (!deed || (onPad && event.key !== "Escape")) return;
    if (event.key === " " && event.target instanceof HTMLButtonElement) return;
    event.preventDefault();
    deed(event.nativeEvent);
  };

  // The stage takes the focus, and gives it back to where it came from.
  useEffect(() => {
    const before = document.activeElement;
    stage.current?.focus();
    return () => {
      player.pause();
      if (before instanceof HTMLElement) before.focus();
    };
  }, [player]);
  useEffect(() => keyboards.onPedal(() => turn(1)), [turn]);
  if (!step) return null;
  return (
    <Whole isOpen isKeyboardDismissDisabled>
      <Modal>
        <Dialog aria-label={`Prompter, step ${index + 1} of ${steps.length}`}>
          <Stage ref={stage} tabIndex={-1} onKeyDown={onKeyDown} $size={look.size} data-mirrored={look.mirrored}>
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
              <div className="grips">
                <GripShown grip={grip} />
                {grips[at + 1] && <GripShown grip={grips[at + 1]} next />}
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
              onHear={hear}
              timing={timing}
              seconds={clock.seconds}
              onTime={() => setTiming(!timing)}
              running={running}
              onRun={() => setRunning(!running)}
              look={look}
              onLook={change}
              onClose={close}
            />
          </Stage>
        </Dialog>
      </Modal>
    </Whole>
  );
}
