import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Preview } from "./Preview";

function show(name: string, answer: () => Promise<Response>) {
  const asked = vi.fn(answer);
  vi.stubGlobal("fetch", asked);
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Preview address={`/api/songs/5/handouts/${name}`} name={name} title="Lesson sheet" />
    </QueryClientProvider>,
  );
  return asked;
}

afterEach(() => vi.unstubAllGlobals());

describe("A hand-out to look at", () => {
  it.each(["lesson.txt", "captions.vtt", "captions.srt", "chords.csv", "chords.lab", "chart.json", "annotation.jams"])(
    "is read where it is text: %s",
    async (name) => {
      const asked = show(name, async () => new Response("1. What you will learn"));
      expect(await screen.findByText("1. What you will learn")).toBeInTheDocument();
      expect(asked).toHaveBeenCalledExactlyOnceWith(`/api/songs/5/handouts/${name}?look=true`);
    },
  );

  it("shows a page in a frame of its own, without the browser's own bars", () => {
    const asked = show("lesson.pdf", async () => new Response(""));
    const address = screen.getByTitle("Lesson sheet").getAttribute("src");
    expect(address).toContain("/handouts/lesson.pdf?look=true");
    expect(address).toContain("toolbar=0");
    expect(asked).not.toHaveBeenCalled();
  });

  it("is cut where it is longer than anybody reads here", async () => {
    show("chart.json", async () => new Response("x".repeat(70_000)));
    const text = await screen.findByText(/^x+$/);
    expect(text.textContent).toHaveLength(60_000);
  });

  it("says why it cannot be made", async () => {
    const problem = { title: "No hands are chosen.", detail: "Choose a voicing first.", kind: "unfit", data: {} };
    show("lesson.txt", async () => Response.json(problem, { status: 422 }));
    expect(await screen.findByText("No hands are chosen.")).toBeInTheDocument();
    expect(screen.getByText("Choose a voicing first.")).toBeInTheDocument();
  });

  it("says so when Valley does not answer", async () => {
    show("lesson.txt", () => Promise.reject(new TypeError("network")));
    expect(await screen.findByText("Valley does not answer.")).toBeInTheDocument();
  });
});
