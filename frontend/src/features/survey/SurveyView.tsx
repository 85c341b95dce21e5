import { type CSSProperties, useCallback, useEffect, useMemo, useRef, useState } from "react";
import styled from "styled-components";
import { beatsAt, secondsAt } from "../../player";
import { beatsOf, bound, useShortcuts } from "../../ui";
import { chordNotes, Page, tuneNotes, useFollow, usePlayer, useWorkspace } from "../song";
import { type Desk, SurveyMargin } from "./SurveyMargin";
import { TerraceRow } from "./TerraceRow";
import { Row } from "./TerraceRow.styles";
import { makeTerraces, placeOnTerrace, ROW_WIDTH, type Terrace } from "./terraces";
import { useDrawn } from "./useDrawn";
import { useRoom } from "./useRoom";

const Field = styled.div`
  padding: 0.8rem 0.6rem 1rem 0.6rem;
  > div.row {
    position: relative;
    margin-bottom: 0.55rem;
  }
`;
const Marker = styled.span`
  position: absolute;
  top: 24px;
  bottom: 14px;
  width: 2px;
  background: var(--doubt);
  pointer-events: none;
`;

/** A thin line where the recording is, on its terrace only. */
function PlayMarker({ terrace }: { terrace: Terrace }) {
  const { player, chart } = useWorkspace();
  const first = terrace.bars[0];
  const last = terrace.bars.at(-1);
  const x = usePlayer(player, (s) => {
    const beat = beatsAt(chart, s.time);
    if (
      !first ||
      !last ||
      (!s.playing && s.time === 0) ||
      beat < first.start_beats ||
      beat >= last.start_beats + last.beats
    )
      return -1;
    return Math.round(placeOnTerrace(terrace, beat));
  });
  if (x < 0) return null;
  return <Marker style={{ left: `min(${(100 * x) / (ROW_WIDTH + 12)}%, ${x}px)` }} />;
}

/** The recording as terraces of bars; one question at a time in the margin. */
export function SurveyView() {
  const { chart, loudness, selected, select, place, part, player, stretch, mark, markTo } = useWorkspace();
  const field = useRef<HTMLDivElement>(null);
  const { perRow, widen } = useRoom(field);
  const terraces = useMemo(() => makeTerraces(chart.bars, perRow), [chart.bars, perRow]);
  const { all, drawn } = useDrawn(terraces, part.start_beats, beatsOf(selected));
  const [desk, setDesk] = useState<Desk>("chord");
  const [note, setNote] = useState("");
  const range = useMemo(() => {
    const pitches = chart.melody.map((m) => m.midi);
    return pitches.length ? ([Math.min(...pitches), Math.max(...pitches)] as const) : ([60, 72] as const);
  }, [chart.melody]);

  const show = useCallback((start: string) => {
    field.current
      ?.querySelector(`[data-start="${CSS.escape(start)}"]`)
      ?.scrollIntoView({ block: "nearest", behavior: "smooth" });
  }, []);
  const choose = useCallback(
    (start: string) => {
      select(start);
      show(start);
    },
    [select, show],
  );
  useEffect(() => {
    const first = chart.chords.find((c) => c.start_beats >= part.start_beats);
    if (first) show(first.start);
  }, [part.start_beats, chart.chords, show]);
  useEffect(() => {
    player.setNotes([...chart.chords.flatMap(chordNotes), ...chart.melody.map(tuneNotes)]);
  }, [player, chart.chords, chart.melody]);

  const sounding = useRef(-1);
  useFollow(field, (beat) => {
    const at = terraces.findIndex((t) => {
      const last = t.bars.at(-1);
      return last !== undefined && beat < last.start_beats + last.beats;
    });
    if (at !== sounding.current)
      field.current?.querySelectorAll(".row")[at]?.scrollIntoView({ block: "nearest", behavior: "smooth" });
    sounding.current = at;
  });
  const goTo = useCallback(
    (beat: number) => {
      const at = Math.min(Math.max(0, Math.round(beat)), chart.beats.length - 1);
      select(`${at}`);
      player.seek(secondsAt(chart, at));
    },
    [chart, player, select],
  );
  const onPlace = useCallback((beat: number, extend: boolean) => (extend ? markTo(beat) : goTo(beat)), [goTo, markTo]);
  const marked = useMemo(() => stretch && ([stretch.from, stretch.to] as const), [stretch]);
  const now = beatsOf(place);
  const barBy = (by: number) => {
    const at = chart.bars.findLastIndex((b) => b.start_beats <= now + 1e-6);
    const next = chart.bars[at + by];
    if (next) goTo(next.start_beats);
  };
  const index = chart.chords.findIndex((c) => c.start === selected);
  const step = (by: number) => {
    const next = chart.chords[index + by];
    if (next) choose(next.start);
  };
  const nextDoubt = () => {
    const doubts = chart.doubts.map((i) => chart.chords[i]).filter((c) => c !== undefined);
    const after = doubts.findIndex((c) => c.start === selected);
    const next = doubts[(after + 1) % Math.max(1, doubts.length)];
    if (next) choose(next.start);
  };
  const chooseNote = useCallback((start: string) => {
    setNote(start);
    setDesk("tune");
    field.current
      ?.querySelector(`[data-note="${CSS.escape(start)}"]`)
      ?.scrollIntoView({ block: "nearest", behavior: "smooth" });
  }, []);
  const chooseChord = useCallback(
    (start: string) => {
      select(start);
      setDesk((before) => (before === "tune" ? "chord" : before));
    },
    [select],
  );
  useShortcuts(
    desk === "tune"
      ? bound("survey", { nextDoubt })
      : bound("survey", {
          chordBefore: () => step(-1),
          chordAfter: () => step(1),
          beatBefore: () => goTo(Math.ceil(now) - 1),
          beatAfter: () => goTo(Math.floor(now) + 1),
          barBefore: () => barBy(-1),
          barAfter: () => barBy(1),
          mark,
          nextDoubt: () => {
            setDesk("chord");
            nextDoubt();
          },
        }),
  );

  return (
    <Page>
      <Field
        ref={field}
        role="group"
        aria-label="Bars and chords"
        aria-busy={!all}
        data-stop="ground"
        style={{ "--widen": widen } as CSSProperties}
      >
        {terraces.map((terrace, i) => (
          <div key={terrace.bars[0]?.number} className="row">
            {drawn(i) ? (
              <TerraceRow
                terrace={terrace}
                chords={chart.chords}
                melody={chart.melody}
                keys={chart.keys}
                loudness={loudness}
                pitchRange={range}
                cues={chart.cues}
                selected={selected}
                onSelect={chooseChord}
                note={desk === "tune" ? note : ""}
                onNote={chooseNote}
                onPlace={onPlace}
                marked={marked}
              />
            ) : (
              <Row />
            )}
            <PlayMarker terrace={terrace} />
          </div>
        ))}
      </Field>
      <SurveyMargin desk={desk} onDesk={setDesk} onNextDoubt={nextDoubt} note={note} onNote={chooseNote} />
    </Page>
  );
}
