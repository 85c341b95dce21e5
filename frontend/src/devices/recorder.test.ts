import { expect, test } from "vitest";
import { Recorder } from "./recorder";

test("keeps keys with their beats, and a pass for every round of a loop", () => {
  let beat = 0;
  const recorder = new Recorder(() => beat);
  const at = (b: number, ...held: number[]) => {
    beat = b;
    recorder.hear(new Set(held));
  };
  at(0.02, 48);
  at(0.98, 48, 64);
  at(1.9, 64);
  at(2.1);
  at(3.5, 50);
  beat = 0.1; // the loop begins again while a key is down
  recorder.look();
  at(0.2, 52);
  at(1.2);
  const passes = recorder.stop();
  expect(passes).toHaveLength(2);
  expect(passes[0]?.map((k) => k.midi)).toEqual([48, 64, 50]);
  expect(passes[0]?.[0]).toMatchObject({ at: 0.02, midi: 48 });
  expect(passes[0]?.[0]?.lasting).toBeCloseTo(1.88);
  expect(passes[1]).toEqual([{ at: 0.2, lasting: 1, midi: 52 }]);
});

test("keys that are still down end where it stops", () => {
  let beat = 1;
  const recorder = new Recorder(() => beat);
  recorder.hear(new Set([60]));
  expect(recorder.count).toBe(1);
  beat = 2;
  expect(recorder.stop()).toEqual([[{ at: 1, lasting: 1, midi: 60 }]]);
});
