import { describe, expect, it } from "vitest";
import { layOutMap, type Part } from "./mapLayout";

const part = (number: number, same_as: number | null = null): Part => ({
  number,
  same_as,
  name: "",
  start_bar: number * 4,
  end_bar: number * 4 + 3,
  bars: 4,
  start_beats: number * 16,
  end_beats: number * 16 + 16,
  kinship: same_as ? "same" : "new",
  differences: [],
  pattern: [],
  words: "",
  must: true,
});

describe("the map of parts", () => {
  const { places, walks } = layOutMap([part(1), part(2), part(3), part(4, 2), part(5, 3), part(6)], 880, 430);

  it("has one place a distinct part, with all its visits", () => {
    expect(places.map((p) => p.visits)).toEqual([[1], [2, 4], [3, 5], [6]]);
  });
  it("has one walk from each part to the next, and says which go back", () => {
    expect(walks.map((w) => [w.from.part.number, w.to.part.number, w.returning])).toEqual([
      [1, 2, false],
      [2, 3, false],
      [3, 2, true],
      [2, 3, true],
      [3, 6, false],
    ]);
  });
  it("draws no two walks alike", () => expect(new Set(walks.map((w) => w.path)).size).toBe(walks.length));
  it("keeps every place on the sheet and apart from the others, however many there are", () => {
    for (const count of [1, 2, 5, 7, 12]) {
      const map = layOutMap(
        Array.from({ length: count }, (_, i) => part(i + 1)),
        880,
        430,
      );
      for (const a of map.places) {
        expect(a.x).toBeGreaterThan(40);
        expect(a.x).toBeLessThan(840);
        for (const b of map.places) if (a !== b) expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeGreaterThan(90);
      }
    }
  });
  it("follows a repeat of a repeat to its place", () => {
    expect(layOutMap([part(1), part(2, 1), part(3, 2)], 880, 430).places[0]?.visits).toEqual([1, 2, 3]);
  });
});
