import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, fireEvent, render, renderHook, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ReactNode } from "react";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { useTimeSpent } from "../api/useTimeSpent";
import { choice, choose } from "../ui/fields/choose";
import { CalendarView, weeksOf } from "./calendar/CalendarView";
import { PerformanceDesk } from "./hands/PerformanceDesk";
import { PostView } from "./post";
import { OpenReports, RecordsSheet } from "./records";
import { WayFilter } from "./shelf/WayFilter";
import { FoundHere, isAbout } from "./song/FoundHere";
import { PlayerBar } from "./song/PlayerBar";
import { fakeServer, MEANT, MEND, SONG, showInWorkspace } from "./song/testing";

const STAGES = ["asked", "chosen", "listened", "charted", "arranged", "scripted", "filmed", "published", "corrected"];

function show(view: ReactNode) {
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter>{view}</MemoryRouter>
    </QueryClientProvider>,
  );
}

const sent = (calls: readonly { what: string; body: unknown }[], what: string) =>
  calls.filter((c) => c.what === what).at(-1)?.body;

afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

const RECORDS: Schemas["RecordsOut"] = {
  song: { ...SONG, stage: 2, votes: 4, next_step: "check 2 places of the chart" },
  askings: [
    {
      id: 1,
      handle: "@fern",
      note: "the bridge",
      votes: 3,
      promise: "",
      asked_at: "2026-02-01T10:00:00Z",
      came_from: 9,
      came_from_title: "That bridge song",
    },
    {
      id: 2,
      handle: "@moss",
      note: "",
      votes: 1,
      promise: "in May",
      asked_at: "2026-02-02T10:00:00Z",
      came_from: null,
      came_from_title: "",
    },
  ],
  way: STAGES.map((name, stage) => ({
    stage,
    name,
    deed: `reach ${name}`,
    reached_at: stage === 2 ? "2026-02-03T10:00:00Z" : null,
    spent: stage === 2 ? 12 : stage === 3 ? 8 : 0,
    estimate: stage > 2 ? "about 30 minutes (15 to 50 minutes)" : "",
    estimate_minutes: stage > 2 ? 30 : 0,
    looked_back: stage === 3 ? 4 : 0,
  })),
  corrections: [
    {
      id: 5,
      handle: "@pedal",
      text: "bar 2 should be Bbm",
      bar: 2,
      step: "part-1/left",
      step_title: "Part 1: left hand",
      state: "open",
      answer: "",
      weighed: "Bar 2 has F in your chart.",
      made_at: "2026-02-03T10:00:00Z",
    },
    {
      id: 6,
      handle: "@tarn",
      text: "too fast",
      bar: null,
      step: "",
      step_title: "",
      state: "kept",
      answer: "as recorded",
      weighed: "",
      made_at: "2026-02-03T10:00:00Z",
    },
  ],
  time_left: "about 4 hours (3 to 6 hours)",
  out_on: "2026-03-05",
  late_days: 2,
};

