import { fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { bound, KEYS, type KeyGroup, listed } from "./keymap";
import { nameKey, setLettersAct, useShortcuts } from "./useShortcuts";

/** What can act at one time: a page with one of its desks, the player, what every page of a song has. */
const TOGETHER = [
  ["survey", "chord", "offer", "player", "song", "help"],
  ["survey", "bar", "offer", "player", "song", "help"],
  ["parts", "part", "player", "song", "help"],
  ["valley", "player", "song", "help"],
  ["script", "player", "song", "help"],
  ["prompter"],
  ["shelf", "help"],
  ["post", "help"],
] as const;

describe("The map of keys", () => {
  it.each(TOGETHER.map((groups) => [groups.join(", "), groups] as const))(
    "means one thing by a key: %s",
    (_, groups) => {
      const keys = groups.flatMap((g) => Object.values<KeyGroup[string]>(KEYS[g]).flatMap((r) => [...r.keys]));
      expect(keys.filter((k, i) => keys.indexOf(k) !== i)).toEqual([]);
    },
  );

  it("binds deeds by their names, on every key they have", () => {
    const redo = vi.fn();
    expect(bound("song", { redo })).toEqual({ "mod+shift+z": redo, "mod+y": redo });
  });

  it("lists what has words", () => {
    expect(listed("help")).toEqual([{ caps: ["?"], what: "this list" }]);
    expect(listed("chord").every((r) => r.what && r.caps.length > 0)).toBe(true);
  });

  it("tells a letter with Shift from the letter", () => {
    const press = { ctrlKey: false, metaKey: false, altKey: false };
    expect(nameKey({ ...press, key: "S", shiftKey: true })).toBe("shift+s");
    expect(nameKey({ ...press, key: "S", shiftKey: false })).toBe("s"); // caps lock
    expect(nameKey({ ...press, key: "?", shiftKey: true })).toBe("?");
  });
});

const deeds = { x: vi.fn(), arrowup: vi.fn(), "mod+z": vi.fn() };
function Page({ sheet = false }) {
  useShortcuts(deeds);
  return <div>{sheet ? <div role="dialog" data-rac="" tabIndex={-1} /> : <p>page</p>}</div>;
}

describe("Shortcuts", () => {
  afterEach(() => {
    localStorage.clear();
    for (const deed of Object.values(deeds)) deed.mockReset();
  });

  it("rest while a sheet lies over the page", () => {
    render(<Page sheet />);
    fireEvent.keyDown(screen.getByRole("dialog"), { key: "x" });
    fireEvent.keyDown(document.body, { key: "x" });
    expect(deeds.x).not.toHaveBeenCalled();
  });

  it("act by single keys unless that is turned off; arrows and keys with Ctrl stay", () => {
    render(<Page />);
    fireEvent.keyDown(document.body, { key: "x" });
    expect(deeds.x).toHaveBeenCalledOnce();
    setLettersAct(false);
    fireEvent.keyDown(document.body, { key: "x" });
    fireEvent.keyDown(document.body, { key: "ArrowUp" });
    fireEvent.keyDown(document.body, { key: "z", ctrlKey: true });
    expect(deeds.x).toHaveBeenCalledOnce();
    expect(deeds.arrowup).toHaveBeenCalledOnce();
    expect(deeds["mod+z"]).toHaveBeenCalledOnce();
  });
});
