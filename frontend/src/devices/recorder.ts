/** A key as it was struck: in beats of the song, and how long it was held. */
export interface PlayedKey {
  at: number;
  lasting: number;
  midi: number;
}

const BACK = 0.4; // beats: so far back the clock goes only where a loop begins again
const SHORTEST = 0.05;

/** Keeps what is played while the song runs, pass by pass: where the song goes back, in a loop, a new pass begins. */
export class Recorder {
  private down = new Map<number, number>();
  private last = Number.NEGATIVE_INFINITY;
  private kept: PlayedKey[][] = [[]];

  /** `beat` tells where the song is, in beats. */
  constructor(private beat: () => number) {}

  /** The keys that are down now. */
  hear(held: ReadonlySet<number>): void {
    const now = this.look();
    for (const [midi, since] of this.down)
      if (!held.has(midi)) {
        this.keep(midi, since, now);
        this.down.delete(midi);
      }
    for (const midi of held) if (!this.down.has(midi)) this.down.set(midi, now);
  }

  /** Asked now and then, so that a loop is noticed between keys too. */
  look(): number {
    const now = this.beat();
    if (now < this.last - BACK) {
      for (const [midi, since] of this.down) this.keep(midi, since, this.last);
      this.down.clear();
      if (this.pass.length) this.kept.push([]);
    }
    this.last = now;
    return now;
  }

  private keep(midi: number, since: number, until: number): void {
    this.pass.push({ at: since, lasting: Math.max(SHORTEST, until - since), midi });
  }

  private get pass(): PlayedKey[] {
    return this.kept[this.kept.length - 1] as PlayedKey[];
  }

  /** The passes with something in them; keys that are still down end here. */
  stop(): PlayedKey[][] {
    this.hear(new Set());
    return this.kept.filter((p) => p.length > 0);
  }

  get count(): number {
    return this.kept.reduce((sum, p) => sum + p.length, 0) + this.down.size;
  }
}
