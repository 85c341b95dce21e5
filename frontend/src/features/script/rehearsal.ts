/** Slips counted by bar. */
export type Slips = Map<number, number>;

/** What was struck against what is wanted: wrong keys, and those still missing. */
export function judge(struck: ReadonlySet<number>, wanted: readonly number[]) {
  return {
    wrong: [...struck].filter((k) => !wanted.includes(k)),
    missing: wanted.filter((k) => !struck.has(k)),
  };
}
