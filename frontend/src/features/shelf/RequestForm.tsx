import { useState } from "react";
import styled from "styled-components";
import { useNoteRequest } from "../../api/records";
import { Button, ErrorNotice, Line } from "../../ui";

const Form = styled.form`
  display: grid;
  grid-template-columns: 2fr 1fr 2fr auto auto;
  gap: 0.6rem;
  align-items: end;
  border-left: 4px solid var(--ink);
  padding: 0.3rem 0 0.3rem 0.9rem;
  .react-aria-TextField {
    display: grid;
  }
  > .wide {
    grid-column: 1 / -1;
  }
  @media (max-width: 800px) {
    grid-template-columns: 1fr;
  }
`;

/** A wish noted by hand. A song that is here already, however it is spelled, gets the vote. */
export function RequestForm({ onDone, onCancel }: { onDone: (title: string) => void; onCancel: () => void }) {
  const note = useNoteRequest();
  const [title, setTitle] = useState("");
  const [handle, setHandle] = useState("");
  const [words, setWords] = useState("");
  const send = (apart: boolean) =>
    note.mutate({ title, handle, note: words, apart }, { onSuccess: (song) => onDone(song.title) });
  return (
    <Form
      aria-label="Note a request"
      onKeyDown={(e) => e.key === "Escape" && onCancel()}
      onSubmit={(e) => {
        e.preventDefault();
        send(false);
      }}
    >
      <Line label="song" autoFocus required value={title} maxLength={200} onChange={setTitle} />
      <Line label="who asks" value={handle} maxLength={80} placeholder="@handle" onChange={setHandle} />
      <Line
        label="what for"
        value={words}
        maxLength={500}
        placeholder="only the refrain, for small hands"
        onChange={setWords}
      />
      <Button $strong type="submit" isDisabled={!title.trim() || note.isPending}>
        Note it
      </Button>
      <Button $quiet onPress={() => send(true)} isDisabled={!title.trim() || note.isPending}>
        as another song
      </Button>
      {note.error && (
        <div className="wide">
          <ErrorNotice error={note.error} />
        </div>
      )}
    </Form>
  );
}
