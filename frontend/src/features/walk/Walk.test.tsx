import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { STOPS } from "./stops";
import { chooseSong } from "./Walk";

const song = (id: number, more: Partial<Schemas["SongOut"]>) => ({
  song: { id, demo: false, charted: true, doubts: 0, recording_id: null, ...more } as Schemas["SongOut"],
});

it("walks through a demo song with places to check, else through what has a chart", () => {
  const rows = [
    song(1, {}),
    song(2, { doubts: 3, recording_id: 2 }),
    song(3, { demo: true }),
    song(4, { demo: true, doubts: 2, recording_id: 4 }),
    song(5, { demo: true, doubts: 9, charted: false }),
  ];
  expect(chooseSong(rows)?.id).toBe(4);
  expect(chooseSong(rows.slice(0, 2))?.id).toBe(2);
  expect(chooseSong([song(9, { charted: false })])).toBeNull();
});

it("goes through the views in the order of the work", () => {
  expect([...new Set(STOPS.map((s) => s.view))]).toEqual(["survey", "parts", "valley", "script", "hand-outs"]);
});
