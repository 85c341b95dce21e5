import { useState } from "react";
import { Tab, TabList, TabPanel } from "react-aria-components";
import type { Schemas } from "../../api/client";
import type { SongEdits } from "../../api/edits";
import { bound, Deed, Deeds, KeyCap, percent, sayMinutes, useShortcuts, withSigns } from "../../ui";
import { Desks, Margin, MarginHeading } from "../song";
import { FindingsDesk } from "./FindingsDesk";
import { LogDesk } from "./LogDesk";
import { ProofDesk } from "./ProofDesk";
import { SchoolsDesk } from "./SchoolsDesk";

type Desk = "step" | "findings" | "proof" | "schools" | "log";

interface ScriptMarginProps {
  lesson: Schemas["LessonOut"];
  step: Schemas["StepOut"] | undefined;
  edits: SongEdits;
  onEdit: () => void;
  onMove: (by: -1 | 1) => void;
  onStep: (key: string) => void;
}

/** The margin of the script: the step in hand, what was found, the proof-reader, the schools, the logbook. */
export function ScriptMargin({ lesson, step, edits, onEdit, onMove, onStep }: ScriptMarginProps) {
  const [desk, setDesk] = useState<Desk>("step");
  const [words, setWords] = useState("");
  useShortcuts(
    bound("script", {
      step: () => setDesk("step"),
      findings: () => setDesk("findings"),
      proof: () => setDesk("proof"),
      schools: () => setDesk("schools"),
      log: () => setDesk("log"),
    }),
  );
  return (
    <Margin aria-label="Beside the script" data-noprint>
      <Desks selectedKey={desk} onSelectionChange={(k) => setDesk(k as Desk)}>
        <TabList aria-label="What to look at" style={{ fontSize: "0.9rem", gap: "0.3rem" }}>
          <Tab id="step">
            <KeyCap>Q</KeyCap> step
          </Tab>
          <Tab id="findings">
            <KeyCap>W</KeyCap> to mend
          </Tab>
          <Tab id="proof">
            <KeyCap>Y</KeyCap> proof
          </Tab>
          <Tab id="schools" aria-label="schools">
            <KeyCap>V</KeyCap> teaching
          </Tab>
          <Tab id="log" aria-label="logbook">
            <KeyCap>U</KeyCap> log
          </Tab>
        </TabList>
        <TabPanel id="step">
          {step && (
            <>
              <div>
                <MarginHeading as="p">{step.edited ? "in your own words" : "as Valley says it"}</MarginHeading>
                <h2>{withSigns(step.title)}</h2>
              </div>
              <p>
                Speaking {sayMinutes(step.speaking_seconds)}
                {step.playing_seconds > 0 &&
                  `, playing ${sayMinutes(step.playing_seconds)}: ${step.plays === 1 ? "once" : `${step.plays} times`} at ${percent(step.speed)}`}
                .{step.rehearsed && " Timed at your rehearsal."}
              </p>
              {step.stale && <p role="note">The music has changed since you wrote these words; read them once more.</p>}
              <Deeds>
                <Deed cap="E" onPress={onEdit}>
                  write it anew
                </Deed>
                <Deed
                  cap="X"
                  onPress={() => edits.edit.mutate({ edit: { kind: "write_step", key: step.key, left_out: true } })}
                >
                  leave it out
                </Deed>
                <Deed onPress={() => onMove(-1)}>earlier</Deed>
                <Deed onPress={() => onMove(1)}>later</Deed>
                {step.edited && step.kind !== "own" && (
                  <Deed cap="B" onPress={() => edits.edit.mutate({ edit: { kind: "forget_step", key: step.key } })}>
                    as Valley says it
                  </Deed>
                )}
                {lesson.steps.some((s) => s.rehearsed) && (
                  <Deed onPress={() => edits.edit.mutate({ edit: { kind: "time_steps", took: [] } })}>
                    all times as Valley reckons them
                  </Deed>
                )}
              </Deeds>
              {lesson.left_out.length > 0 && (
                <div>
                  <MarginHeading>Left out</MarginHeading>
                  <Deeds>
                    {lesson.left_out.map((s) => (
                      <Deed
                        key={s.key}
                        onPress={() => edits.edit.mutate({ edit: { kind: "forget_step", key: s.key } })}
                      >
                        {s.title}: take it in again
                      </Deed>
                    ))}
                  </Deeds>
                </div>
              )}
              <div>
                <MarginHeading>Ladder</MarginHeading>
                <p>{lesson.tempi.join(", ")} to the minute</p>
              </div>
              <p style={{ color: "var(--soft)" }}>
                <KeyCap>↓</KeyCap> <KeyCap>↑</KeyCap> next, before; with Shift the step moves
              </p>
            </>
          )}
        </TabPanel>
        <TabPanel id="findings">
          <FindingsDesk lesson={lesson} edits={edits} onStep={onStep} />
        </TabPanel>
        <TabPanel id="proof">
          <ProofDesk text={words} onText={setWords} matters={lesson.matters} />
        </TabPanel>
        <TabPanel id="schools">
          <SchoolsDesk lesson={lesson} edits={edits} />
        </TabPanel>
        <TabPanel id="log">
          <LogDesk />
        </TabPanel>
      </Desks>
    </Margin>
  );
}
