import { useState } from "react";
import styled from "styled-components";
import { useSongEdits } from "../../api/edits";
import { Button, bound, ErrorNotice, KeyCap, Tick, useShortcuts, withSigns } from "../../ui";
import { useWorkspace } from "../song";

const Offer = styled.section`
  border-left: 4px double var(--river);
  padding: 0.1rem 0 0.1rem 0.8rem;
  ul {
    list-style: none;
    margin: 0.2rem 0 0.4rem;
    padding: 0;
  }
  p {
    margin: 0;
  }
`;

/** After a change: the same place in the repeats of its part, to be changed too. */
export function EditOffer() {
  const { song, chart } = useWorkspace();
  const { spread } = useSongEdits(song.id);
  const [closed, setClosed] = useState(0);
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const open = chart.offer.length > 0 && closed !== chart.revision;
  const same = chart.offer.filter((t) => t.same && !left.has(t.part)).map((t) => t.part);
  const chosen = chart.offer.filter((t) => (t.same ? !left.has(t.part) : left.has(t.part))).map((t) => t.part);
  const send = (parts: number[]) => parts.length && spread.mutate(parts);
  const toggle = (part: number) => {
    const next = new Set(left);
    if (!next.delete(part)) next.add(part);
    setLeft(next);
  };
  useShortcuts(open ? bound("offer", { repeats: () => send(chosen), only: () => setClosed(chart.revision) }) : {});
  if (!open) return null;
  return (
    <Offer aria-label="The same place elsewhere">
      <p role="status">This place comes again. Change it there too?</p>
      <ul>
        {chart.offer.map((t) => (
          <li key={t.part}>
            <Tick checked={chosen.includes(t.part)} onChange={() => toggle(t.part)}>
              part {t.part}, bar {t.bar}
              {!t.same && ` (there it is ${withSigns(t.now)})`}
            </Tick>
          </li>
        ))}
      </ul>
      <Button onPress={() => send(chosen)} isDisabled={!chosen.length || spread.isPending}>
        <KeyCap>R</KeyCap> {same.length === chart.offer.length ? "In all of them" : "In these too"}
      </Button>{" "}
      <Button $quiet onPress={() => setClosed(chart.revision)}>
        <KeyCap>O</KeyCap> Only here
      </Button>
      {spread.error && <ErrorNotice error={spread.error} />}
    </Offer>
  );
}
