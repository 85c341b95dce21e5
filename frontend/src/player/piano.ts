/** The sampled piano: thirty samples, every key played by its nearest one. */

const NAMES: Record<string, number> = { C: 0, Ds: 3, Fs: 6, A: 9 };
const FILES = ["A0", ...[1, 2, 3, 4, 5, 6, 7].flatMap((o) => [`C${o}`, `Ds${o}`, `Fs${o}`, `A${o}`]), "C8"];

const midiOf = (file: string) => 12 * (Number(file.slice(-1)) + 1) + (NAMES[file.slice(0, -1)] ?? 0);
const SAMPLES = FILES.map((file) => ({ file, midi: midiOf(file) }));

/** Name of the sample nearest to a key, and the rate at which it sounds that key. */
export function nearestSample(midi: number): { file: string; rate: number } {
  const best = SAMPLES.reduce((a, b) => (Math.abs(b.midi - midi) < Math.abs(a.midi - midi) ? b : a));
  return { file: best.file, rate: 2 ** ((midi - best.midi) / 12) };
}

export class Piano {
  private buffers = new Map<string, Promise<AudioBuffer>>();
  private ready = new Map<string, AudioBuffer>();
  private sounding = new Set<{ source: AudioBufferSourceNode; gain: GainNode }>();

  constructor(
    private context: BaseAudioContext,
    private output: AudioNode,
    private address = "/static/samples/",
  ) {}

  /** Fetch what a set of keys needs. */
  async load(keys: Iterable<number>): Promise<void> {
    const files = new Set([...keys].map((k) => nearestSample(k).file));
    await Promise.all([...files].map((file) => this.fetch(file)));
  }

  private fetch(file: string): Promise<AudioBuffer> {
    let buffer = this.buffers.get(file);
    if (!buffer) {
      buffer = globalThis
        .fetch(`${this.address}${file}.mp3`)
        .then((response) => response.arrayBuffer())
        .then((bytes) => this.context.decodeAudioData(bytes));
      buffer.then((b) => this.ready.set(file, b)).catch(() => this.buffers.delete(file));
      this.buffers.set(file, buffer);
    }
    return buffer;
  }

  /** Sound a key at a time of the context's clock, for so many seconds. */
  strike(midi: number, when: number, seconds: number, loudness = 0.7): void {
    const { file, rate } = nearestSample(midi);
    const buffer = this.ready.get(file);
    if (!buffer) {
      void this.fetch(file);
      return;
    }
    const source = this.context.createBufferSource();
    const gain = this.context.createGain();
    source.buffer = buffer;
    source.playbackRate.value = rate;
    gain.gain.setValueAtTime(loudness, when);
    gain.gain.setTargetAtTime(0, when + Math.max(0.08, seconds), 0.09);
    source.connect(gain).connect(this.output);
    source.start(when);
    source.stop(when + seconds + 0.8);
    const voice = { source, gain };
    this.sounding.add(voice);
    source.onended = () => this.sounding.delete(voice);
  }

  /** Let go of every key. */
  hush(): void {
    for (const { source, gain } of this.sounding) {
      gain.gain.cancelScheduledValues(this.context.currentTime);
      gain.gain.setTargetAtTime(0, this.context.currentTime, 0.03);
      source.stop(this.context.currentTime + 0.2);
    }
    this.sounding.clear();
  }
}
