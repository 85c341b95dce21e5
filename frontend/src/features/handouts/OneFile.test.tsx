import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { expect, it } from "vitest";
import { OneFile } from "./OneFile";

const files = ["score.pdf", "hands.mid", "captions.vtt"].map((name) => ({
  name,
  title: name.toUpperCase(),
  summary: "",
  kind: "read",
  address: `/${name}`,
}));

it("takes everything, or what is ticked, and nothing where nothing is", async () => {
  render(<OneFile songId={5} files={files} />);
  expect(screen.getByRole("link", { name: "everything in one file" })).toHaveAttribute(
    "href",
    "/api/songs/5/handouts/all.zip",
  );
  await userEvent.click(screen.getByRole("button", { name: "choose what goes in" }));
  await userEvent.click(screen.getByRole("checkbox", { name: "HANDS.MID" }));
  expect(screen.getByRole("link", { name: "2 of 3 in one file" })).toHaveAttribute(
    "href",
    "/api/songs/5/handouts/all.zip?only=score.pdf,captions.vtt",
  );
  await userEvent.click(screen.getByRole("button", { name: "all" }));
  await userEvent.click(screen.getByRole("button", { name: "none" }));
  expect(screen.queryByRole("link")).toBeNull();
  expect(screen.getByText("nothing is chosen")).toBeVisible();
});
