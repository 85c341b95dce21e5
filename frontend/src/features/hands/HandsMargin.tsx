import { Tab, TabList, TabPanel } from "react-aria-components";
import { bound, ErrorNotice, KeyCap, useShortcuts } from "../../ui";
import { Desks, Margin } from "../song";
import { BarDesk } from "./BarDesk";
import { GripDesk } from "./GripDesk";
import { JoinsDesk } from "./JoinsDesk";
import { PassDesk } from "./PassDesk";
import { PatternDesk } from "./PatternDesk";
import { PerformanceDesk } from "./PerformanceDesk";
import type { Hands } from "./useHands";
import { type Comparison, VoicingDesk } from "./VoicingDesk";

export type HandsDesk = "grip" | "bar" | "pattern" | "joins" | "voicing" | "playing";

interface HandsMarginProps {
  hands: Hands;
  desk: HandsDesk;
  onDesk: (desk: HandsDesk) => void;
  onHear: () => void;
  comparison: Comparison | null;
  onCompare: (comparison: Comparison | null) => void;
}

/** The margin beside the valley: six desks. */
export function HandsMargin({ hands, desk, onDesk, onHear, comparison, onCompare }: HandsMarginProps) {
  useShortcuts(
    bound("valley", {
      grip: () => onDesk("grip"),
      bar: () => onDesk("bar"),
      pattern: () => onDesk("pattern"),
      joins: () => onDesk("joins"),
      voicing: () => onDesk("voicing"),
      playing: () => onDesk("playing"),
    }),
  );
  return (
    <Margin aria-label="The selected grip">
      {hands.changeError && <ErrorNotice error={hands.changeError} />}
      <Desks selectedKey={desk} onSelectionChange={(key) => onDesk(key as HandsDesk)}>
        <TabList aria-label="What to choose" data-noprint>
          <Tab id="grip">
            <KeyCap>Q</KeyCap> grip
          </Tab>
          <Tab id="bar">
            <KeyCap>U</KeyCap> bar
          </Tab>
          <Tab id="pattern">
            <KeyCap>W</KeyCap> pattern
          </Tab>
          <Tab id="joins">
            <KeyCap>Y</KeyCap> joins
          </Tab>
          <Tab id="voicing">
            <KeyCap>V</KeyCap> hands
          </Tab>
          <Tab id="playing">
            <KeyCap>P</KeyCap> playing
          </Tab>
        </TabList>
        <TabPanel id="grip">
          <GripDesk hands={hands} onHear={onHear} />
        </TabPanel>
        <TabPanel id="bar">
          <BarDesk hands={hands} />
        </TabPanel>
        <TabPanel id="pattern">
          <PatternDesk hands={hands} />
        </TabPanel>
        <TabPanel id="joins">
          <JoinsDesk hands={hands} />
        </TabPanel>
        <TabPanel id="voicing">
          <VoicingDesk hands={hands} comparison={comparison} onCompare={onCompare} />
        </TabPanel>
        <TabPanel id="playing">
          <PassDesk hands={hands} />
          <PerformanceDesk />
        </TabPanel>
      </Desks>
    </Margin>
  );
}
