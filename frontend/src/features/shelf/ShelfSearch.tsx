import { KeyCap } from "../../ui";
import { Search } from "./ShelfView.styles";

const ORDERS = [
  ["newest", "newest first"],
  ["votes", "most asked for"],
  ["furthest", "furthest on the way"],
  ["promised", "promised soonest"],
  ["shortest", "fewest bars to learn"],
  ["title", "by title"],
  ["changed", "changed last"],
] as const;

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
      <label>
        <KeyCap>/</KeyCap>
        <input
          type="search"
          aria-label="Search the shelf"
          placeholder="title, key, viewer, wish"
          value={q}
          onChange={(e) => {
            onSearch(e.target.value);
          }}
        />
      </label>
      <label>
        order
        <select value={order} onChange={(e) => onOrder(e.target.value)}>
          {ORDERS.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
      </label>
      <label>
        <input
          type="checkbox"
          style={{ width: "auto" }}
          checked={deleted}
          onChange={(e) => onDeleted(e.target.checked)}
        />
        taken off the shelf
      </label>
      {total !== undefined && (
        <span role="status">
          {total} song{total === 1 ? "" : "s"}
        </span>
      )}
    </Search>
  );
}
