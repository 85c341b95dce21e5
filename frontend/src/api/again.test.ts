import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { expect, it, vi } from "vitest";
import { askAfter } from "./again";

it("does not believe a first answer that was made before the change", async () => {
  const queries = new QueryClient();
  let shelf = "empty";
  const answers: (() => void)[] = [];
  const ask = vi.fn(() => {
    const made = shelf; // the server read it before the change, and answers after it
    return new Promise<string>((resolve) => answers.push(() => resolve(made)));
  });
  const stop = new QueryObserver(queries, { queryKey: ["songs"], queryFn: ask }).subscribe(() => undefined);
  await vi.waitFor(() => expect(answers).toHaveLength(1));
  shelf = "one song";
  const done = askAfter(queries, ["songs"]);
  answers[0]?.();
  await vi.waitFor(() => expect(answers).toHaveLength(2));
  answers[1]?.();
  await done;
  expect(queries.getQueryData(["songs"])).toBe("one song");
  stop();
});
