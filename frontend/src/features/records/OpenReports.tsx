import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useRecords } from "../../api/records";
import { Button, withSigns } from "../../ui";

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.5rem;
  li {
    border-left: 4px solid var(--doubt);
    padding-left: 0.6rem;
    overflow-wrap: anywhere;
  }
  small {
    color: var(--soft);
    display: block;
    line-height: 1.25;
  }
`;

interface OpenReportsProps {
  song: Schemas["SongOut"];
  /** Only those of one bar. */
  bar?: number | undefined;
  onStep?: (key: string) => void;
}

/** What viewers report and nobody has answered yet, beside the place that it is about. Nothing is drawn where there is none. */
export function OpenReports({ song, bar, onStep }: OpenReportsProps) {
  const records = useRecords(song.id, song.corrections > 0);
  const open = (records.data?.corrections ?? []).filter(
    (c) => c.state === "open" && (bar === undefined || c.bar === bar),
  );
  if (open.length === 0) return null;
  return (
    <List aria-label="Reported by viewers">
      {open.map((c) => (
        <li key={c.id}>
          {c.handle}: “{withSigns(c.text)}”{c.weighed && <small>{withSigns(c.weighed)}</small>}
          <div>
            {onStep && c.step && (
              <Button $quiet onPress={() => onStep(c.step)}>
                go to the step
              </Button>
            )}
            <Link to={`/songs/${song.id}/records`}>answer it</Link>
          </div>
        </li>
      ))}
    </List>
  );
}
