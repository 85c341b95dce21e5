import { type CSSProperties, memo } from "react";
import type { Schemas } from "../../api/client";
import { grassPath, sampleLevels, smoothPath, waver, withSigns } from "../../ui";
import { LOUDNESS_RATE } from "../song";
import { ChordMark, Held, Row } from "./TerraceRow.styles";
import { beatOnTerrace, placeOnTerrace, ROW_HEIGHT, ROW_WIDTH, type Terrace } from "./terraces";

const GROUND = 88;
/** A bar whose chart explains less of the sound than this is marked. */
const WEAK = 0.5;

interface TerraceRowProps {
  terrace: Terrace;
  chords: readonly Schemas["ChordOut"][];
  melody: readonly Schemas["MelodyOut"][];
  keys: readonly Schemas["KeyOut"][];
  cues: readonly Schemas["CueOut"][];
  note: string;
  onNote: (start: string) => void;
  loudness: readonly number[];
  pitchRange: readonly [number, number];
  selected: string;
  onSelect: (start: string) => void;
  /** A beat on the ground; ``extend`` with Shift held. */
  onPlace: (beat: number, extend: boolean) => void;
  /** Beats from which and up to which bars are marked. */
  marked: readonly [number, number] | null;
}

/** The metre of the bar before, within the terrace; a change at its first bar is shown by that bar. */
function meterBefore(terrace: Terrace, bar: Schemas["BarOut"]): string {
  const i = terrace.bars.indexOf(bar);
  return i > 0 ? (terrace.bars[i - 1]?.meter ?? bar.meter) : terrace.meterBefore;
}

