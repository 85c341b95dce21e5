import { useEffect, useMemo, useState } from "react";
import { Navigate } from "react-router";
import styled from "styled-components";
import { useArrangement } from "../../api/queries";
import { ErrorNotice, useShortcuts } from "../../ui";
import { Page, useWorkspace } from "../song";
import { GripMargin } from "./GripMargin";
import { ValleyDrawing } from "./ValleyDrawing";
import { VoicingChoices } from "./VoicingChoices";

const Column = styled.div` display: flex; flex-direction: column; gap: 0.5rem; `;

/** Time runs down between two banks: what each hand plays in one part, and the recording as the river. */
export function HandsView() {
  const { song, chart, part, selected, select, player } = useWorkspace();
  const arrangement = useArrangement(song.id);
  const arranged = arrangement.data?.parts.find((p) => p.part === part.number);
  const [grip, setGrip] = useState(0);
  const beat = chart.chords.find((c) => c.start === selected)?.start_beats ?? 0;

  // biome-ignore lint/correctness/useExhaustiveDependencies: another part begins at the selected chord, or its first grip
  useEffect(() => {
    const found = arranged?.grips.findIndex((g) => g.start_beats === Math.max(beat, part.start_beats)) ?? -1;
    setGrip(Math.max(0, found));
  }, [part.number, arranged?.grips.length]);
  const notes = useMemo(
    () =>
      arrangement.data?.parts.flatMap((p) =>
        p.notes.map((n) => ({ start: n.start_beats, duration: n.duration_beats, midi: n.midi, hand: n.hand })),
      ) ?? [],
    [arrangement.data],
  );
  useEffect(() => player.setNotes(notes), [player, notes]);

  const step = (by: number) => {
    const next = arranged?.grips[grip + by];
    if (!next) return;
    setGrip(grip + by);
    const chord = chart.chords.find((c) => c.start_beats === next.start_beats);
    if (chord) select(chord.start);
  };
  const hear = () => {
    const now = arranged?.grips[grip];
    if (now) void player.sound([...now.left, ...now.right].map((n) => n.midi));
  };
  useShortcuts({
    arrowdown: () => step(1),
    arrowright: () => step(1),
    arrowup: () => step(-1),
    arrowleft: () => step(-1),
    h: hear,
  });

  if (!chart.parts.length) return <Navigate to="../survey" replace />;
  return (
    <Page>
      <Column>
        <VoicingChoices />
        {arrangement.error ? (
          <ErrorNotice error={arrangement.error} />
        ) : arranged && arrangement.data ? (
          <ValleyDrawing
            arranged={arranged}
            lowest={arrangement.data.lowest}
            highest={arrangement.data.highest}
            current={grip}
            onGrip={(i) => step(i - grip)}
          />
        ) : (
          <p aria-busy="true">Laying out the hands …</p>
        )}
      </Column>
      <GripMargin
        grip={arranged?.grips[grip]}
        comfort={arrangement.data?.comfort_mm ?? 0}
        most={arrangement.data?.most_mm ?? 1}
        onHear={hear}
      />
    </Page>
  );
}