describe("Records of a song", () => {
  const answers = {
    "GET /api/songs/5/records": { body: RECORDS },
    "GET /api/songs/5/log": {
      body: {
        lines: [{ id: 1, kind: "decision", text: "Bb turned", bar: 2, count: 1, made_at: "2026-02-03T10:00:00Z" }],
        total: 1,
        slips: [],
      },
    },
    "POST /api/songs/5/way": { body: RECORDS },
    "POST /api/songs/5/askings": { body: RECORDS },
    "POST /api/songs/5/corrections": { body: RECORDS },
    "POST /api/songs/5/part/9": { body: RECORDS },
    "POST /api/songs/5/time": { status: 204, body: null },
    "PATCH /api/corrections/5": { body: RECORDS },
    "PATCH /api/askings/1": { body: RECORDS },
    "DELETE /api/askings/2": { body: RECORDS },
  };

  it("tells the way, what it took and will take, and that a promise is missed", async () => {
    fakeServer(answers);
    show(<RecordsSheet songId={5} />);
    expect(await screen.findByText("took 12 min")).toBeInTheDocument();
    expect(screen.getAllByText("15 to 50 minutes")).toHaveLength(6);
    expect(screen.getByText("took 8 min so far")).toBeInTheDocument();
    expect(screen.getByText(/2 days after the day you promised/)).toBeInTheDocument();
    expect(screen.getByText(/up to 4 songs of yours/)).toBeInTheDocument();
    expect(await screen.findByText("B♭ turned")).toBeInTheDocument();
  });

  it("sets waymarks and takes them back", async () => {
    const calls = fakeServer(answers);
    show(<RecordsSheet songId={5} />);
    const user = userEvent.setup();
    await user.click(await screen.findByRole("button", { name: "filmed, not reached; mark it" }));
    expect(sent(calls, "POST /api/songs/5/way")).toEqual({ stage: 6, reached: true, seen: RECORDS.song.stage });
    await user.click(screen.getByRole("button", { name: "listened, reached; take it back" }));
    expect(sent(calls, "POST /api/songs/5/way")).toEqual({ stage: 2, reached: false, seen: RECORDS.song.stage });
  });

  it("notes other work by hand", async () => {
    const calls = fakeServer(answers);
    show(<RecordsSheet songId={5} />);
    const user = userEvent.setup();
    await user.type(await screen.findByLabelText("Minutes of other work"), "9x0");
    await choose("Stage of this work", "filmed");
    await user.click(screen.getAllByRole("button", { name: "Note" })[0] as HTMLElement);
    expect(sent(calls, "POST /api/songs/5/time")).toEqual({ stage: 6, minutes: 90, by_hand: true });
  });

  it("keeps who asks, what was promised, and parts what was merged", async () => {
    const calls = fakeServer(answers);
    show(<RecordsSheet songId={5} />);
    const user = userEvent.setup();
    expect(await screen.findByText("and 2 who agree", { exact: false })).toBeInTheDocument();
    await user.type(screen.getByLabelText("Promised to @fern"), "soon{Enter}");
    expect(sent(calls, "PATCH /api/askings/1")).toEqual({ promise: "soon", seen: { promise: "" } });
    await user.click(screen.getByRole("button", { name: "@moss no longer asks" }));
    expect(calls.some((c) => c.what === "DELETE /api/askings/2")).toBe(true);
    await user.type(screen.getByLabelText("Viewer who asks"), "@beck");
    await user.type(screen.getByLabelText("In which words"), "all of it");
    await user.click(screen.getByRole("button", { name: "Add" }));
    expect(sent(calls, "POST /api/songs/5/askings")).toEqual({ handle: "@beck", note: "all of it" });
    await user.click(screen.getByRole("button", { name: "Part it again" }));
    expect(calls.some((c) => c.what === "POST /api/songs/5/part/9")).toBe(true);
  });

  it("answers reports, and leads to their bar and step", async () => {
    const calls = fakeServer(answers);
    show(<RecordsSheet songId={5} />);
    const user = userEvent.setup();
    expect(await screen.findByRole("link", { name: "look at bar 2" })).toHaveAttribute("href", "/songs/5/survey?bar=2");
    expect(screen.getByRole("link", { name: "look at the step" })).toHaveAttribute(
      "href",
      "/songs/5/script?step=part-1%2Fleft",
    );
    expect(screen.getByText("Bar 2 has F in your chart.")).toBeInTheDocument();
    await user.type(screen.getByLabelText("Answer to @pedal"), "mended in the new film");
    await user.click(screen.getByRole("button", { name: "Mended" }));
    expect(sent(calls, "PATCH /api/corrections/5")).toEqual({
      state: "mended",
      answer: "mended in the new film",
      seen: "open",
    });
    await user.type(screen.getByLabelText("What is reported as wrong"), "wrong");
    await user.type(screen.getByLabelText("Bar of the report"), "b7");
    await user.click(screen.getAllByRole("button", { name: "Note" }).at(-1) as HTMLElement);
    expect(sent(calls, "POST /api/songs/5/corrections")).toMatchObject({ text: "wrong", bar: 7, handle: "" });
  });

  it("offers a request to be merged, and a file to be brought", async () => {
    const request = { ...RECORDS, song: { ...RECORDS.song, stage: 0, charted: false, recording_id: null } };
    const other = { ...SONG, id: 8, title: "The Real One" };
    const calls = fakeServer({
      ...answers,
      "GET /api/songs/5/records": { body: request },
      "GET /api/shelf": {
        body: { rows: [{ song: other, minutes_left: 1, time_left: "" }], total: 1, stages: [], new_comments: 0 },
      },
      "POST /api/songs/5/merge": { body: { ...request, song: other } },
      "GET /api/songs/8/records": { body: request },
    });
    show(<RecordsSheet songId={5} />);
    const user = userEvent.setup();
    expect(await screen.findByRole("button", { name: "Add a recording or its notes" })).toBeInTheDocument();
    await user.type(screen.getByLabelText("the same song as"), "real");
    await user.click(await screen.findByRole("button", { name: "The Real One" }));
    expect(sent(calls, "POST /api/songs/5/merge")).toEqual({ into: 8 });
    expect(await screen.findByText(/now stand with “The Real One”/)).toBeInTheDocument();
  });
});

