import { act, render, renderHook, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { keyboards } from "../../devices/midi";
import type { Player } from "../../player";
import { sayMinutes } from "../../ui";
import { hearStep } from "./hearStep";
import { PrompterFoot } from "./PrompterFoot";
import { judge } from "./rehearsal";
import { useRehearsal } from "./useRehearsal";
import { staySeconds, useStage } from "./useStage";
import { StageClock, useStageClock } from "./useStageClock";

const press = (...keys: number[]) =>
  act(() => {
    for (const key of keys) keyboards.press(key);
  });
const letGo = (...keys: number[]) =>
  act(() => {
    for (const key of keys) keyboards.release(key);
  });

afterEach(() => letGo(...Array.from({ length: 88 }, (_, i) => 21 + i)));

describe("Rehearsing", () => {
  const listen = (rehearsing: boolean, wanted: number[], turn = vi.fn()) => {
    const { result, rerender } = renderHook((on: boolean) => useRehearsal(on, 4, wanted, turn), {
      initialProps: rehearsing,
    });
    return { result, rerender, turn };
  };

  it("tells which keys are wrong and how many are still to come, and counts the slip in its bar", () => {
    const { result, turn } = listen(true, [60, 64, 67]);
    press(61);
    expect(result.current.told).toBe("Not C♯4; 3 of 3 still to come.");
    expect([...result.current.slips.current]).toEqual([[4, 1]]);
    expect(turn).not.toHaveBeenCalled();
  });

  it("goes on once every key was struck, together or one after the other", () => {
    const { result, turn } = listen(true, [60, 64]);
    press(60);
    expect(result.current.told).toBe("1 more.");
    press(64);
    expect(result.current.told).toBe("Right.");
    expect(turn).toHaveBeenCalledExactlyOnceWith(1);
    expect(result.current.slips.current.size).toBe(0);
  });

  it("begins anew when all keys are let go", () => {
    const { result, turn } = listen(true, [60, 64]);
    press(60);
    letGo(60);
    press(64);
    expect(result.current.told).toBe("1 more.");
    expect(turn).not.toHaveBeenCalled();
  });

  it("hears nothing while it is off, and listens from when it is on", () => {
    const { result, rerender, turn } = listen(false, [60]);
    press(60);
    expect(result.current.told).toBe("");
    letGo(60);
    rerender(true);
    press(60);
    expect(turn).toHaveBeenCalledTimes(1);
  });

  it("judges keys against those wanted", () => {
    expect(judge(new Set([60, 61]), [60, 64])).toEqual({ wrong: [61], missing: [64] });
    expect(judge(new Set([60, 64]), [60, 64])).toEqual({ wrong: [], missing: [] });
    expect(judge(new Set(), [60])).toEqual({ wrong: [], missing: [60] });
  });
});

describe("The foot of the prompter", () => {
  const show = (rehearsing: boolean) => {
    const deeds = {
      onTold: vi.fn(),
      onTurn: vi.fn(),
      onRehearse: vi.fn(),
      onClose: vi.fn(),
      onHear: vi.fn(),
      onRun: vi.fn(),
      onLook: vi.fn(),
      onTime: vi.fn(),
    };
    const look = { size: 1, mirrored: false, pace: 1 };
    const rest = { told: "Right.", running: false, timing: false, seconds: 75 };
    render(<PrompterFoot rehearsing={rehearsing} look={look} {...rest} {...deeds} />);
    return deeds;
  };

  it("has every way on as a button", async () => {
    const deeds = show(false);
    const user = userEvent.setup();
    await user.click(screen.getByRole("button", { name: /next/ }));
    await user.click(screen.getByRole("button", { name: /back/ }));
    expect(deeds.onTurn.mock.calls).toEqual([[1], [-1]]);
    await user.click(screen.getByRole("button", { name: /rehearse/ }));
    expect(deeds.onRehearse).toHaveBeenCalledOnce();
    await user.click(screen.getByRole("button", { name: /hear it/ }));
    expect(deeds.onHear).toHaveBeenCalledOnce();
    await user.click(screen.getByRole("button", { name: /run by itself/ }));
    expect(deeds.onRun).toHaveBeenCalledOnce();
    await user.click(screen.getByRole("button", { name: /1:15, go on/ }));
    expect(deeds.onTime).toHaveBeenCalledOnce();
    await user.click(screen.getByRole("button", { name: "Larger type" }));
    await user.click(screen.getByRole("button", { name: "Run slower" }));
    await user.click(screen.getByRole("button", { name: /mirrored/ }));
    expect(deeds.onLook.mock.calls.map(([what]) => Object.keys(what)[0])).toEqual(["size", "pace", "mirrored"]);
    await user.click(screen.getByRole("button", { name: /close/ }));
    expect(deeds.onClose).toHaveBeenCalledOnce();
    expect(screen.getByRole("status")).toHaveTextContent("Right.");
    expect(screen.queryByLabelText("A keyboard to rehearse on")).not.toBeInTheDocument();
  });

  it("brings a keyboard to rehearse on, whose keys stay down until they are let go", async () => {
    show(true);
    expect(screen.getByRole("button", { name: /stop listening/ })).toHaveAttribute("aria-pressed", "true");
    expect(screen.getByLabelText("A keyboard to rehearse on")).toBeInTheDocument();
    const held: number[] = [];
    const quiet = keyboards.listen((keys) => held.splice(0, held.length, ...keys));
    press(60);
    expect(held).toEqual([60]);
    await userEvent.click(screen.getByRole("button", { name: "let go" }));
    expect(held).toEqual([]);
    quiet();
  });
});

describe("The clock of the stage", () => {
  it("adds up what each step took, leaves out what was only turned over, and stands while it is stopped", () => {
    let now = 0;
    const clock = new StageClock(() => now);
    clock.hold("opening");
    now = 12_400;
    clock.hold("chords");
    now = 12_900;
    clock.hold("part-1/left");
    now = 30_000;
    clock.hold("");
    now = 90_000;
    clock.hold("opening");
    now = 92_000;
    expect(clock.took()).toEqual([
      { key: "opening", seconds: 14.4 },
      { key: "part-1/left", seconds: 17.1 },
    ]);
    expect(clock.total()).toBeCloseTo(31.5);
  });

  it("counts while it runs, for the step in hand", () => {
    vi.useFakeTimers();
    const { result, rerender } = renderHook(({ key, runs }) => useStageClock(key, runs), {
      initialProps: { key: "opening", runs: false },
    });
    act(() => void vi.advanceTimersByTime(5000));
    rerender({ key: "opening", runs: true });
    act(() => void vi.advanceTimersByTime(3000));
    rerender({ key: "chords", runs: true });
    act(() => void vi.advanceTimersByTime(2000));
    expect(result.current.seconds).toBeCloseTo(5, 0);
    expect(result.current.took()).toEqual([
      { key: "opening", seconds: 3 },
      { key: "chords", seconds: 2 },
    ]);
    vi.useRealTimers();
  });
});

describe("The stage", () => {
  const step = { speaking_seconds: 8, playing_seconds: 12 } as Schemas["StepOut"];
  afterEach(() => {
    vi.useRealTimers();
    localStorage.clear();
  });

  it("stays at each place its share of the step, and goes at the pace that is chosen", () => {
    expect(staySeconds(step, 4, 1)).toBe(5);
    expect(staySeconds(step, 4, 2)).toBe(2.5);
    expect(staySeconds(step, 400, 1)).toBe(1.5);
  });

  it("runs by itself, and stops at the end", () => {
    vi.useFakeTimers();
    const turn = vi.fn();
    const { result, rerender } = renderHook((last: boolean) => useStage(step, 4, last, turn), { initialProps: false });
    act(() => result.current.setRunning(true));
    act(() => void vi.advanceTimersByTime(5100));
    expect(turn).toHaveBeenCalledExactlyOnceWith(1);
    rerender(true);
    act(() => void vi.advanceTimersByTime(5100));
    expect(result.current.running).toBe(false);
    expect(turn).toHaveBeenCalledOnce();
  });

  it("keeps its look within bounds, and remembers it", () => {
    const { result } = renderHook(() => useStage(step, 1, false, vi.fn()));
    act(() => result.current.change({ size: 9, mirrored: true }));
    expect(result.current.look).toEqual({ size: 2.2, mirrored: true, pace: 1 });
    expect(renderHook(() => useStage(step, 1, false, vi.fn())).result.current.look.mirrored).toBe(true);
    localStorage.setItem("valley-stage", "not this");
    expect(renderHook(() => useStage(step, 1, false, vi.fn())).result.current.look.size).toBe(1);
  });
});

describe("Hearing a step", () => {
  const player = (playing = false) => ({
    getState: () => ({ playing, source: "recording", hands: "both", rate: 1 }),
    pause: vi.fn(),
    subscribe: vi.fn((listener: () => void) => {
      setTimeout(listener);
      return () => undefined;
    }),
    setSource: vi.fn(),
    setHands: vi.fn(),
    setRate: vi.fn(),
    playSpan: vi.fn(async () => undefined),
  });
  const step = { start_beats: 4, end_beats: 8, hands: "left", speed: 0.5 } as Schemas["StepOut"];
  const beats = Array.from({ length: 20 }, (_, i) => i / 2);

  it("sounds its stretch with its hand at its speed, leaves the player as it was, and stops when it sounds", async () => {
    const mine = player();
    hearStep(mine as unknown as Player, { beats, swing: [] }, step);
    expect(mine.playSpan).toHaveBeenCalledExactlyOnceWith(2, 4);
    expect(mine.setHands).toHaveBeenCalledWith("left");
    expect(mine.setRate).toHaveBeenCalledWith(0.5);
    await vi.waitFor(() => expect(mine.setRate).toHaveBeenLastCalledWith(1));
    expect(mine.setHands).toHaveBeenLastCalledWith("both");
    expect(mine.setSource).toHaveBeenLastCalledWith("recording");
    const sounding = player(true);
    hearStep(sounding as unknown as Player, { beats, swing: [] }, step);
    expect(sounding.pause).toHaveBeenCalledOnce();
    expect(sounding.playSpan).not.toHaveBeenCalled();
  });

  it("is silent where a step has no stretch", () => {
    const mine = player();
    hearStep(mine as unknown as Player, { beats, swing: [] }, { ...step, start_beats: null });
    expect(mine.playSpan).not.toHaveBeenCalled();
  });
});

describe("A length of time", () => {
  it.each([
    [1, "5 s"],
    [12, "10 s"],
    [43, "45 s"],
    [54, "55 s"],
    [60, "1 min"],
    [67, "1 min 5 s"],
    [90, "1 min 30 s"],
    [594, "9 min 55 s"],
    [600, "10 min"],
  ])("of %s seconds is said as %s", (seconds, words) => expect(sayMinutes(seconds)).toBe(words));
});
