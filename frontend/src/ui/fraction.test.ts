import { describe, expect, test } from "vitest";
import { addBeats, beatsOf } from "./fraction";

describe("exact beats", () => {
  test("are added without rounding", () => {
    expect(addBeats("7/2", 1, 2)).toBe("4");
    expect(addBeats("4", -1, 2)).toBe("7/2");
    expect(addBeats("1/3", 1, 2)).toBe("5/6");
    expect(addBeats("3", -3)).toBe("0");
  });
  test("are read as numbers", () => expect(beatsOf("7/2")).toBe(3.5));
});
