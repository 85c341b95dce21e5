import { Choice, KeyCap, Line, type Option, Tick } from "../../ui";
import { Search } from "./ShelfView.styles";

const ORDERS: Option<string>[] = [
  { value: "newest", words: "newest first" },
  { value: "votes", words: "most asked for" },
  { value: "furthest", words: "furthest on the way" },
  { value: "promised", words: "promised soonest" },
  { value: "shortest", words: "fewest bars to learn" },
  { value: "title", words: "by title" },
  { value: "changed", words: "changed last" },
];

interface ShelfSearchProps {
  q: string;
  onSearch: (q: string) => void;
  order: string;
  onOrder: (order: string) => void;
  deleted: boolean;
  onDeleted: (deleted: boolean) => void;
  total: number | undefined;
}

/** What is shown of the shelf, and in which order. */
export function ShelfSearch({ q, onSearch, order, onOrder, deleted, onDeleted, total }: ShelfSearchProps) {
  return (
    <Search data-noprint>
      <span className="search">
        <KeyCap>/</KeyCap>
        <Line
          type="search"
          label="Search the shelf"
          hidden
          placeholder="title, key, viewer, wish"
          value={q}
          onChange={onSearch}
        />
      </span>
      <Choice label="order" value={order} options={ORDERS} onChange={onOrder} />
      <Tick checked={deleted} onChange={onDeleted}>
        taken off the shelf
      </Tick>
      {total !== undefined && (
        <span role="status">
          {total} song{total === 1 ? "" : "s"}
        </span>
      )}
    </Search>
  );
}
