import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import type { usePostDeeds } from "../../api/records";
import { useShelf } from "../../api/records";
import { Button, Choice, withSigns } from "../../ui";
import type { Dealt } from "./PostView";

const Item = styled.li`
  border-left: 4px solid var(--doubt);
  padding: 0.1rem 0 0.2rem 0.8rem;
  margin-bottom: 0.9rem;
  display: grid;
  gap: 0.2rem;
  overflow-wrap: anywhere;
  div {
    display: flex;
    gap: 0.8rem;
    align-items: baseline;
    flex-wrap: wrap;
  }
  [aria-haspopup="listbox"] {
    max-width: 11rem;
  }
`;

const ignore = () => undefined; // the page shows the error

interface ReportedFaultProps {
  comment: Schemas["CommentOut"];
  deeds: ReturnType<typeof usePostDeeds>;
  onDealt: (dealt: Dealt) => void;
}

/** A comment that reports a mistake: what the chart says at that place, and one press to keep it with bar and step. */
export function ReportedFault({ comment, deeds, onDealt }: ReportedFaultProps) {
  const [song, setSong] = useState(comment.under_id);
  const songs = useShelf({ q: "", stage: "", order: "furthest", deleted: false, limit: 40 });
  return (
    <Item>
      <p>
        <b>{comment.handle}</b>
        {comment.under && ` under ${comment.under}`}, {comment.place}: “{withSigns(comment.text)}”
      </p>
      {comment.weighed && <p className="soft">{withSigns(comment.weighed)}</p>}
      <div>
        {comment.under_id === null && (
          <Choice
            label="Song of this report"
            hidden
            value={song ?? 0}
            options={[
              { value: 0, words: "which song?" },
              ...(songs.data?.rows ?? []).map((row) => ({ value: row.song.id, words: row.song.title })),
            ]}
            onChange={(id) => setSong(id || null)}
          />
        )}
        <Button
          isDisabled={song === null || deeds.report.isPending}
          onPress={() =>
            song !== null &&
            void deeds.report
              .mutateAsync({
                song,
                text: comment.text,
                handle: comment.handle,
                bar: comment.bar,
                step: "",
                comment: comment.id,
              })
              .then(() => onDealt({ comments: [comment.id], what: `Noted with ${comment.place}.` }), ignore)
          }
        >
          Note it with the song
        </Button>
        {song !== null && comment.bar !== null && <Link to={`/songs/${song}/survey?bar=${comment.bar}`}>look</Link>}
        <Button
          $quiet
          onPress={() =>
            void deeds.aside
              .mutateAsync([comment.id])
              .then(() => onDealt({ comments: [comment.id], what: "The report was set aside." }), ignore)
          }
        >
          Set aside
        </Button>
      </div>
    </Item>
  );
}
