import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { describe, expect, it, vi } from "vitest";
import { choose } from "../../ui/fields/choose";
import { ShelfSearch } from "./ShelfSearch";

function Shelf({ total, onOrder = vi.fn() }: { total?: number; onOrder?: (order: string) => void }) {
  const [q, setQ] = useState("");
  const [deleted, setDeleted] = useState(false);
  return (
    <ShelfSearch
      q={q}
      onSearch={setQ}
      order="newest"
      onOrder={onOrder}
      deleted={deleted}
      onDeleted={setDeleted}
      total={total}
    />
  );
}

describe("Searching the shelf", () => {
  it("takes words, an order, and what was taken off", async () => {
    const onOrder = vi.fn();
    render(<Shelf total={3} onOrder={onOrder} />);
    const user = userEvent.setup();
    await user.type(screen.getByRole("searchbox", { name: "Search the shelf" }), "kettle");
    expect(screen.getByRole("searchbox")).toHaveValue("kettle");
    await choose("order", "most asked for");
    expect(onOrder).toHaveBeenCalledExactlyOnceWith("votes");
    await user.click(screen.getByLabelText("taken off the shelf"));
    expect(screen.getByLabelText("taken off the shelf")).toBeChecked();
  });

  it.each([
    [0, "0 songs"],
    [1, "1 song"],
    [60, "60 songs"],
  ])("says that there are %s", (total, words) => {
    render(<Shelf total={total} />);
    expect(screen.getByRole("status")).toHaveTextContent(words);
  });

  it("says nothing of their number before it is known", () => {
    render(<Shelf />);
    expect(screen.queryByRole("status")).not.toBeInTheDocument();
  });
});