/** One terrace: the recording as grass on the ground, the tune as a line above it, chords in ink as sure as they are. */
export const TerraceRow = memo(function TerraceRow(props: TerraceRowProps) {
  const {
    terrace,
    chords,
    melody,
    keys,
    cues,
    loudness,
    pitchRange,
    selected,
    onSelect,
    note,
    onNote,
    onPlace,
    marked,
  } = props;
  const from = terrace.bars[0]?.start_beats ?? 0;
  const last = terrace.bars.at(-1);
  const to = last ? last.start_beats + last.beats : from;
  const width = placeOnTerrace(terrace, to);
  const at = (beat: number) => placeOnTerrace(terrace, Math.min(beat, to));
  const height = (midi: number) =>
    GROUND - 20 - (24 * (midi - pitchRange[0])) / Math.max(1, pitchRange[1] - pitchRange[0]);
  const ground = smoothPath(
    Array.from({ length: 9 }, (_, i) => [(width * i) / 8, GROUND + 1.5 * waver(terrace.part * 7 + i)] as const),
  );
  const percentOf = (x: number) => `${(100 * x) / (ROW_WIDTH + 12)}%`;
  const here = chords.filter((c) => c.start_beats >= from && c.start_beats < to);
  const held = chords.find(
    (c) => c.start_beats < from && c.start_beats + c.duration_beats > from && c.symbol !== "no chord",
  );
  return (
    <Row>
      <svg
        viewBox={`0 0 ${ROW_WIDTH + 12} ${ROW_HEIGHT}`}
        aria-hidden="true"
        preserveAspectRatio="none"
        onClick={(e) => {
          if (e.target instanceof Element && e.target.closest("[data-note]")) return;
          const box = e.currentTarget.getBoundingClientRect();
          onPlace(beatOnTerrace(terrace, ((e.clientX - box.left) / box.width) * (ROW_WIDTH + 12)), e.shiftKey);
        }}
      >
        {marked && marked[0] < to && marked[1] > from && (
          <path
            data-marked
            d={`M${at(Math.max(from, marked[0]))} 2V${GROUND + 14}H${at(marked[1])}V2Z`}
            fill="var(--water)"
            stroke="var(--river)"
            strokeWidth="1.2"
            strokeDasharray="7 3"
          />
        )}
        {terrace.bars.map((bar) => {
          const x = at(bar.start_beats);
          const w = at(bar.start_beats + bar.beats) - x;
          return (
            <g key={bar.number}>
              <path
                d={grassPath(sampleLevels(loudness, bar.start_sec, bar.end_sec, LOUDNESS_RATE, 44), x, w, GROUND, 17)}
                fill="var(--river)"
                opacity="0.5"
              />
              <path d={`M${x} ${GROUND - 9}V${GROUND + 4}`} stroke="var(--ink)" strokeWidth="1.2" />
              {bar.agreement && bar.agreement.whole < WEAK && (
                <path
                  d={`M${x + 6} ${GROUND + 3}H${x + w - 6}`}
                  stroke="var(--doubt)"
                  strokeWidth="3"
                  strokeDasharray="2 5"
                  strokeLinecap="round"
                />
              )}
              <text x={x + 3} y={GROUND - 48} fontWeight={400}>
                {bar.number || "pickup"}
                {bar.meter !== meterBefore(terrace, bar) && bar.number > 1 && ` · ${bar.meter}`}
              </text>
            </g>
          );
        })}
        {melody
          .filter((m) => m.start_beats >= from && m.start_beats < to)
          .map((m) => {
            const stretch = `M${at(m.start_beats)} ${height(m.midi)}H${Math.max(at(m.start_beats) + 4, at(m.start_beats + m.duration_beats) - 2)}`;
            return (
              // biome-ignore lint/a11y/noStaticElementInteractions: a short cut for the mouse; the tune's desk walks the notes by keys
              <g key={m.start} data-note={m.start} onClick={() => onNote(m.start)} style={{ cursor: "pointer" }}>
                <path d={stretch} stroke="transparent" strokeWidth="10" />
                <path
                  d={stretch}
                  stroke={m.start === note ? "var(--ink)" : "var(--right)"}
                  strokeWidth={m.start === note ? 5 : m.grace ? 1.4 : 2.4}
                  strokeLinecap="round"
                />
              </g>
            );
          })}
        <path d={ground} fill="none" stroke="var(--ink)" strokeWidth="1.6" />
        {[6, 11, 17].map((d, k) => (
          <path
            key={d}
            d={smoothPath(
              Array.from(
                { length: 9 },
                (_, i) => [(width * i) / 8, GROUND + d + (2 + k) * waver(terrace.part * 7 + i + 0.3 * k)] as const,
              ),
            )}
            fill="none"
            stroke="var(--contour)"
            strokeWidth="1"
          />
        ))}
        {terrace.first && <path d={`M-6 12V${GROUND}`} stroke="var(--ink)" strokeWidth="2.4" />}
      </svg>
      {terrace.first && (
        <span
          style={{ position: "absolute", left: 4, top: -6, fontWeight: 700, fontSize: "0.88rem", color: "var(--soft)" }}
        >
          part {terrace.part}
        </span>
      )}
      {keys
        .filter((k) => k.start_beats >= from && k.start_beats < to && (k.start_beats > 0 || keys.length > 1))
        .map((k) => (
          <span
            key={k.start_beats}
            style={{
              position: "absolute",
              left: `calc(${percentOf(at(k.start_beats))} + 60px)`,
              top: -6,
              fontSize: "0.88rem",
              color: "var(--doubt)",
            }}
          >
            {withSigns(k.name)}
          </span>
        ))}
      {cues
        .filter((c) => c.start_beats >= from && c.start_beats < to)
        .map((c) => (
          <span
            key={c.start}
            style={{
              position: "absolute",
              left: `calc(${percentOf(at(c.start_beats))} + 4px)`,
              top: GROUND + 4,
              fontSize: "0.88rem",
              fontStyle: "italic",
              color: "var(--soft)",
            }}
          >
            “{c.text}”
          </span>
        ))}
      {held && (
        <Held style={{ left: `calc(${percentOf(0)} + 13px)` }} title="held from the bar before">
          {withSigns(held.symbol)}
        </Held>
      )}
      {here.map((chord) => {
        const room = at(chord.start_beats + chord.duration_beats) - at(chord.start_beats);
        return (
          <ChordMark
            key={chord.start}
            type="button"
            style={
              {
                left: `calc(${percentOf(at(chord.start_beats))} + 13px)`,
                "--sure": chord.locked ? 1 : Math.min(1, chord.confidence),
              } as CSSProperties
            }
            data-doubtful={chord.doubtful}
            data-long={chord.symbol.length * 13 > room - 16}
            data-start={chord.start}
            aria-pressed={chord.start === selected}
            aria-label={`Bar ${chord.bar}, beat ${chord.beat}: ${withSigns(chord.symbol)}${chord.doubtful ? ", to check" : ""}${chord.locked ? ", set by you" : ""}`}
            onClick={() => onSelect(chord.start)}
          >
            {chord.symbol === "no chord" ? "–" : withSigns(chord.symbol)}
            {chord.doubtful && <sup aria-hidden="true">?</sup>}
            {chord.locked && (
              <svg viewBox="0 0 11 11" aria-hidden="true">
                <path d="M1 6l3 4 6-9-1.5-.8L4 7 2.300 4.800z" />
              </svg>
            )}
          </ChordMark>
        );
      })}
    </Row>
  );
});
