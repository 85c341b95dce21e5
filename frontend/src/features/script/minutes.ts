/** A length of time as it is said: "20 s", "1.5 min". */
export const minutes = (seconds: number) =>
  seconds < 55 ? `${Math.max(5, Math.round(seconds / 5) * 5)} s` : `${Math.round(seconds / 6) / 10} min`;
