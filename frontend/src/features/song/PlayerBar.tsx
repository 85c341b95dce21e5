import { beatsAt, type Source, secondsAt } from "../../player";
import { beatsOf, clock, type KeyList, KeysDialog, usePlayKey, useShortcuts } from "../../ui";
import { usePlayer, useWorkspace } from "./context";
import { PlaceBar } from "./PlaceBar";
import { Foot } from "./PlayerBar.styles";

const SOURCES: [Source, string][] = [
  ["recording", "recording"],
  ["piano", "piano"],
  ["both", "both together"],
  ["ears", "one in each ear"],
  ["tune", "tune alone, on the piano"],
  ["bass", "bass alone, of the recording"],
];
type Repeat = "nothing" | "part" | "bar" | "joined";
const SPEEDS = Array.from({ length: 19 }, (_, i) => (30 + 5 * i) / 100);
const KEYS: KeyList = [
  [["Space"], "play from the place in hand, or stop; a button is pressed by Enter"],
  [["L"], "repeat this part, then this bar, then go on"],
  [["K"], "count in one bar before playing, and before each repeat"],
  [["'"], "metronome"],
  [["M"], "recording or piano"],
  [["[", "]"], "slower, faster"],
  [["←", "→"], "chord before, chord after"],
  [["N"], "next place to check"],
  [["Z"], "mend what is found here, where one way is sure"],
  [["1", "…", "5"], "choose another reading of the chord"],
  [["T"], "type a chord; at the bar's desk, tap the tempo"],
  [["H"], "hear the chord on the piano"],
  [["G"], "hear this place in the recording"],
  [["Q", "W", "Y", "V"], "desks: chord, tune, bar, past; in Parts: part, chords, lessons"],
  [["P"], "play the chord on the keys"],
  [[",", "."], "chord: half a beat earlier, later; tune: a quarter; bar: nudge the beat; part: a bar"],
  [["S", "I", "J", "X"], "split, put in, join to the one before, take out"],
  [["0"], "no chord here"],
  [["↑", "↓"], "tune: higher, lower; with Shift an octave"],
  [["A", "C", "E", "+", "-"], "tune: add, strike again, grace note, longer, shorter"],
  [["R", "O"], "after a change: in the repeats too, or only here"],
  [["↑", "↓"], "in Valley: grip before, grip after; with Shift beat by beat"],
  [["←", "→"], "in Valley: the note of the grip to change"],
  [
    [",", ".", "O", "X", "D", "S", "I", "B"],
    "its note lower, higher, other hand, drop, double, star, invert, back to Valley's choice",
  ],
  [["Alt", "1", "…", "5"], "in Valley: finger of the note"],
  [["Q", "U", "W", "Y", "V", "P"], "in Valley, desks: grip, bar, pattern, joins, hands, playing"],
  [
    ["←", "→", "↑", "↓", "+", "-", "H", "S", "N"],
    "a note of the bar seen close: key, place, length, hand, star, another",
  ],
  [["Ctrl", "Z"], "undo; with Shift redo"],
  [["?"], "this list"],
];

function Where() {
  const { player, chart } = useWorkspace();
  const time = usePlayer(player, (s) => s.time);
  const counting = usePlayer(player, (s) => s.counting);
  const beat = beatsAt(chart.beats, time);
  const bar = chart.bars.find((b) => beat >= b.start_beats && beat < b.start_beats + b.beats);
  if (counting) return <span className="where">count {counting} …</span>;
  return (
    <span className="where">
      {clock(time)}
      {bar && ` · bar ${bar.number}, beat ${Math.floor(beat - bar.start_beats) + 1}`}
    </span>
  );
}

