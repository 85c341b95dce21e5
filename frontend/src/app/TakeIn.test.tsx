import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen } from "@testing-library/react";
import { createMemoryRouter, RouterProvider } from "react-router";
import { expect, it } from "vitest";
import { fakeServer } from "../features/song/testing";
import { isChartLike, nameOf, TakeIn } from "./TakeIn";

const draw = (answers: Parameters<typeof fakeServer>[0]) => {
  const calls = fakeServer(answers);
  const page = (
    <>
      <p>Any page</p>
      <textarea aria-label="Words" />
    </>
  );
  const router = createMemoryRouter([{ element: <TakeIn />, children: [{ path: "*", element: page }] }], {
    initialEntries: ["/post"],
  });
  render(
    <QueryClientProvider client={new QueryClient()}>
      <RouterProvider router={router} />
    </QueryClientProvider>,
  );
  return calls;
};
const clipboard = (text: string) => ({ clipboardData: { files: [], getData: () => text } });
const added = { "POST /api/songs": { body: { id: 7 } } };

it("takes a pasted chart in as a song, wherever one is", async () => {
  const calls = draw(added);
  fireEvent.paste(screen.getByText("Any page"), clipboard("Autumn Path\nEm C G D"));
  expect(await screen.findByText("“Autumn Path” was taken in and stands on the shelf.")).toBeVisible();
  expect(screen.getByRole("link", { name: "Open it" })).toHaveAttribute("href", "/songs/7");
  expect(calls.filter((c) => c.what.startsWith("POST"))).toHaveLength(1);
});

it("leaves what is pasted into a field, and a single word, to the page", () => {
  const calls = draw(added);
  fireEvent.paste(screen.getByLabelText("Words"), clipboard("Em C\nG D"));
  fireEvent.paste(screen.getByText("Any page"), clipboard("hello"));
  expect(calls.filter((c) => c.what.startsWith("POST"))).toHaveLength(0);
});

it("takes in files that are dropped on any page, and says what cannot be read", async () => {
  draw({
    "POST /api/songs": { status: 422, body: { title: "It holds no sound.", detail: "", kind: "error", data: {} } },
  });
  const file = new File(["x"], "song.mp3");
  fireEvent.drop(screen.getByText("Any page"), { dataTransfer: { files: [file], types: ["Files"] } });
  expect(await screen.findByRole("alert")).toHaveTextContent("It holds no sound.");
});

it("tells charts from other texts, and finds their names", () => {
  expect([isChartLike("Am"), isChartLike("| C | F |"), isChartLike("Am F C G"), isChartLike("C\nG")]).toEqual([
    false,
    true,
    true,
    true,
  ]);
  expect([nameOf("Slow Water (132 BPM)\nG Em"), nameOf("| C | F |")]).toEqual([
    "Slow Water 132 BPM.txt",
    "Pasted chart.txt",
  ]);
});
