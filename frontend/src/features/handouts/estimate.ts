import type { Schemas } from "../../api/client";
import { secondsAt } from "../../player";
import { clock } from "../../ui";

// Measured on our own songs: kilobytes a second of sound, and seconds of it that are made in one second on one core.
const SOUND = {
  mp3: { kilobytes: 22, quick: 28 },
  flac: { kilobytes: 41, quick: 40 },
  opus: { kilobytes: 11, quick: 35 },
};
const STRETCHED = 25; // seconds of a recording that are slowed in one second

interface Wish {
  part: number;
  speed: number;
  countIn: boolean;
}

/** How long a track or film of a part lasts, or of the whole song where part is 0. */
export function secondsOf(chart: Schemas["ChartOut"], { part, speed, countIn }: Wish): number {
  const found = chart.parts.find((p) => p.number === part);
  const from = found ? secondsAt(chart, found.start_beats) : secondsAt(chart, 0);
  const to = secondsAt(chart, found ? found.end_beats : chart.beats.length);
  const bar = chart.bars.find((b) => b.number === (found?.start_bar ?? 1));
  const counted =
    countIn && bar ? secondsAt(chart, bar.start_beats + bar.beats) - secondsAt(chart, bar.start_beats) : 0;
  return (to - from + counted) / speed;
}

/** "2:10 long, about 3 MB, made in about 4 seconds". */
export function sayTrack(seconds: number, kind: string, slowed = false): string {
  const { kilobytes, quick } = SOUND[kind as keyof typeof SOUND] ?? SOUND.mp3;
  const wait = seconds / quick + (slowed ? seconds / STRETCHED : 0);
  return `${sayLength(seconds)} long, about ${saySize(seconds * kilobytes)}, made in about ${sayWait(wait)}`;
}

// Measured on a song of 180 s with two chords a bar: kilobytes a second of film, and seconds of it that are made in one second on two cores.
const FILM = {
  webm: { kilobytes: 20, quick: 5 },
  mov: { kilobytes: 750, quick: 7 },
  mp4: { kilobytes: 47, quick: 3 },
};
const HALF = 0.45; // pictures of 1280 × 720, beside the larger ones

/** "2:10 long, about 3.5 MB, made in about 43 seconds". */
export function sayFilm(seconds: number, kind: keyof typeof FILM, shape: string): string {
  const { kilobytes, quick } = FILM[kind];
  const share = shape === "720p" ? HALF : 1;
  const size = saySize(seconds * kilobytes * (kind === "mov" ? share : 1));
  return `${sayLength(seconds)} long, about ${size}, made in about ${sayWait((seconds * share) / quick)}`;
}

export function sayLength(seconds: number): string {
  return clock(Math.round(seconds));
}

export function saySize(kilobytes: number): string {
  return kilobytes < 950
    ? `${Math.max(10, Math.round(kilobytes / 10) * 10)} KB`
    : `${(kilobytes / 1000).toFixed(kilobytes < 9500 ? 1 : 0)} MB`;
}

export function sayWait(seconds: number): string {
  if (seconds < 90) return `${Math.max(1, Math.round(seconds))} second${seconds < 1.5 ? "" : "s"}`;
  return `${Math.round(seconds / 60)} minutes`;
}
