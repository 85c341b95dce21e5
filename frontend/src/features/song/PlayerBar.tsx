import { Button } from "react-aria-components";
import { useLocation } from "react-router";
import { beatsAt, type Source, secondsAt } from "../../player";
import {
  beatsOf,
  bound,
  Choice,
  clock,
  type GroupName,
  KeysDialog,
  type Option,
  percent,
  Tick,
  usePlayKey,
  useShortcuts,
} from "../../ui";
import { usePlayer, useWorkspace } from "./context";
import { PlaceBar } from "./PlaceBar";
import { Foot } from "./PlayerBar.styles";
import { sayBars } from "./stretch";

const SOURCES: Option<Source>[] = [
  { value: "recording", words: "recording" },
  { value: "piano", words: "piano" },
  { value: "both", words: "both together" },
  { value: "ears", words: "one in each ear" },
  { value: "tune", words: "tune alone, on the piano" },
  { value: "bass", words: "bass alone, of the recording" },
];
type Repeat = "nothing" | "stretch" | "part" | "bar" | "joined";
const SPEEDS = Array.from({ length: 19 }, (_, i) => (30 + 5 * i) / 100).map((r) => ({ value: r, words: percent(r) }));
const GROUPS: Record<string, readonly [string, readonly GroupName[]][]> = {
  survey: [
    ["In the Survey", ["survey"]],
    ["At the desk of the chord", ["chord", "offer"]],
    ["At the desk of the tune", ["tune"]],
    ["At the desk of the bar", ["bar"]],
  ],
  parts: [["In the Parts", ["parts", "part"]]],
  valley: [
    ["In the Valley", ["valley"]],
    ["In the bar seen close", ["closeBar"]],
  ],
  "hand-outs": [["In the Hand-outs", ["handouts"]]],
  script: [
    ["In the Script", ["script"]],
    ["On stage", ["prompter"]],
  ],
};
const EVERYWHERE: readonly [string, readonly GroupName[]][] = [
  ["The player", ["player"]],
  ["On every page of a song", ["song", "help"]],
];

function Where() {
  const { player, chart } = useWorkspace();
  const time = usePlayer(player, (s) => s.time);
  const counting = usePlayer(player, (s) => s.counting);
  const beat = beatsAt(chart, time);
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
  const { player, chart, part, song, selected, stretch } = useWorkspace();
  const view = useLocation().pathname.split("/").at(-1) ?? "";
  const sources =
    song.recording_id === null ? SOURCES.filter((s) => s.value === "piano" || s.value === "tune") : SOURCES;
  const playing = usePlayer(player, (s) => s.playing || s.counting > 0);
  const source = usePlayer(player, (s) => s.source);
  const rate = usePlayer(player, (s) => s.rate);
  const loop = usePlayer(player, (s) => s.loop);
  const countIn = usePlayer(player, (s) => s.countIn);
  const metronome = usePlayer(player, (s) => s.metronome);
  const problem = usePlayer(player, (s) => s.problem);

  const [from, to] = [secondsAt(chart, part.start_beats), secondsAt(chart, part.end_beats)];
  const here = beatsOf(selected);
  const bar = chart.bars.findLast((b) => b.start_beats <= here + 1e-6);
  const spans: Record<Repeat, { from: number; to: number } | null> = {
    nothing: null,
    stretch: stretch && { from: secondsAt(chart, stretch.from), to: secondsAt(chart, stretch.to) },
    part: { from, to },
    bar: bar ? { from: secondsAt(chart, bar.start_beats), to: secondsAt(chart, bar.start_beats + bar.beats) } : null,
    joined: { from: secondsAt(chart, 0), to },
  };
  const same = (a: typeof loop, b: typeof loop) =>
    a && b ? Math.abs(a.from - b.from) + Math.abs(a.to - b.to) < 0.02 : a === b;
  const order: Repeat[] = [
    "nothing",
    ...(stretch ? ["stretch" as const] : []),
    "part",
    ...(bar ? ["bar" as const] : []),
  ];
  const repeated = (Object.keys(spans) as Repeat[]).find((what) => same(spans[what], loop)) ?? "elsewhere";
  const repeat = (what: Repeat) => player.setLoop(spans[what]);
  const slower = (step: number) => player.setRate(Math.min(1.2, Math.max(0.3, Math.round((rate + step) * 20) / 20)));
  const first = sources[0]?.value ?? "piano";
  usePlayKey(() => player.toggle());
  useShortcuts(
    bound("player", {
      loop: () => repeat(order[(order.indexOf(repeated as Repeat) + 1) % order.length] ?? "nothing"),
      countIn: () => player.setCountIn(!countIn),
      source: () => player.setSource(source === first ? (sources[1]?.value ?? first) : first),
      metronome: () => player.setMetronome(!metronome),
      slower: () => slower(-0.1),
      faster: () => slower(0.1),
    }),
  );
  return (
    <Foot data-noprint id="player" tabIndex={-1}>
      <PlaceBar />
      <Button className="play" onPress={() => player.toggle()} aria-label={playing ? "Stop" : "Play"}>
        <svg width="16" height="16" aria-hidden="true">
          {playing ? (
            <path d="M3 2h4v12H3zM10 2h4v12h-4z" fill="currentColor" />
          ) : (
            <path d="M4 1.5 14 8 4 14.5z" fill="currentColor" />
          )}
        </svg>
      </Button>
      <Where />
      <Choice label="hear" value={source} options={sources} onChange={(s) => player.setSource(s)} />
      <Choice label="speed" value={rate} options={SPEEDS} onChange={(r) => player.setRate(r)} />
      <Choice
        label="repeat"
        value={repeated}
        options={[
          { value: "nothing", words: "nothing" },
          ...(stretch ? [{ value: "stretch", words: sayBars(stretch.first, stretch.last) } as const] : []),
          { value: "part", words: `part ${part.number}` },
          ...(bar ? [{ value: "bar", words: `bar ${bar.number || 1}` } as const] : []),
          ...(repeated === "elsewhere" ? [{ value: "elsewhere", words: "another place" } as const] : []),
          ...(part.start_beats > 0 ? [{ value: "joined", words: `all up to part ${part.number}` } as const] : []),
        ]}
        onChange={(what) => what !== "elsewhere" && repeat(what)}
      />
      <Tick checked={countIn} onChange={(on) => player.setCountIn(on)}>
        count in
      </Tick>
      <Tick checked={metronome} onChange={(on) => player.setMetronome(on)}>
        metronome
      </Tick>
      {problem && <span role="alert">{problem}</span>}
      <KeysDialog keys={[...(GROUPS[view] ?? []), ...EVERYWHERE]}>
        <p>Keep the volume low when you repeat a passage on headphones, and rest your ears and hands.</p>
        <p style={{ margin: "0.8rem 0", color: "var(--soft)" }}>Piano samples by Alexander Holm, CC BY 3.0.</p>
      </KeysDialog>
    </Foot>
  );
}
