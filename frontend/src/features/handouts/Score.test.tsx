import { render, screen } from "@testing-library/react";
import { expect, it } from "vitest";
import { Score } from "./Score";

const page = (n: number) =>
  `<svg xmlns="http://www.w3.org/2000/svg"><script>window.ran = true</script><text>page ${n}</text></svg>`;

it("shows the first sheet at once and the others after it, as pictures in which nothing runs", async () => {
  render(<Score pages={[page(1), page(2), page(3)]} />);
  expect(screen.getAllByRole("img")).toHaveLength(1);
  expect(screen.getByRole("img", { name: "Sheet music, page 1" })).toHaveTextContent("page 1");
  expect(await screen.findByRole("img", { name: "Sheet music, page 3" })).toHaveTextContent("page 3");
  expect((window as unknown as { ran?: boolean }).ran).toBeUndefined();
});

it("draws a sheet again only where it has changed", async () => {
  const { rerender } = render(<Score pages={[page(1), page(2)]} />);
  const second = await screen.findByRole("img", { name: "Sheet music, page 2" });
  const drawn = second.firstElementChild;
  rerender(<Score pages={[page(7), page(2)]} />);
  expect(screen.getByRole("img", { name: "Sheet music, page 1" })).toHaveTextContent("page 7");
  expect(second.firstElementChild).toBe(drawn);
});
