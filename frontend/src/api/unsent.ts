/**
 * Edits that were made and not answered yet, kept in the browser: a page that is loaded again, or closed, in the middle of the line sends them when the
 * song is opened next. Each has a key of its own, so that the server does it once however often it comes.
 */
import type { Edit } from "./edits";

export interface Unsent {
  key: string;
  edit: Edit;
  spread: number[];
}

const place = (song: number) => `valley unsent ${song}`;

export function listUnsent(song: number): Unsent[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(place(song)) ?? "[]");
    return Array.isArray(kept) ? (kept as Unsent[]) : [];
  } catch {
    return []; // what cannot be read was not written by this page
  }
}

function keep(song: number, rows: readonly Unsent[]): void {
  try {
    if (rows.length) localStorage.setItem(place(song), JSON.stringify(rows));
    else localStorage.removeItem(place(song));
  } catch {
    // Where the browser keeps nothing, edits are sent all the same.
  }
}

export function remember(song: number, row: Unsent): void {
  keep(song, [...listUnsent(song).filter((r) => r.key !== row.key), row]);
}

export function forget(song: number, key: string): void {
  keep(
    song,
    listUnsent(song).filter((r) => r.key !== key),
  );
}

let count = 0;
/** A name that no other edit has. */
export const newKey = () => {
  count += 1;
  return `${Date.now().toString(36)}-${count.toString(36)}-${Math.random().toString(36).slice(2, 10)}`;
};
