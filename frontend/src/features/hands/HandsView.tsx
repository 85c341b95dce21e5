import { useEffect, useLayoutEffect, useMemo, useState } from "react";
import { Navigate } from "react-router";
import styled from "styled-components";
import { useOtherVoicing } from "../../api/hands";
import { secondsAt } from "../../player";
import { bound, ErrorNotice, useShortcuts } from "../../ui";
import { handNotes, Page, useWorkspace } from "../song";
import { type HandsDesk, HandsMargin } from "./HandsMargin";
import { SideBySide } from "./SideBySide";
import { useHands } from "./useHands";
import { ValleyDrawing } from "./ValleyDrawing";
import { VoicingChoices } from "./VoicingChoices";
import type { Comparison } from "./VoicingDesk";

const Column = styled.div`
  display: flex;
  flex-direction: column;
  gap: 0.5rem;
`;

/** Time runs down between two banks: what each hand plays in one part, and the recording as the river. */
export function HandsView() {
  const { song, chart, part, selected, select, player } = useWorkspace();
  const hands = useHands();
  const { arrangement, arranged, index, setIndex, grip } = hands;
  const [desk, setDesk] = useState<HandsDesk>("grip");
  const [comparison, setComparison] = useState<Comparison | null>(null);
  const [hearOther, setHearOther] = useState(false);
  const other = useOtherVoicing(song.id, comparison?.style ?? "", comparison?.level ?? "");
  const beat = chart.chords.find((c) => c.start === selected)?.start_beats ?? 0;

  // Before it is drawn: a key that is pressed on the drawing goes on from there.
  // biome-ignore lint/correctness/useExhaustiveDependencies: another part begins at the selected chord, or its first grip
  useLayoutEffect(() => {
    const found = arranged?.grips.findIndex((g) => g.start_beats === Math.max(beat, part.start_beats)) ?? -1;
    setIndex(Math.max(0, found));
  }, [part.number, arranged?.grips.length]);
  const sounding = comparison && hearOther ? other.data : arrangement;
  const notes = useMemo(() => handNotes(sounding), [sounding]);
  useEffect(() => player.setNotes(notes), [player, notes]);

  const go = (to: number) => {
    const next = arranged?.grips[to];
    if (!next) return;
    setIndex(to);
    const chord = chart.chords.find((c) => c.start_beats === next.start_beats);
    if (chord) select(chord.start);
  };
  /** The next beat, or the one before: its notes sound, and the grip that holds it is chosen. */
  const beatBy = (by: number) => {
    const now = Math.floor(beatNow() + 1e-6) + by;
    if (now < part.start_beats || now >= part.end_beats) return;
    const here = arranged?.notes.filter((n) => n.start_beats >= now && n.start_beats < now + 1) ?? [];
    void player.sound(here.filter((n) => n.start_beats === now).map((n) => n.midi));
    const at = arranged?.grips.findLastIndex((g) => g.start_beats <= now) ?? -1;
    if (at >= 0 && at !== index) go(at);
    player.seek(secondsAt(chart, now)); // last: choosing a grip goes to where it begins
  };
  const beatNow = () => {
    const time = player.now();
    const at = chart.beats.findLastIndex((t) => t <= time + 0.02);
    return Math.max(part.start_beats, at);
  };
  const hear = () => {
    if (grip) void player.sound([...grip.left, ...grip.right].map((n) => n.midi));
  };
  const finger = (n: number) => () => hands.note && hands.changeNote("finger", n);
  useShortcuts(
    bound("valley", {
      gripAfter: () => go(index + 1),
      gripBefore: () => go(index - 1),
      beatAfter: () => beatBy(1),
      beatBefore: () => beatBy(-1),
      noteAfter: () => hands.chooseNote(1),
      noteBefore: () => hands.chooseNote(-1),
      hear,
      lower: () => hands.changeNote("move", -1),
      higher: () => hands.changeNote("move", 1),
      otherHand: () => hands.changeNote("other-hand"),
      takeOut: () => hands.notes.length > 1 && hands.changeNote("drop"),
      double: () => hands.changeNote("double", 1),
      star: () => hands.changeNote("star"),
      invert: () => hands.note && hands.changeGrip({ action: "invert", hand: hands.note.hand, by: 1 }),
      back: () => grip?.locked && hands.changeGrip({ action: "release" }),
      finger1: finger(1),
      finger2: finger(2),
      finger3: finger(3),
      finger4: finger(4),
      finger5: finger(5),
    }),
  );

  if (!chart.parts.length) return <Navigate to="../survey" replace />;
  return (
    <Page>
      <Column>
        <VoicingChoices hands={hands} />
        {hands.error ? (
          <ErrorNotice error={hands.error} />
        ) : !arranged || !arrangement ? (
          <p aria-busy="true">Laying out the hands …</p>
        ) : comparison ? (
          <SideBySide
            mine={arrangement}
            other={other.data}
            error={other.error}
            part={part.number}
            current={index}
            onGrip={go}
            hearOther={hearOther}
            onHearOther={setHearOther}
          />
        ) : (
          <ValleyDrawing
            arranged={arranged}
            arrangement={arrangement}
            current={index}
            note={hands.note?.midi ?? null}
            onGrip={go}
            onNote={(i, midi) => {
              if (i !== index) go(i);
              else hands.pickNote(midi);
            }}
            onMove={(i, note, by) =>
              hands.change({
                kind: "change_grip",
                start: arranged.grips[i]?.start ?? "0",
                everywhere: hands.where,
                action: "move",
                hand: note.hand,
                midi: note.midi,
                by,
              })
            }
          />
        )}
      </Column>
      <HandsMargin
        hands={hands}
        desk={desk}
        onDesk={setDesk}
        onHear={hear}
        comparison={comparison}
        onCompare={(c) => {
          setComparison(c);
          if (!c) setHearOther(false);
        }}
      />
    </Page>
  );
}
