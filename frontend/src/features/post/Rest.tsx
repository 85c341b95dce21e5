import { useState } from "react";
import type { Schemas } from "../../api/client";
import type { usePostDeeds } from "../../api/records";
import { Button, Line } from "../../ui";
import type { Dealt } from "./PostView";

const ignore = () => undefined; // the page shows the error

interface RestProps {
  comments: Schemas["CommentOut"][];
  deeds: ReturnType<typeof usePostDeeds>;
  onDealt: (dealt: Dealt) => void;
}

/** What asks for nothing: to read, to make a request of all the same, to set aside at once. */
export function Rest({ comments, deeds, onDealt }: RestProps) {
  const [asked, setAsked] = useState<number | null>(null);
  const [title, setTitle] = useState("");
  if (comments.length === 0) return null;
  const all = comments.map((c) => c.id);
  return (
    <section aria-label="The rest">
      <h2>The rest</h2>
      <Button
        onPress={() =>
          void deeds.aside
            .mutateAsync(all)
            .then(() => onDealt({ comments: all, what: `${all.length} comments were set aside.` }), ignore)
        }
      >
        Set all {comments.length} aside
      </Button>
      <ul style={{ display: "grid", gap: "0.3rem", marginTop: "0.6rem" }}>
        {comments.map((c) => (
          <li key={c.id} style={{ overflowWrap: "anywhere" }}>
            <b>{c.handle}</b> {c.text}{" "}
            {asked === c.id ? (
              <form
                style={{ display: "inline-flex", gap: "0.4rem" }}
                onSubmit={(e) => {
                  e.preventDefault();
                  void deeds.take.mutateAsync({ title, comments: [c.id], song: null }).then(() => {
                    setAsked(null);
                    setTitle("");
                    onDealt({ comments: [c.id], what: `Noted for “${title}”.` });
                  }, ignore);
                }}
              >
                <Line label="Song that is asked for" hidden autoFocus value={title} onChange={setTitle} />
                <Button type="submit" isDisabled={!title.trim()}>
                  Note
                </Button>
              </form>
            ) : (
              <Button $quiet onPress={() => setAsked(c.id)}>
                a wish after all
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
