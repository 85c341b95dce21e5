import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { sayFilm, sayLength, saySize, sayTrack, sayWait, secondsOf } from "./estimate";

// Two parts of two bars of four, a beat a second, the second part twice as slow.
const chart = {
  beats: [...Array(8).keys(), ...[...Array(8).keys()].map((i) => 8 + 2 * i)],
  parts: [
    { number: 1, start_bar: 1, start_beats: 0, end_beats: 8 },
    { number: 2, start_bar: 3, start_beats: 8, end_beats: 16 },
  ],
  swing: [],
  bars: [0, 4, 8, 12].map((start, i) => ({ number: i + 1, start_beats: start, beats: 4 })),
} as unknown as Schemas["ChartOut"];

it("says how long, how large and how soon", () => {
  expect(secondsOf(chart, { part: 1, speed: 0.5, countIn: false })).toBe(16);
  expect(secondsOf(chart, { part: 1, speed: 1, countIn: true })).toBe(12);
  expect(secondsOf(chart, { part: 2, speed: 1, countIn: false })).toBe(16);
  expect(secondsOf(chart, { part: 0, speed: 1, countIn: false })).toBe(24);
  expect(sayTrack(130, "mp3")).toBe("2:10 long, about 2.9 MB, made in about 5 seconds");
  expect(sayTrack(100, "flac", true)).toBe("1:40 long, about 4.1 MB, made in about 7 seconds");
  expect(sayFilm(130, "webm", "1080p")).toBe("2:10 long, about 2.6 MB, made in about 26 seconds");
  expect(sayFilm(130, "mov", "720p")).toBe("2:10 long, about 44 MB, made in about 8 seconds");
  expect([sayLength(59.6), saySize(4), saySize(12_345), sayWait(1), sayWait(600)]).toEqual([
    "1:00",
    "10 KB",
    "12 MB",
    "1 second",
    "10 minutes",
  ]);
});
