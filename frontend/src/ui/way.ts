import { type Point, waver } from "./draw";

/** The nine waymarks between a viewer's wish and a lesson that is out and corrected. */
export const STAGES = [
  "asked",
  "chosen",
  "listened",
  "charted",
  "arranged",
  "scripted",
  "filmed",
  "published",
  "corrected",
] as const;

/** Where the waymarks stand: a path that rises and falls, the same for the same seed. */
export function wayPoints(seed: number, step: number, middle: number, swing: number): Point[] {
  return STAGES.map((_, i) => [12 + i * step, middle + swing * waver(seed * 9 + i)] as const);
}
