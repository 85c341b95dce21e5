/**
 * Recording and piano on one clock. The recording's media element is the clock (its pitch is kept when slowed);
 * piano notes are scheduled a little ahead on the audio context, as C. Wilson, "A Tale of Two Clocks" (2013), shows.
 */

import { type Beats, beatsAt, type Grid, type Seconds, secondsAt } from "./grid";
import { Piano } from "./piano";
import { SilentClock } from "./SilentClock";

export type Source = "recording" | "piano" | "both" | "ears" | "tune" | "bass";

export interface PianoNote {
  start: Beats;
  duration: Beats;
  midi: number;
  hand: string;
}

export interface PlayerState {
  playing: boolean;
  counting: number;
  time: Seconds;
  rate: number;
  source: Source;
  hands: "both" | "left" | "right";
  countIn: boolean;
  metronome: boolean;
  loop: { from: Seconds; to: Seconds } | null;
  problem: string;
}

const AHEAD: Seconds = 0.2;
const TICK_MS = 40;
const BASS_EDGE = 190; // Hz: what lies above is taken away to hear the bass alone

export class Player {
  private listeners = new Set<() => void>();
  private state: PlayerState = {
    playing: false,
    counting: 0,
    time: 0,
    rate: 1,
    source: "recording",
    hands: "both",
    countIn: false,
    metronome: false,
    loop: null,
    problem: "",
  };
  private context: AudioContext | null = null;
  private piano: Piano | null = null;
  private recordingGain: GainNode | null = null;
  private recordingPan: StereoPannerNode | null = null;
  private recordingFilter: BiquadFilterNode | null = null;
  private pianoGain: GainNode | null = null;
  private pianoPan: StereoPannerNode | null = null;
  private notes: PianoNote[] = [];
  private grid: Grid = { beats: [], swing: [] };
  private beatsPerBar = 4;
  private barStarts = new Set<Beats>();
  private next = 0;
  private nextBeat = 0;
  private timer: ReturnType<typeof setInterval> | undefined;
  private countTimers: ReturnType<typeof setTimeout>[] = [];
  private stopAt: Seconds | null = null;

  private silent = new SilentClock();
  /** What tells the time: the recording, or, in a song without one, a silent clock. */
  private clock: HTMLAudioElement | SilentClock;

