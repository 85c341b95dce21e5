import { render, screen } from "@testing-library/react";
import { useEffect } from "react";
import { expect, it } from "vitest";
import type { Terrace } from "./terraces";
import { useDrawn } from "./useDrawn";

const ROWS = Array.from({ length: 40 }, (_, i) => ({
  bars: [{ start_beats: 16 * i, beats: 16 }],
})) as unknown as Terrace[];

function Rows({ seen }: { seen: number[][] }) {
  const { all, drawn } = useDrawn(ROWS, 16 * 20, 16 * 30 + 3);
  useEffect(() => {
    seen.push(ROWS.map((_, i) => i).filter(drawn));
  });
  return <p aria-busy={!all}>rows</p>;
}

it("draws the rows around the place in hand first, and all of them when the page stands", async () => {
  const seen: number[][] = [];
  render(<Rows seen={seen} />);
  expect(await screen.findByText("rows")).toHaveAttribute("aria-busy", "false");
  expect(seen.at(-1)).toHaveLength(40);
  expect(seen[0]).toEqual(expect.arrayContaining([20, 30]));
});
