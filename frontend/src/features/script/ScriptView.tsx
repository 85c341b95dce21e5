import { useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useSongEdits } from "../../api/edits";
import { useArrangement } from "../../api/hands";
import { useLesson } from "../../api/lessons";
import { Button, ErrorNotice, KeyCap, useShortcuts, withSigns } from "../../ui";
import { Page, useWorkspace } from "../song";
import { Prompter } from "./Prompter";
import { ScriptMargin } from "./ScriptMargin";
import { StepEditor } from "./StepEditor";

const Steps = styled.ol`
  list-style: none; margin: 0; padding: 0 1.4rem 1.5rem 0; max-width: 47rem; display: grid; gap: 0.2rem;
  > li { display: grid; grid-template-columns: 2.3rem 1fr auto; gap: 0 0.8rem; padding: 0.5rem 0.6rem 0.6rem 0.2rem; border-left: 4px solid transparent; cursor: pointer; scroll-margin: 1rem; }
  > li[data-chosen="true"] { border-left-color: var(--ink); background: var(--raised); }
  > li > b { font: 700 1.35rem "Alegreya", serif; color: var(--soft); text-align: right; line-height: 1.25; }
  h2 { font-size: 1.3rem; } h2 button { all: unset; cursor: pointer; } h2 button:focus-visible { outline: 3px solid var(--river); }
  time { color: var(--soft); white-space: nowrap; padding-top: 0.15rem; font-variant-numeric: tabular-nums; }
  p { grid-column: 2 / 4; margin-top: 0.2rem; text-wrap: pretty; }
  p[data-inner="true"] { padding-left: 1.1rem; border-left: 2px solid var(--line); }
  .mark { grid-column: 2 / 4; color: var(--doubt); font-size: 0.98rem; } .own { grid-column: 2 / 4; color: var(--soft); font-size: 0.95rem; }
  @media print { max-width: none; > li { break-inside: avoid; } }
`;
const Cut = styled.li`
  &&& { display: block; cursor: default; border: 0; border-top: 2px dashed var(--soft); color: var(--soft); padding: 0.2rem 0 0 3.1rem; }
`;
const Head = styled.div`
  display: flex; gap: 1rem; align-items: baseline; flex-wrap: wrap; padding-bottom: 0.4rem; color: var(--soft);
`;

export const minutes = (seconds: number) =>
  seconds < 55 ? `${Math.max(5, Math.round(seconds / 5) * 5)} s` : `${Math.round(seconds / 6) / 10} min`;

/** The lesson as steps to say and show, what was found in them in the margin, and the prompter. */
export function ScriptView() {
  const { song, player } = useWorkspace();
  const lesson = useLesson(song.id);
  useArrangement(song.id); // at hand before the prompter opens
  const edits = useSongEdits(song.id, "lesson");
  const [key, setKey] = useState(useSearchParams()[0].get("step") ?? "");
  const [editing, setEditing] = useState(false);
  const [prompting, setPrompting] = useState(false);
  const list = useRef<HTMLOListElement>(null);
  const steps = lesson.data?.steps ?? [];
  const index = Math.max(
    0,
    steps.findIndex((s) => s.key === key),
  );
  const step = steps[index];
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
  useEffect(() => player.setHands("both"), [player]);
  useShortcuts({
    arrowdown: () => choose(index + 1),
    arrowup: () => choose(index - 1),
    "shift+arrowdown": () => move(1),
    "shift+arrowup": () => move(-1),
    e: () => setEditing(true),
    x: () => step && edits.edit.mutate({ edit: { kind: "write_step", key: step.key, left_out: true } }),
    a: add,
    b: () => step?.edited && edits.edit.mutate({ edit: { kind: "forget_step", key: step.key } }),
    f: () => setPrompting(true),
  });

  if (lesson.error) return <ErrorNotice error={lesson.error} />;
  if (!lesson.data) return <p aria-busy="true">Writing the lesson …</p>;
  const found = (s: Schemas["StepOut"]) => lesson.data.findings.filter((f) => f.step === s.key);
  const opens = new Map(lesson.data.lessons.map((group, i) => [group[0], i + 1]));
  return (
    <>
      <Page>
        <div>
          <Head data-noprint>
            <span>
              {steps.length} steps, about {minutes(lesson.data.seconds)}
              {lesson.data.lessons.length > 1 && ` in ${lesson.data.lessons.length} lessons`}
            </span>
            <Button onPress={() => setPrompting(true)}>
              <KeyCap>F</KeyCap> prompter
            </Button>
            <Button $quiet onPress={add}>
              <KeyCap>A</KeyCap> add a step
            </Button>
            {edits.edit.error && <ErrorNotice error={edits.edit.error} />}
          </Head>
          <Steps ref={list} aria-label="Steps of the lesson">
            {steps.flatMap((s, i) => [
              lesson.data.lessons.length > 1 && opens.has(s.key) && (
                <Cut key={`cut-${s.key}`}>lesson {opens.get(s.key)}</Cut>
              ),
              // biome-ignore lint/a11y/useKeyWithClickEvents: the title is the button; the rest only makes it easier to hit
              <li key={s.key} data-step={i} data-chosen={i === index} onClick={() => i !== index && choose(i)}>
                <b aria-hidden="true">{i + 1}</b>
                <h2>
                  <button type="button" aria-pressed={i === index} onClick={() => choose(i)}>
                    {withSigns(s.title)}
                  </button>
                </h2>
                <time title={`speaking ${minutes(s.speaking_seconds)}, playing ${minutes(s.playing_seconds)}`}>
                  {minutes(s.speaking_seconds + s.playing_seconds)}
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
      {prompting && step && (
        <Prompter steps={steps} from={index} tempi={lesson.data.tempi} onClose={() => setPrompting(false)} />
      )}
    </>
  );
}
