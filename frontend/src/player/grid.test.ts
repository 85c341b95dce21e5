import { describe, expect, it } from "vitest";
import { beatsAt, secondsAt } from "./grid";

const beats = [0.5, 1.0, 1.6, 2.1, 2.5];

describe("beats and seconds", () => {
  it("gives every beat its time and back", () => {
    beats.forEach((time, i) => {
      expect(secondsAt(beats, i)).toBeCloseTo(time);
      expect(beatsAt(beats, time)).toBeCloseTo(i);
    });
  });
  it("goes on beyond the grid at the nearest beat's length", () => {
    expect(secondsAt(beats, -1)).toBeCloseTo(0);
    expect(secondsAt(beats, 6)).toBeCloseTo(3.3);
    expect(beatsAt(beats, 3.3)).toBeCloseTo(6);
  });
  it("is its own inverse between beats", () => {
    for (let x = -0.5; x < 5; x += 0.13) expect(beatsAt(beats, secondsAt(beats, x))).toBeCloseTo(x);
  });
  it("does not stumble over a song without beats", () => {
    expect(secondsAt([], 3)).toBe(3);
    expect(beatsAt([1], 3)).toBe(3);
  });
});
