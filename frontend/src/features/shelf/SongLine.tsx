import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useDeleteSong, useListenAgain } from "../../api/queries";
import { Button, clock, ErrorNotice, smoothPath, waver, withSigns } from "../../ui";
import { Listening } from "../song/Listening";

const Line = styled.li`
  display: grid; grid-template-columns: minmax(0, 1fr) 15rem 9.5rem; gap: 0.3rem 1.6rem; align-items: center; padding: 0.9rem 0; border-top: 1.5px solid var(--line);
  &:last-child { border-bottom: 1.5px solid var(--line); }
  h2 { font-size: 1.55rem; } h2 a { text-decoration: none; } h2 a:hover { text-decoration: underline; text-underline-offset: 4px; text-decoration-thickness: 1.5px; }
  p { color: var(--soft); }
  .next { font-weight: 700; color: var(--ink); } .doubt { color: var(--doubt); }
  > :nth-child(3) { display: flex; justify-content: flex-end; gap: 0.4rem; }
  > .wide { grid-column: 1 / -1; }
  @media (max-width: 800px) { grid-template-columns: 1fr; }
`;

const WAY = ["recording", "heard", "charted", "hands", "hand-outs"];

/** How far a song is on its way, as waymarks on a path. */
function Way({ song }: { song: Schemas["SongOut"] }) {
  const done = { unheard: 1, waiting: 1, listening: 1, failed: 1, heard: 2, charted: 5 }[song.standing];
  const points = WAY.map((_, i) => [12 + i * 52, 13 + 5 * waver(song.id * 5 + i)] as const);
  return (
    <svg width="232" height="28" role="img" aria-label={`On its way: ${WAY.slice(0, done).join(", ")}`}>
      <path
        d={smoothPath(points)}
        fill="none"
        stroke="var(--soft)"
        strokeWidth="2"
        strokeDasharray="0.1 5.5"
        strokeLinecap="round"
      />
      {points.map(([x, y], i) => (
        <circle
          key={WAY[i]}
          cx={x}
          cy={y}
          r={i < done ? 6 : 5}
          fill={i < done ? "var(--ink)" : "var(--ground)"}
          stroke="var(--ink)"
          strokeWidth="1.5"
        >
          <title>{WAY[i]}</title>
        </circle>
      ))}
    </svg>
  );
}

/** One song: where it stands, what is next. */
export function SongLine({ song, onGone }: { song: Schemas["SongOut"]; onGone: () => void }) {
  const remove = useDeleteSong();
  const listen = useListenAgain(song.id);
  const busy = song.standing === "waiting" || song.standing === "listening";
  return (
    <Line>
      <div>
        <h2>
          <Link to={`/songs/${song.id}`}>{song.title}</Link>
        </h2>
        <p>{song.facts ? withSigns(song.facts) : song.original_name}</p>
        {song.warning && <p className="doubt">{song.warning}</p>}
      </div>
      <div>
        <Way song={song} />
        <p className={song.standing === "failed" ? "doubt" : "next"}>
          {song.next_step}
          {song.duration > 0 && <span style={{ fontWeight: 400 }}> · {clock(song.duration)}</span>}
        </p>
      </div>
      <div>
        {(song.standing === "unheard" || song.standing === "failed") && (
          <Button onPress={() => listen.mutate()} isDisabled={listen.isPending}>
            Listen
          </Button>
        )}
        <Button
          $quiet
          aria-label={`Take ${song.title} off the shelf`}
          onPress={() => remove.mutate(song.id, { onSuccess: onGone })}
        >
          Remove
        </Button>
      </div>
      {(busy || song.standing === "failed") && (
        <div className="wide">
          <Listening song={song} />
        </div>
      )}
      {(remove.error || listen.error) && (
        <div className="wide">
          <ErrorNotice error={remove.error ?? listen.error} />
        </div>
      )}
    </Line>
  );
}
