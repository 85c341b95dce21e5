/** Beats and seconds of a recording. */

export type Seconds = number;
export type Beats = number;

/** Time of a position in beats, beyond the grid by the nearest beat's length. */
export function secondsAt(beats: readonly Seconds[], position: Beats): Seconds {
  if (beats.length < 2) return position;
  const i = Math.min(Math.max(Math.floor(position), 0), beats.length - 2);
  const a = beats[i] as number;
  const b = beats[i + 1] as number;
  return a + (position - i) * (b - a);
}

/** Position in beats of a time: the inverse. */
export function beatsAt(beats: readonly Seconds[], time: Seconds): Beats {
  if (beats.length < 2) return time;
  let low = 0;
  let high = beats.length - 2;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((beats[middle] as number) <= time) low = middle;
    else high = middle - 1;
  }
  const a = beats[low] as number;
  const b = beats[low + 1] as number;
  return low + (time - a) / (b - a);
}
