import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useRecordsEdits } from "../../api/records";
import { useDeleteSong, useListenAgain, useRestoreSong } from "../../api/songs";
import { Button, clock, ErrorNotice, Tally, Way, withSigns } from "../../ui";
import { Listening } from "../listening";

const Line = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 15rem 11.5rem;
  gap: 0.3rem 1.4rem;
  align-items: center;
  padding: 0.75rem 0;
  border-top: 1.5px solid var(--line);
  content-visibility: auto;
  contain-intrinsic-size: auto 5.6rem;
  &:last-child {
    border-bottom: 1.5px solid var(--line);
  }
  h2 {
    font-size: 1.5rem;
  }
  h2 a {
    text-decoration: none;
  }
  h2 a:hover {
    text-decoration: underline;
    text-underline-offset: 4px;
    text-decoration-thickness: 1.5px;
  }
  p {
    color: var(--soft);
  }
  .next {
    font-weight: 700;
    color: var(--ink);
  }
  .doubt {
    color: var(--doubt);
  }
  > :nth-child(3) {
    justify-self: end;
    text-align: right;
  }
  > .wide {
    grid-column: 1 / -1;
  }
  @media (max-width: 800px) {
    grid-template-columns: 1fr;
    > :nth-child(3) {
      justify-self: start;
      text-align: left;
    }
  }
`;

const day = (iso: string) => new Date(`${iso}T12:00:00`).toLocaleDateString("en-GB", { day: "numeric", month: "long" });

interface SongLineProps {
  row: Schemas["ShelfRowOut"];
  deleted?: boolean;
  onGone: () => void;
}

/** One song or request: who waits for it, where it stands, what is next, how long that will take. */
export function SongLine({ row, deleted = false, onGone }: SongLineProps) {
  const { song } = row;
  const remove = useDeleteSong();
  const restore = useRestoreSong();
  const listen = useListenAgain(song.id);
  const { mark } = useRecordsEdits(song.id);
  const busy = song.standing === "waiting" || song.standing === "listening";
  const below = song.facts ? withSigns(song.facts) : song.wanted || song.original_name;
  return (
    <Line>
      <div>
        <h2>{deleted ? song.title : <Link to={`/songs/${song.id}`}>{song.title}</Link>}</h2>
        {below && <p>{below}</p>}
        {song.votes > 0 && (
          <p>
            <Tally count={song.votes} of={song.votes === 1 ? "viewer asks" : "viewers ask"} />
          </p>
        )}
        {song.warning && <p className="doubt">{song.warning}</p>}
      </div>
      <div>
        <Way seed={song.id} stage={song.stage} />
        <p className={song.standing === "failed" ? "doubt" : "next"}>
          {song.next_step}
          {song.duration > 0 && <span style={{ fontWeight: 400 }}> · {clock(song.duration)}</span>}
        </p>
      </div>
      <div>
        {row.time_left && <p>{row.time_left} to go</p>}
        {song.promised_for && <p>promised for {day(song.promised_for)}</p>}
        {deleted ? (
          <Button onPress={() => restore.mutate(song.id)} aria-label={`Put ${song.title} back on the shelf`}>
            Put it back
          </Button>
        ) : (
          <>
            {(song.standing === "unheard" || song.standing === "failed") && (
              <Button onPress={() => listen.mutate()} isDisabled={listen.isPending}>
                Listen
              </Button>
            )}
            {song.stage === 0 && (
              <Button
                aria-label={`Choose ${song.title}`}
                onPress={() => mark.mutate({ stage: 1, reached: true })}
                isDisabled={mark.isPending}
              >
                Choose
              </Button>
            )}
            <Button
              $quiet
              aria-label={`Take ${song.title} off the shelf`}
              onPress={() => remove.mutate(song.id, { onSuccess: onGone })}
            >
              Remove
            </Button>
          </>
        )}
      </div>
      {(busy || song.standing === "failed") && (
        <div className="wide">
          <Listening song={song} />
        </div>
      )}
      {(remove.error || listen.error || mark.error) && (
        <div className="wide">
          <ErrorNotice error={remove.error ?? listen.error ?? mark.error} />
        </div>
      )}
    </Line>
  );
}
