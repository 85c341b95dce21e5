import { useEffect, useRef, useState } from "react";

/** How long a step took. */
export interface Took {
  key: string;
  seconds: number;
}
/** A step left sooner was only turned over. */
const SHORTEST = 1;
const LONGEST = 3600;

/** Adds up how long each step is in hand while the clock runs; a step come back to goes on where it stopped. */
export class StageClock {
  private readonly spent = new Map<string, number>();
  private since: number | null = null;
  private key = "";

  constructor(private readonly now: () => number = () => performance.now()) {}

  /** The step in hand from now on; "" for none, as when the clock stands. */
  hold(key: string): void {
    const at = this.now();
    if (this.since !== null && this.key)
      this.spent.set(this.key, (this.spent.get(this.key) ?? 0) + (at - this.since) / 1000);
    this.key = key;
    this.since = key ? at : null;
  }

  /** Steps with the seconds that they took, in the order in which they were first shown. */
  took(): Took[] {
    this.hold(this.key);
    return [...this.spent]
      .filter(([, seconds]) => seconds >= SHORTEST)
      .map(([key, seconds]) => ({ key, seconds: Math.round(10 * Math.min(seconds, LONGEST)) / 10 }));
  }

  total(): number {
    return this.took().reduce((sum, t) => sum + t.seconds, 0);
  }
}

/** The clock of the stage, told anew every second while it runs. */
export function useStageClock(key: string | undefined, runs: boolean) {
  const clock = useRef<StageClock>(null);
  clock.current ??= new StageClock();
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    clock.current?.hold(runs && key ? key : "");
    if (!runs) return;
    const timer = setInterval(() => setSeconds(clock.current?.total() ?? 0), 1000);
    return () => clearInterval(timer);
  }, [key, runs]);
  return { seconds, took: () => clock.current?.took() ?? [] };
}
