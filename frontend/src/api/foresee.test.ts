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
  test("chords are moved, cut and joined where they stand, and what the server would refuse is not drawn", () => {
    const spans = (chart: typeof CHART) => chart.chords.map((c) => `${c.symbol} ${c.start}+${c.duration}`);
    const [first, second] = CHART.chords;
    const moved = foresee(CHART, { kind: "move_change", start: second?.start ?? "", to: "7/2" });
    expect(spans(moved).slice(0, 2)).toEqual([`${first?.symbol} 0+7/2`, `${second?.symbol} 7/2+9/2`]);
    expect(moved.chords[1]).toMatchObject({ start_beats: 3.5, duration_beats: 4.5, locked: true });
    expect(spans(foresee(moved, { kind: "move_change", start: "7/2", to: "4" }))).toEqual(spans(CHART));
    expect(foresee(CHART, { kind: "move_change", start: "0", to: "1" })).toBe(CHART);
    expect(foresee(CHART, { kind: "move_change", start: "4", to: "0" })).toBe(CHART);
    const cut = foresee(CHART, { kind: "split_chord", at: "1/2" });
    expect(spans(cut).slice(0, 2)).toEqual([`${first?.symbol} 0+1/2`, `${first?.symbol} 1/2+7/2`]);
    expect(spans(foresee(cut, { kind: "join_chord", start: "1/2" }))).toEqual(spans(CHART));
    expect(foresee(CHART, { kind: "split_chord", at: "4" })).toBe(CHART);
    expect(foresee(CHART, { kind: "delete_chord", start: "0" })).toBe(CHART);
  });
  test("notes and names follow; what needs the rules of music waits for the server", () => {
    expect(foresee(CHART, { kind: "change_note", start: "0", midi: 71 }).melody[0]?.midi).toBe(71);
    expect(foresee(CHART, { kind: "delete_note", start: "0" }).melody).toHaveLength(1);
    expect(foresee(CHART, { kind: "rename_part", number: 2, name: "lift" }).parts[1]?.name).toBe("lift");
    expect(foresee(CHART, { kind: "halve_tempo" })).toBe(CHART);
  });
});
