/**
 * Keyboards that play into Valley: real ones through Web MIDI, and a simulated one for whoever has none, and for tests.
 * Listeners get the set of keys held down at each change.
 */

type Listener = (held: ReadonlySet<number>) => void;

const NOTE_OFF = 0x80;
const NOTE_ON = 0x90;
const CONTROL = 0xb0;
const PEDALS = [64, 66, 67]; // sustain, sostenuto, soft

class Keyboards {
  private held = new Set<number>();
  private listeners = new Set<Listener>();
  private pedals = new Set<() => void>();
  /** Names of the real keyboards that are connected. */
  names: string[] = [];

  listen(listener: Listener): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** Told whenever a pedal goes down. */
  onPedal(listener: () => void): () => void {
    this.pedals.add(listener);
    return () => this.pedals.delete(listener);
  }

  /** One MIDI message: status, key, velocity. Anything but notes and pedals is passed over. */
  receive(message: ArrayLike<number>): void {
    const [status = 0, key = 0, velocity = 0] = Array.from(message);
    const kind = status & 0xf0;
    if (kind === CONTROL && PEDALS.includes(key) && velocity >= 64) for (const listener of this.pedals) listener();
    if (kind === NOTE_ON && velocity > 0) this.held.add(key);
    else if (kind === NOTE_OFF || kind === NOTE_ON) this.held.delete(key);
    else return;
    const now = new Set(this.held);
    for (const listener of this.listeners) listener(now);
  }

  /** The simulated keyboard. */
  press(key: number): void {
    this.receive([NOTE_ON, key, 80]);
  }
  release(key: number): void {
    this.receive([NOTE_OFF, key, 0]);
  }

  step(): void {
    this.receive([CONTROL, 64, 127]);
    this.receive([CONTROL, 64, 0]);
  }

  /** Ask the browser for real keyboards; the answer says in words what came of it. */
  async connect(): Promise<string> {
    if (!navigator.requestMIDIAccess) return "This browser does not pass keyboards on; click the keys instead.";
    try {
      const access = await navigator.requestMIDIAccess();
      const attach = () => {
        this.names = [];
        for (const input of access.inputs.values()) {
          this.names.push(input.name ?? "keyboard");
          input.onmidimessage = (event) => event.data && this.receive(event.data);
        }
      };
      access.onstatechange = attach;
      attach();
      return this.names.length
        ? `Listening to ${this.names.join(", ")}.`
        : "No keyboard is plugged in yet; plug one in and play.";
    } catch {
      return "The browser was told not to pass keyboards on; allow it in the page's settings, or click the keys.";
    }
  }
}

export const keyboards = new Keyboards();
