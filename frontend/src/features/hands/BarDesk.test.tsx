import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { ARRANGEMENT, EDITED, fakeServer, showInWorkspace } from "../song/testing";
import { gauge } from "./barGauge";
import { changeByKey, type Place, sayNote } from "./barNotes";
import { HandsView } from "./HandsView";

beforeEach(() => {
  Element.prototype.scrollIntoView = vi.fn();
  Element.prototype.scrollTo = vi.fn() as unknown as typeof Element.prototype.scrollTo;
});

const note = (start: string, beats: number, midi: number, pitch: string, more = {}): Schemas["BarNoteOut"] => ({
  start: `${Number(start) + 4}`,
  duration: "1",
  start_beats: beats,
  duration_beats: 1,
  midi,
  pitch,
  grace: false,
  rings: false,
  optional: false,
  finger: null,
  ...more,
});

const BAR: Schemas["BarCloseOut"] = {
  bar: 2,
  start: "4",
  duration: "4",
  duration_beats: 4,
  counts: ["1", "2", "3", "4"],
  thirds: false,
  before: "0",
  after: "8",
  repeated: true,
  hands: [
    { hand: "left", text: "1 C3 2 G3", written: true, holds: "written by you, here only", notes: [] },
    { hand: "right", text: "1 E4", written: false, holds: "", notes: [note("0", 0, 64, "E4", { finger: 1 })] },
  ],
};
BAR.hands[0]?.notes.push(note("0", 0, 48, "C3"), note("1", 1, 55, "G3", { optional: true }));

const place: Place = { hand: "left", start: "5", midi: 55 };
const press = (key: string, shiftKey = false) =>
  changeByKey({ key, shiftKey, ctrlKey: false, metaKey: false, altKey: false }, place, note("1", 1, 55, "G3"), BAR, 2);

it.each([
  ["ArrowRight", false, { key: 56 }],
  ["ArrowLeft", true, { key: 43 }],
  ["ArrowDown", false, { to: "11/2" }],
  ["ArrowUp", false, { to: "9/2" }],
  ["+", false, { lasting: "3/2" }],
  ["-", false, { lasting: "1/2" }],
  ["4", false, { finger: 4 }],
  ["0", false, { finger: 0 }],
  ["h", false, { other_hand: true }],
  ["s", false, { star: true }],
  ["Delete", false, { remove: true }],
])("%s changes the chosen note", (key, shift, change) =>
  expect(press(key, shift)?.change).toEqual({ ...place, ...change }),
);

it("puts another note after the chosen one, and leaves other keys alone", () => {
  expect(press("n")?.change).toEqual({ ...place, start: "11/2", lasting: "1/2", add: true });
  expect(press("w")).toBeNull();
});

it("says a note as one would", () => {
  expect(sayNote("left", note("1", 1.5, 55, "G3", { optional: true, finger: 5 }), BAR)).toBe(
    "left hand: G3 after 2, a beat, fifth finger, may be left out",
  );
});

it("knows what lies under a point", () => {
  const rule = gauge(BAR, 2);
  const at = rule.under(rule.across(55), rule.down(1.5));
  expect([at.midi, at.step, rule.beat(at.step)]).toEqual([55, 3, "11/2"]);
  expect(rule.handAt(50)).toBe("left");
  expect(rule.handAt(64)).toBe("right");
});

it("opens a bar, changes a note by key, and writes a line down", async () => {
  const calls = fakeServer({
    "GET /api/songs/5/arrangement": { body: ARRANGEMENT },
    "GET /api/songs/5/hands/bar": { body: BAR },
    "POST /api/songs/5/edits": { body: EDITED },
  });
  showInWorkspace(<HandsView />);
  const user = userEvent.setup();
  await screen.findByRole("tab", { name: /grip/ });
  await user.keyboard("u");
  const notes = await screen.findByRole("listbox", { name: "Notes of bar 2" });
  expect(within(notes).getByRole("option", { name: /G3 on 2/ })).toBeInTheDocument();
  notes.focus();
  await user.keyboard(".."); // through both hands in the order of time
  expect(within(notes).getByRole("option", { name: /G3 on 2/ })).toHaveAttribute("aria-selected", "true");
  await user.keyboard("{ArrowRight}{ArrowRight}3"); // before any answer
  const sent = () => calls.filter((c) => c.what === "POST /api/songs/5/edits").map((c) => c.body);
  await waitFor(() =>
    expect(sent()[0]).toMatchObject({
      edit: { kind: "change_played", hand: "left", start: "5", midi: 55, key: 56, times: [] },
    }),
  );
  await waitFor(() => expect(sent()).toHaveLength(3));
  expect(sent()[1]).toMatchObject({ edit: { midi: 56, key: 57 } });
  expect(sent()[2]).toMatchObject({ edit: { midi: 57, finger: 3 } });
  await user.click(screen.getByRole("checkbox", { name: "every time" }));
  const line = screen.getByRole("textbox", { name: "Right hand" });
  await user.clear(line);
  await user.type(line, "1 E4 3 F4{Enter}");
  await waitFor(() =>
    expect(sent()[3]).toMatchObject({
      edit: { kind: "write_passage", hand: "right", start: "4", duration: "4", text: "1 E4 3 F4", times: null },
    }),
  );
});
