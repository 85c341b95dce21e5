import { describe, expect, test } from "vitest";
import { CHART } from "../features/song/testing";
import { foresee } from "./foresee";

describe("what a correction will look like", () => {
  test("a picked reading is drawn by its symbol, a typed chord as typed", () => {
    const picked = foresee(CHART, { kind: "set_chord", start: "4", text: "Am:maj" }).chords[1];
    expect(picked).toMatchObject({ symbol: "Am", locked: true, doubtful: false });
    expect(foresee(CHART, { kind: "set_chord", start: "4", text: "Dm7" }).chords[1]?.symbol).toBe("Dm7");
    expect(CHART.chords[1]?.symbol).toBe("F");
  });
  test("notes and names follow; what needs the rules of music waits for the server", () => {
    expect(foresee(CHART, { kind: "change_note", start: "0", midi: 71 }).melody[0]?.midi).toBe(71);
    expect(foresee(CHART, { kind: "delete_note", start: "0" }).melody).toHaveLength(1);
    expect(foresee(CHART, { kind: "rename_part", number: 2, name: "lift" }).parts[1]?.name).toBe("lift");
    expect(foresee(CHART, { kind: "halve_tempo" })).toBe(CHART);
  });
});