const comment = (id: number, text: string, more: Partial<Schemas["CommentOut"]> = {}): Schemas["CommentOut"] => ({
  id,
  handle: `@v${id}`,
  text,
  likes: 0,
  under: "",
  under_id: null,
  posted_at: "2026-02-01T10:00:00Z",
  why: "",
  bar: null,
  place: "",
  weighed: "",
  ...more,
});
const POST: Schemas["PostOut"] = {
  groups: [
    {
      title: "Blue Kettle",
      known_id: null,
      known_stage: "",
      votes: 6,
      viewers: 4,
      spellings: ["Blue Kettle", "blue kettel"],
      comments: [1, 2, 3, 4].map((i) => comment(i, `blue kettle ${i}`, { likes: i === 1 ? 2 : 0 })),
    },
    {
      title: "Copper Weather",
      known_id: 12,
      known_stage: "published",
      votes: 1,
      viewers: 1,
      spellings: ["Copper Weather"],
      comments: [comment(5, "copper weather easier")],
    },
  ],
  corrections: [
    comment(6, "bar 7 should be Am", {
      under: "Copper Weather",
      under_id: 12,
      bar: 7,
      place: "bar 7",
      weighed: "Bar 7 has A.",
    }),
  ],
  others: [comment(7, "first!"), comment(8, "lovely")],
  dealt_with: 3,
  total_groups: 2,
  total_corrections: 1,
  total_others: 2,
};
const EMPTY: Schemas["PostOut"] = {
  groups: [],
  corrections: [],
  others: [],
  dealt_with: 11,
  total_groups: 0,
  total_corrections: 0,
  total_others: 0,
};

