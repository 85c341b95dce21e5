import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter } from "react-router";
import { vi } from "vitest";
import type { Schemas } from "../../api/client";
import { Player } from "../../player";
import { type Workspace, WorkspaceContext } from "./context";

const reading = (symbol: string, probability: number) => ({
  label: `${symbol}:maj`,
  symbol,
  probability,
  notes: [],
  why: "with D",
});

export function makeChord(index: number, symbol: string, more: Partial<Schemas["ChordOut"]> = {}): Schemas["ChordOut"] {
  return {
    start: String(index * 4),
    duration: "4",
    start_beats: index * 4,
    duration_beats: 4,
    bar: index + 1,
    beat: 1,
    label: `${symbol}:maj`,
    symbol,
    spoken: `${symbol} major, root position`,
    notes: ["C", "E", "G"],
    midi: [48, 60, 64, 67],
    confidence: 0.9,
    locked: false,
    doubtful: false,
    heard_otherwise: "",
    readings: [reading(symbol, 0.6), reading("Am", 0.2), reading("Em", 0.1)],
    ...more,
  };
}

const part = (number: number, more: Partial<Schemas["PartOut"]> = {}): Schemas["PartOut"] => ({
  number,
  name: "",
  start_bar: number * 2 - 1,
  end_bar: number * 2,
  bars: 2,
  start_beats: (number - 1) * 8,
  end_beats: number * 8,
  same_as: null,
  kinship: "new",
  differences: [],
  pattern: ["C", "F"],
  words: "new",
  must: true,
  ...more,
});

export const CHART: Schemas["ChartOut"] = {
  title: "Test Song",
  revision: 3,
  can_undo: true,
  can_redo: false,
  last_change: "bar 1, beat 1: Bb instead of C",
  meter: "4/4",
  feel: "straight",
  swing: [],
  beats_per_bar: 4,
  bpm: 120,
  odds: 0.77,
  levels: [
    { kind: "halve_tempo", bpm: 60, meter: "4/4", odds: 0.22 },
    { kind: "double_tempo", bpm: 240, meter: "4/4", odds: null },
  ],
  tuning: "in tune",
  transposed: 0,
  headline: "Bb major · 4/4",
  beats: Array.from({ length: 17 }, (_, i) => i * 0.5),
  bars: [1, 2, 3, 4].map((n) => ({
    number: n,
    start_beats: (n - 1) * 4,
    beats: 4,
    meter: "4/4",
    start_sec: (n - 1) * 2,
    end_sec: n * 2,
    part: n < 3 ? 1 : 2,
    agreement: { whole: 0.3, chords: 0.2, bass: 0.4, tune: null, words: "harmony fits badly" },
  })),
  keys: [
    {
      start: "0",
      start_beats: 0,
      tonic: "Bb",
      mode: "major",
      bar: 1,
      name: "Bb major",
      signature: "2 flats",
      scale: ["Bb"],
    },
  ],
  chords: [
    makeChord(0, "Bb"),
    makeChord(1, "F", { doubtful: true, confidence: 0.3 }),
    makeChord(2, "C"),
    makeChord(3, "G", { locked: true }),
  ],
  melody: [
    {
      start: "0",
      duration: "1",
      start_beats: 0,
      duration_beats: 1,
      place: "bar 1, on 1",
      lasts: "1 beat",
      midi: 70,
      pitch: "Bb4",
      grace: false,
      locked: false,
    },
    {
      start: "1",
      duration: "1",
      start_beats: 1,
      duration_beats: 1,
      place: "bar 1, on 1",
      lasts: "1 beat",
      midi: 72,
      pitch: "C5",
      grace: false,
      locked: false,
    },
  ],
  cues: [{ start: "4", start_beats: 4, text: "turn" }],
  offer: [],
  parts: [
    part(1),
    part(2, {
      same_as: 1,
      kinship: "varied",
      differences: ["bar 3: C instead of Bb"],
      words: "part 1 again, with changes",
    }),
  ],
  doubts: [1],
  vocabulary: [
    {
      key: "Bb major",
      symbol: "Bb",
      times: 2,
      bars: [1, 3],
      notes: ["Bb", "D", "F"],
      function: "home",
      roman: "I",
      unusual: "",
      after: [{ symbol: "F", times: 2, common: ["F"] }],
    },
  ],
  bars_to_learn: 3,
  suggestions: [{ number: 2, model: 1, why: "a whole step higher" }],
  lesson_order: [1, 2],
  lesson_minutes: 0,
  thanks: "",
};

export const SONG: Schemas["SongOut"] = {
  id: 5,
  title: "Test Song",
  demo: false,
  standing: "heard",
  charted: true,
  next_step: "1 place to check",
  facts: "",
  doubts: 1,
  original_name: "a.mp3",
  recording_id: 5,
  duration: 8,
  warning: "",
  job: null,
  stage: 2,
  stage_name: "listened",
  votes: 0,
  wanted: "",
  promised_for: null,
  corrections: 0,
  bars: 4,
  bars_to_learn: 2,
  rights: "",
  added_at: "2026-01-01T00:00:00Z",
  changed_at: "2026-01-01T00:00:00Z",
};

