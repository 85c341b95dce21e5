import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { CHART, EDITED } from "../features/song/testing";
import { useSongEdits, useUnsent } from "./edits";
import { useArrangement } from "./hands";
import { useChart } from "./songs";
import { listUnsent } from "./unsent";

type Body = { revision: number; edit: { text: string }; key: string };

/** A server that answers each call when it is let go, with one more version each time. */
function slowServer(status = 200) {
  const held: (() => void)[] = [];
  const bodies: Body[] = [];
  let revision = CHART.revision;
  vi.stubGlobal("fetch", async (request: Request) => {
    if (request.method === "GET") return Response.json({ ...CHART, revision });
    bodies.push((await request.json()) as Body);
    await new Promise<void>((go) => held.push(go));
    if (status !== 200) return Response.json({ title: "no", detail: "", kind: "error", data: {} }, { status });
    revision += 1;
    return Response.json({ ...EDITED, revision, chart: { ...CHART, revision } });
  });
  return { bodies, next: () => held.shift()?.() };
}

function show<T>(hook: () => T) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={queries}>{children}</QueryClientProvider>
  );
  return { queries, ...renderHook(hook, { wrapper }) };
}

const chord = (text: string) => ({ edit: { kind: "set_chord" as const, start: "0", text } });

beforeEach(() => localStorage.clear());
afterEach(() => vi.unstubAllGlobals());

describe("Edits on a slow server", () => {
  it("are sent in order, each on the version that the one before it made, and none is dropped", async () => {
    const server = slowServer();
    const { result, queries } = show(() => ({ chart: useChart(5), edits: useSongEdits(5) }));
    await waitFor(() => expect(result.current.chart.data).toBeTruthy());
    act(() => {
      for (const text of ["Am", "Bb", "C7"]) result.current.edits.edit.mutate(chord(text));
    });
    await waitFor(() => expect(server.bodies).toHaveLength(1));
    expect(queries.getQueryData<typeof CHART>(["song", 5, "chart"])?.chords[0]?.symbol).toBe("C7");
    expect(listUnsent(5)).toHaveLength(3);
    for (const n of [2, 3, 3]) {
      server.next();
      await waitFor(() => expect(server.bodies).toHaveLength(n));
    }
    await waitFor(() => expect(listUnsent(5)).toEqual([]));
    expect(server.bodies.map((b) => [b.revision, b.edit.text])).toEqual([
      [3, "Am"],
      [4, "Bb"],
      [5, "C7"],
    ]);
  });

  it("that were refused are not sent again, and those behind them are", async () => {
    const server = slowServer(422);
    const { result } = show(() => ({ chart: useChart(5), edits: useSongEdits(5) }));
    await waitFor(() => expect(result.current.chart.data).toBeTruthy());
    act(() => {
      for (const text of ["Am", "Bb"]) result.current.edits.edit.mutate(chord(text));
    });
    await waitFor(() => expect(server.bodies).toHaveLength(1));
    server.next();
    await waitFor(() => expect(server.bodies).toHaveLength(2));
    server.next();
    await waitFor(() => expect(listUnsent(5)).toEqual([]));
  });

  it("that an earlier page left unanswered are sent under their own names when the song is opened", async () => {
    const server = slowServer();
    const rows = [{ key: "mine-1", ...chord("Am"), spread: [] }];
    localStorage.setItem("valley unsent 5", JSON.stringify(rows));
    show(() => useUnsent(5, true));
    await waitFor(() => expect(server.bodies).toHaveLength(1));
    expect(server.bodies[0]?.key).toBe("mine-1");
    server.next();
    await waitFor(() => expect(listUnsent(5)).toEqual([]));
  });

  it("leave nothing old in the hands, though the first answer about them comes late", async () => {
    const server = slowServer();
    const answered = vi.mocked(fetch);
    const late: (() => void)[] = [];
    vi.stubGlobal("fetch", async (request: Request) => {
      if (!request.url.endsWith("/arrangement")) return answered(request);
      const style = late.length ? "after it" : "before the edit";
      await new Promise<void>((go) => late.push(go));
      return Response.json({ settings: { style } });
    });
    const { result } = show(() => ({ edits: useSongEdits(5), hands: useArrangement(5) }));
    await waitFor(() => expect(late).toHaveLength(1));
    act(() => result.current.edits.edit.mutate(chord("Am")));
    await waitFor(() => expect(server.bodies).toHaveLength(1));
    server.next();
    await waitFor(() => expect(listUnsent(5)).toEqual([]));
    late[0]?.();
    await waitFor(() => expect(late).toHaveLength(2));
    late[1]?.();
    await waitFor(() => expect(result.current.hands.data?.settings.style).toBe("after it"));
  });

  it("are kept where the browser holds nothing that can be read", () => {
    localStorage.setItem("valley unsent 5", "{broken");
    expect(listUnsent(5)).toEqual([]);
  });
});