describe("Post", () => {
  const answers = {
    "GET /api/post": { body: POST },
    "GET /api/shelf": { body: { rows: [], total: 0, stages: [], new_comments: 0 } },
    "POST /api/post/take": { body: EMPTY },
    "POST /api/post/aside": { body: EMPTY },
    "POST /api/post/back": { body: POST },
    "POST /api/post/fetch": { body: { fetched: 30 } },
    "POST /api/songs/12/corrections": { body: {} },
  };

  it("takes wishes under a mended title without those that do not belong, and takes it back", async () => {
    const calls = fakeServer(answers);
    show(<PostView />);
    const user = userEvent.setup();
    const title = (await screen.findAllByLabelText("Song asked for"))[0] as HTMLElement;
    expect(screen.getByText(/written Blue Kettle, blue kettel/)).toBeInTheDocument();
    await user.clear(title);
    await user.type(title, "The Blue Kettle");
    await user.click(screen.getByRole("button", { name: "all 4 comments" }));
    await user.click(screen.getByRole("checkbox", { name: /blue kettle 2/ }));
    await user.click(screen.getByRole("button", { name: "Take as a request" }));
    expect(sent(calls, "POST /api/post/take")).toEqual({ title: "The Blue Kettle", comments: [1, 3, 4], song: null });
    expect(await screen.findByText("3 wishes noted for “The Blue Kettle”.")).toBeInTheDocument();
    await user.click(screen.getByRole("button", { name: "Take it back" }));
    expect(sent(calls, "POST /api/post/back")).toEqual({ comments: [1, 3, 4] });
    expect((await screen.findAllByLabelText("Song asked for")).length).toBe(2);
  });

  it("adds wishes to the song that is here already", async () => {
    const calls = fakeServer(answers);
    show(<PostView />);
    await userEvent.setup().click(await screen.findByRole("button", { name: "Add to that song" }));
    expect(sent(calls, "POST /api/post/take")).toEqual({ title: "Copper Weather", comments: [5], song: 12 });
  });

  it("keeps a reported mistake with its song and bar", async () => {
    const calls = fakeServer(answers);
    show(<PostView />);
    expect(await screen.findByText("Bar 7 has A.")).toBeInTheDocument();
    await userEvent.setup().click(screen.getByRole("button", { name: "Note it with the song" }));
    expect(sent(calls, "POST /api/songs/12/corrections")).toMatchObject({ bar: 7, comment: 6, handle: "@v6" });
    expect(await screen.findByText("Noted with bar 7.")).toBeInTheDocument();
  });

  it("sets the rest aside at once, or makes a wish of one", async () => {
    const calls = fakeServer(answers);
    show(<PostView />);
    const user = userEvent.setup();
    await user.click((await screen.findAllByRole("button", { name: "a wish after all" }))[1] as HTMLElement);
    await user.type(screen.getByLabelText("Song that is asked for"), "Lovely Day{Enter}");
    expect(sent(calls, "POST /api/post/take")).toEqual({ title: "Lovely Day", comments: [8], song: null });
    calls.length = 0;
    await user.keyboard("{Control>}z{/Control}");
    await user.click(await screen.findByRole("button", { name: "Set all 2 aside" }));
    expect(sent(calls, "POST /api/post/aside")).toEqual({ comments: [7, 8] });
  });

  it("fetches by a key, and says when nothing is there", async () => {
    const calls = fakeServer({ ...answers, "GET /api/post": { body: EMPTY } });
    show(<PostView />);
    expect(await screen.findByText(/11 comments were dealt with/)).toBeInTheDocument();
    await userEvent.setup().keyboard("g");
    expect(await screen.findByText(/30 new comments came/)).toBeInTheDocument();
    expect(calls.filter((c) => c.what === "GET /api/post").length).toBeGreaterThan(1);
  });

  it("lists its keys on a question mark", async () => {
    fakeServer(answers);
    show(<PostView />);
    await userEvent.setup().keyboard("?");
    expect(await screen.findByRole("dialog")).toHaveTextContent("take the last deed back");
  });

  it("says so when the server does not answer", async () => {
    fakeServer({});
    show(<PostView />);
    expect(await screen.findByRole("button", { name: "Try again" })).toBeInTheDocument();
  });
});

const day = (iso: string, slots: Schemas["SlotOut"][] = []): Schemas["DayOut"] => ({
  day: iso,
  free: 60,
  film: false,
  publish: false,
  off: false,
  slots,
});
const slot = (stage: number, deed: string, done = true): Schemas["SlotOut"] => ({
  song_id: 5,
  title: "Test Song",
  stage,
  deed,
  minutes: 40,
  words: "40 minutes",
  done,
});
const CALENDAR: Schemas["CalendarOut"] = {
  days: [
    day("2026-02-28", [slot(5, "go through the script"), slot(6, "film it", false)]),
    day("2026-03-01"),
    day("2026-03-02", [slot(7, "publish it")]),
  ],
  songs: [
    {
      song_id: 5,
      title: "Test Song",
      votes: 3,
      promised_for: "2026-03-01",
      out_on: "2026-03-02",
      late_days: 1,
      time_left: "about 2 hours",
    },
    {
      song_id: 6,
      title: "Far Off",
      votes: 0,
      promised_for: null,
      out_on: null,
      late_days: 0,
      time_left: "about 9 hours",
    },
  ],
  week: { minutes: [60, 60, 60, 60, 60, 120, 0], film: [5], publish: [3], off: ["2026-03-08"] },
  minutes_total: 120,
};

