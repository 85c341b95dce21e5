import { describe, expect, it } from "vitest";
import type { Schemas } from "./client";
import { patched } from "./patch";

const told = {
  revision: 3,
  title: "Kettle",
  chords: ["C", "F", "G", "C"],
  beats: [0, 1],
} as unknown as Schemas["ChartOut"];

describe("a patch of a chart", () => {
  it("takes single values and one stretch of every list", () => {
    const patch = {
      base: 3,
      fields: { revision: 4, title: "Kettle and Lid" },
      rows: { chords: { at: 1, gone: 2, rows: ["Dm", "G7", "G"] } },
    };
    expect(patched(told, patch)).toEqual({
      revision: 4,
      title: "Kettle and Lid",
      chords: ["C", "Dm", "G7", "G", "C"],
      beats: [0, 1],
    });
    expect(told.chords).toHaveLength(4);
  });

  it("fits only the version it was made for", () => {
    expect(patched(told, { base: 2, fields: {}, rows: {} })).toBeUndefined();
    expect(patched(undefined, { base: 2, fields: {}, rows: {} })).toBeUndefined();
  });
});