  constructor(private media: HTMLAudioElement) {
    this.clock = media;
    media.preload = "auto";
    media.preservesPitch = true;
    media.addEventListener("error", () =>
      this.set({ problem: "The recording cannot be played here; the piano still can." }),
    );
    for (const clock of [media, this.silent]) {
      clock.addEventListener("ended", () => clock === this.clock && this.pause());
      clock.addEventListener(
        "timeupdate",
        () => clock === this.clock && !this.state.playing && this.set({ time: clock.currentTime }),
      );
    }
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  getState = (): PlayerState => this.state;

  /** The recording place at this very moment, for drawing. */
  now = (): Seconds => this.clock.currentTime;

  private set(change: Partial<PlayerState>): void {
    this.state = { ...this.state, ...change };
    for (const listener of this.listeners) listener();
  }

  /** Without an address the piano plays alone, on a clock of its own. */
  load(address: string | null, grid: Grid, beatsPerBar: number, barStarts: readonly Beats[] = []): void {
    if (address === null) {
      if (this.clock !== this.silent) {
        this.pause();
        this.media.removeAttribute("src");
        this.clock = this.silent;
        this.set({ time: 0, loop: null, problem: "", source: "piano" });
      }
      this.silent.duration = secondsAt(grid, grid.beats.length);
    } else if (this.clock !== this.media || this.media.getAttribute("src") !== address) {
      this.pause();
      this.clock = this.media;
      this.media.src = address;
      this.set({ time: 0, loop: null, problem: "" });
    }
    this.grid = grid;
    this.beatsPerBar = beatsPerBar;
    this.barStarts = new Set(barStarts);
  }

  setNotes(notes: readonly PianoNote[]): void {
    this.notes = [...notes].sort((a, b) => a.start - b.start);
    this.findNext();
    if (this.piano) void this.piano.load(this.notes.map((n) => n.midi));
  }

  setRate(rate: number): void {
    this.media.playbackRate = rate;
    this.silent.playbackRate = rate;
    this.piano?.hush();
    this.set({ rate });
    this.findNext();
  }

  setSource(source: Source): void {
    this.set({ source });
    this.mix();
  }

  setHands(hands: PlayerState["hands"]): void {
    this.set({ hands });
  }

  setCountIn(countIn: boolean): void {
    this.set({ countIn });
  }

  setMetronome(metronome: boolean): void {
    this.set({ metronome });
    this.findNext();
  }

  setLoop(loop: PlayerState["loop"]): void {
    this.set({ loop });
    if (loop && (this.clock.currentTime < loop.from || this.clock.currentTime >= loop.to)) this.seek(loop.from);
  }

  seek(time: Seconds): void {
    this.clock.currentTime = Math.max(0, time);
    this.stopAt = null;
    this.piano?.hush();
    this.set({ time: this.clock.currentTime });
    this.findNext();
  }

  toggle(): void {
    if (this.state.playing || this.state.counting) this.pause();
    else void this.play();
  }

  /** Play a stretch and stop. */
  async playSpan(from: Seconds, to: Seconds): Promise<void> {
    this.pause();
    this.seek(from);
    await this.play(false);
    this.stopAt = to;
  }

  /** Sound keys at once, held together. */
  async sound(keys: readonly number[], seconds = 1.6): Promise<void> {
    this.start();
    await this.context?.resume();
    await this.piano?.load(keys);
    const now = this.context?.currentTime ?? 0;
    for (const key of keys) this.piano?.strike(key, now + 0.02, seconds);
  }

  async play(countIn = this.state.countIn): Promise<void> {
    this.start();
    await this.context?.resume();
    await this.piano?.load(this.notes.slice(this.next, this.next + 60).map((n) => n.midi)).catch(() => undefined);
    if (countIn && this.grid.beats.length > 1) this.count();
    else await this.run();
  }

  pause(): void {
    for (const timer of this.countTimers) clearTimeout(timer);
    this.countTimers = [];
    clearInterval(this.timer);
    this.clock.pause();
    this.piano?.hush();
    this.stopAt = null;
    if (this.state.playing || this.state.counting)
      this.set({ playing: false, counting: 0, time: this.clock.currentTime });
  }

  /** The song is left: browsers allow few audio contexts at a time, so this one is given back. */
  dispose(): void {
    this.pause();
    this.media.removeAttribute("src");
    void this.context?.close();
    this.context = null;
    this.piano = null;
  }

  private async run(): Promise<void> {
    try {
      await this.clock.play();
    } catch {
      this.set({ playing: false, counting: 0, problem: "The browser did not start the sound; press play once more." });
      return;
    }
    this.findNext();
    this.set({ playing: true, counting: 0, problem: "" });
    clearInterval(this.timer);
    this.timer = setInterval(() => this.tick(), TICK_MS);
  }

  /** One bar of clicks at the song's own tempo, so that the next beat of the song falls where the bar after them would begin. */
  private count(): void {
    const here = this.clock.currentTime;
    const landing = Math.max(0, Math.ceil(beatsAt(this.grid, here) - 0.05));
    const until = Math.max(0, secondsAt(this.grid, landing) - here) / this.state.rate;
    const beat = (secondsAt(this.grid, landing + 1) - secondsAt(this.grid, landing)) / this.state.rate;
    const bar = this.beatsPerBar * beat;
    const start = (this.context?.currentTime ?? 0) + 0.05;
    this.set({ counting: 1 });
    for (let i = 0; i < this.beatsPerBar; i++) {
      this.click(start + i * beat, i === 0);
      this.countTimers.push(setTimeout(() => this.set({ counting: i + 1 }), i * beat * 1000));
    }
    this.countTimers.push(setTimeout(() => void this.run(), (bar - Math.min(until, bar)) * 1000 + 50));
  }

  private click(when: Seconds, strong: boolean): void {
    if (!this.context) return;
    const oscillator = this.context.createOscillator();
    const gain = this.context.createGain();
    oscillator.type = "triangle";
    oscillator.frequency.value = strong ? 1320 : 990;
    gain.gain.setValueAtTime(0.25, when);
    gain.gain.exponentialRampToValueAtTime(0.001, when + 0.07);
    oscillator.connect(gain).connect(this.context.destination);
    oscillator.start(when);
    oscillator.stop(when + 0.08);
  }

  private tick(): void {
    const { loop } = this.state;
    const now = this.clock.currentTime;
    if (this.stopAt !== null && now >= this.stopAt) {
      this.pause();
      return;
    }
    if (loop && now >= loop.to) {
      this.seek(loop.from);
      if (this.state.countIn && this.grid.beats.length > 1) this.countAgain();
      return;
    }
    if (this.state.metronome) this.tickBeats(now);
    this.schedule(now);
    this.set({ time: now });
  }

  private countAgain(): void {
    clearInterval(this.timer);
    this.clock.pause();
    this.set({ playing: false });
    this.count();
  }

  private tickBeats(now: Seconds): void {
    const limit = this.state.loop?.to ?? Number.POSITIVE_INFINITY;
    for (; this.nextBeat < this.grid.beats.length; this.nextBeat++) {
      const at = this.grid.beats[this.nextBeat] as Seconds;
      if (at > now + AHEAD * this.state.rate || at >= limit - 0.01) return;
      if (at < now - 0.03 || !this.context) continue;
      this.click(
        this.context.currentTime + Math.max(0, (at - now) / this.state.rate),
        this.barStarts.has(this.nextBeat),
      );
    }
  }

  private schedule(now: Seconds): void {
    if (!this.piano || !this.context || this.state.source === "recording" || this.state.source === "bass") return;
    const limit = this.state.loop?.to ?? Number.POSITIVE_INFINITY;
    for (; this.next < this.notes.length; this.next++) {
      const note = this.notes[this.next] as PianoNote;
      const start = secondsAt(this.grid, note.start);
      if (start > now + AHEAD * this.state.rate || start >= limit) return;
      if (start < now - 0.08 || !this.isWanted(note.hand)) continue;
      const length = (secondsAt(this.grid, note.start + note.duration) - start) / this.state.rate;
      const when = this.context.currentTime + Math.max(0, (start - now) / this.state.rate);
      this.piano.strike(note.midi, when, Math.min(length, 6), 0.6);
    }
  }

  /** Of the notes on the piano: the tune alone, or the chosen hands; the tune sounds beside chords only when asked for. */
  private isWanted(hand: string): boolean {
    if (hand === "tune" || this.state.source === "tune") return hand === "tune" && this.state.source === "tune";
    return this.state.hands === "both" || hand === this.state.hands;
  }

  private findNext(): void {
    const now = this.clock.currentTime - 0.05;
    const found = this.notes.findIndex((n) => secondsAt(this.grid, n.start) >= now);
    this.next = found < 0 ? this.notes.length : found;
    const beat = this.grid.beats.findIndex((b) => b >= this.clock.currentTime - 0.03);
    this.nextBeat = beat < 0 ? this.grid.beats.length : beat;
  }

  /** The audio graph is made at the first touch, as browsers want it. */
  private start(): void {
    if (this.context || !("AudioContext" in globalThis)) return; // without one the recording alone can be heard
    this.context = new AudioContext();
    this.recordingFilter = this.context.createBiquadFilter();
    this.recordingFilter.type = "allpass";
    this.recordingGain = this.context.createGain();
    this.recordingPan = this.context.createStereoPanner();
    this.pianoGain = this.context.createGain();
    this.pianoPan = this.context.createStereoPanner();
    this.context
      .createMediaElementSource(this.media)
      .connect(this.recordingFilter)
      .connect(this.recordingGain)
      .connect(this.recordingPan)
      .connect(this.context.destination);
    this.pianoGain.connect(this.pianoPan).connect(this.context.destination);
    this.piano = new Piano(this.context, this.pianoGain);
    this.mix();
  }

  private mix(): void {
    const { source } = this.state;
    const silent = source === "piano" || source === "tune";
    if (this.recordingGain) this.recordingGain.gain.value = silent ? 0 : source === "both" ? 0.7 : 0.9;
    if (this.recordingFilter) {
      this.recordingFilter.type = source === "bass" ? "lowpass" : "allpass";
      this.recordingFilter.frequency.value = BASS_EDGE;
      this.recordingFilter.Q.value = source === "bass" ? 0.9 : 0.0001;
    }
    if (this.recordingPan) this.recordingPan.pan.value = source === "ears" ? -1 : 0;
    if (this.pianoPan) this.pianoPan.pan.value = source === "ears" ? 1 : 0;
    if (source === "recording" || source === "bass") this.piano?.hush();
  }
}