describe("Calendar", () => {
  const answers = {
    "GET /api/calendar": { body: CALENDAR },
    "PUT /api/calendar/week": { body: CALENDAR },
  };

  it("lays out whole weeks, Monday first", () => {
    expect(weeksOf(CALENDAR.days).map((week) => week.length)).toEqual([2, 1]);
    expect(weeksOf([])).toEqual([]);
  });

  it("says what is done when, what is out when, and what is late", async () => {
    fakeServer(answers);
    show(<CalendarView />);
    expect(await screen.findByText("film it")).toBeInTheDocument();
    expect(screen.getByText(/of it/)).toBeInTheDocument();
    expect(screen.getByText(/1 day after the promised Sunday,? 1 March/)).toBeInTheDocument();
    expect(screen.getByText(/beyond what is laid out here/)).toBeInTheDocument();
    expect(screen.getByText(/Week of 2 March/)).toBeInTheDocument();
  });

  it("changes hours, days for filming and publishing, and days off", async () => {
    const calls = fakeServer(answers);
    show(<CalendarView />);
    const user = userEvent.setup();
    const monday = await screen.findByLabelText("Minutes on Monday");
    await user.clear(monday);
    await user.type(monday, "9x5{Enter}");
    expect(sent(calls, "PUT /api/calendar/week")).toMatchObject({ minutes: [95, 60, 60, 60, 60, 120, 0] });
    await user.click(screen.getByLabelText("Film on Saturday"));
    expect(sent(calls, "PUT /api/calendar/week")).toMatchObject({ film: [] });
    await user.click(screen.getByLabelText("Publish on Sunday"));
    expect(sent(calls, "PUT /api/calendar/week")).toMatchObject({ publish: [3, 6] });
    fireEvent.change(screen.getByLabelText("day off"), { target: { value: "2026-04-01" } });
    await user.click(screen.getByRole("button", { name: "Add" }));
    expect(sent(calls, "PUT /api/calendar/week")).toMatchObject({ off: ["2026-03-08", "2026-04-01"] });
    await user.click(screen.getByRole("button", { name: /8 Mar: work after all/ }));
    expect(sent(calls, "PUT /api/calendar/week")).toMatchObject({ off: [] });
  });

  it("says what to do when nothing is chosen", async () => {
    fakeServer({ "GET /api/calendar": { body: { ...CALENDAR, songs: [], days: [] } } });
    show(<CalendarView />);
    expect(await screen.findByText(/No song is chosen yet/)).toBeInTheDocument();
  });
});

describe("Open reports beside their place", () => {
  const song = { ...SONG, corrections: 1 };

  it("are shown with what the chart says, and lead to the step and the answer", async () => {
    fakeServer({ "GET /api/songs/5/records": { body: RECORDS } });
    const onStep = vi.fn();
    show(<OpenReports song={song} onStep={onStep} />);
    const list = await screen.findByRole("list", { name: "Reported by viewers" });
    expect(within(list).getAllByRole("listitem")).toHaveLength(1);
    expect(list).toHaveTextContent("Bar 2 has F in your chart.");
    await userEvent.setup().click(screen.getByRole("button", { name: "go to the step" }));
    expect(onStep).toHaveBeenCalledWith("part-1/left");
    expect(screen.getByRole("link", { name: "answer it" })).toHaveAttribute("href", "/songs/5/records");
  });

  it("are those of the bar alone where a bar is asked for, and nothing is asked without any", async () => {
    const calls = fakeServer({ "GET /api/songs/5/records": { body: RECORDS } });
    show(<OpenReports song={song} bar={9} />);
    await waitFor(() => expect(calls).toHaveLength(1));
    expect(screen.queryByRole("list")).not.toBeInTheDocument();
    show(<OpenReports song={SONG} />);
    expect(calls).toHaveLength(1);
  });
});

