import { describe, expect, it, vi } from "vitest";
import { Line, lineOf } from "./line";

/** A call that is answered when it is told to. */
function slow<T>(value: T) {
  let answer: (v: T) => void = () => undefined;
  let fail: (e: Error) => void = () => undefined;
  const promise = new Promise<T>((resolve, reject) => {
    answer = resolve;
    fail = reject;
  });
  return { promise, answer: () => answer(value), fail: () => fail(new Error("no")) };
}

describe("a line of changes", () => {
  it("sends each when the one before is answered, and none is dropped", async () => {
    const line = new Line();
    const sent: number[] = [];
    const calls = [1, 2, 3].map((n) => slow(n));
    const answers = calls.map((c, i) =>
      line.add(() => {
        sent.push(i + 1);
        return c.promise;
      }),
    );
    await Promise.resolve();
    expect(sent).toEqual([1]);
    expect(line.waiting).toBe(3);
    calls[0]?.answer();
    await answers[0];
    await vi.waitFor(() => expect(sent).toEqual([1, 2]));
    calls[1]?.fail();
    await expect(answers[1]).rejects.toThrow("no");
    await vi.waitFor(() => expect(sent).toEqual([1, 2, 3]));
    calls[2]?.answer();
    expect(await answers[2]).toBe(3);
    await line.idle();
    expect(line.waiting).toBe(0);
  });

  it("asks again for what a change has overtaken", async () => {
    const line = new Line();
    let asked = 0;
    const first = slow("old");
    const fresh = line.fresh(() => {
      asked += 1;
      return asked === 1 ? first.promise : Promise.resolve("new");
    });
    await vi.waitFor(() => expect(asked).toBe(1));
    const change = slow("done");
    const done = line.add(() => change.promise);
    first.answer();
    await first.promise;
    change.answer();
    await done;
    expect(await fresh).toBe("new");
    expect(asked).toBe(2);
  });

  it("is one for each thing of each cache", () => {
    const [one, other] = [{}, {}];
    expect(lineOf(one, "a")).toBe(lineOf(one, "a"));
    expect(lineOf(one, "a")).not.toBe(lineOf(one, "b"));
    expect(lineOf(one, "a")).not.toBe(lineOf(other, "a"));
  });
});
