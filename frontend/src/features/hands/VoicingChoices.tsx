import styled from "styled-components";
import { useChoices } from "../../api/hands";
import { usePlayer, useWorkspace } from "../song";
import type { Hands } from "./useHands";

const Row = styled.div`
  display: flex;
  gap: 1.2rem;
  flex-wrap: wrap;
  align-items: baseline;
  color: var(--soft);
  label {
    display: inline-flex;
    gap: 0.4rem;
    align-items: baseline;
  }
  select {
    font: inherit;
    color: var(--ink);
    background: var(--raised);
    border: 1.3px solid var(--soft);
    border-radius: 4px;
    padding: 0.1rem 0.3rem;
  }
`;

/** How the song is voiced: style and level; and which hand the piano plays. */
export function VoicingChoices({ hands }: { hands: Hands }) {
  const { player } = useWorkspace();
  const choices = useChoices();
  const sounding = usePlayer(player, (s) => s.hands);
  const settings = hands.arrangement?.settings;
  if (!choices.data || !settings) return null;
  return (
    <Row data-noprint data-stop="voicing">
      <label>
        voicing
        <select
          value={settings.style}
          onChange={(e) => hands.change({ kind: "set_hands", style: e.target.value })}
          title={choices.data.styles.find((s) => s.name === settings.style)?.summary}
        >
          {choices.data.styles.map((s) => (
            <option key={s.name} value={s.name} title={s.summary}>
              {s.title}
            </option>
          ))}
        </select>
      </label>
      <label>
        level
        <select value={settings.level} onChange={(e) => hands.change({ kind: "set_hands", level: e.target.value })}>
          {choices.data.levels.map((l) => (
            <option key={l}>{l}</option>
          ))}
        </select>
      </label>
      <label>
        piano plays
        <select value={sounding} onChange={(e) => player.setHands(e.target.value as typeof sounding)}>
          <option value="both">both hands</option>
          <option value="left">left hand</option>
          <option value="right">right hand</option>
        </select>
      </label>
    </Row>
  );
}
