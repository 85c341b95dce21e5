import { describe, expect, it } from "vitest";
import { bankEdge, bankPath, type Grip, joinNotes, type Note, stagger } from "./banks";

const note = (midi: number, kept = false): Note => ({
  midi,
  pitch: `p${midi}`,
  member: "",
  finger: null,
  optional: false,
  kept,
});
const grip = (left: number[], right: number[]): Grip =>
  ({ left: left.map((m) => note(m)), right: right.map((m) => note(m)) }) as Grip;

describe("what each finger does", () => {
  it("joins every note to its nearest, kept notes first", () => {
    const links = joinNotes([note(60), note(64), note(67)], [note(60, true), note(65), note(69)]);
    expect(links.map(([a, b]) => [a.midi, b.midi])).toEqual([
      [60, 60],
      [64, 65],
      [67, 69],
    ]);
  });
  it("lets one note split where there are more after than before", () => {
    expect(joinNotes([note(48)], [note(48, true), note(55)]).map(([a]) => a.midi)).toEqual([48, 48]);
    expect(joinNotes([], [note(48)])).toEqual([]);
  });
});

describe("banks", () => {
  it("follow the outer keys and hold where a hand rests", () => {
    const edge = bankEdge([grip([48], []), grip([], []), grip([50], [])], "left", "low", (midi) => 10 * midi);
    expect(edge).toEqual([480, 480, 500]);
  });
  it("close their shape", () => {
    expect(bankPath([0, 0], [10, 10], [0, 20], 40, 2)).toMatch(/^M-2\.0 0\.0C.*Z$/);
    expect(bankPath([], [], [], 40, 2)).toBe("");
  });
});

describe("marks of neighbouring keys", () => {
  it("stand apart, others on their line", () => {
    expect(stagger([0, 40, 80], 25)).toEqual([0, 0, 0]);
    const [a, b, c] = stagger([0, 14, 60], 25) as [number, number, number];
    expect(a - b).toBeGreaterThan(14);
    expect(c).toBe(0);
    const three = stagger([0, 14, 28], 25) as [number, number, number];
    expect(Math.sign(three[0])).toBe(-Math.sign(three[1]));
    expect(Math.sign(three[1])).toBe(-Math.sign(three[2]));
  });
});
