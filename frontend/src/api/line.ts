/**
 * A waiting line of changes: each is sent when the one before it was answered, in the order in which they were made. None is dropped because
 * others wait, none is sent beside another; one that fails does not stop those behind it.
 */
export class Line {
  private tail: Promise<unknown> = Promise.resolve();
  private stirred: (() => void)[] = [];
  /** Changes that were made and are not answered yet. */
  waiting = 0;
  /** How many were answered: what was asked for before the last answer may be out of date. */
  answered = 0;
  /** The version that the next change is made on, as the last answer said; 0 before there was one. */
  revision = 0;
  /** What the server told last, before anything that is only foreseen: what a patch is laid on. */
  told: unknown;

  add<T>(send: () => Promise<T>): Promise<T> {
    this.waiting += 1;
    const sent = this.tail.then(send);
    this.tail = sent
      .catch(() => undefined)
      .then(() => {
        this.waiting -= 1;
        this.answered += 1;
        for (const wake of this.stirred.splice(0)) wake();
      });
    return sent;
  }

  /** Resolves when no change waits. */
  async idle(): Promise<void> {
    while (this.waiting > 0) await new Promise<void>((wake) => this.stirred.push(wake));
  }

  /** An answer that no change has overtaken: asked for again while changes are made meanwhile. */
  async fresh<T>(ask: () => Promise<T>): Promise<T> {
    for (;;) {
      await this.idle();
      const before = this.answered;
      const answer = await ask();
      if (this.waiting === 0 && this.answered === before) return answer;
    }
  }
}

const lines = new WeakMap<object, Map<string, Line>>();

/** The line of one thing that is changed: a song, the week. ``owner`` is whose cache it belongs to. */
export function lineOf(owner: object, name: string): Line {
  const mine = lines.get(owner) ?? new Map<string, Line>();
  lines.set(owner, mine);
  const line = mine.get(name) ?? new Line();
  mine.set(name, line);
  return line;
}
