import { ToggleButton } from "react-aria-components";
import type { Schemas } from "../../api/client";
import { KeyCap, percent, withSigns } from "../../ui";
import { Readings } from "./ChordQuestion.styles";

/** What the chord may be, the likeliest first; each is taken by its number. */
export function ReadingList({ chord, onPick }: { chord: Schemas["ChordOut"]; onPick: (n: number) => void }) {
  return (
    <Readings aria-label="Readings of this chord" data-stop="readings">
      {chord.readings.map((r, i) => (
        <li key={r.label}>
          <ToggleButton isSelected={r.label === chord.label} onPress={() => onPick(i)}>
            <KeyCap>{i + 1}</KeyCap>
            <b>{withSigns(r.symbol)}</b>
            <span>{percent(r.probability)}</span>
            <span className="bar">
              <i style={{ width: `${Math.max(1, 100 * r.probability)}%` }} />
            </span>
            <em>{withSigns(r.why)}</em>
          </ToggleButton>
        </li>
      ))}
    </Readings>
  );
}
