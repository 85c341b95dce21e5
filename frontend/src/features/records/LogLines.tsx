import { type ReactNode, useState } from "react";
import styled from "styled-components";
import { useLog, useWriteLog } from "../../api/lessons";
import { Button, ErrorNotice, Line, withSigns } from "../../ui";

const List = styled.ol.attrs({ tabIndex: 0 })`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.3rem;
  max-height: 15rem;
  overflow: auto;
  scrollbar-width: thin;
  li {
    display: grid;
    grid-template-columns: 5.2rem 1fr;
    gap: 0.6rem;
  }
  time {
    color: var(--soft);
  }
`;
const Form = styled.form`
  display: flex;
  gap: 0.5rem;
  margin-bottom: 0.5rem;
`;

const PAGE = 80;

/** The logbook: what was decided and why, by Valley and by hand. */
export function LogLines({ songId, children }: { songId: number; children?: ReactNode }) {
  const [limit, setLimit] = useState(PAGE);
  const log = useLog(songId, limit);
  const write = useWriteLog(songId);
  const [text, setText] = useState("");
  return (
    <section>
      {children ?? <h2>Logbook</h2>}
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          write.mutate([{ kind: "note", text, bar: null, count: 1 }], { onSuccess: () => setText("") });
        }}
      >
        <Line
          label="A line for the logbook"
          hidden
          wide
          placeholder="inverted to keep the hand still"
          value={text}
          maxLength={500}
          onChange={setText}
        />
        <Button type="submit" isDisabled={!text.trim() || write.isPending}>
          Write
        </Button>
      </Form>
      {(log.error || write.error) && <ErrorNotice error={log.error ?? write.error} />}
      {log.data?.total === 0 && <p className="soft">Nothing yet.</p>}
      <List aria-label="Lines of the logbook">
        {log.data?.lines.map((e) => (
          <li key={e.id}>
            <time dateTime={e.made_at}>
              {new Date(e.made_at).toLocaleDateString("en-GB", { day: "numeric", month: "short" })}
            </time>
            <span>{withSigns(e.text)}</span>
          </li>
        ))}
      </List>
      {log.data && log.data.total > limit && (
        <Button $quiet onPress={() => setLimit(limit + PAGE)}>
          Show more of {log.data.total}
        </Button>
      )}
    </section>
  );
}
