import { describe, expect, it } from "vitest";
import { beatsAt, secondsAt } from "./grid";

const beats = [0.5, 1.0, 1.6, 2.1, 2.5];
const grid = { beats, swing: [] };

describe("beats and seconds", () => {
  it("gives every beat its time and back", () => {
    beats.forEach((time, i) => {
      expect(secondsAt(grid, i)).toBeCloseTo(time);
      expect(beatsAt(grid, time)).toBeCloseTo(i);
    });
  });
  it("goes on beyond the grid at the nearest beat's length", () => {
    expect(secondsAt(grid, -1)).toBeCloseTo(0);
    expect(secondsAt(grid, 6)).toBeCloseTo(3.3);
    expect(beatsAt(grid, 3.3)).toBeCloseTo(6);
  });
  it("is its own inverse between beats", () => {
    for (let x = -0.5; x < 5; x += 0.13) expect(beatsAt(grid, secondsAt(grid, x))).toBeCloseTo(x);
  });
  it("does not stumble over a song without beats", () => {
    expect(secondsAt({ beats: [], swing: [] }, 3)).toBe(3);
    expect(beatsAt({ beats: [1], swing: [] }, 3)).toBe(3);
  });
  it("plays written halves long and short where the song swings, and triplets as they are", () => {
    const swung = { beats: [0, 1, 2, 3], swing: [{ start_beats: 0, end_beats: 2, pair: 1, long: 2 / 3 }] };
    expect(secondsAt(swung, 0.5)).toBeCloseTo(2 / 3);
    expect(secondsAt(swung, 1.5)).toBeCloseTo(1 + 2 / 3);
    expect(secondsAt(swung, 1 / 3)).toBeCloseTo(1 / 3);
    expect(secondsAt(swung, 2.5)).toBeCloseTo(2.5); // no longer there
    for (let x = 0; x < 3; x += 0.13) expect(beatsAt(swung, secondsAt(swung, x))).toBeCloseTo(x);
  });
  it("swings the sixteenths alone where they are swung", () => {
    const swung = { beats: [0, 1, 2], swing: [{ start_beats: 0, end_beats: 2, pair: 0.5, long: 2 / 3 }] };
    expect(secondsAt(swung, 0.25)).toBeCloseTo(1 / 3);
    expect(secondsAt(swung, 0.5)).toBeCloseTo(0.5);
    expect(secondsAt(swung, 0.75)).toBeCloseTo(0.5 + 1 / 3);
  });
});
