import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { SilentClock } from "./SilentClock";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

function make(duration = 10) {
  let now = 0;
  const clock = new SilentClock(() => now);
  clock.duration = duration;
  return {
    clock,
    wait: (ms: number) => {
      now += ms;
      vi.advanceTimersByTime(ms);
    },
  };
}

it("runs at its rate while it plays, and stands while it does not", () => {
  const { clock, wait } = make();
  wait(1000);
  expect(clock.currentTime).toBe(0);
  void clock.play();
  wait(1000);
  expect(clock.currentTime).toBeCloseTo(1);
  clock.playbackRate = 0.5;
  wait(1000);
  expect(clock.currentTime).toBeCloseTo(1.5);
  clock.pause();
  wait(5000);
  expect(clock.currentTime).toBeCloseTo(1.5);
});

it("goes where it is sent, within the song", () => {
  const { clock, wait } = make();
  clock.currentTime = 99;
  expect(clock.currentTime).toBe(10);
  clock.currentTime = -3;
  expect(clock.currentTime).toBe(0);
  void clock.play();
  clock.currentTime = 4;
  wait(500);
  expect(clock.currentTime).toBeCloseTo(4.5);
});

it("says when it has come to the end, once, and begins anew", () => {
  const { clock, wait } = make(1);
  const ended = vi.fn();
  clock.addEventListener("ended", ended);
  void clock.play();
  wait(3000);
  expect(ended).toHaveBeenCalledTimes(1);
  void clock.play();
  expect(clock.currentTime).toBe(0);
});
