import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { barAt, markNext, sayBars, stretchOf } from "./stretch";

const bars = [0, 1, 2, 3, 4].map((number) => ({
  number,
  start_beats: number ? number * 4 - 3 : 0,
  beats: number ? 4 : 1,
})) as Schemas["BarOut"][];

it("finds the bar of a place", () => {
  expect([0, 0.5, 1, 4.99, 5, 40].map((beat) => barAt(bars, beat)?.number)).toEqual([0, 0, 1, 1, 2, 4]);
});

it("marks from a bar, up to another, and no more", () => {
  const first = markNext(null, 2);
  expect(stretchOf(bars, first, 5)).toEqual({ first: 2, last: 2, from: 5, to: 9, growing: true });
  expect(stretchOf(bars, first, 14)).toMatchObject({ first: 2, last: 4, growing: true });
  expect(stretchOf(bars, first, 0)).toMatchObject({ first: 0, last: 2, from: 0, to: 9 });
  const whole = markNext(first, 3);
  expect(stretchOf(bars, whole, 14)).toEqual({ first: 2, last: 3, from: 5, to: 13, growing: false });
  expect(markNext(whole, 1)).toBeNull();
});

it("marks nothing where the song has no such bars any more", () => {
  expect(stretchOf(bars, { from: 3, to: 9 }, 0)).toBeNull();
  expect(stretchOf(bars, null, 0)).toBeNull();
});

it("says bars as a player does", () => {
  expect([sayBars(5, 5), sayBars(5, 8), sayBars(0, 0), sayBars(0, 2)]).toEqual([
    "bar 5",
    "bars 5 to 8",
    "the pickup",
    "the pickup to bar 2",
  ]);
});
