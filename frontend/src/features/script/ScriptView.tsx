import { useEffect, useRef, useState } from "react";
import { ToggleButton } from "react-aria-components";
import { useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { useSongEdits } from "../../api/edits";
import { useArrangement } from "../../api/hands";
import { useLesson } from "../../api/lessons";
import { Button, bound, ErrorNotice, KeyCap, sayMinutes, useShortcuts, withSigns } from "../../ui";
import { handNotes, Page, useWorkspace } from "../song";
import { hearStep } from "./hearStep";
import { Prompter } from "./Prompter";
import { RehearsedTimes } from "./RehearsedTimes";
import { ScriptMargin } from "./ScriptMargin";
import { Cut, Head, Steps } from "./ScriptView.styles";
import { StepEditor } from "./StepEditor";
import { useSoundingStep } from "./useSoundingStep";
import type { Took } from "./useStageClock";

/** The lesson as steps to say and show, what was found in them in the margin, and the prompter. */
export function ScriptView() {
  const { song, chart, player } = useWorkspace();
  const lesson = useLesson(song.id);
  const arrangement = useArrangement(song.id).data; // at hand before the prompter opens, and for hearing a step
  const edits = useSongEdits(song.id, "lesson");
  const [key, setKey] = useState(useSearchParams()[0].get("step") ?? "");
  const [editing, setEditing] = useState(false);
  const [prompting, setPrompting] = useState(false);
  const [took, setTook] = useState<readonly Took[]>([]);
  const list = useRef<HTMLOListElement>(null);
  const steps = lesson.data?.steps ?? [];
  const index = Math.max(
    0,
    steps.findIndex((s) => s.key === key),
  );
  const step = steps[index];
  const sounding = useSoundingStep(list, steps, index);
  const choose = (to: number) => {
    const next = steps[to];
    if (!next) return;
    setKey(next.key);
    setEditing(false);
    list.current?.querySelector(`[data-step="${to}"]`)?.scrollIntoView?.({ block: "nearest" });
  };
  const move = (by: -1 | 1) => {
    const to = index + by;
    if (!step || to < 0 || to >= steps.length) return;
    const after = by > 0 ? steps[to]?.key : (steps[to - 1]?.key ?? "");
    edits.edit.mutate({ edit: { kind: "write_step", key: step.key, after } });
  };
  const add = () =>
    edits.edit.mutate({
      edit: {
        kind: "write_step",
        key: `own-${Date.now().toString(36)}`,
        title: "A step of your own",
        lines: ["What you want to say here."],
        added: true,
        after: step?.key ?? "",
      },
    });
  const leaveStage = (times: Took[]) => {
    setPrompting(false);
    if (times.length) setTook(times);
  };
  useEffect(() => player.setHands("both"), [player]);
  useEffect(() => {
    if (arrangement) player.setNotes(handNotes(arrangement));
  }, [player, arrangement]);
  useShortcuts(
    bound("script", {
      after: () => choose(index + 1),
      before: () => choose(index - 1),
      moveDown: () => move(1),
      moveUp: () => move(-1),
      write: () => setEditing(true),
      leaveOut: () => step && edits.edit.mutate({ edit: { kind: "write_step", key: step.key, left_out: true } }),
      add,
      back: () => step?.edited && edits.edit.mutate({ edit: { kind: "forget_step", key: step.key } }),
      prompter: () => setPrompting(true),
      hear: () => step && hearStep(player, chart, step),
    }),
  );

  if (lesson.error) return <ErrorNotice error={lesson.error} />;
  // A lesson of an earlier version is not shown while the present one is written: its steps may be others.
  const old = lesson.data && lesson.data.revision !== chart.revision && lesson.isFetching;
  if (!lesson.data || old) return <p aria-busy="true">Writing the lesson …</p>;
  const found = (s: Schemas["StepOut"]) => lesson.data.findings.filter((f) => f.step === s.key);
  const opens = new Map(lesson.data.lessons.map((l) => [l.steps[0], l.index]));
  return (
    <>
      <Page>
        <div>
          <Head data-noprint data-stop="script">
            <span>
              {steps.length} steps, about {sayMinutes(lesson.data.seconds)}
              {lesson.data.lessons.length > 1 && ` in ${lesson.data.lessons.length} lessons`}
            </span>
            <Button onPress={() => setPrompting(true)}>
              <KeyCap>F</KeyCap> prompter
            </Button>
            <Button $quiet onPress={() => step && hearStep(player, chart, step)}>
              <KeyCap>H</KeyCap> hear the step
            </Button>
            <Button $quiet onPress={add}>
              <KeyCap>A</KeyCap> add a step
            </Button>
            {edits.edit.error && <ErrorNotice error={edits.edit.error} />}
          </Head>
          {took.length > 0 && <RehearsedTimes took={took} steps={steps} edits={edits} onDone={() => setTook([])} />}
          <Steps ref={list} aria-label="Steps of the lesson">
            {steps.flatMap((s, i) => [
              lesson.data.lessons.length > 1 && opens.has(s.key) && (
                <Cut key={`cut-${s.key}`}>lesson {opens.get(s.key)}</Cut>
              ),
              // biome-ignore lint/a11y/useKeyWithClickEvents: the title is the button; the rest only makes it easier to hit
              <li
                key={s.key}
                data-step={i}
                data-chosen={i === index}
                data-sounding={i === sounding}
                onClick={() => i !== index && choose(i)}
              >
                <b aria-hidden="true">{i + 1}</b>
                <h2>
                  <ToggleButton isSelected={i === index} onPress={() => choose(i)}>
                    {withSigns(s.title)}
                  </ToggleButton>
                </h2>
                <time title={`speaking ${sayMinutes(s.speaking_seconds)}, playing ${sayMinutes(s.playing_seconds)}`}>
                  {sayMinutes(s.speaking_seconds + s.playing_seconds)}
                </time>
                {editing && i === index ? (
                  <StepEditor step={s} edits={edits} onDone={() => setEditing(false)} />
                ) : (
                  s.lines.map((line, k) => (
                    <p key={k} data-inner={line.item}>
                      {withSigns(line.text)}
                    </p>
                  ))
                )}
                {s.edited && <span className="own">in your own words</span>}
                {found(s).map((f) => (
                  <span className="mark" key={f.sentence}>
                    {withSigns(f.sentence)}
                  </span>
                ))}
              </li>,
            ])}
          </Steps>
        </div>
        <ScriptMargin
          lesson={lesson.data}
          step={step}
          edits={edits}
          onEdit={() => setEditing(true)}
          onMove={move}
          onStep={setKey}
        />
      </Page>
      {prompting && step && <Prompter steps={steps} from={index} tempi={lesson.data.tempi} onClose={leaveStage} />}
    </>
  );
}
