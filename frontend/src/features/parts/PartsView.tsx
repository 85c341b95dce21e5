import { useEffect, useMemo } from "react";
import styled from "styled-components";
import { useShortcuts, withSigns } from "../../ui";
import { Margin, MarginHeading, Page, useWorkspace } from "../song";
import { chordNotes } from "../survey/chordNotes";
import { PartsMap } from "./PartsMap";
import { RecordingSpan } from "./RecordingSpan";

const Drawing = styled.div`
  display: flex; flex-direction: column; gap: 0.4rem; min-width: 0;
  > p { color: var(--soft); }
`;
const List = styled.ul` margin: 0; padding: 0; list-style: none; display: grid; gap: 0.3rem; `;
const Vocabulary = styled.table`
  border-collapse: collapse; width: 100%; font-size: 0.98rem;
  td { padding: 0.16rem 0; vertical-align: baseline; line-height: 1.2; }
  td:first-child { font: 700 1.1rem "Alegreya", "Signs", serif; padding-right: 0.8rem; white-space: nowrap; }
  td:last-child { color: var(--soft); }
  caption { text-align: left; color: var(--soft); font-size: 1rem; padding-bottom: 0.2rem; }
`;

/** The song as a walk: every distinct part a place, every repeat a way back to one. */
export function PartsView() {
  const { chart, part, selectPart, player } = useWorkspace();
  const distinct = useMemo(() => chart.parts.filter((p) => p.same_as === null), [chart.parts]);
  const again = chart.parts.filter((p) => p.same_as !== null);
  useEffect(() => player.setNotes(chart.chords.flatMap(chordNotes)), [player, chart.chords]);
  const step = (by: number) => {
    const next = chart.parts.find((p) => p.number === part.number + by);
    if (next) selectPart(next.number);
  };
  useShortcuts({ arrowleft: () => step(-1), arrowright: () => step(1) });
  const total = chart.bars.filter((b) => b.number > 0).length;
  return (
    <Page>
      <Drawing>
        <p>
          {distinct.length === 1 ? "One place" : `${distinct.length} places`}, {chart.parts.length} stretches. {total}{" "}
          bars to play, {chart.bars_to_learn} to learn
          {again.length
            ? `; ${again.map((p) => p.number).join(", ")} ${again.length === 1 ? "comes" : "come"} back to a place already known`
            : ""}
          .
        </p>
        <PartsMap />
        <RecordingSpan />
      </Drawing>
      <Margin aria-label="The selected part">
        <div>
          <h2>
            Part {part.number} {part.name}
          </h2>
          <p>
            bars {part.start_bar}–{part.end_bar}, {part.words}
          </p>
        </div>
        {part.differences.length > 0 && (
          <div>
            <MarginHeading>What is different</MarginHeading>
            <List>
              {part.differences.map((d) => (
                <li key={d}>{withSigns(d)}</li>
              ))}
            </List>
          </div>
        )}
        {part.same_as !== null && (
          <div>
            <MarginHeading>So teach</MarginHeading>
            <p style={{ fontFamily: "Alegreya", fontStyle: "italic" }}>
              {part.differences.length
                ? `part ${part.same_as}, then “as ${part.same_as}, but …” with what is listed above.`
                : `nothing new: play part ${part.same_as} once more.`}
            </p>
          </div>
        )}
        <div>
          <MarginHeading>Chords in order</MarginHeading>
          <p style={{ fontFamily: "Alegreya, Signs", fontWeight: 700 }}>{withSigns(part.pattern.join("  "))}</p>
        </div>
        <Vocabulary>
          <caption>Chords of the song</caption>
          <tbody>
            {chart.vocabulary.map((v) => (
              <tr key={v.symbol}>
                <td title={withSigns(v.notes.join(" "))}>{withSigns(v.symbol)}</td>
                <td>
                  {v.times}×{v.function && `, ${v.function}`}
                </td>
              </tr>
            ))}
          </tbody>
        </Vocabulary>
      </Margin>
    </Page>
  );
}
