import styled from "styled-components";
import { Button, framing, KeyboardPicture, KeyCap, withSigns } from "../../ui";
import { Margin, MarginHeading } from "../song";
import type { Grip } from "./banks";

const Notes = styled.dl`
  display: grid; grid-template-columns: auto auto 1fr; gap: 0.25rem 0.7rem; margin: 0; align-items: center;
  dt { color: var(--soft); } dd { margin: 0; font: 700 1.15rem "Alegreya", "Signs", serif; }
  i { width: 13px; height: 13px; display: block; } i.left { background: var(--left); } i.right { background: var(--right); border-radius: 50%; }
`;
const Reach = styled.div<{ $share: number; $strained: boolean }>`
  height: 7px; background: var(--line); border-radius: 2px; margin: 0.25rem 0;
  &::after { content: ""; display: block; height: 100%; width: ${(p) => Math.min(100, 100 * p.$share)}%; border-radius: 2px; background: ${(p) => (p.$strained ? "var(--doubt)" : "var(--ink)")}; }
`;

interface GripMarginProps {
  grip: Grip | undefined;
  comfort: number;
  most: number;
  onHear: () => void;
}

/** One grip in words: notes, reach, the way from the grip before, why it was chosen. */
export function GripMargin({ grip, comfort, most, onHear }: GripMarginProps) {
  if (!grip) return <Margin aria-label="The selected grip">This part has no chords to hold.</Margin>;
  const widest = Math.max(grip.reach_left_mm, grip.reach_right_mm);
  const lit = [
    ...grip.left.map((n) => ({ midi: n.midi, hand: "left" as const })),
    ...grip.right.map((n) => ({ midi: n.midi, hand: "right" as const })),
  ];
  const frame = framing(lit.map((k) => k.midi));
  return (
    <Margin aria-label="The selected grip">
      <div>
        <MarginHeading as="p">
          Bar {grip.bar}, on {grip.count}
        </MarginHeading>
        <h2>{withSigns(grip.symbol)}</h2>
        <p style={{ color: "var(--soft)" }}>{withSigns(grip.inversion)}</p>
      </div>
      <Notes>
        {(["left", "right"] as const).map((hand) => (
          <div key={hand} style={{ display: "contents" }}>
            <i className={hand} aria-hidden="true" />
            <dt>{hand}</dt>
            <dd>{grip[hand].length ? withSigns(grip[hand].map((n) => n.pitch).join(" ")) : "rests"}</dd>
          </div>
        ))}
      </Notes>
      <KeyboardPicture
        low={frame.low}
        high={frame.high - 1}
        width={258}
        height={56}
        lit={lit}
        label={`Keys of ${withSigns(grip.symbol)}`}
      />
      <div>
        <MarginHeading>Reach</MarginHeading>
        left {Math.round(grip.reach_left_mm)} mm, right {Math.round(grip.reach_right_mm)} mm, of {Math.round(most)}
        <Reach $share={widest / most} $strained={grip.strained} />
        {grip.strained && (
          <p>
            Wider than {Math.round(comfort)} mm, which is comfortable for this hand. Leave out a note or roll it; stop
            and rest if it hurts, and ask a teacher or a clinician about pain.
          </p>
        )}
      </div>
      {grip.move && (
        <div>
          <MarginHeading>From the grip before</MarginHeading>
          <p>{withSigns(grip.move)}</p>
        </div>
      )}
      <div>
        <MarginHeading>Why here</MarginHeading>
        <p style={{ fontFamily: "Alegreya, Signs", fontStyle: "italic" }}>{withSigns(grip.why)}</p>
        {grip.omits.length > 0 && <p>Leaves out the {grip.omits.join(" and the ")}.</p>}
      </div>
      <div data-noprint>
        <Button $quiet onPress={onHear}>
          <KeyCap>H</KeyCap> hear it
        </Button>
        <p style={{ color: "var(--soft)" }}>
          <KeyCap>↓</KeyCap> <KeyCap>↑</KeyCap> next, before
        </p>
      </div>
    </Margin>
  );
}
