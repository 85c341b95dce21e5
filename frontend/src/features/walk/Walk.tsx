import { useEffect, useRef } from "react";
import { useLocation, useNavigate } from "react-router";
import styled, { createGlobalStyle } from "styled-components";
import type { Schemas } from "../../api/client";
import { useShelf } from "../../api/records";
import { useChart } from "../../api/songs";
import { Button, leaveWalk, setWalk, useWalk } from "../../ui";
import { STOPS } from "./stops";

const Mark = createGlobalStyle<{ $stop: string }>`
  [data-stop="${(p) => p.$stop}"] {
    outline: 2px dotted var(--river);
    outline-offset: -1px;
    border-radius: 4px;
  }
`;
const Signpost = styled.section`
  position: fixed;
  left: 6.2rem;
  bottom: 7.6rem;
  z-index: 4;
  width: min(25rem, calc(100vw - 2rem));
  padding: 0.8rem 1.1rem;
  background: var(--ground);
  border: 1.5px solid var(--ink);
  border-left: 6px solid var(--river);
  box-shadow: 0 2px 14px rgb(0 0 0 / 22%);
  h2 {
    font-size: 1.2rem;
  }
  p {
    margin: 0.3rem 0 0.6rem;
  }
  div {
    display: flex;
    align-items: baseline;
    gap: 1rem;
  }
  small {
    margin-left: auto;
    color: var(--soft);
    font-size: 0.95rem;
  }
  @media (max-width: 640px) {
    left: 1rem;
  }
  @media print {
    display: none;
  }
`;

/** The song to walk through: a demo song with places to check, else whatever has a chart. */
export function chooseSong(rows: readonly { song: Schemas["SongOut"] }[]): Schemas["SongOut"] | null {
  const charted = rows.map((row) => row.song).filter((song) => song.charted);
  const worth = (song: Schemas["SongOut"]) =>
    4 * Number(song.demo) + 2 * Number(song.doubts > 0) + Number(song.recording_id !== null);
  return charted.sort((a, b) => worth(b) - worth(a))[0] ?? null;
}

/** The signpost of the first walk, over whatever page it has come to. */
export function Walk() {
  const walk = useWalk();
  return walk.stop < 0 ? null : walk.song ? <Led key={walk.song} /> : <Found />;
}

function Found() {
  const navigate = useNavigate();
  const shelf = useShelf({ q: "", stage: "", order: "newest", deleted: false, limit: 60 });
  const rows = shelf.data?.rows;
  useEffect(() => {
    const song = rows && chooseSong(rows);
    if (!song) return;
    setWalk({ song: song.id });
    void navigate(`/songs/${song.id}/survey`);
  }, [rows, navigate]);
  if (!rows || chooseSong(rows)) return null;
  return (
    <Signpost aria-label="First walk" data-noprint>
      <h2>There is no song to walk through yet</h2>
      <p>Add a recording or paste a chart; the walk waits in the list of keys, under “?”.</p>
      <Button onPress={leaveWalk}>Good</Button>
    </Signpost>
  );
}

function Led() {
  const { stop: at, song } = useWalk();
  const stop = STOPS[Math.min(at, STOPS.length - 1)] as (typeof STOPS)[number];
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const chart = useChart(song);
  const revision = chart.data?.revision;
  const seen = useRef<{ at: number; revision: number | undefined }>({ at: -1, revision: undefined });
  const here = pathname === `/songs/${song}/${stop.view}`;
  const last = at >= STOPS.length - 1;
  const go = (to: number) => {
    const next = STOPS[to];
    if (!next) return leaveWalk();
    setWalk({ stop: to });
    if (next.view !== stop.view || !here) void navigate(`/songs/${song}/${next.view}`);
  };
  const onward = useRef(go);
  onward.current = go;
  useEffect(() => {
    const before = seen.current;
    if (before.at === at && before.revision !== undefined && revision !== before.revision && stop.waits)
      onward.current(at + 1);
    seen.current = { at, revision };
  }, [at, revision, stop.waits]);
  useEffect(() => {
    if (chart.error) leaveWalk(); // the song was taken off the shelf
  }, [chart.error]);
  return (
    <>
      {here && <Mark $stop={stop.mark} />}
      <Signpost aria-label="First walk" data-noprint>
        <h2 aria-live="polite">{stop.title}</h2>
        <p>{stop.text}</p>
        <div>
          {here ? (
            <Button $strong onPress={() => go(at + 1)}>
              {last ? "That was the way" : "Go on"}
            </Button>
          ) : (
            <Button $strong onPress={() => void navigate(`/songs/${song}/${stop.view}`)}>
              Back to the walk
            </Button>
          )}
          {at > 0 && (
            <Button $quiet onPress={() => go(at - 1)}>
              back
            </Button>
          )}
          {!last && (
            <Button $quiet onPress={leaveWalk}>
              leave
            </Button>
          )}
          <small>
            {at + 1} of {STOPS.length}
          </small>
        </div>
      </Signpost>
    </>
  );
}
