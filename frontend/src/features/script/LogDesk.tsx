import { useState } from "react";
import styled from "styled-components";
import { useLog, useWriteLog } from "../../api/queries";
import { Button, ErrorNotice } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";

const Form = styled.form`
  display: flex; gap: 0.5rem;
  input { font: inherit; flex: 1; min-width: 0; color: var(--ink); background: var(--raised); border: 1.3px solid var(--soft); border-radius: 4px; padding: 0.2rem 0.45rem; }
`;
const List = styled.ol`
  list-style: none; margin: 0; padding: 0; display: grid; gap: 0.4rem; small { color: var(--soft); display: block; }
`;

/** What is worth remembering about this song: decisions with reasons, notes, and the bars that slip under the fingers. */
export function LogDesk() {
  const { song } = useWorkspace();
  const log = useLog(song.id);
  const write = useWriteLog(song.id);
  const [text, setText] = useState("");
  const slips = new Map<number, number>();
  for (const e of log.data ?? []) if (e.kind === "slip" && e.bar) slips.set(e.bar, (slips.get(e.bar) ?? 0) + e.count);
  const worst = [...slips].sort((a, b) => b[1] - a[1]).slice(0, 5);
  return (
    <>
      <div>
        <MarginHeading as="p">Logbook</MarginHeading>
        <h2>Worth remembering</h2>
      </div>
      {worst.length > 0 && (
        <p>
          Practise before filming: {worst.map(([bar, n]) => `bar ${bar} (${n} slip${n > 1 ? "s" : ""})`).join(", ")}.
        </p>
      )}
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          if (text.trim())
            write.mutate([{ kind: "note", text, bar: null, count: 1 }], { onSuccess: () => setText("") });
        }}
      >
        <input
          aria-label="A line for the logbook"
          placeholder="inverted to keep the hand still"
          value={text}
          maxLength={500}
          onChange={(e) => setText(e.target.value)}
        />
        <Button type="submit" isDisabled={!text.trim()}>
          Write
        </Button>
      </Form>
      {write.error && <ErrorNotice error={write.error} />}
      {log.data?.length === 0 && <p>Nothing yet. Slips in rehearsal are counted here by themselves.</p>}
      <List aria-label="Lines of the logbook">
        {log.data?.slice(0, 60).map((e) => (
          <li key={e.id}>
            {e.text}
            <small>{new Date(e.made_at).toLocaleDateString([], { dateStyle: "medium" })}</small>
          </li>
        ))}
      </List>
    </>
  );
}
