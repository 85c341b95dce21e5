import styled from "styled-components";
import { useChoices } from "../../api/hands";
import { Choice, named, plain } from "../../ui";
import { usePlayer, useWorkspace } from "../song";
import type { Hands } from "./useHands";

const Row = styled.div`
  display: flex;
  gap: 1.2rem;
  flex-wrap: wrap;
  align-items: baseline;
  color: var(--soft);
`;

const SOUNDING = named({ both: "both hands", left: "left hand", right: "right hand" });

/** How the song is voiced: style and level; and which hand the piano plays. */
export function VoicingChoices({ hands }: { hands: Hands }) {
  const { player } = useWorkspace();
  const choices = useChoices();
  const sounding = usePlayer(player, (s) => s.hands);
  const settings = hands.arrangement?.settings;
  if (!choices.data || !settings) return null;
  return (
    <Row data-noprint data-stop="voicing">
      <Choice
        label="voicing"
        value={settings.style}
        options={choices.data.styles.map((s) => ({ value: s.name, words: s.title, hint: s.summary }))}
        onChange={(style) => hands.change({ kind: "set_hands", style })}
      />
      <Choice
        label="level"
        value={settings.level}
        options={plain(choices.data.levels)}
        onChange={(level) => hands.change({ kind: "set_hands", level })}
      />
      <Choice label="piano plays" value={sounding} options={SOUNDING} onChange={(which) => player.setHands(which)} />
    </Row>
  );
}