/** Play, seek, slow down, repeat a part, count in; the same on every page. */
export function PlayerBar() {
  const { player, chart, part, song, selected } = useWorkspace();
  const sources = song.recording_id === null ? SOURCES.filter(([s]) => s === "piano" || s === "tune") : SOURCES;
  const playing = usePlayer(player, (s) => s.playing || s.counting > 0);
  const source = usePlayer(player, (s) => s.source);
  const rate = usePlayer(player, (s) => s.rate);
  const loop = usePlayer(player, (s) => s.loop);
  const countIn = usePlayer(player, (s) => s.countIn);
  const metronome = usePlayer(player, (s) => s.metronome);
  const problem = usePlayer(player, (s) => s.problem);

  const [from, to] = [secondsAt(chart.beats, part.start_beats), secondsAt(chart.beats, part.end_beats)];
  const here = beatsOf(selected);
  const bar = chart.bars.findLast((b) => b.start_beats <= here + 1e-6);
  const spans: Record<Repeat, { from: number; to: number } | null> = {
    nothing: null,
    part: { from, to },
    bar: bar
      ? { from: secondsAt(chart.beats, bar.start_beats), to: secondsAt(chart.beats, bar.start_beats + bar.beats) }
      : null,
    joined: { from: secondsAt(chart.beats, 0), to },
  };
  const same = (a: typeof loop, b: typeof loop) =>
    a && b ? Math.abs(a.from - b.from) + Math.abs(a.to - b.to) < 0.02 : a === b;
  const repeated = (Object.keys(spans) as Repeat[]).find((what) => same(spans[what], loop)) ?? "elsewhere";
  const repeat = (what: Repeat) => player.setLoop(spans[what]);
  const slower = (step: number) => player.setRate(Math.min(1.2, Math.max(0.3, Math.round((rate + step) * 20) / 20)));
  const first = sources[0]?.[0] ?? "piano";
  usePlayKey(() => player.toggle());
  useShortcuts({
    l: () => repeat(repeated === "nothing" ? "part" : repeated === "part" && bar ? "bar" : "nothing"),
    k: () => player.setCountIn(!countIn),
    m: () => player.setSource(source === first ? (sources[1]?.[0] ?? first) : first),
    "'": () => player.setMetronome(!metronome),
    "[": () => slower(-0.1),
    "]": () => slower(0.1),
  });
  return (
    <Foot data-noprint>
      <PlaceBar />
      <button type="button" className="play" onClick={() => player.toggle()} aria-label={playing ? "Stop" : "Play"}>
        <svg width="16" height="16" aria-hidden="true">
          {playing ? (
            <path d="M3 2h4v12H3zM10 2h4v12h-4z" fill="currentColor" />
          ) : (
            <path d="M4 1.5 14 8 4 14.5z" fill="currentColor" />
          )}
        </svg>
      </button>
      <Where />
      <label>
        hear
        <select value={source} onChange={(e) => player.setSource(e.target.value as Source)}>
          {sources.map(([value, name]) => (
            <option key={value} value={value}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <label>
        speed
        <select value={rate} onChange={(e) => player.setRate(Number(e.target.value))}>
          {SPEEDS.map((r) => (
            <option key={r} value={r}>
              {Math.round(r * 100)} %
            </option>
          ))}
        </select>
      </label>
      <label>
        repeat
        <select value={repeated} onChange={(e) => repeat(e.target.value as Repeat)}>
          <option value="nothing">nothing</option>
          <option value="part">part {part.number}</option>
          {bar && <option value="bar">bar {bar.number || 1}</option>}
          {repeated === "elsewhere" && <option value="elsewhere">another place</option>}
          {part.start_beats > 0 && <option value="joined">all up to part {part.number}</option>}
        </select>
      </label>
      <label>
        <input type="checkbox" checked={countIn} onChange={(e) => player.setCountIn(e.target.checked)} /> count in
      </label>
      <label>
        <input type="checkbox" checked={metronome} onChange={(e) => player.setMetronome(e.target.checked)} /> metronome
      </label>
      {problem && <span role="alert">{problem}</span>}
      <KeysDialog keys={KEYS}>
        <p>Keep the volume low when you repeat a passage on headphones, and rest your ears and hands.</p>
        <p style={{ margin: "0.8rem 0", color: "var(--soft)" }}>Piano samples by Alexander Holm, CC BY 3.0.</p>
      </KeysDialog>
    </Foot>
  );
}
