import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Player } from "./Player";
import { nearestSample, Piano } from "./piano";

const param = () => ({
  value: 0,
  setValueAtTime: vi.fn(),
  setTargetAtTime: vi.fn(),
  exponentialRampToValueAtTime: vi.fn(),
  cancelScheduledValues: vi.fn(),
});
const node = (extra: object = {}) => ({
  connect: (target: unknown) => target,
  start: vi.fn(),
  stop: vi.fn(),
  ...extra,
});

class FakeContext {
  static clicks = 0;
  currentTime = 10;
  destination = node();
  resume = () => Promise.resolve();
  close = () => Promise.resolve();
  createGain = () => node({ gain: param() });
  createStereoPanner = () => node({ pan: param() });
  createBiquadFilter = () => node({ type: "allpass", frequency: param(), Q: param() });
  createMediaElementSource = () => node();
  createOscillator = () => {
    FakeContext.clicks++;
    return node({ frequency: param(), type: "" });
  };
  createBufferSource = () => node({ buffer: null, playbackRate: param() });
  decodeAudioData = () => Promise.resolve({ duration: 6 });
}

function makeMedia(): HTMLAudioElement {
  const media = document.createElement("audio");
  let time = 0;
  Object.defineProperty(media, "currentTime", { get: () => time, set: (t: number) => (time = t) });
  media.play = () => Promise.resolve();
  media.pause = () => undefined;
  return media;
}

const beats = Array.from({ length: 17 }, (_, i) => i * 0.5);

describe("the sampled piano", () => {
  it("plays every key by a sample at most a tone away", () => {
    for (let midi = 21; midi <= 108; midi++) {
      const { rate } = nearestSample(midi);
      expect(Math.abs(12 * Math.log2(rate))).toBeLessThanOrEqual(2);
    }
    expect(nearestSample(60)).toEqual({ file: "C4", rate: 1 });
    expect(nearestSample(69).file).toBe("A4");
  });
});

describe("recording and piano on one clock", () => {
  let strikes: { midi: number; when: number; seconds: number }[];
  let media: HTMLAudioElement;
  let player: Player;

  beforeEach(() => {
    vi.useFakeTimers();
    vi.stubGlobal("AudioContext", FakeContext);
    vi.stubGlobal("fetch", () => Promise.resolve({ arrayBuffer: () => Promise.resolve(new ArrayBuffer(8)) }));
    strikes = [];
    vi.spyOn(Piano.prototype, "strike").mockImplementation(
      (midi, when, seconds) => void strikes.push({ midi, when, seconds }),
    );
    FakeContext.clicks = 0;
    media = makeMedia();
    player = new Player(media);
    player.load("/recordings/1", { beats, swing: [] }, 4);
    player.setNotes([
      { start: 0, duration: 1, midi: 60, hand: "right" },
      { start: 0, duration: 2, midi: 36, hand: "left" },
      { start: 4, duration: 1, midi: 64, hand: "right" },
    ]);
  });
  afterEach(() => {
    player.dispose();
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });

  const tick = () => vi.advanceTimersByTime(41);

  it("strikes notes when their beat comes, and not before", async () => {
    player.setSource("piano");
    await player.play();
    tick();
    expect(strikes.map((s) => s.midi).sort()).toEqual([36, 60]);
    expect(strikes[0]?.seconds).toBeCloseTo(0.5);
    media.currentTime = 1.9;
    tick();
    expect(strikes.map((s) => s.midi)).toContain(64);
  });

  it("is silent while only the recording is wanted", async () => {
    await player.play();
    tick();
    expect(strikes).toEqual([]);
    expect(player.getState().playing).toBe(true);
  });

  it("plays one hand when one is asked for", async () => {
    player.setSource("both");
    player.setHands("left");
    await player.play();
    tick();
    expect(strikes.map((s) => s.midi)).toEqual([36]);
  });

  it("stretches time when slowed, and keeps the pitch", async () => {
    player.setRate(0.5);
    player.setSource("piano");
    await player.play();
    tick();
    expect(media.playbackRate).toBe(0.5);
    expect(media.preservesPitch).toBe(true);
    expect(strikes.find((s) => s.midi === 60)?.seconds).toBeCloseTo(1);
  });

  it("goes back at the end of a loop and plays it again", async () => {
    player.setSource("piano");
    player.setLoop({ from: 0, to: 2 });
    await player.play();
    tick();
    media.currentTime = 2.01;
    tick();
    expect(media.currentTime).toBe(0);
    tick();
    expect(strikes.filter((s) => s.midi === 60)).toHaveLength(2);
    expect(strikes.some((s) => s.midi === 64)).toBe(false);
  });

  it("counts in one bar before the song", async () => {
    player.setCountIn(true);
    await player.play();
    expect(FakeContext.clicks).toBe(4);
    expect(player.getState().playing).toBe(false);
    await vi.advanceTimersByTimeAsync(600);
    expect(player.getState().counting).toBe(2);
    await vi.advanceTimersByTimeAsync(1500);
    expect(player.getState().playing).toBe(true);
  });

  it("counts in so that the next beat of the song falls on 1, also before its first beat and between beats", async () => {
    player.setCountIn(true);
    player.seek(0.7); // beats stand at every half second: the next is at 1.0, 0.3 s from here
    await player.play();
    await vi.advanceTimersByTimeAsync(1700);
    expect(player.getState().playing).toBe(false);
    await vi.advanceTimersByTimeAsync(100); // 4 beats of 0.5 s, less the 0.3 s on the way to the beat, and the 0.05 s that clicks are ahead
    expect(player.getState().playing).toBe(true);
  });

  it("counts in again before each repeat", async () => {
    player.setCountIn(true);
    player.setLoop({ from: 0, to: 2 });
    await player.play();
    await vi.advanceTimersByTimeAsync(2100);
    expect(player.getState().playing).toBe(true);
    media.currentTime = 2.01;
    tick();
    expect(player.getState()).toMatchObject({ playing: false, counting: 1, time: 0 });
    expect(FakeContext.clicks).toBe(8);
    await vi.advanceTimersByTimeAsync(2100);
    expect(player.getState().playing).toBe(true);
  });

  it("clicks on every beat while the metronome is on, and stays in the loop", async () => {
    player.setMetronome(true);
    player.setLoop({ from: 0, to: 2 });
    await player.play();
    for (const time of [0, 0.35, 0.85, 1.35, 1.9]) {
      media.currentTime = time;
      tick();
    }
    expect(FakeContext.clicks).toBe(4);
    player.setMetronome(false);
    media.currentTime = 0.2;
    tick();
    expect(FakeContext.clicks).toBe(4);
  });

  it("can be stopped while it counts", async () => {
    player.setCountIn(true);
    await player.play();
    player.toggle();
    await vi.advanceTimersByTimeAsync(3000);
    expect(player.getState()).toMatchObject({ playing: false, counting: 0 });
  });

  it("plays a stretch and stops by itself", async () => {
    await player.playSpan(1, 2);
    expect(media.currentTime).toBe(1);
    media.currentTime = 2.05;
    tick();
    expect(player.getState().playing).toBe(false);
  });

  it("says so when the browser refuses to sound", async () => {
    media.play = () => Promise.reject(new Error("not allowed"));
    await player.play();
    expect(player.getState().problem).toMatch(/press play/);
  });

  it("tells listeners until they leave", () => {
    const heard = vi.fn();
    const leave = player.subscribe(heard);
    player.seek(3);
    expect(heard).toHaveBeenCalledTimes(1);
    leave();
    player.seek(4);
    expect(heard).toHaveBeenCalledTimes(1);
  });
});
