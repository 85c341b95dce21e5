import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import type { usePostDeeds } from "../../api/records";
import { Button, Line, Tally, Tick } from "../../ui";
import type { Dealt } from "./PostView";

const Item = styled.li`
  border-top: 1.5px solid var(--line);
  padding: 0.7rem 0 0.8rem;
  display: grid;
  gap: 0.35rem;
  header {
    display: flex;
    gap: 0.4rem 1rem;
    align-items: baseline;
    flex-wrap: wrap;
  }
  header input {
    font: 700 1.35rem "Alegreya", serif;
    color: var(--ink);
    background: transparent;
    border: 0;
    border-bottom: 1.5px dotted var(--soft);
    padding: 0;
    width: 17rem;
  }
  header input:disabled {
    border-color: transparent;
  }
  ul {
    display: grid;
    gap: 0.15rem;
    padding-left: 0.9rem;
    border-left: 2px solid var(--line);
  }
  li {
    overflow-wrap: anywhere;
    line-height: 1.3;
  }
  li label {
    color: inherit;
  }
  li b {
    font-weight: 700;
  }
  footer {
    display: flex;
    gap: 0.8rem;
    align-items: baseline;
    flex-wrap: wrap;
  }
`;
const FEW = 3;
const ignore = () => undefined; // the page shows the error; a group that is gone cannot

interface WishGroupProps {
  group: Schemas["GroupOut"];
  deeds: ReturnType<typeof usePostDeeds>;
  onDealt: (dealt: Dealt) => void;
}

/** Comments taken for wishes of one song: leave out what does not belong, mend the title, take them. */
export function WishGroup({ group, deeds, onDealt }: WishGroupProps) {
  const [title, setTitle] = useState(group.title);
  const [out, setOut] = useState<ReadonlySet<number>>(new Set());
  const [all, setAll] = useState(false);
  const comments = group.comments.filter((c) => !out.has(c.id)).map((c) => c.id);
  const shown = all ? group.comments : group.comments.slice(0, FEW);
  const known = group.known_id !== null && title === group.title;
  return (
    <Item>
      <header>
        <Line label="Song asked for" hidden value={title} maxLength={200} onChange={setTitle} />
        <Tally count={group.votes} of={group.votes === 1 ? "vote" : "votes"} />
      </header>
      <p className="soft">
        {known ? (
          <>
            on the shelf already, <Link to={`/songs/${group.known_id}`}>{group.known_stage}</Link>
          </>
        ) : (
          "a song that is new here"
        )}
        {group.spellings.length > 1 && ` · written ${group.spellings.slice(0, 4).join(", ")}`}
      </p>
      <ul aria-label={`Comments about ${group.title}`}>
        {shown.map((c) => (
          <li key={c.id}>
            <Tick
              checked={!out.has(c.id)}
              onChange={() => {
                const next = new Set(out);
                if (!next.delete(c.id)) next.add(c.id);
                setOut(next);
              }}
            >
              <span title={c.why}>
                <b>{c.handle}</b> {c.text}
                {c.likes > 0 && (
                  <span className="soft">
                    {" "}
                    · {c.likes} {c.likes === 1 ? "agrees" : "agree"}
                  </span>
                )}
              </span>
            </Tick>
          </li>
        ))}
      </ul>
      <footer>
        <Button
          isDisabled={!title.trim() || comments.length === 0 || deeds.take.isPending}
          onPress={() =>
            void deeds.take
              .mutateAsync({ title, comments, song: known ? group.known_id : null })
              .then(() => onDealt({ comments, what: `${comments.length} wishes noted for “${title}”.` }), ignore)
          }
        >
          {known ? "Add to that song" : "Take as a request"}
        </Button>
        <Button
          $quiet
          onPress={() =>
            void deeds.aside
              .mutateAsync(comments)
              .then(() => onDealt({ comments, what: `Wishes for “${title}” were set aside.` }), ignore)
          }
        >
          Set aside
        </Button>
        {group.comments.length > FEW && (
          <Button $quiet onPress={() => setAll(!all)}>
            {all ? "fewer" : `all ${group.comments.length} comments`}
          </Button>
        )}
      </footer>
    </Item>
  );
}