describe("What the checks find, in the margin where it arises", () => {
  const finding = (more: Partial<Schemas["FindingOut"]>): Schemas["FindingOut"] => ({
    check: "stretch",
    about: "hands",
    severity: "warning",
    sentence: "Bar 1: the right hand spans 190 mm.",
    part: 1,
    bar: 1,
    start: "0",
    step: "",
    mend: MEND,
    meant: MEANT,
    ...more,
  });

  it("is shown at its beats, and told apart as of the chart or of the hands", () => {
    expect(isAbout(finding({}), "hands", 0, 4)).toBe(true);
    expect(isAbout(finding({}), "chart", 0, 4)).toBe(false);
    expect(isAbout(finding({ start: "9/2" }), "hands", 4, 8)).toBe(true);
    expect(isAbout(finding({ start: "8" }), "hands", 4, 8)).toBe(false);
    expect(isAbout(finding({ start: null }), "hands", 0, 4)).toBe(false);
    expect(isAbout(finding({ step: "part-1/left" }), "hands", 0, 4)).toBe(false);
    expect(isAbout(finding({ check: "spelling", about: "chart" }), "chart", 0, 4)).toBe(true);
  });

  it("is mended by one key", async () => {
    const calls = fakeServer({
      "GET /api/songs/5/findings": { body: [finding({ mend: null }), finding({ sentence: "Mend me." })] },
      "POST /api/songs/5/edits": { status: 404, body: { title: "gone", detail: "", kind: "error", data: {} } },
    });
    showInWorkspace(<FoundHere belongs={() => true} />);
    expect(await screen.findByText("Mend me.")).toBeInTheDocument();
    await userEvent.setup().keyboard("z");
    await waitFor(() => expect(sent(calls, "POST /api/songs/5/edits")).toMatchObject({ edit: MEND.edit }));
    expect(await screen.findByText("gone")).toBeInTheDocument();
  });

  it("is closed with a reason where it is meant as it is", async () => {
    const calls = fakeServer({
      "GET /api/songs/5/findings": { body: [finding({})] },
      "POST /api/songs/5/edits": { status: 404, body: { title: "gone", detail: "", kind: "error", data: {} } },
    });
    showInWorkspace(<FoundHere belongs={() => true} />);
    const user = userEvent.setup();
    await user.click(await screen.findByRole("button", { name: "I mean this" }));
    await user.keyboard("small hands can roll it{Enter}");
    await waitFor(() =>
      expect(sent(calls, "POST /api/songs/5/edits")).toMatchObject({
        edit: { ...MEANT, reason: "small hands can roll it" },
      }),
    );
  });

  it("is nothing where nothing belongs", async () => {
    const calls = fakeServer({ "GET /api/songs/5/findings": { body: [finding({})] } });
    showInWorkspace(<FoundHere belongs={() => false} />);
    await waitFor(() => expect(calls).toHaveLength(1));
    expect(screen.queryByRole("list")).not.toBeInTheDocument();
  });
});

describe("The way as a filter", () => {
  it("chooses a waymark, and all again by a second press", async () => {
    const chosen = vi.fn();
    const stages = STAGES.map((name, i) => ({ name, songs: i }));
    const { rerender } = render(<WayFilter stages={stages} chosen="" onChoose={chosen} />);
    await userEvent.setup().click(screen.getByRole("button", { name: /filmed/ }));
    expect(chosen).toHaveBeenLastCalledWith("filmed");
    rerender(<WayFilter stages={stages} chosen="filmed" onChoose={chosen} />);
    expect(screen.getByRole("button", { name: /filmed/ })).toHaveAttribute("aria-pressed", "true");
    await userEvent.setup().click(screen.getByRole("button", { name: /filmed/ }));
    expect(chosen).toHaveBeenLastCalledWith("");
  });
});

