import { useEffect, useMemo, useState } from "react";
import { Tab, TabList, TabPanel } from "react-aria-components";
import styled from "styled-components";
import { bound, KeyCap, useShortcuts } from "../../ui";
import { chordNotes, Desks, Margin, Page, useWorkspace } from "../song";
import { ChordsDesk } from "./ChordsDesk";
import { LessonsDesk } from "./LessonsDesk";
import { PartDesk } from "./PartDesk";
import { PartsMap } from "./PartsMap";
import { RecordingSpan } from "./RecordingSpan";

const Drawing = styled.div`
  display: flex;
  flex-direction: column;
  gap: 0.4rem;
  min-width: 0;
  > p {
    color: var(--soft);
  }
`;
type Desk = "part" | "chords" | "lessons";

/** Which parts are known by the time they come. */
export const sayAgain = (numbers: readonly number[]) =>
  numbers.length === 1
    ? `part ${numbers[0]} is one of them again`
    : `parts ${numbers.slice(0, -1).join(", ")} and ${numbers.at(-1)} are some of them again`;

/** The song as a walk: every distinct part a place, every repeat a way back to one. */
export function PartsView() {
  const { chart, part, selectPart, player } = useWorkspace();
  const distinct = useMemo(() => chart.parts.filter((p) => p.same_as === null), [chart.parts]);
  const again = chart.parts.filter((p) => p.same_as !== null);
  useEffect(() => player.setNotes(chart.chords.flatMap(chordNotes)), [player, chart.chords]);
  const step = (by: number) => {
    const next = chart.parts.find((p) => p.number === part.number + by);
    if (next) selectPart(next.number);
  };
  const [desk, setDesk] = useState<Desk>("part");
  useShortcuts(
    bound("parts", {
      before: () => step(-1),
      after: () => step(1),
      part: () => setDesk("part"),
      chords: () => setDesk("chords"),
      lessons: () => setDesk("lessons"),
    }),
  );
  const total = chart.bars.filter((b) => b.number > 0).length;
  return (
    <Page>
      <Drawing data-stop="parts">
        <p>
          {chart.parts.length === 1 ? "One part" : `${chart.parts.length} parts`}
          {again.length > 0 && `, ${distinct.length} different: ${sayAgain(again.map((p) => p.number))}`}. {total} bars
          to play, {chart.bars_to_learn} to learn.
        </p>
        <PartsMap />
        <RecordingSpan />
      </Drawing>
      <Margin aria-label="Parts, chords and lessons" data-noprint>
        <Desks selectedKey={desk} onSelectionChange={(key) => setDesk(key as Desk)}>
          <TabList aria-label="What to look at">
            <Tab id="part">
              <KeyCap>Q</KeyCap> part
            </Tab>
            <Tab id="chords">
              <KeyCap>W</KeyCap> chords
            </Tab>
            <Tab id="lessons">
              <KeyCap>Y</KeyCap> lessons
            </Tab>
          </TabList>
          <TabPanel id="part">
            <PartDesk key={part.number} />
          </TabPanel>
          <TabPanel id="chords">
            <ChordsDesk />
          </TabPanel>
          <TabPanel id="lessons">
            <LessonsDesk />
          </TabPanel>
        </Desks>
      </Margin>
    </Page>
  );
}
