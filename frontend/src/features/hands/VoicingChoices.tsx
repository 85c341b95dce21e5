import styled from "styled-components";
import { useChangeSong, useChoices } from "../../api/queries";
import { ErrorNotice } from "../../ui";
import { usePlayer, useWorkspace } from "../song";

const Row = styled.div`
  display: flex; gap: 1.2rem; flex-wrap: wrap; align-items: baseline; color: var(--soft);
  label { display: inline-flex; gap: 0.4rem; align-items: baseline; }
  select { font: inherit; color: var(--ink); background: var(--raised); border: 1.3px solid var(--soft); border-radius: 4px; padding: 0.1rem 0.3rem; }
`;
const HANDS: Record<string, string> = {
  small: "small (an octave)",
  medium: "medium (a ninth)",
  large: "large (a tenth)",
};

/** How the song is voiced: style, hand, keyboard. */
export function VoicingChoices() {
  const { song, player } = useWorkspace();
  const choices = useChoices();
  const change = useChangeSong(song.id);
  const hands = usePlayer(player, (s) => s.hands);
  if (!choices.data) return null;
  return (
    <Row data-noprint>
      <label>
        voicing
        <select
          value={song.style}
          onChange={(e) => change.mutate({ style: e.target.value })}
          title={choices.data.styles.find((s) => s.name === song.style)?.summary}
        >
          {choices.data.styles.map((s) => (
            <option key={s.name} value={s.name} title={s.summary}>
              {s.title}
            </option>
          ))}
        </select>
      </label>
      <label>
        hand
        <select value={song.hand} onChange={(e) => change.mutate({ hand: e.target.value })}>
          {choices.data.hands.map((h) => (
            <option key={h} value={h}>
              {HANDS[h] ?? h}
            </option>
          ))}
        </select>
      </label>
      <label>
        keys
        <select value={song.keyboard} onChange={(e) => change.mutate({ keyboard: Number(e.target.value) })}>
          {choices.data.keyboards.map((k) => (
            <option key={k} value={k}>
              {k}
            </option>
          ))}
        </select>
      </label>
      <label>
        piano plays
        <select value={hands} onChange={(e) => player.setHands(e.target.value as typeof hands)}>
          <option value="both">both hands</option>
          <option value="left">left hand</option>
          <option value="right">right hand</option>
        </select>
      </label>
      {change.error && <ErrorNotice error={change.error} />}
    </Row>
  );
}
