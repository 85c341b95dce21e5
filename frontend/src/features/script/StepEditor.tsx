import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import type { SongEdits } from "../../api/edits";
import { Button, Line, Paragraphs } from "../../ui";

const Form = styled.form`
  grid-column: 2 / 4;
  display: grid;
  gap: 0.4rem;
  padding-top: 0.3rem;
  input {
    width: 100%;
    padding: 0.3rem 0.5rem;
  }
  .react-aria-Input,
  .react-aria-TextArea {
    background: var(--ground);
  }
  > .deeds {
    display: flex;
    gap: 0.6rem;
  }
`;

/** A step in the creator's own words; one line a sentence. */
export function StepEditor({
  step,
  edits,
  onDone,
}: {
  step: Schemas["StepOut"];
  edits: SongEdits;
  onDone: () => void;
}) {
  const [title, setTitle] = useState(step.title);
  const [text, setText] = useState(step.lines.map((l) => l.text).join("\n"));
  const save = () => {
    edits.edit.mutate({
      edit: {
        kind: "write_step",
        key: step.key,
        title: title.trim() === step.title ? "" : title.trim(),
        lines: text.split("\n"),
      },
    });
    onDone();
  };
  return (
    <Form
      aria-label={`Words of step ${step.title}`}
      onSubmit={(e) => {
        e.preventDefault();
        save();
      }}
      onKeyDown={(e) => {
        if (e.key === "Escape") onDone();
        if (e.key === "Enter" && (e.ctrlKey || e.metaKey)) save();
      }}
    >
      <Line label="Title" hidden value={title} maxLength={120} onChange={setTitle} />
      <Paragraphs label="Words, one line a sentence" autoFocus rows={7} value={text} onChange={setText} />
      <div className="deeds">
        <Button type="submit">Keep these words</Button>
        <Button $quiet onPress={onDone}>
          leave
        </Button>
      </div>
    </Form>
  );
}
