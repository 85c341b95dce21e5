import { fireEvent, render, screen } from "@testing-library/react";
import { expect, it, vi } from "vitest";
import { usePlayKey } from "./usePlayKey";

function Page({ toggle, press }: { toggle: () => void; press: () => void }) {
  usePlayKey(toggle);
  return (
    <>
      <button type="button" onClick={press}>
        Save
      </button>
      <input aria-label="name" />
      <input type="range" aria-label="place" />
      <input type="checkbox" aria-label="count in" />
    </>
  );
}

it("plays from a button and a slider, and leaves Space to fields and boxes", () => {
  const toggle = vi.fn();
  const press = vi.fn();
  render(<Page toggle={toggle} press={press} />);
  const space = (on: Element) => {
    const down = fireEvent.keyDown(on, { key: " " });
    fireEvent.keyUp(on, { key: " " });
    return down; // false: taken
  };
  expect(space(screen.getByRole("button"))).toBe(false);
  expect(space(screen.getByLabelText("place"))).toBe(false);
  expect(space(document.body)).toBe(false);
  expect(toggle).toHaveBeenCalledTimes(3);
  expect(space(screen.getByLabelText("name"))).toBe(true);
  expect(space(screen.getByLabelText("count in"))).toBe(true);
  fireEvent.keyDown(document.body, { key: " ", repeat: true });
  expect(toggle).toHaveBeenCalledTimes(3);
  expect(press).not.toHaveBeenCalled();
});
