import { keyCentre } from "../../ui";

export const LEFT_MARGIN = 128;
export const KEYS_WIDTH = 640;
export const WIDTH = LEFT_MARGIN + KEYS_WIDTH + 110;
export const TOP = 34;

/** Where keys and beats stand on the drawing of one part. */
export interface Frame {
  x: (midi: number) => number;
  y: (beat: number) => number;
  /** The key nearest to a place across the drawing. */
  keyAt: (x: number) => number;
}

/** `low` is the leftmost white key, `scale` the width of a white key, `step` the height of a beat. */
export function makeFrame(low: number, scale: number, step: number, startBeat: number): Frame {
  const x = (midi: number) => LEFT_MARGIN + keyCentre(midi, low) * scale;
  return {
    x,
    y: (beat) => TOP + (beat - startBeat) * step,
    keyAt: (place) => {
      let best = low;
      for (let key = low; key < low + 88; key++) if (Math.abs(x(key) - place) < Math.abs(x(best) - place)) best = key;
      return best;
    },
  };
}