const note = (midi: number, pitch: string, kept = false) => ({
  midi,
  pitch,
  member: "root",
  kept,
  finger: 1,
  optional: false,
});
const grip = (index: number, symbol: string, more: Partial<Schemas["GripOut"]> = {}): Schemas["GripOut"] => ({
  start: String(index * 4),
  start_beats: index * 4,
  duration_beats: 4,
  bar: index + 1,
  beat: 1,
  count: "1",
  symbol,
  inversion: "root position",
  left: [note(46, "Bb2")],
  right: [note(60, "C4", true), note(62, "D4")],
  reach_left_mm: 0,
  reach_right_mm: 23,
  white_left: 1,
  white_right: 2,
  strained: false,
  collides: false,
  outside: false,
  locked: false,
  omits: [],
  why: "C4 stays down.",
  hint: "",
  caution: "",
  move: "",
  pattern: "",
  twins: 0,
  ...more,
});

const PLAIN = {
  style: "root-and-chord",
  level: "standard",
  pattern: "held",
  own_style: false,
  drop_last: false,
  lead_in: false,
  ending: "",
  tune: null,
  links: [],
  notices: [],
};

export const ARRANGEMENT: Schemas["ArrangementOut"] = {
  revision: 3,
  last_change: "voicing “Shell”",
  settings: {
    style: "root-and-chord",
    level: "standard",
    hand: "medium",
    keyboard: "88",
    frame: "",
    pattern: "held",
    bass: "slash",
    links: "chosen",
    pedal: true,
    fingers: true,
    tune: "auto",
    own_patterns: [],
  },
  comfort_mm: 175,
  most_mm: 198,
  lowest: 21,
  highest: 108,
  frame_low: 21,
  frame_high: 108,
  parts: [
    {
      part: 1,
      ...PLAIN,
      grips: [
        grip(0, "Bb"),
        grip(1, "F", {
          strained: true,
          caution: "The right hand spans 188 mm here; stop and rest if it hurts.",
          reach_right_mm: 188,
          omits: ["fifth"],
          move: "Right hand: keep C4.",
        }),
      ],
      notes: [
        {
          hand: "right",
          start_beats: 0,
          duration_beats: 1,
          sounds_beats: 1,
          midi: 70,
          pitch: "Bb4",
          melody: true,
          finger: 4,
          rings: false,
          link: false,
          grace: false,
        },
      ],
    },
    { part: 2, ...PLAIN, grips: [], notes: [] },
  ],
};

/** What the server answers to an edit, where nothing is drawn anew. */
export const EDITED: Schemas["EditedOut"] = {
  revision: 4,
  last_change: "changed",
  can_undo: true,
  can_redo: false,
  offer: [],
  chart: null,
  arrangement: null,
  lesson: null,
};

/** A mend as the checks give it. */
export const MEND: Schemas["MendOut"] = {
  edit: { kind: "change_grip", start: "0", action: "release" } as Schemas["ChangeGrip"],
  words: "take Valley's grip",
};

/** What closes a finding that is meant as it is. */
export const MEANT: Schemas["FindingOut"]["meant"] = {
  kind: "mean_this",
  start: "0",
  check: "name",
  says: "Bar 1, Bb: A is added.",
  reason: "",
  again: false,
};

/** Answers of a server that is not there, by "METHOD /path"; what was asked is kept in `calls`. */
export function fakeServer(answers: Record<string, { status?: number; body: unknown }>) {
  const calls: { what: string; body: unknown }[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const what = `${request.method} ${new URL(request.url).pathname}`;
    calls.push({ what, body: request.method === "GET" ? null : await request.json().catch(() => null) });
    const answer = answers[what] ?? {
      status: 404,
      body: { title: `nothing at ${what}`, detail: "", kind: "error", data: {} },
    };
    return new Response(answer.status === 204 ? null : JSON.stringify(answer.body), {
      status: answer.status ?? 200,
      headers: { "content-type": "application/json" },
    });
  });
  return calls;
}

/** A view inside a workspace, with everything that a song page gives it. */
export function showInWorkspace(view: ReactNode, more: Partial<Workspace> = {}) {
  const player = new Player(document.createElement("audio"));
  const workspace: Workspace = {
    song: SONG,
    chart: CHART,
    loudness: Array(160).fill(0.5),
    player,
    selected: "0",
    place: more.selected ?? "0",
    select: vi.fn(),
    part: CHART.parts[0] as Schemas["PartOut"],
    selectPart: vi.fn(),
    stretch: null,
    mark: vi.fn(),
    markTo: vi.fn(),
    ...more,
  };
  const client = new QueryClient({ defaultOptions: { queries: { retry: false }, mutations: { retry: false } } });
  client.setQueryData(["song", 5, "chart"], workspace.chart);
  render(
    <QueryClientProvider client={client}>
      <MemoryRouter initialEntries={["/songs/5/survey"]}>
        <WorkspaceContext.Provider value={workspace}>{view}</WorkspaceContext.Provider>
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return { ...workspace, queries: client };
}
