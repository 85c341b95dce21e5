import { ToggleButton } from "react-aria-components";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { ErrorNotice } from "../../ui";
import type { Grip } from "./banks";
import { ValleyDrawing } from "./ValleyDrawing";

const Pair = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 1rem;
  min-height: 0;
  flex: 1;
  > section {
    min-height: 0;
    display: flex;
    flex-direction: column;
    gap: 0.3rem;
  }
  .small {
    zoom: 0.49;
    min-height: 0;
    flex: 1;
    display: flex;
  }
  dl {
    display: flex;
    gap: 0.9rem;
    margin: 0;
    color: var(--soft);
    flex-wrap: wrap;
  }
  dd {
    margin: 0;
    color: var(--ink);
  }
  dl div {
    display: flex;
    gap: 0.3rem;
  }
  button {
    all: unset;
    cursor: pointer;
    font-weight: 700;
    border-bottom: 2px dotted var(--soft);
    width: fit-content;
  }
  button[aria-pressed="true"] {
    border-bottom: 2.5px solid var(--ink);
  }
  button:focus-visible {
    outline: 3px solid var(--river);
    outline-offset: 2px;
  }
`;

/** What a voicing asks in all: widest reach of either hand, and half steps that the fingers travel. */
export function sumUp(grips: readonly Grip[]) {
  const reach = Math.max(0, ...grips.flatMap((g) => [g.reach_left_mm, g.reach_right_mm]));
  let travel = 0;
  for (let i = 1; i < grips.length; i++) {
    for (const hand of ["left", "right"] as const) {
      const before = (grips[i - 1] as Grip)[hand];
      if (!before.length) continue;
      for (const n of (grips[i] as Grip)[hand]) travel += Math.min(...before.map((m) => Math.abs(m.midi - n.midi)));
    }
  }
  return { reach: Math.round(reach), travel, keys: grips.reduce((sum, g) => sum + g.left.length + g.right.length, 0) };
}

interface SideBySideProps {
  mine: Schemas["ArrangementOut"];
  other: Schemas["ArrangementOut"] | undefined;
  error: Error | null;
  part: number;
  current: number;
  onGrip: (index: number) => void;
  hearOther: boolean;
  onHearOther: (other: boolean) => void;
}

/** Two voicings of one part beside each other; the piano plays the one that is ticked. */
export function SideBySide({ mine, other, error, part, current, onGrip, hearOther, onHearOther }: SideBySideProps) {
  if (error) return <ErrorNotice error={error} />;
  const pair = [
    { arrangement: mine, name: "as it is", heard: !hearOther, hear: () => onHearOther(false) },
    { arrangement: other, name: "the other", heard: hearOther, hear: () => onHearOther(true) },
  ];
  return (
    <Pair>
      {pair.map(({ arrangement, name, heard, hear }) => {
        const arranged = arrangement?.parts.find((p) => p.part === part);
        if (!arranged || !arrangement) return <p key={name}>Laying out the other hands …</p>;
        const sum = sumUp(arranged.grips);
        return (
          <section key={name} aria-label={`Voicing ${name}`}>
            <ToggleButton isSelected={heard} onPress={hear}>
              hear {name}: {arranged.style.replaceAll("-", " ")}, {arranged.level}
            </ToggleButton>
            <dl>
              <div>
                <dt>widest</dt>
                <dd>{sum.reach} mm</dd>
              </div>
              <div>
                <dt>fingers travel</dt>
                <dd>{sum.travel} half steps</dd>
              </div>
              <div>
                <dt>keys</dt>
                <dd>{sum.keys}</dd>
              </div>
            </dl>
            <div className="small">
              <ValleyDrawing
                arranged={arranged}
                arrangement={arrangement}
                current={current}
                note={null}
                onGrip={onGrip}
              />
            </div>
          </section>
        );
      })}
    </Pair>
  );
}
