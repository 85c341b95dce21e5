/** Names of what is kept in the cache, in one place. */
export const keys = {
  songs: ["songs"] as const,
  song: (id: number) => ["song", id] as const,
  chart: (id: number) => ["song", id, "chart"] as const,
  arrangement: (id: number) => ["song", id, "arrangement"] as const,
  lesson: (id: number) => ["song", id, "lesson"] as const,
  log: (id: number) => ["song", id, "log"] as const,
};
