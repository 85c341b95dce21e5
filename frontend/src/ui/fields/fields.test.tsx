import { render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { expect, it, vi } from "vitest";
import { usePlayKey } from "../usePlayKey";
import { useShortcuts } from "../useShortcuts";
import { Choice, Line, leaveField, named, Paragraphs, plain, Slide, Tick } from ".";
import { choice, choose } from "./choose";

const SPEEDS = [0.5, 0.7, 1].map((value) => ({ value, words: `${100 * value} %`, hint: value < 1 ? "slower" : "" }));

function Speed({ onChange }: { onChange: (speed: number) => void }) {
  const [speed, setSpeed] = useState(1);
  const take = (s: number) => {
    setSpeed(s);
    onChange(s);
  };
  return <Choice label="speed" value={speed} options={SPEEDS} onChange={take} />;
}

function Page({ play, letter, change }: { play: () => void; letter: () => void; change: () => void }) {
  usePlayKey(play);
  useShortcuts({ "5": letter });
  return <Speed onChange={change} />;
}

it("opens a list, shows what is chosen, and gives its value back", async () => {
  const onChange = vi.fn();
  render(<Speed onChange={onChange} />);
  await choose("speed", /70 %/);
  expect(onChange).toHaveBeenCalledWith(0.7);
  expect(choice("speed")).toHaveTextContent("70 %");
});

it("is moved in by arrows, taken by Enter and left by Escape", async () => {
  const onChange = vi.fn();
  const user = userEvent.setup();
  render(<Speed onChange={onChange} />);
  choice("speed").focus();
  await user.keyboard("{ArrowDown}");
  await user.keyboard("{ArrowUp}{Enter}");
  expect(onChange).toHaveBeenLastCalledWith(0.7);
  await waitFor(() => expect(choice("speed")).toHaveFocus());
  await user.keyboard("{Enter}{ArrowUp}{Escape}");
  expect(onChange).toHaveBeenCalledTimes(1);
});

it("leaves Space to the player and, while it is closed, to the page what the page has a use for", async () => {
  const [play, letter, change] = [vi.fn(), vi.fn(), vi.fn()];
  const user = userEvent.setup();
  render(<Page play={play} letter={letter} change={change} />);
  choice("speed").focus();
  await user.keyboard(" 5");
  expect(play).toHaveBeenCalledTimes(1);
  expect(letter).toHaveBeenCalledTimes(1);
  expect(screen.queryByRole("listbox")).toBeNull();
  await user.keyboard("7");
  expect(change).not.toHaveBeenCalled(); // of no use to the page, and what is closed is not changed by a letter
  await user.keyboard("{Enter}5{Enter}");
  expect(letter).toHaveBeenCalledTimes(1);
  expect(change).toHaveBeenLastCalledWith(0.5);
});

it("ticks, writes, and moves along a line", async () => {
  const [tick, line, slide, enter] = [vi.fn(), vi.fn(), vi.fn(), vi.fn()];
  const user = userEvent.setup();
  render(
    <>
      <Tick checked={false} onChange={tick}>
        count in
      </Tick>
      <Line label="title" value="" onChange={line} onEnter={enter} onEscape={leaveField} offers={["Oats"]} />
      <Paragraphs label="words" value="" onChange={line} onEnter={enter} />
      <Slide label="place" value={3} min={0} max={10} step={1} words={(v) => `${v} seconds`} onChange={slide} />
    </>,
  );
  await user.click(screen.getByRole("checkbox", { name: "count in" }));
  expect(tick).toHaveBeenCalledWith(true);
  await user.type(screen.getByRole("combobox", { name: "title" }), "O{Enter}{Escape}");
  expect(line).toHaveBeenCalledWith("O");
  expect(document.body).toHaveFocus();
  await user.type(screen.getByRole("textbox", { name: "words" }), "{Shift>}{Enter}{/Shift}{Enter}");
  expect(line).toHaveBeenLastCalledWith("\n");
  expect(enter).toHaveBeenCalledTimes(2);
  const place = screen.getByRole("slider", { name: "place" });
  expect(place).toHaveAttribute("aria-valuetext", "3 seconds");
  place.focus();
  await user.keyboard("{ArrowRight}");
  expect(slide).toHaveBeenCalledWith(4);
});

function Ending({ onChange }: { onChange: (ending: string) => void }) {
  const [ending, setEnding] = useState("rolled");
  const take = (e: string) => {
    setEnding(e);
    onChange(e);
  };
  return <Choice label="ending" value={ending} options={named({ "": "plain", rolled: "rolled" })} onChange={take} />;
}

it("goes back to the choice that is nothing", async () => {
  const onChange = vi.fn();
  render(<Ending onChange={onChange} />);
  await choose("ending", "plain");
  expect(onChange).toHaveBeenCalledWith("");
  expect(choice("ending")).toHaveTextContent("plain");
  await choose("ending", "rolled");
  expect(onChange).toHaveBeenLastCalledWith("rolled");
});

it("makes choices of words and of tables", () => {
  expect(plain(["a"])).toEqual([{ value: "a", words: "a" }]);
  expect(named({ en: "English" })).toEqual([{ value: "en", words: "English" }]);
});
