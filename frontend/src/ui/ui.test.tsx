import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { ProblemError } from "../api/client";
import { grassPath, riverPath, sampleLevels, smoothPath, waver } from "./draw";
import { KeyboardPicture } from "./KeyboardPicture";
import { framing, isBlack, keyBox, keyboardWidth, keyCentre } from "./keyboard";
import { ErrorNotice } from "./Notice";
import { clock, percent, withSigns } from "./notation";
import { useDraft } from "./useDraft";
import { nameKey, useShortcuts } from "./useShortcuts";

describe("signs", () => {
  it.each([
    ["Bb/D", "B♭/D"],
    ["Ebmaj7", "E♭maj7"],
    ["Abm", "A♭m"],
    ["F#m7b5", "F♯m7♭5"],
    ["Cm7b5/Gb", "Cm7♭5/G♭"],
    ["Bbadd9", "B♭add9"],
    ["Bbsus4", "B♭sus4"],
    ["Bbb3", "B♭♭3"],
    ["bar 7: Dm instead of Eb7", "bar 7: Dm instead of E♭7"],
    ["Eb major, first inversion", "E♭ major, first inversion"],
    ["Above all, add a note", "Above all, add a note"],
    ["keep Cb4 and Eb4", "keep C♭4 and E♭4"],
  ])("%s is shown as %s", (text, shown) => expect(withSigns(text)).toBe(shown));
  it("writes shares and times", () => {
    expect(percent(0.481)).toBe("48\u00a0%");
    expect(clock(83.9)).toBe("1:23");
    expect(clock(-1)).toBe("0:00");
  });
});

describe("the keyboard's geometry", () => {
  it("has seven white keys an octave and black ones between them", () => {
    expect(keyboardWidth(60, 71)).toBe(7);
    expect([60, 61, 62, 63, 64].map(isBlack)).toEqual([false, true, false, true, false]);
    const cSharp = keyBox(61, 60);
    expect(cSharp.x).toBeGreaterThan(0.5);
    expect(cSharp.x + cSharp.width).toBeLessThan(1.5);
  });
  it("ascends from key to key", () => {
    const places = Array.from({ length: 87 }, (_, i) => keyCentre(21 + i, 21));
    expect([...places].sort((a, b) => a - b)).toEqual(places);
  });
  it("frames all keys from C to C, within the keyboard", () => {
    expect(framing([50, 67])).toEqual({ low: 48, high: 72 });
    expect(framing([60])).toEqual({ low: 48, high: 72 });
    expect(framing([22, 107])).toEqual({ low: 21, high: 108 });
    expect(framing([])).toEqual({ low: 36, high: 84 });
  });
  it("lights squares for the left and rounds for the right", () => {
    const { container } = render(
      <KeyboardPicture
        low={48}
        high={71}
        width={300}
        height={50}
        label="Keys of C"
        lit={[
          { midi: 48, hand: "left" },
          { midi: 64, hand: "right" },
        ]}
      />,
    );
    expect(screen.getByRole("img", { name: "Keys of C" })).toBeInTheDocument();
    expect(container.querySelectorAll("rect.mark-left")).toHaveLength(1);
    expect(container.querySelectorAll("circle.mark-right")).toHaveLength(1);
  });
});

describe("drawing", () => {
  it("draws smooth lines through all points", () => {
    expect(smoothPath([])).toBe("");
    expect(
      smoothPath([
        [0, 0],
        [10, 5],
      ]),
    ).toBe("M0 0 Q10 5 10 5");
  });
  it("keeps the highest level of every stretch", () => {
    const levels = Array.from({ length: 100 }, (_, i) => (i === 37 ? 1 : 0.1));
    const sampled = sampleLevels(levels, 0, 5, 20, 10);
    expect(sampled).toHaveLength(10);
    expect(sampled[3]).toBe(1);
    expect(sampleLevels([], 0, 1, 20, 3)).toEqual([0, 0, 0]);
  });
  it("wavers always alike, within one", () => {
    for (let i = 0; i < 50; i++) {
      expect(waver(i)).toBe(waver(i));
      expect(Math.abs(waver(i))).toBeLessThanOrEqual(1);
    }
  });
  it("closes grass and river", () => {
    expect(grassPath([0.5, 1], 0, 10, 20, 10)).toMatch(/^M0 20.*Z$/);
    expect(riverPath([0.5, 1], () => 50, 0, 4, 20)).toMatch(/^M40 0 L30 4 L70 4 L60 0 Z$/);
    expect(grassPath([], 0, 10, 20, 10) + riverPath([], () => 0, 0, 4, 20)).toBe("");
  });
});

function Probe({ act }: { act: () => void }) {
  useShortcuts({ n: act, " ": act });
  return (
    <>
      <input aria-label="field" />
      <button type="button">press</button>
    </>
  );
}

describe("keys of the computer", () => {
  const press = (key: string, more: object = {}) =>
    nameKey({ key, ctrlKey: false, metaKey: false, shiftKey: false, altKey: false, ...more });
  it("are named alike on every system", () => {
    expect(press("N")).toBe("n");
    expect(press("?", { shiftKey: true })).toBe("?");
    expect(press("Z", { ctrlKey: true, shiftKey: true })).toBe("mod+shift+z");
    expect(press("z", { metaKey: true })).toBe("mod+z");
    expect(press("ArrowLeft")).toBe("arrowleft");
  });
  it("act on the page but not while typing, and a focused button keeps its own", async () => {
    const act = vi.fn();
    render(<Probe act={act} />);
    const user = userEvent.setup();
    await user.keyboard("n");
    expect(act).toHaveBeenCalledTimes(1);
    await user.click(screen.getByLabelText("field"));
    await user.keyboard("n ");
    await user.click(screen.getByRole("button"));
    await user.keyboard(" ");
    expect(act).toHaveBeenCalledTimes(1);
  });
});

describe("notices", () => {
  it("say a problem in its own words", () => {
    render(
      <ErrorNotice
        error={
          new ProblemError(507, { title: "The disk is full.", detail: "Free some space.", kind: "disk-full", data: {} })
        }
      />,
    );
    expect(screen.getByRole("alert")).toHaveTextContent("The disk is full. Free some space.".replace(". F", ".F"));
  });
  it("have words for what nobody foresaw", () => {
    render(<ErrorNotice error={new Error("x")} />);
    expect(screen.getByRole("alert")).toHaveTextContent("what was saved is safe");
  });
});

function Draft({ value, save }: { value: string; save: (written: string, seen: string) => void }) {
  const draft = useDraft(value, save);
  return (
    <input
      aria-label="promise"
      value={draft.value}
      onChange={(e) => draft.write(e.target.value)}
      onBlur={draft.leave}
    />
  );
}

describe("A field that is written in", () => {
  it("says what stood there when the writing began, whatever came meanwhile", async () => {
    const save = vi.fn();
    const { rerender } = render(<Draft value="in May" save={save} />);
    const field = screen.getByLabelText("promise");
    await userEvent.clear(field);
    rerender(<Draft value="in June" save={save} />);
    await userEvent.type(field, "soon");
    await userEvent.tab();
    expect(save).toHaveBeenCalledExactlyOnceWith("soon", "in May");
    expect(field).toHaveValue("in June");
  });

  it("saves nothing where nothing was written", async () => {
    const save = vi.fn();
    render(<Draft value="in May" save={save} />);
    await userEvent.type(screen.getByLabelText("promise"), "!{Backspace}");
    await userEvent.tab();
    expect(save).not.toHaveBeenCalled();
  });
});