describe("Time spent", () => {
  beforeEach(() => void vi.useFakeTimers());

  it("is noted while someone works, and not while nobody does", async () => {
    const calls = fakeServer({ "POST /api/songs/5/time": { status: 204, body: null } });
    const { unmount } = renderHook(() => useTimeSpent(5, "valley"));
    for (let i = 0; i < 13; i++) {
      window.dispatchEvent(new Event("keydown"));
      await act(() => vi.advanceTimersByTimeAsync(5000));
    }
    expect(calls.filter((c) => c.what === "POST /api/songs/5/time")).toHaveLength(1);
    expect(sent(calls, "POST /api/songs/5/time")).toEqual({ stage: 4, minutes: 1, by_hand: false });
    await act(() => vi.advanceTimersByTimeAsync(90_000));
    const before = calls.length;
    await act(() => vi.advanceTimersByTimeAsync(3_600_000));
    expect(calls.length - before).toBeLessThanOrEqual(1);
    unmount();
  });

  it("belongs to no stage on the records page", async () => {
    const calls = fakeServer({});
    renderHook(() => useTimeSpent(5, "records"));
    window.dispatchEvent(new Event("keydown"));
    await act(() => vi.advanceTimersByTimeAsync(120_000));
    expect(calls).toHaveLength(0);
  });
});

describe("A performance", () => {
  const held: Schemas["PerformanceOut"] = {
    notes: 40,
    found: 0.95,
    faults: [{ bar: 2, words: "missing left Bb2" }],
    grips: 7,
    taken: false,
  };

  it("is compared bar by bar, and its grips are taken", async () => {
    const answers = { "POST /api/songs/5/hands/performance": { body: held } };
    fakeServer(answers);
    showInWorkspace(<PerformanceDesk />);
    const user = userEvent.setup();
    const field = document.querySelector("input[type=file]") as HTMLInputElement;
    await user.upload(field, new File(["MThd"], "me.mid", { type: "audio/midi" }));
    expect(await screen.findByText(/95 % of 40 notes/)).toBeInTheDocument();
    expect(within(screen.getByRole("list")).getByText(/missing left B♭2/)).toBeInTheDocument();
    answers["POST /api/songs/5/hands/performance"] = { body: { ...held, taken: true } };
    await user.click(screen.getByRole("button", { name: "Take 7 grips as played" }));
    expect(await screen.findByText(/7 grips are now as you played them/)).toBeInTheDocument();
  });

  it("that is none says why", async () => {
    fakeServer({
      "POST /api/songs/5/hands/performance": {
        status: 422,
        body: { title: "the MIDI file holds no notes", detail: "", kind: "error", data: {} },
      },
    });
    showInWorkspace(<PerformanceDesk />);
    const field = document.querySelector("input[type=file]") as HTMLInputElement;
    await userEvent.setup().upload(field, new File(["x"], "me.mid", { type: "audio/midi" }));
    expect(await screen.findByText("the MIDI file holds no notes")).toBeInTheDocument();
  });
});

describe("A song without a recording", () => {
  it("is played by the piano alone", async () => {
    fakeServer({});
    const { player, chart } = showInWorkspace(<PlayerBar />, { song: { ...SONG, recording_id: null, duration: 0 } });
    act(() => player.load(null, chart, chart.beats_per_bar));
    await waitFor(() => expect(choice("hear")).toHaveTextContent("piano"));
    await userEvent.click(choice("hear"));
    expect(screen.getAllByRole("option").map((o) => o.textContent)).toEqual(["piano", "tune alone, on the piano"]);
    await userEvent.keyboard("{Escape}");
    expect(Number(screen.getByRole("slider").getAttribute("max"))).toBeGreaterThan(1);
    act(() => player.seek(2));
    expect(player.now()).toBe(2);
  });
});
