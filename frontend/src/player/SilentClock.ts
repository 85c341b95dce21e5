/**
 * The clock of a song without a recording: what of a media element the player leans on, running on the machine's own
 * time, so that the piano can be played, slowed and repeated where there is nothing to hear it against.
 */
import type { Seconds } from "./grid";

const UPDATE_MS = 200;

export class SilentClock extends EventTarget {
  duration: Seconds = 0;
  private at: Seconds = 0;
  private since: number | null = null;
  private rate = 1;
  private timer: ReturnType<typeof setInterval> | undefined;

  constructor(private now: () => number = () => performance.now()) {
    super();
  }

  get currentTime(): Seconds {
    const run = this.since === null ? 0 : ((this.now() - this.since) / 1000) * this.rate;
    return Math.min(this.at + run, this.duration);
  }

  set currentTime(time: Seconds) {
    this.at = Math.max(0, Math.min(time, this.duration));
    if (this.since !== null) this.since = this.now();
    this.dispatchEvent(new Event("timeupdate"));
  }

  get playbackRate(): number {
    return this.rate;
  }

  set playbackRate(rate: number) {
    this.at = this.currentTime;
    if (this.since !== null) this.since = this.now();
    this.rate = rate;
  }

  play(): Promise<void> {
    if (this.at >= this.duration) this.at = 0;
    this.since ??= this.now();
    clearInterval(this.timer);
    this.timer = setInterval(() => {
      this.dispatchEvent(new Event("timeupdate"));
      if (this.currentTime >= this.duration) {
        this.pause();
        this.dispatchEvent(new Event("ended"));
      }
    }, UPDATE_MS);
    return Promise.resolve();
  }

  pause(): void {
    this.at = this.currentTime;
    this.since = null;
    clearInterval(this.timer);
  }
}
