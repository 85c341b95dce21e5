import { act, screen } from "@testing-library/react";
import { useRef } from "react";
import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { type Player, type PlayerState, secondsAt } from "../../player";
import { showInWorkspace } from "../song/testing";
import { useSoundingStep } from "./useSoundingStep";

const STEPS = [
  { part: null, start_beats: 0, end_beats: 4 },
  { part: 1 },
  { part: 1 },
  { part: 2 },
] as unknown as Schemas["StepOut"][];

function List({ chosen }: { chosen: number }) {
  const list = useRef<HTMLOListElement>(null);
  const sounding = useSoundingStep(list, STEPS, chosen);
  return (
    <ol ref={list}>
      {STEPS.map((_, i) => (
        <li key={i} data-step={i} data-sounding={i === sounding}>
          step {i}
        </li>
      ))}
    </ol>
  );
}

function play(player: Player, more: Partial<PlayerState>) {
  const inner = player as unknown as { state: PlayerState; listeners: Set<() => void> };
  act(() => {
    inner.state = { ...inner.state, ...more };
    for (const listen of inner.listeners) listen();
  });
}

const marked = () => screen.getAllByRole("listitem").filter((li) => li.dataset.sounding === "true");

it("stays with a step of no part while that is heard", () => {
  const { player, chart } = showInWorkspace(<List chosen={0} />);
  play(player, { playing: true, time: secondsAt(chart, 1) });
  expect(marked()).toEqual([]);
  play(player, { time: secondsAt(chart, 5) });
  expect(marked()).toHaveLength(1);
});

it("shows where the part that sounds begins, and comes back to the step in hand", () => {
  const seen: string[] = [];
  Element.prototype.scrollIntoView = function () {
    seen.push(this.textContent ?? "");
  };
  const { player, chart } = showInWorkspace(<List chosen={1} />);
  const tell = (more: Partial<PlayerState>) => play(player, more);
  const [first, second] = chart.parts.map((p) => secondsAt(chart, p.start_beats) + 0.01);
  expect(marked()).toEqual([]);
  tell({ playing: true, time: second });
  expect(marked()).toHaveLength(1);
  expect(marked()[0]).toHaveTextContent("step 3");
  expect(seen.at(-1)).toBe("step 3");
  tell({ time: first }); // of the step in hand
  expect(marked()).toEqual([]);
  expect(seen.at(-1)).toBe("step 1");
  tell({ playing: false, time: second });
  expect(marked()).toEqual([]);
});
