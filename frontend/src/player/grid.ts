/** Beats and seconds of a recording. */

export type Seconds = number;
export type Beats = number;

/** From one beat to another the first of each pair of notes takes the share `long` of it. */
export interface Swing {
  start_beats: Beats;
  end_beats: Beats;
  pair: Beats;
  long: number;
}

/** When every beat sounds, and where its halves are played long and short. */
export interface Grid {
  beats: readonly Seconds[];
  swing: readonly Swing[];
}

/** Time of a position in beats, beyond the grid by the nearest beat's length. */
export function secondsAt({ beats, swing }: Grid, written: Beats): Seconds {
  if (beats.length < 2) return written;
  const position = inPair(swing, written, soundsAt);
  const i = Math.min(Math.max(Math.floor(position), 0), beats.length - 2);
  const a = beats[i] as number;
  const b = beats[i + 1] as number;
  return a + (position - i) * (b - a);
}

/** Position in beats of a time: the inverse. */
export function beatsAt({ beats, swing }: Grid, time: Seconds): Beats {
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
  return inPair(swing, low + (time - a) / (b - a), writtenAt);
}

function inPair(swing: readonly Swing[], position: Beats, place: (x: number, long: number) => number): Beats {
  const here = swing.find((s) => s.start_beats <= position && position < s.end_beats);
  if (!here) return position;
  const begin = Math.floor(position / here.pair) * here.pair;
  return begin + here.pair * place((position - begin) / here.pair, here.long);
}

/** The share of a pair after which a note sounds; thirds are triplets, and stay. */
function soundsAt(x: number, long: number): number {
  if (Math.abs(3 * x - Math.round(3 * x)) < 1e-6) return x;
  return x <= 0.5 ? 2 * long * x : long + (2 * x - 1) * (1 - long);
}

function writtenAt(x: number, long: number): number {
  return x <= long ? x / (2 * long) : 0.5 + (x - long) / (2 * (1 - long));
}
