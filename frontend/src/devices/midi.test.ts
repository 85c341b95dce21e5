import { afterEach, describe, expect, test, vi } from "vitest";
import { keyboards } from "./midi";

describe("keyboards", () => {
  afterEach(() => vi.unstubAllGlobals());

  test("tell which keys are held, whoever plays", () => {
    const heard: number[][] = [];
    const stop = keyboards.listen((held) => heard.push([...held]));
    keyboards.press(60);
    keyboards.receive([0x91, 64, 90]);
    keyboards.receive([0x91, 64, 0]);
    keyboards.receive([0xb0, 64, 127]);
    keyboards.release(60);
    stop();
    keyboards.press(70);
    keyboards.release(70);
    expect(heard).toEqual([[60], [60, 64], [60], []]);
  });

  test("say in words when the browser has none", async () => {
    expect(await keyboards.connect()).toMatch(/click the keys/);
  });

  test("listen to a plugged keyboard", async () => {
    const input = { name: "Test keys", onmidimessage: null as null | ((e: { data: number[] }) => void) };
    vi.stubGlobal("navigator", {
      requestMIDIAccess: async () => ({ inputs: new Map([["a", input]]), onstatechange: null }),
    });
    expect(await keyboards.connect()).toBe("Listening to Test keys.");
    const heard: number[][] = [];
    const stop = keyboards.listen((held) => heard.push([...held]));
    input.onmidimessage?.({ data: [0x90, 62, 80] });
    input.onmidimessage?.({ data: [0x80, 62, 0] });
    stop();
    expect(heard).toEqual([[62], []]);
  });

  test("say so when it is forbidden", async () => {
    vi.stubGlobal("navigator", { requestMIDIAccess: async () => Promise.reject(new Error("no")) });
    expect(await keyboards.connect()).toMatch(/allow it/);
  });
});
