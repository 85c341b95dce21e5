import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { choose } from "../../ui/fields/choose";
import { fakeServer } from "../song/testing";
import { ShelfView } from "./ShelfView";

const song = (id: number, more: object = {}) => ({
  id,
  title: `Song ${id}`,
  demo: false,
  standing: "charted",
  charted: true,
  next_step: "ready to voice and hand out",
  facts: "Eb major · 4/4",
  doubts: 0,
  original_name: "song.mp3",
  recording_id: id,
  duration: 61,
  warning: "",
  job: null,
  stage: 3,
  stage_name: "charted",
  votes: 0,
  wanted: "",
  promised_for: null,
  corrections: 0,
  rights: "",
  bars: 16,
  bars_to_learn: 8,
  added_at: "2026-01-01T00:00:00Z",
  changed_at: "2026-01-01T00:00:00Z",
  ...more,
});

const shelf = (songs: object[]) => ({
  rows: songs.map((s) => ({ song: s, minutes_left: 90, time_left: "about 1½ hours" })),
  total: songs.length,
  stages: ["asked", "chosen", "listened", "charted", "arranged", "scripted", "filmed", "published", "corrected"].map(
    (name) => ({ name, songs: name === "charted" ? songs.length : 0 }),
  ),
  new_comments: 3,
});

let songs: object[] = [];
let answers: Parameters<typeof fakeServer>[0] = {};
let calls: ReturnType<typeof fakeServer> = [];

beforeEach(() => {
  songs = [];
  answers = {
    "GET /api/session": { body: { max_upload_bytes: 1000, max_seconds: 60, signed_in: false, name: "owner" } },
    "GET /api/shelf": {
      get body() {
        return shelf(songs);
      },
    },
    "POST /api/songs/1/restore": { body: song(1) },
  };
  calls = fakeServer(answers);
});
afterEach(() => vi.unstubAllGlobals());

function show() {
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter>
        <ShelfView />
      </MemoryRouter>
    </QueryClientProvider>,
  );
}

it("says what to do when the shelf is empty", async () => {
  show();
  expect(await screen.findByText(/The shelf is empty/)).toBeInTheDocument();
});

it("shows where each song stands and what has been found", async () => {
  songs = [
    song(1),
    song(2, {
      standing: "listening",
      next_step: "being listened to",
      job: { id: 7, state: "running", stage: "Following the beat", fraction: 0.66, found: ["in tune"], error: "" },
    }),
    song(3, {
      standing: "failed",
      next_step: "could not be heard",
      job: { id: 8, state: "failed", stage: "", fraction: 0, found: [], error: "'x.mp3' is silent." },
    }),
  ];
  show();
  const lines = await screen.findAllByRole("listitem");
  expect(screen.getByText("E♭ major · 4/4", { exact: false, selector: "li:first-child p" })).toBeInTheDocument();
  expect(screen.getByRole("progressbar")).toHaveAttribute("aria-valuenow", "66");
  expect(screen.getByText("in tune")).toBeInTheDocument();
  expect(screen.getByRole("alert")).toHaveTextContent("is silent");
  expect(lines.length).toBeGreaterThanOrEqual(3);
});

it("refuses too large a file before it is sent", async () => {
  show();
  await screen.findByText(/The shelf is empty/);
  const field = document.querySelector("input[type=file]") as HTMLInputElement;
  await userEvent.upload(field, new File([new Uint8Array(2000)], "long.wav", { type: "audio/wav" }));
  expect(await screen.findByRole("alert")).toHaveTextContent("too large");
  expect(calls.some((c) => c.what.startsWith("POST"))).toBe(false);
});

it("offers to open the twin or to add it once more", async () => {
  answers["POST /api/songs"] = {
    status: 409,
    body: { title: "This recording is already on the shelf.", detail: "", kind: "twin", data: { song: 5 } },
  };
  show();
  await screen.findByText(/The shelf is empty/);
  await userEvent.upload(
    document.querySelector("input[type=file]") as HTMLInputElement,
    new File(["x"], "a.wav", { type: "audio/wav" }),
  );
  const notice = await screen.findByRole("alert");
  expect(within(notice).getByRole("link")).toHaveAttribute("href", "/songs/5");
  answers["POST /api/songs"] = { status: 201, body: song(6) };
  await userEvent.click(within(notice).getByRole("button", { name: "Add it once more" }));
  await waitFor(() => expect(screen.queryByRole("alert")).not.toBeInTheDocument());
});

it("takes a song off the shelf and puts it back", async () => {
  songs = [song(1)];
  answers["DELETE /api/songs/1"] = { status: 204, body: null };
  show();
  await userEvent.click(await screen.findByRole("button", { name: "Take Song 1 off the shelf" }));
  await userEvent.click(await screen.findByRole("button", { name: "Put it back" }));
  await waitFor(() => expect(calls.map((c) => c.what)).toContain("POST /api/songs/1/restore"));
});

it("notes a wish by keys, and puts the form away again", async () => {
  answers["POST /api/requests"] = { status: 201, body: song(7, { title: "Blue Kettle" }) };
  show();
  await screen.findByText(/The shelf is empty/);
  const user = userEvent.setup();
  await user.keyboard("r");
  await user.keyboard("{Escape}");
  expect(screen.queryByRole("form")).not.toBeInTheDocument();
  await user.keyboard("r");
  await user.type(screen.getByLabelText("song"), "blue kettle");
  await user.type(screen.getByLabelText("who asks"), "@fern");
  await user.click(screen.getByRole("button", { name: "as another song" }));
  expect(calls.find((c) => c.what === "POST /api/requests")?.body).toEqual({
    title: "blue kettle",
    handle: "@fern",
    note: "",
    apart: true,
  });
  expect(await screen.findByText("Noted for “Blue Kettle”.")).toBeInTheDocument();
});

it("searches, orders and chooses a waymark on the server, and shows what was taken off", async () => {
  songs = [song(1, { votes: 7, promised_for: "2026-05-02", stage: 0 })];
  answers["POST /api/songs/1/way"] = { body: { song: song(1) } };
  const asked: string[] = [];
  const fetchNow = globalThis.fetch;
  vi.stubGlobal("fetch", (request: Request) => {
    asked.push(new URL(request.url).search);
    return fetchNow(request);
  });
  show();
  const user = userEvent.setup();
  expect(await screen.findByText("7 viewers ask")).toBeInTheDocument();
  expect(screen.getByText("promised for 2 May")).toBeInTheDocument();
  await user.click(screen.getByRole("button", { name: "Choose Song 1" }));
  expect(calls.find((c) => c.what === "POST /api/songs/1/way")?.body).toEqual({ stage: 1, reached: true });
  await user.keyboard("/");
  await user.keyboard("kettle");
  await choose("order", "most asked for");
  await user.click(screen.getByRole("button", { name: /charted/ }));
  await waitFor(() => expect(asked.at(-1)).toMatch(/q=kettle&stage=charted&order=votes&deleted=false/));
  await user.click(screen.getByLabelText("taken off the shelf"));
  expect(await screen.findByRole("button", { name: "Put Song 1 back on the shelf" })).toBeInTheDocument();
});

it("says so when Valley does not answer", async () => {
  vi.stubGlobal("fetch", () => Promise.reject(new TypeError("network")));
  show();
  expect(await screen.findByText("Valley does not answer.")).toBeInTheDocument();
});
