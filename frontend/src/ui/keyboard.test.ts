import { describe, expect, it } from "vitest";
import { framing, isBlack, keyBox, keyboardWidth, keyCentre } from "./keyboard";
import { isCompound, sayMinutes, withSigns } from "./notation";

const ALL = Array.from({ length: 88 }, (_, i) => 21 + i);

describe("the keyboard", () => {
  it("has 36 black keys among 88, five to the octave", () => {
    expect(ALL.filter(isBlack)).toHaveLength(36);
    expect(ALL.slice(0, 12).filter(isBlack)).toHaveLength(5);
  });
  it("lays keys from left to right, white ones side by side", () => {
    const centres = ALL.map((k) => keyCentre(k, 21));
    expect([...centres].sort((a, b) => a - b)).toEqual(centres);
    const white = ALL.filter((k) => !isBlack(k)).map((k) => keyBox(k, 21));
    white.forEach((box, i) => {
      expect(box).toEqual({ x: i, width: 1 });
    });
    expect(keyboardWidth(21, 108)).toBe(52);
  });
  it("stands every black key over the line between its neighbours", () => {
    for (const key of ALL.filter(isBlack)) {
      const { x, width } = keyBox(key, 21);
      const line = keyBox(key + 1, 21).x;
      expect(x).toBeLessThan(line);
      expect(x + width).toBeGreaterThan(line);
      expect(width).toBeLessThan(1);
    }
  });
  it("frames what is played by octaves, two at least, inside the instrument", () => {
    for (const from of ALL) {
      for (const to of [from, Math.min(108, from + 7), Math.min(108, from + 31)]) {
        const { low, high } = framing([from, to]);
        expect(low).toBeLessThanOrEqual(from);
        expect(high).toBeGreaterThanOrEqual(to);
        expect(low).toBeGreaterThanOrEqual(21);
        expect(high).toBeLessThanOrEqual(108);
      }
    }
    expect(framing([])).toEqual({ low: 36, high: 84 });
  });
});

describe("signs and lengths", () => {
  it.each([
    ["Ebm7b5", "E♭m7♭5"],
    ["Bbb", "B♭♭"],
    ["C#m7/G#", "C♯m7/G♯"],
    ["Abmaj7", "A♭maj7"],
    ["Dbsus4", "D♭sus4"],
    ["C7#9", "C7#9"],
    ["About the bridge", "About the bridge"],
    ["Both hands", "Both hands"],
    ["G is back", "G is back"],
  ])("%s is shown as %s", (text, shown) => expect(withSigns(text)).toBe(shown));

  it("says how long something takes as one would", () => {
    expect([0, 3, 44, 62, 70, 599, 600, 754].map(sayMinutes)).toEqual([
      "5 s",
      "5 s",
      "45 s",
      "1 min",
      "1 min 10 s",
      "10 min",
      "10 min",
      "13 min",
    ]);
  });
  it("knows the metres whose beat falls into three", () => {
    expect(["6/8", "9/8", "12/8", "6/4"].every(isCompound)).toBe(true);
    expect(["2/4", "3/4", "4/4", "3/8", "5/8", "7/8"].some(isCompound)).toBe(false);
  });
});
