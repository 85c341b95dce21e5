import { Tab, TabList, TabPanel } from "react-aria-components";
import { bound, KeyCap, useShortcuts } from "../../ui";
import { Desks, Margin } from "../song";
import { BarDesk } from "./BarDesk";
import { ChordQuestion } from "./ChordQuestion";
import { EditOffer } from "./EditOffer";
import { TuneDesk } from "./TuneDesk";
import { VersionsDesk } from "./VersionsDesk";

export type Desk = "chord" | "tune" | "bar" | "versions";

interface SurveyMarginProps {
  desk: Desk;
  onDesk: (desk: Desk) => void;
  onNextDoubt: () => void;
  note: string;
  onNote: (start: string) => void;
}

/** The margin of the field book: four desks for four kinds of questions. */
export function SurveyMargin({ desk, onDesk, onNextDoubt, note, onNote }: SurveyMarginProps) {
  useShortcuts(
    bound("survey", {
      chord: () => onDesk("chord"),
      tune: () => onDesk("tune"),
      bar: () => onDesk("bar"),
      versions: () => onDesk("versions"),
    }),
  );
  return (
    <Margin aria-label="Corrections" data-noprint>
      <EditOffer />
      <Desks selectedKey={desk} onSelectionChange={(key) => onDesk(key as Desk)}>
        <TabList aria-label="What to correct">
          <Tab id="chord">
            <KeyCap>Q</KeyCap> chord
          </Tab>
          <Tab id="tune">
            <KeyCap>W</KeyCap> tune
          </Tab>
          <Tab id="bar">
            <KeyCap>Y</KeyCap> bar
          </Tab>
          <Tab id="versions">
            <KeyCap>V</KeyCap> versions
          </Tab>
        </TabList>
        <TabPanel id="chord">
          <ChordQuestion onNextDoubt={onNextDoubt} />
        </TabPanel>
        <TabPanel id="tune">
          <TuneDesk note={note} onNote={onNote} />
        </TabPanel>
        <TabPanel id="bar">
          <BarDesk />
        </TabPanel>
        <TabPanel id="versions">
          <VersionsDesk />
        </TabPanel>
      </Desks>
    </Margin>
  );
}
