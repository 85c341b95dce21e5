import { act, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { keyboards } from "../devices/midi";
import { choose } from "../ui/fields/choose";
import { HandoutsView } from "./handouts";
import { HandsView } from "./hands";
import { PartsView } from "./parts";
import { ScriptView } from "./script";
import { PlayerBar } from "./song/PlayerBar";
import { RouteRail } from "./song/RouteRail";
import { SongHeader } from "./song/SongHeader";
import { ARRANGEMENT, CHART, EDITED, fakeServer, MEANT, MEND, showInWorkspace } from "./song/testing";
import { SurveyView } from "./survey";

const CHOICES = {
  styles: [
    { name: "root-and-chord", title: "Root below", summary: "" },
    { name: "other", title: "Other way", summary: "" },
  ],
  levels: ["easier", "standard", "fuller"],
  patterns: [],
  hands: ["small", "medium"],
  keyboards: [61, 88],
};

const sent = (calls: readonly { what: string; body: unknown }[]) =>
  calls.filter((c) => c.what.startsWith("POST")).at(-1)?.body;

beforeEach(() => {
  Element.prototype.scrollIntoView = vi.fn();
  Element.prototype.scrollTo = vi.fn() as unknown as typeof Element.prototype.scrollTo;
});
afterEach(() => vi.unstubAllGlobals());

describe("Survey", () => {
  it("reaches beats and bars where no chord begins, and says what goes on there", async () => {
    const { select } = showInWorkspace(<SurveyView />, { selected: "0", place: "2" });
    expect(screen.getByText(/goes on here, bar 1, beat 3/)).toBeInTheDocument();
    const user = userEvent.setup();
    await user.keyboard("{Shift>}{ArrowRight}{ArrowLeft}{ArrowDown}{/Shift}");
    expect(vi.mocked(select).mock.calls.map(([at]) => at)).toEqual(["3", "1", "4"]);
    await user.keyboard("y");
    expect(screen.getByText("Bar 1, beat 3")).toBeInTheDocument();
    await user.type(screen.getByRole("textbox", { name: "go to bar" }), "3{Enter}");
    expect(select).toHaveBeenLastCalledWith("8");
  });

  it("puts a chord in at the place in hand", async () => {
    const calls = fakeServer({ "POST /api/songs/5/edits": { body: {} } });
    showInWorkspace(<SurveyView />, { selected: "0", place: "2" });
    await userEvent.setup().keyboard("i");
    await waitFor(() => expect(calls.some((c) => c.what.startsWith("POST"))).toBe(true));
    expect(calls.find((c) => c.what.startsWith("POST"))?.body).toMatchObject({
      edit: { kind: "split_chord", at: "2" },
    });
  });

  it("writes a row of chords from the bar in hand on, and copies bars to it", async () => {
    const calls = fakeServer({ "POST /api/songs/5/edits": { body: EDITED } });
    showInWorkspace(<SurveyView />, { selected: "4", place: "4" });
    const user = userEvent.setup();
    await user.keyboard("y");
    await user.type(screen.getByRole("textbox", { name: "Chords from bar 2 on" }), "Am | F G{Enter}");
    await waitFor(() =>
      expect(sent(calls)).toMatchObject({ edit: { kind: "write_bars", start: "4", text: "Am | F G" } }),
    );
    await user.type(screen.getByRole("textbox", { name: "First bar to copy" }), "9");
    expect(screen.getByText("This song has bars 1 to 4.")).toBeInTheDocument();
    await user.clear(screen.getByRole("textbox", { name: "First bar to copy" }));
    await user.type(screen.getByRole("textbox", { name: "First bar to copy" }), "1");
    await user.click(screen.getByRole("checkbox", { name: "with the tune" }));
    await user.click(screen.getByRole("button", { name: "copy them to bar 2" }));
    await waitFor(() =>
      expect(sent(calls)).toMatchObject({
        edit: { kind: "copy_bars", start: "0", end: "4", to: "4", times: 1, half_steps: 0, tune: false },
      }),
    );
  });

  it("moves the bars that are marked, and offers them to be copied", async () => {
    const calls = fakeServer({ "POST /api/songs/5/edits": { body: EDITED } });
    const stretch = { first: 2, last: 3, from: 4, to: 12, growing: false };
    const { mark } = showInWorkspace(<SurveyView />, { selected: "12", place: "12", stretch });
    const user = userEvent.setup();
    await user.keyboard("b");
    expect(mark).toHaveBeenCalledOnce();
    await user.keyboard("y");
    expect(screen.getByRole("textbox", { name: "First bar to copy" })).toHaveValue("2");
    expect(screen.getByRole("textbox", { name: "Last bar to copy" })).toHaveValue("3");
    await user.click(screen.getByRole("button", { name: "these bars half a step down" }));
    await waitFor(() =>
      expect(sent(calls)).toMatchObject({
        edit: { kind: "copy_bars", start: "4", end: "12", to: "4", times: 1, half_steps: -1, tune: true },
      }),
    );
  });

  it("writes a row of notes over the tune", async () => {
    const calls = fakeServer({ "POST /api/songs/5/edits": { body: EDITED } });
    showInWorkspace(<SurveyView />, { selected: "4", place: "4" });
    const user = userEvent.setup();
    await user.keyboard("w");
    const field = await screen.findByRole("textbox", { name: /^Notes from bar \d on$/ });
    await user.type(field, "E5 D C:2");
    await user.click(screen.getByRole("button", { name: "write them" }));
    await waitFor(() => expect(sent(calls)).toMatchObject({ edit: { kind: "write_tune", text: "E5 D C:2" } }));
    await waitFor(() => expect(field).toHaveValue(""));
  });

  it("names every chord with its place, its doubt and who set it", () => {
    fakeServer({});
    showInWorkspace(<SurveyView />);
    expect(screen.getByRole("button", { name: "Bar 1, beat 1: B♭" })).toHaveAttribute("aria-pressed", "true");
    expect(screen.getByRole("button", { name: "Bar 2, beat 1: F, to check" })).toBeInTheDocument();
    expect(screen.getByRole("button", { name: "Bar 4, beat 1: G, set by you" })).toBeInTheDocument();
  });

  it("goes from chord to chord by arrows and to the doubt by N", async () => {
    fakeServer({});
    const { select } = showInWorkspace(<SurveyView />);
    const user = userEvent.setup();
    await user.keyboard("{ArrowRight}");
    expect(select).toHaveBeenLastCalledWith("4");
    await user.keyboard("n");
    expect(select).toHaveBeenLastCalledWith("4");
    expect(select).toHaveBeenCalledTimes(2);
  });

  it("sends a picked reading with the revision it was picked on", async () => {
    const calls = fakeServer({ "POST /api/songs/5/edits": { body: EDITED } });
    showInWorkspace(<SurveyView />);
    await userEvent.setup().keyboard("2");
    await waitFor(() =>
      expect(sent(calls)).toEqual({
        revision: 3,
        edit: { kind: "set_chord", start: "0", text: "Am:maj" },
        spread: [],
        have: expect.any(Number),
        show: "chart",
        key: expect.any(String),
      }),
    );
  });

  it("answers while a chord is typed, and keeps what cannot be read", async () => {
    fakeServer({
      "GET /api/chord": {
        body: { ok: false, symbol: "", notes: [], midi: [], message: "'Q' is no chord", completions: [] },
      },
    });
    showInWorkspace(<SurveyView />);
    const field = screen.getByLabelText(/Type it/);
    await userEvent.type(field, "Q");
    expect(await screen.findByText("'Q' is no chord")).toBeInTheDocument();
    expect(field).toHaveValue("Q");
    expect(field).toHaveAttribute("aria-invalid", "true");
  });

  it("offers to make a change here that another window overtook", async () => {
    const problem = {
      title: "This chart was changed in another window.",
      detail: "kept as version 4",
      kind: "conflict",
      data: { kept: 4, current: 4 },
    };
    const calls = fakeServer({ "POST /api/songs/5/edits": { status: 409, body: problem } });
    showInWorkspace(<SurveyView />);
    await userEvent.setup().keyboard("2");
    await userEvent.click(await screen.findByRole("button", { name: "Make my change here too" }));
    await waitFor(() => expect(calls.filter((c) => c.what.startsWith("POST"))).toHaveLength(2));
    expect(sent(calls)).toMatchObject({ edit: { text: "Am:maj" } });
  });

  it("sends corrections one after the other, each on the revision that the one before made", async () => {
    const calls = fakeServer({ "POST /api/songs/5/edits": { body: { ...EDITED, revision: 4 } } });
    const { queries } = showInWorkspace(<SurveyView />);
    queries.setQueryData(["song", 5, "chart"], CHART);
    const user = userEvent.setup();
    await user.keyboard("2");
    await user.keyboard("3");
    await waitFor(() => expect(calls.filter((c) => c.what.startsWith("POST"))).toHaveLength(2));
    const bodies = calls.filter((c) => c.what.startsWith("POST")).map((c) => c.body as { revision: number });
    expect(bodies.map((b) => b.revision)).toEqual([3, 4]);
  });

  it.each([
    ["s", { kind: "split_chord", at: "2" }],
    ["j", { kind: "join_chord", start: "0" }],
    ["x", { kind: "delete_chord", start: "0" }],
    [".", { kind: "move_change", start: "0", to: "1/2" }],
    ["0", { kind: "set_chord", start: "0", text: "N" }],
  ])("does the deed of %s", async (key, edit) => {
    const calls = fakeServer({ "POST /api/songs/5/edits": { body: EDITED } });
    showInWorkspace(<SurveyView />);
    await userEvent.setup().keyboard(key);
    await waitFor(() => expect(sent(calls)).toMatchObject({ edit }));
  });

  it("offers a change to the repeats: all, some, or only here", async () => {
    const offer = [
      { part: 2, bar: 3, same: true, now: "" },
      { part: 4, bar: 9, same: false, now: "Dm" },
    ];
    const calls = fakeServer({ "POST /api/songs/5/spread": { body: EDITED } });
    showInWorkspace(<SurveyView />, { chart: { ...CHART, offer } });
    expect(screen.getByLabelText("part 2, bar 3")).toBeChecked();
    expect(screen.getByLabelText("part 4, bar 9 (there it is Dm)")).not.toBeChecked();
    await userEvent.click(screen.getByLabelText(/part 4/));
    expect(screen.getByLabelText(/part 4/)).toBeChecked();
    await userEvent.setup().keyboard("r");
    await waitFor(() => expect(sent(calls)).toEqual({ revision: 3, parts: [2, 4], show: "chart" }));
    await userEvent.click(screen.getByRole("button", { name: /Only here/ }));
    expect(screen.queryByText(/comes again/)).not.toBeInTheDocument();
  });

  it("names what is played on keys, and takes the first name by Enter", async () => {
    const calls = fakeServer({
      "GET /api/songs/5/chart/named": { body: [{ symbol: "C/E", label: "C:maj/3", why: "C is the root" }] },
      "POST /api/songs/5/edits": { body: EDITED },
    });
    showInWorkspace(<SurveyView />);
    const user = userEvent.setup();
    await user.keyboard("p");
    for (const key of [52, 60, 67]) keyboards.press(key);
    for (const key of [52, 60, 67]) keyboards.release(key);
    expect(await screen.findByText("C is the root")).toBeInTheDocument();
    await user.keyboard("{Enter}");
    await waitFor(() => expect(sent(calls)).toMatchObject({ edit: { kind: "set_chord", text: "C/E" } }));
  });

  it("presses keys by the letters of their notes", async () => {
    fakeServer({ "GET /api/songs/5/chart/named": { body: [] } });
    showInWorkspace(<SurveyView />);
    const user = userEvent.setup();
    await user.keyboard("p");
    screen.getByRole("listbox", { name: /Keys to play/ }).focus();
    await user.keyboard("ceg{ArrowUp}");
    const down = screen.getAllByRole("option", { selected: true }).map((k) => k.getAttribute("aria-label"));
    expect(down).toEqual(["C3", "E3", "A flat3"]);
  });
});

describe("The tune's desk", () => {
  it.each([
    ["{ArrowUp}", { kind: "change_note", start: "0", midi: 71 }],
    ["{Shift>}{ArrowDown}{/Shift}", { kind: "change_note", start: "0", midi: 58 }],
    [".", { kind: "change_note", start: "0", to: "1/4" }],
    ["+", { kind: "change_note", start: "0", duration: "5/4" }],
    ["c", { kind: "split_note", start: "0", at: "1/2" }],
    ["j", { kind: "join_note", start: "0" }],
    ["x", { kind: "delete_note", start: "0" }],
    ["e", { kind: "change_note", start: "0", grace: true }],
    ["a", { kind: "add_note", start: "1", duration: "1", midi: 70 }],
  ])("changes the chosen note by %s", async (key, edit) => {
    const calls = fakeServer({ "POST /api/songs/5/edits": { body: EDITED } });
    showInWorkspace(<SurveyView />);
    const user = userEvent.setup();
    await user.keyboard("w");
    await user.keyboard("{ArrowRight}");
    expect(screen.getByRole("heading", { name: "B♭4" })).toBeInTheDocument();
    await user.keyboard(key);
    await waitFor(() => expect(sent(calls)).toMatchObject({ edit }));
  });
});

describe("The bar's desk", () => {
  const open = async () => {
    const calls = fakeServer({ "POST /api/songs/5/edits": { body: EDITED } });
    showInWorkspace(<SurveyView />);
    await userEvent.setup().keyboard("y");
    return calls;
  };
  it("changes the metre from a bar on, the key, and the level of the count", async () => {
    const calls = await open();
    await choose("metre from this bar on", "3/4");
    await waitFor(() => expect(sent(calls)).toMatchObject({ edit: { kind: "set_meter", bar: 1, meter: "3/4" } }));
    await choose("Tonic", "A♭");
    await userEvent.click(screen.getByRole("button", { name: "set it" }));
    await waitFor(() => expect(sent(calls)).toMatchObject({ edit: { kind: "set_key", tonic: "Ab", mode: "major" } }));
    await userEvent.click(screen.getByRole("button", { name: /half as fast/ }));
    await waitFor(() => expect(sent(calls)).toMatchObject({ edit: { kind: "halve_tempo" } }));
    await userEvent.setup().keyboard(".");
    await waitFor(() =>
      expect(sent(calls)).toMatchObject({ edit: { kind: "nudge_beat", beat: 0, seconds: 0.02, follow: true } }),
    );
  });
  it("sets a cue word", async () => {
    const calls = await open();
    await userEvent.type(screen.getByLabelText("Cue word"), "lift{Enter}");
    await waitFor(() => expect(sent(calls)).toMatchObject({ edit: { kind: "set_cue", start: "0", text: "lift" } }));
  });
});

describe("Versions", () => {
  it("are named, compared with the present one, and brought back", async () => {
    const version = { actor: "owner", made_at: "2026-01-01T00:00:00Z", name: "", kept_aside: false };
    const calls = fakeServer({
      "GET /api/songs/5/revisions": {
        body: {
          total: 2,
          versions: [
            { ...version, number: 3, what: "bar 1, beat 1: Bb", current: true },
            { ...version, number: 1, what: "Heard in the recording", current: false },
          ],
        },
      },
      "GET /api/songs/5/revisions/1/changes": { body: [{ bar: 1, what: "Bb instead of C" }] },
      "PATCH /api/songs/5/revisions/1": { status: 204, body: null },
      "POST /api/songs/5/revisions/1/bring-back": { body: CHART },
    });
    showInWorkspace(<SurveyView />);
    await userEvent.setup().keyboard("v");
    await userEvent.click(await screen.findByRole("button", { name: /Heard in the recording/ }));
    expect(await screen.findByText("bar 1: B♭ instead of C")).toBeInTheDocument();
    await userEvent.type(screen.getByLabelText("name of version 1"), "as heard{Enter}");
    await waitFor(() =>
      expect(calls.find((c) => c.what.startsWith("PATCH"))?.body).toEqual({ name: "as heard", seen: "" }),
    );
    await userEvent.click(screen.getByRole("button", { name: "Bring version 1 back" }));
    await waitFor(() => expect(calls.some((c) => c.what.endsWith("bring-back"))).toBe(true));
  });
});

describe("Parts", () => {
  it("says how much there is to learn, and each difference in words", () => {
    showInWorkspace(<PartsView />, { part: CHART.parts[1] });
    expect(screen.getByText(/4 bars to play/)).toHaveTextContent(
      "2 parts, 1 different: part 2 is one of them again. 4 bars to play, 3 to learn",
    );
    expect(screen.getByText("bar 3: C instead of B♭")).toBeInTheDocument();
  });

  it("tells of every chord what it does and what it shares", async () => {
    showInWorkspace(<PartsView />);
    const user = userEvent.setup();
    await user.keyboard("w");
    expect(screen.getByText(/2×, home; bars 1, 3/)).toBeInTheDocument();
    expect(screen.getByText(/then mostly F, which keeps F/)).toBeInTheDocument();
    await user.click(screen.getByLabelText("Roman numerals too"));
    expect(screen.getByText("I")).toBeInTheDocument();
  });

  it("changes edges, names and kinship, and takes a suggestion", async () => {
    const calls = fakeServer({ "POST /api/songs/5/edits": { body: EDITED } });
    showInWorkspace(<PartsView />, { part: CHART.parts[1] });
    const user = userEvent.setup();
    await user.click(screen.getByRole("button", { name: "Teach it as part 1 again" }));
    await waitFor(() => expect(sent(calls)).toMatchObject({ edit: { kind: "mark_repeat", number: 2, same_as: 1 } }));
    await choose("repeats", "no other part");
    await waitFor(() => expect(sent(calls)).toMatchObject({ edit: { kind: "mark_repeat", number: 2, same_as: null } }));
    await user.type(screen.getByLabelText("called"), "lift{Enter}");
    await waitFor(() => expect(sent(calls)).toMatchObject({ edit: { kind: "rename_part", number: 2, name: "lift" } }));
    await user.type(screen.getByLabelText("new part at bar"), "4{Enter}");
    await waitFor(() => expect(sent(calls)).toMatchObject({ edit: { kind: "split_part", bar: 4 } }));
    screen.getByRole("tab", { name: /part/ }).focus();
    await user.keyboard("j");
    await waitFor(() => expect(sent(calls)).toMatchObject({ edit: { kind: "merge_part", number: 2 } }));
  });

  it("plans lessons: which parts, in which order, how long", async () => {
    const lessons = [{ index: 1, parts: [1, 2], steps: ["opening"], minutes: 4.4 }];
    const calls = fakeServer({
      "POST /api/songs/5/edits": { body: EDITED },
      "GET /api/songs/5/lesson": { body: { lessons, part_times: [{ part: 1, minutes: 1.5 }] } },
      "GET /api/songs/5/records": { body: { askings: ["@fern", "@tarn", "@moss"].map((handle) => ({ handle })) } },
    });
    showInWorkspace(<PartsView />);
    const user = userEvent.setup();
    const plan = (wanted: object) => ({ edit: { kind: "plan_lessons", ...wanted } });
    await user.keyboard("y");
    expect(await screen.findByText(/Lesson 1: parts 1, 2, about 4 min 25 s/)).toBeInTheDocument();
    expect(screen.getByText("1 min 30 s")).toBeInTheDocument();
    await user.click(screen.getByRole("button", { name: "Part 2 earlier" }));
    await waitFor(() => expect(sent(calls)).toMatchObject(plan({ order: [2, 1] })));
    await user.click(screen.getByLabelText("Teach Part 1"));
    await waitFor(() => expect(sent(calls)).toMatchObject(plan({ order: [2] })));
    await choose("lessons of about", "8 minutes");
    await waitFor(() => expect(sent(calls)).toMatchObject(plan({ minutes: 8 })));
    await user.click(await screen.findByRole("button", { name: "@fern, @tarn and @moss" }));
    await waitFor(() => expect(sent(calls)).toMatchObject(plan({ thanks: "@fern, @tarn and @moss" })));
    await user.type(screen.getByLabelText("Who is thanked at the start"), "all of you{Enter}");
    await waitFor(() => expect(sent(calls)).toMatchObject(plan({ thanks: "all of you" })));
  });

  it("chooses a part on the map by mouse and by keyboard", async () => {
    const { selectPart } = showInWorkspace(<PartsView />);
    const again = screen.getByRole("button", { name: /Part 2, bars 3 to 4/ });
    await userEvent.click(again);
    again.focus();
    await userEvent.keyboard("{Enter}");
    expect(selectPart).toHaveBeenCalledTimes(2);
    expect(selectPart).toHaveBeenCalledWith(2);
  });
});

describe("Valley", () => {
  const answers = { "GET /api/songs/5/arrangement": { body: ARRANGEMENT }, "GET /api/choices": { body: CHOICES } };

  it("shows both hands, and what the next grip keeps, strains and leaves out", async () => {
    fakeServer(answers);
    showInWorkspace(<HandsView />);
    expect(await screen.findByRole("button", { name: "Bar 1, on 1: B♭; left B♭2; right C4 D4" })).toHaveAttribute(
      "aria-pressed",
      "true",
    );
    await userEvent.setup().keyboard("{ArrowDown}");
    const margin = screen.getByRole("complementary", { name: "The selected grip" });
    expect(margin).toHaveTextContent("Right hand: keep C4.");
    expect(margin).toHaveTextContent("stop and rest if it hurts");
    expect(margin).toHaveTextContent("Leaves out the fifth.");
  });

  it("asks for another voicing and says when there is none", async () => {
    const calls = fakeServer({
      ...answers,
      "POST /api/songs/5/edits": {
        status: 422,
        body: { title: "No shape fits.", detail: "", kind: "voicing", data: {} },
      },
    });
    showInWorkspace(<HandsView />);
    await screen.findByRole("button", { name: /voicing$/ });
    await choose("voicing", /^other/i);
    expect(await screen.findByRole("alert")).toHaveTextContent("No shape fits.");
    expect(calls.find((c) => c.what.startsWith("POST"))?.body).toEqual({
      revision: 3,
      edit: { kind: "set_hands", style: "other" },
      spread: [],
      have: expect.any(Number),
      show: "hands",
      key: expect.any(String),
    });
  });

  it("says when a part has no chords to hold", async () => {
    fakeServer(answers);
    showInWorkspace(<HandsView />, { part: CHART.parts[1] });
    expect(await screen.findByText("This part has no chords to hold.")).toBeInTheDocument();
  });
});

describe("Hand-outs", () => {
  it("shows the sheet music, lists files to look at and to take", async () => {
    fakeServer({
      "GET /api/songs/5/score": { body: ['<svg xmlns="http://www.w3.org/2000/svg"><title>engraved</title></svg>'] },
      "GET /api/songs/5/handouts": {
        body: {
          files: [
            {
              name: "score.musicxml",
              title: "Notation file",
              summary: "both staves",
              kind: "play",
              address: "/api/songs/5/handouts/score.musicxml",
            },
          ],
          parts: [1],
          caution: "Check the law.",
        },
      },
    });
    showInWorkspace(<HandoutsView />);
    expect(await screen.findByRole("link", { name: "Download Notation file" })).toHaveAttribute(
      "href",
      "/api/songs/5/handouts/score.musicxml",
    );
    expect(await screen.findByRole("img", { name: "Sheet music, page 1" })).toContainHTML("engraved");
    expect(screen.getByText("Check the law.")).toBeInTheDocument();
  });

  it("offers practice tracks as they are chosen", async () => {
    fakeServer({
      "GET /api/songs/5/score": { body: [] },
      "GET /api/songs/5/handouts": { body: { files: [], parts: [1, 2], caution: "Check the law." } },
    });
    showInWorkspace(<HandoutsView />);
    const tracks = await screen.findByRole("region", { name: "Practice tracks" });
    const user = userEvent.setup();
    await choose("Which hands", "left hand alone", tracks);
    await choose("Which part", "part 2", tracks);
    await choose("Speed", /^50/, tracks);
    await user.click(within(tracks).getByRole("checkbox", { name: /metronome/ }));
    const address = within(tracks).getByRole("link", { name: "download" }).getAttribute("href") ?? "";
    const asked = new URL(address, "http://valley").searchParams;
    expect([asked.get("mix"), asked.get("part"), asked.get("speed"), asked.get("metronome")]).toEqual([
      "left",
      "2",
      "0.5",
      "true",
    ]);
    await user.click(within(tracks).getByRole("button", { name: "hear it" }));
    expect(within(tracks).getByLabelText("The practice track")).toHaveAttribute("src", `${address}&look=true`);
  });

  it("says why there are none", async () => {
    fakeServer({
      "GET /api/songs/5/handouts": {
        status: 422,
        body: { title: "Choose a wider hand.", detail: "", kind: "voicing", data: {} },
      },
    });
    showInWorkspace(<HandoutsView />);
    expect(await screen.findByRole("alert")).toHaveTextContent("Choose a wider hand.");
  });
});

describe("Script", () => {
  const step = (key: string, title: string, more: Partial<Schemas["StepOut"]> = {}): Schemas["StepOut"] => ({
    key,
    kind: "both",
    title,
    lines: [
      { text: "Play Bb2.", kind: "heading", item: false, beat: null, hands: "", notes: [] },
      { text: "Bar 1", kind: "grip", item: true, beat: 0, hands: "both", notes: [] },
    ],
    part: 1,
    start_beats: 0,
    end_beats: 8,
    hands: "both",
    speed: 0.5,
    plays: 2,
    speaking_seconds: 20,
    playing_seconds: 40,
    edited: false,
    stale: false,
    rehearsed: false,
    ...more,
  });
  const LESSON: Schemas["LessonOut"] = {
    revision: 3,
    last_change: "",
    steps: [
      step("opening", "What you will learn"),
      step("part-1/both", "Part 1: both hands", { edited: true, stale: true }),
    ],
    left_out: [{ key: "closing", title: "All of it" }],
    lessons: [
      { index: 1, parts: [], steps: ["opening"], minutes: 1 },
      { index: 2, parts: [1], steps: ["part-1/both"], minutes: 1 },
    ],
    part_times: [{ part: 1, minutes: 1 }],
    seconds: 120,
    tempi: [60, 84, 102, 120],
    matters: [
      {
        name: "naming",
        words: "notes",
        school: "letters",
        schools: [
          { name: "letters", words: "letters" },
          { name: "german", words: "German letters" },
        ],
      },
    ],
    findings: [
      {
        check: "name",
        about: "hands",
        severity: "error",
        sentence: "Bar 1, Bb: A is added.",
        part: 1,
        bar: 1,
        start: "0",
        step: "",
        mend: MEND,
        meant: MEANT,
      },
    ],
    closed: [{ sentence: "Bar 3: meant so.", reason: "it is a joke", open: { ...MEANT, again: true } }],
    errors: 1,
    ready: false,
    ready_despite: 0,
  };
  const answers = {
    "GET /api/songs/5/lesson": { body: LESSON },
    "GET /api/songs/5/arrangement": { body: ARRANGEMENT },
    "GET /api/songs/5/log": { body: { lines: [], total: 0, slips: [] } },
    "POST /api/songs/5/edits": { body: EDITED },
    "POST /api/songs/5/log": { body: { lines: [], total: 0, slips: [] } },
  };

  it("walks the steps, rewrites one, leaves one out and takes it in again", async () => {
    const calls = fakeServer(answers);
    showInWorkspace(<ScriptView />);
    const user = userEvent.setup();
    expect(await screen.findByText("lesson 2")).toBeInTheDocument();
    await user.keyboard("{ArrowDown}e");
    const words = screen.getByRole("textbox", { name: "Words, one line a sentence" });
    await user.clear(words);
    await user.type(words, "In my words.");
    await user.click(screen.getByRole("button", { name: "Keep these words" }));
    await waitFor(() => expect(calls.at(-1)?.body ?? calls.find((c) => c.what.includes("edits"))?.body).toBeTruthy());
    expect(calls.find((c) => c.what === "POST /api/songs/5/edits")?.body).toMatchObject({
      edit: { kind: "write_step", key: "part-1/both", lines: ["In my words."] },
    });
    await user.click(screen.getByRole("button", { name: "All of it: take it in again" }));
    await waitFor(() =>
      expect(calls.filter((c) => c.what === "POST /api/songs/5/edits").at(-1)?.body).toMatchObject({
        edit: { kind: "forget_step", key: "closing" },
      }),
    );
  });

  it("lists faults with their mends", async () => {
    const calls = fakeServer(answers);
    showInWorkspace(<ScriptView />);
    await screen.findByText("What you will learn", { selector: "button" });
    await userEvent.setup().keyboard("w");
    expect(await screen.findByText("1 thing is wrong")).toBeInTheDocument();
    await userEvent.click(screen.getByRole("button", { name: /take Valley's grip/ }));
    await waitFor(() => expect(sent(calls)).toMatchObject({ edit: MEND.edit }));
  });

  it("prompts step by step, by keys and pedal, and counts slips in rehearsal", async () => {
    const calls = fakeServer(answers);
    showInWorkspace(<ScriptView />);
    const user = userEvent.setup();
    await screen.findByText("What you will learn", { selector: "button" });
    await user.keyboard("f");
    const stage = await screen.findByRole("dialog", { name: "Prompter, step 1 of 2" });
    expect(await screen.findByText("bar 1, on 1")).toBeInTheDocument();
    await user.keyboard("r");
    act(() => {
      keyboards.press(45);
      keyboards.release(45);
    });
    expect(await screen.findByText(/Not A2/)).toBeInTheDocument();
    act(() => {
      for (const key of [46, 60, 62]) keyboards.press(key);
      for (const key of [46, 60, 62]) keyboards.release(key);
    });
    expect(await screen.findByText("bar 2, on 1")).toBeInTheDocument();
    act(() => keyboards.step());
    expect(await screen.findByRole("dialog", { name: "Prompter, step 2 of 2" })).toBeInTheDocument();
    await user.keyboard("{Escape}");
    expect(stage).not.toBeInTheDocument();
    await waitFor(() =>
      expect(calls.find((c) => c.what === "POST /api/songs/5/log")?.body).toMatchObject([
        { kind: "slip", bar: 1, count: 1 },
      ]),
    );
  });

  it("reads words and marks what is wrong in them", async () => {
    fakeServer({
      ...answers,
      "POST /api/songs/5/proof": {
        body: {
          text: "Bar 1 is A minor.",
          timed: true,
          claims: [
            {
              text: "A minor",
              start: 9,
              end: 16,
              kind: "chord",
              verdict: "contradicts",
              expected: "Bb",
              message: "another root",
              sure: true,
              seconds: 84.2,
            },
            {
              text: "Bar 1",
              start: 0,
              end: 5,
              kind: "count",
              verdict: "contradicts",
              expected: "bar 2",
              message: "it comes in bar 2",
              sure: false,
            },
          ],
        },
      },
    });
    showInWorkspace(<ScriptView />);
    const user = userEvent.setup();
    await screen.findByText("What you will learn", { selector: "button" });
    await user.keyboard("y");
    await user.type(screen.getByRole("textbox", { name: "Words to read" }), "Bar 1 is A minor.");
    await user.click(screen.getByRole("button", { name: "Read it" }));
    expect(await screen.findByText("2 claims, 1 wrong, 1 to listen to again")).toBeInTheDocument();
    expect(within(screen.getByRole("list", { name: "Wrong" })).getByText("another root")).toBeInTheDocument();
    const again = screen.getByRole("list", { name: "Perhaps wrong: listen again" });
    expect(within(again).getByText("it comes in bar 2")).toBeInTheDocument();
    expect(screen.getByText("A minor", { selector: "mark" })).toHaveAttribute("data-verdict", "wrong");
    expect(screen.getByText("1:24")).toBeInTheDocument();
  });
});

describe("around every view", () => {
  it("renames the song in place, and lets it be", async () => {
    const calls = fakeServer({ "PATCH /api/songs/5": { body: {} } });
    showInWorkspace(<SongHeader />);
    const user = userEvent.setup();
    await user.click(screen.getByRole("button", { name: "Test Song" }));
    await user.keyboard("{Escape}");
    expect(calls).toEqual([]);
    await user.click(screen.getByRole("button", { name: "Test Song" }));
    await user.clear(screen.getByLabelText("Title of the song"));
    await user.keyboard("Quiet Hour{Enter}");
    await waitFor(() =>
      expect(calls[0]).toEqual({
        what: "PATCH /api/songs/5",
        body: { title: "Quiet Hour", seen: { title: "Test Song" } },
      }),
    );
  });

  it("undoes by button and by key, and not what cannot be redone", async () => {
    const calls = fakeServer({ "POST /api/songs/5/undo": { body: EDITED } });
    showInWorkspace(<SongHeader />);
    expect(screen.getByText("bar 1, beat 1: B♭ instead of C")).toBeInTheDocument();
    expect(screen.getByRole("button", { name: "Redo" })).toBeDisabled();
    const user = userEvent.setup();
    await user.keyboard("{Control>}{Shift>}z{/Shift}{/Control}");
    expect(calls).toEqual([]);
    await user.keyboard("{Control>}z{/Control}");
    await waitFor(() => expect(calls[0]?.what).toBe("POST /api/songs/5/undo"));
  });

  it("walks the route by its waymarks", async () => {
    const { select, selectPart } = showInWorkspace(<RouteRail />);
    const route = screen.getByRole("navigation", { name: "Parts of the song" });
    expect(within(route).getByText("as 1")).toBeInTheDocument();
    await userEvent.click(within(route).getByRole("button", { name: /Part 2/ }));
    expect(select).toHaveBeenCalledWith("8");
    expect(selectPart).toHaveBeenCalledWith(2);
  });

  it("sets speed, source, loop and count-in by keys, and lists them all", async () => {
    const { player } = showInWorkspace(<PlayerBar />);
    const user = userEvent.setup();
    await user.keyboard("[[[[lkm");
    expect(player.getState()).toMatchObject({ rate: 0.8, countIn: true, source: "piano", loop: { from: 0, to: 4 } });
    await user.keyboard("l]");
    expect(player.getState()).toMatchObject({ rate: 0.9, loop: { from: 0, to: 2 } });
    await user.keyboard("l'm");
    expect(player.getState()).toMatchObject({ loop: null, metronome: true, source: "recording" });
    await user.keyboard("?");
    expect(await screen.findByRole("dialog")).toHaveTextContent("next place to check");
  });

  it("repeats the bars that are marked first", async () => {
    const stretch = { first: 2, last: 3, from: 4, to: 12, growing: false };
    const { player } = showInWorkspace(<PlayerBar />, { stretch });
    const user = userEvent.setup();
    await user.keyboard("l");
    expect(player.getState().loop).toEqual({ from: 2, to: 6 });
    expect(screen.getByRole("button", { name: /repeat$/ })).toHaveTextContent("bars 2 to 3");
    await user.keyboard("lll");
    expect(player.getState().loop).toBeNull();
  });
});
