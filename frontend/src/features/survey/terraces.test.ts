import { describe, expect, it } from "vitest";
import { chordNotes } from "../song";
import { barsPerRow, beatOnTerrace, makeTerraces, placeOnTerrace, ROW_WIDTH, type Terrace } from "./terraces";

const bar = (number: number, part: number, beats = 4, start = (number - 1) * 4) => ({
  number,
  part,
  beats,
  meter: "4/4",
  agreement: null,
  start_beats: start,
  start_sec: start,
  end_sec: start + beats,
});

describe("terraces", () => {
  it("hold four bars, and a part begins a new one", () => {
    const rows = makeTerraces([1, 2, 3, 4, 5, 6].map((n) => bar(n, n < 6 ? 1 : 2)));
    expect(rows.map((r) => r.bars.map((b) => b.number))).toEqual([[1, 2, 3, 4], [5], [6]]);
    expect(rows.map((r) => r.first)).toEqual([true, false, true]);
  });
  it("set a pickup before the first four", () => {
    const rows = makeTerraces([bar(0, 1, 1, 0), ...[1, 2, 3, 4, 5].map((n) => bar(n, 1, 4, 1 + (n - 1) * 4))]);
    expect(rows[0]?.bars.map((b) => b.number)).toEqual([0, 1, 2, 3, 4]);
    const terrace = rows[0] as NonNullable<(typeof rows)[0]>;
    expect(placeOnTerrace(terrace, 0)).toBe(0);
    expect(placeOnTerrace(terrace, 17)).toBeCloseTo(ROW_WIDTH);
  });
  it("have two bars in a narrow window, and one in the narrowest", () => {
    expect([280, 360, 640, 892].map(barsPerRow)).toEqual([1, 2, 2, 4]);
    const rows = makeTerraces(
      [1, 2, 3].map((n) => bar(n, 1)),
      2,
    );
    expect(rows.map((r) => r.bars.length)).toEqual([2, 1]);
    expect(placeOnTerrace(rows[0] as Terrace, 4)).toBeCloseTo(ROW_WIDTH / 2);
    expect(beatOnTerrace(rows[0] as Terrace, ROW_WIDTH / 2 + 1)).toBeGreaterThan(4);
  });
  it("have no rows for no bars", () => expect(makeTerraces([])).toEqual([]));
  it("place beats evenly in their bars", () => {
    const [terrace] = makeTerraces([1, 2, 3, 4].map((n) => bar(n, 1)));
    if (!terrace) throw new Error("a terrace was expected");
    expect(placeOnTerrace(terrace, 2)).toBeCloseTo(ROW_WIDTH / 8);
    expect(placeOnTerrace(terrace, 16)).toBeCloseTo(ROW_WIDTH);
  });
});

it("a chord is heard with its bass in the left hand", () => {
  const chord = { midi: [40, 55, 60, 64], start_beats: 4, duration_beats: 2 } as Parameters<typeof chordNotes>[0];
  expect(chordNotes(chord).map((n) => [n.midi, n.hand])).toEqual([
    [40, "left"],
    [55, "right"],
    [60, "right"],
    [64, "right"],
  ]);
});

it("finds the beat at a place of the drawing", () => {
  const [row] = makeTerraces([bar(0, 1, 1, 0), bar(1, 1, 4, 1), bar(2, 1, 3, 5)]);
  if (!row) throw new Error("no row");
  for (const beat of [0, 0.5, 1, 2.25, 5, 7.5]) expect(beatOnTerrace(row, placeOnTerrace(row, beat))).toBeCloseTo(beat);
  expect(beatOnTerrace(row, -20)).toBe(0);
  expect(beatOnTerrace(row, 5000)).toBe(8);
});
