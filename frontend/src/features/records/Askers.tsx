import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useRecordsEdits, useShelf } from "../../api/records";
import { Button, ErrorNotice, Line, leaveField, Tally, useDraft } from "../../ui";

const List = styled.ul.attrs({ tabIndex: 0 })`
  display: grid;
  gap: 0.45rem;
  max-height: 17rem;
  overflow: auto;
  scrollbar-width: thin;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 0 1rem;
    align-items: baseline;
    border-top: 1px solid var(--line);
    padding-top: 0.35rem;
  }
  p {
    grid-column: 1;
    color: var(--soft);
    line-height: 1.3;
    overflow-wrap: anywhere;
  }
  input {
    width: 15rem;
  }
`;
const Form = styled.form`
  display: flex;
  gap: 0.5rem;
  margin-top: 0.6rem;
  flex-wrap: wrap;
`;

/** Who asks for the song, in which words, and what was promised to whom. */
export function Askers({ records }: { records: Schemas["RecordsOut"] }) {
  const { song, askings } = records;
  const edits = useRecordsEdits(song.id);
  const [handle, setHandle] = useState("");
  const [note, setNote] = useState("");
  const failed = [edits.ask, edits.promise, edits.drop, edits.merge, edits.part].find((e) => e.error);
  const merged = [...new Map(askings.filter((a) => a.came_from).map((a) => [a.came_from, a.came_from_title]))];
  return (
    <section>
      <h2>Who asks for it</h2>
      {song.votes > 0 ? (
        <Tally count={song.votes} of={song.votes === 1 ? "viewer" : "viewers"} />
      ) : (
        <p className="soft">Nobody yet.</p>
      )}
      <List aria-label="Viewers who ask">
        {askings.map((a) => (
          <li key={a.id}>
            <b>
              {a.handle}
              {a.votes > 1 && <span style={{ fontWeight: 400 }}> and {a.votes - 1} who agree</span>}
            </b>
            <Button $quiet aria-label={`${a.handle} no longer asks`} onPress={() => edits.drop.mutate(a.id)}>
              no longer
            </Button>
            {a.note && <p>“{a.note}”</p>}
            <Promised
              value={a.promise}
              handle={a.handle}
              onSave={(promise, seen) => edits.promise.mutate({ asking: a.id, promise, seen })}
            />
          </li>
        ))}
      </List>
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          edits.ask.mutate(
            { handle, note },
            {
              onSuccess: () => {
                setHandle("");
                setNote("");
              },
            },
          );
        }}
      >
        <Line
          label="Viewer who asks"
          hidden
          size={14}
          placeholder="@handle"
          value={handle}
          maxLength={80}
          onChange={setHandle}
        />
        <Line
          label="In which words"
          hidden
          wide
          placeholder="in which words"
          value={note}
          maxLength={500}
          onChange={setNote}
        />
        <Button type="submit" isDisabled={!handle.trim()}>
          Add
        </Button>
      </Form>
      {merged.map(([id, title]) => (
        <p key={id} className="soft">
          Some came with the request “{title}”.{" "}
          <Button $quiet onPress={() => id && edits.part.mutate(id)}>
            Part it again
          </Button>
        </p>
      ))}
      {song.recording_id === null && !song.charted && (
        <Merge song={song} onMerge={(into) => edits.merge.mutate(into)} done={edits.merge.data} />
      )}
      {failed && <ErrorNotice error={failed.error} />}
    </section>
  );
}

interface PromisedProps {
  value: string;
  handle: string;
  onSave: (promise: string, seen: string) => void;
}

function Promised({ value, handle, onSave }: PromisedProps) {
  const draft = useDraft(value, onSave);
  return (
    <Line
      label={`Promised to ${handle}`}
      hidden
      placeholder="promised: nothing yet"
      value={draft.value}
      maxLength={200}
      onChange={draft.write}
      onBlur={draft.leave}
      onEnter={leaveField}
    />
  );
}

/** A request that means another song: its viewers go over. */
function Merge({
  song,
  onMerge,
  done,
}: {
  song: Schemas["SongOut"];
  onMerge: (into: number) => void;
  done: Schemas["RecordsOut"] | undefined;
}) {
  const [q, setQ] = useState("");
  const found = useShelf({ q, stage: "", order: "votes", deleted: false, limit: 6 });
  const others = q.trim() ? (found.data?.rows ?? []).filter((row) => row.song.id !== song.id) : [];
  if (done) return <p role="status">Its viewers now stand with “{done.song.title}”.</p>;
  return (
    <div style={{ marginTop: "0.6rem" }}>
      <Line type="search" label="the same song as" placeholder="title" value={q} onChange={setQ} />{" "}
      {others.map((row) => (
        <Button key={row.song.id} $quiet onPress={() => onMerge(row.song.id)}>
          {row.song.title}
        </Button>
      ))}
    </div>
  );
}
