import { useState } from "react";
import styled from "styled-components";
import { useNoteRequest } from "../../api/records";
import { Button, ErrorNotice } from "../../ui";

const Form = styled.form`
  display: grid;
  grid-template-columns: 2fr 1fr 2fr auto auto;
  gap: 0.6rem;
  align-items: end;
  border-left: 4px solid var(--ink);
  padding: 0.3rem 0 0.3rem 0.9rem;
  label {
    display: grid;
    color: var(--soft);
  }
  input {
    font: inherit;
    color: var(--ink);
    background: var(--raised);
    border: 1.3px solid var(--soft);
    border-radius: 4px;
    padding: 0.25rem 0.5rem;
    min-width: 0;
  }
  > div {
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
      <label>
        song
        <input
          // biome-ignore lint/a11y/noAutofocus: the form opens on request, and this is what one came to write
          autoFocus
          required
          value={title}
          maxLength={200}
          onChange={(e) => setTitle(e.target.value)}
        />
      </label>
      <label>
        who asks
        <input value={handle} maxLength={80} placeholder="@handle" onChange={(e) => setHandle(e.target.value)} />
      </label>
      <label>
        what for
        <input
          value={words}
          maxLength={500}
          placeholder="only the refrain, for small hands"
          onChange={(e) => setWords(e.target.value)}
        />
      </label>
      <Button $strong type="submit" isDisabled={!title.trim() || note.isPending}>
        Note it
      </Button>
      <Button $quiet onPress={() => send(true)} isDisabled={!title.trim() || note.isPending}>
        as another song
      </Button>
      {note.error && (
        <div>
          <ErrorNotice error={note.error} />
        </div>
      )}
    </Form>
  );
}
