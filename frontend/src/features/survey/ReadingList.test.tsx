import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { CHART } from "../song/testing";
import { ReadingList } from "./ReadingList";

const reading = (label: string, symbol: string, probability: number, why: string) => ({
  label,
  symbol,
  probability,
  why,
});
const CHORD = {
  ...CHART.chords[0],
  label: "Bb:maj",
  readings: [
    reading("Bb:maj", "Bb", 0.62, "bass and notes fit best"),
    reading("G:min7", "Gm7", 0.3, "with G"),
    reading("Bb:maj6", "Bb6", 0.004, "with G"),
  ],
} as Schemas["ChordOut"];

describe("The readings of a chord", () => {
  it("stand in their order with how likely they are and why, the present one marked", () => {
    render(<ReadingList chord={CHORD} onPick={vi.fn()} />);
    const rows = screen.getAllByRole("button");
    expect(rows.map((r) => r.textContent)).toEqual([
      "1B♭62\u00a0%bass and notes fit best",
      "2Gm730\u00a0%with G",
      "3B♭60\u00a0%with G",
    ]);
    expect(rows.map((r) => r.getAttribute("aria-pressed"))).toEqual(["true", "false", "false"]);
  });

  it("are picked by their place", async () => {
    const onPick = vi.fn();
    render(<ReadingList chord={CHORD} onPick={onPick} />);
    await userEvent.click(screen.getByRole("button", { name: /Gm7/ }));
    expect(onPick).toHaveBeenCalledExactlyOnceWith(1);
  });
});
