import { useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useMemo, useState } from "react";
import { Link, Outlet, useLocation, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { useUnsent } from "../../api/edits";
import { useNews } from "../../api/news";
import { useChart, useListenAgain, useLoudness, useSong } from "../../api/songs";
import { useTimeSpent } from "../../api/useTimeSpent";
import { Player, secondsAt } from "../../player";
import { Button, beatsOf, ErrorNotice } from "../../ui";
import { Listening } from "../listening";
import { WorkspaceContext } from "./context";
import { PlayerBar } from "./PlayerBar";
import { RouteRail } from "./RouteRail";
import { SkipLinks } from "./SkipLinks";
import { SongHeader } from "./SongHeader";
import { barAt, type Marked, markNext, stretchOf } from "./stretch";
import { useSoundingPart } from "./useSoundingPart";

const RecordsSheet = lazy(async () => ({ default: (await import("../records")).RecordsSheet }));

const Frame = styled.div`
  display: grid;
  grid-template: auto minmax(0, 1fr) auto / 4.2rem minmax(0, 1fr);
  column-gap: 1.1rem;
  height: 100dvh;
  padding: 1rem 1.6rem 0.5rem 0.9rem;
  > header {
    grid-column: 2;
  }
  > nav {
    grid-row: 1 / 4;
  }
  > main {
    grid-column: 2;
    min-height: 0;
    padding-top: 0.8rem;
  }
  > footer {
    grid-column: 2;
  }
  /* On a stand: the parts as a strip above, the player docked below, the page between them. */
  @media (max-width: 900px) {
    grid-template: auto auto minmax(0, 1fr) auto / minmax(0, 1fr);
    padding: 0.6rem 0.9rem 0.3rem;
    > header, > main, > footer, > nav {
      grid-column: 1;
    }
    > nav {
      grid-row: 2;
    }
    > main {
      grid-row: 3;
      overflow: auto;
    }
    > footer {
      grid-row: 4;
    }
  }
  /* A low window, or one that is zoomed: what is looked at has the room. */
  @media (max-height: 560px) {
    padding: 0.2rem 0.9rem 0.1rem;
    > main {
      padding-top: 0.2rem;
    }
  }
  @media print {
    display: block;
    height: auto;
  }
`;
const Waiting = styled.main`
  max-width: 70rem;
  margin: 2.4rem auto;
  padding: 0 2rem;
  display: grid;
  gap: 1.2rem;
  h1 {
    font-size: 2.2rem;
  }
`;

/** One song: header, route, the view, the player. Before there is a chart, the listening itself is shown. */
export function SongWorkspace() {
  const songId = Number(useParams().songId);
  const song = useSong(songId);
  const view = useLocation().pathname.split("/").at(-1) ?? "";
  useTimeSpent(songId, song.data?.charted ? view : "");
  const charted = song.data?.charted ?? false;
  const chart = useChart(songId, charted);
  const loudness = useLoudness(songId, charted);
  useUnsent(songId, chart.data !== undefined);
  useNews(songId, chart.data !== undefined);
  const listen = useListenAgain(songId);
  const [player] = useState(() => new Player(new Audio()));
  const [chosen, setChosen] = useState<string | null>(null);
  const [chosenPart, setChosenPart] = useState<number | null>(null);
  const [marked, setMarked] = useState<Marked | null>(null);
  const sounding = useSoundingPart(player, chart.data, view);

  const queries = useQueryClient();
  const job = song.data?.job;
  const heardAgain = job?.state === "done" ? job.id : 0;
  useEffect(() => {
    if (heardAgain)
      void queries.invalidateQueries({ queryKey: ["song", songId], predicate: (q) => q.queryKey.length > 2 });
  }, [queries, songId, heardAgain]);

  useEffect(() => () => player.dispose(), [player]);
  useEffect(() => {
    document.title = song.data ? `${song.data.title} · Valley` : "Valley";
    if (song.data && chart.data)
      player.load(
        song.data.recording_id === null ? null : `/recordings/${song.data.recording_id}`,
        chart.data,
        chart.data.beats_per_bar,
        chart.data.bars.map((b) => b.start_beats),
      );
  }, [player, song.data, chart.data]);

  // An address may name the bar to look at, as the reports of viewers do.
  const bar = Number(useSearchParams()[0].get("bar")) || null;
  const loaded = chart.data !== undefined;
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each address, not with every correction
  useEffect(() => {
    const at = loaded && bar !== null ? chart.data?.bars.find((b) => b.number === bar) : undefined;
    const first = at && chart.data?.chords.find((c) => c.start_beats + c.duration_beats > at.start_beats + 1e-6);
    if (first) setChosen(first.start);
  }, [loaded, bar]);

  const workspace = useMemo(() => {
    if (!song.data || !chart.data) return null;
    const first = chart.data.chords.find((c) => c.notes.length) ?? chart.data.chords[0];
    // What is selected is a place: where no chord begins there any more, the one that sounds there.
    const there =
      chosen === null ? undefined : chart.data.chords.findLast((c) => c.start_beats <= beatsOf(chosen) + 1e-6);
    const selected = (there ?? first)?.start ?? "0";
    const place = there && chosen !== null ? chosen : selected;
    const beat = chart.data.chords.find((c) => c.start === selected)?.start_beats ?? 0;
    const parts = chart.data.parts;
    const byBeat = [...parts].reverse().find((p) => p.start_beats <= beat) ?? parts[0];
    const part = parts.find((p) => p.number === (sounding ?? chosenPart)) ?? byBeat;
    if (!part) return null;
    const { bars } = chart.data;
    const here = barAt(bars, beatsOf(place))?.number ?? 1;
    const goTo = (beat: number) => {
      const { playing, counting } = player.getState();
      if (!playing && !counting) player.seek(secondsAt(chart.data, beat)); // what plays is not torn away by a correction
    };
    return {
      song: song.data,
      chart: chart.data,
      loudness: loudness.data ?? [],
      player,
      selected,
      place,
      select: (start: string) => {
        setChosen(start);
        setChosenPart(null);
        goTo(beatsOf(start));
      },
      part,
      selectPart: (number: number) => {
        setChosenPart(number);
        const wanted = parts.find((p) => p.number === number);
        if (wanted) goTo(wanted.start_beats);
      },
      stretch: stretchOf(bars, marked, beatsOf(place)),
      mark: () => setMarked((before) => markNext(before, here)),
      markTo: (beat: number) =>
        setMarked((before) => ({ from: before?.from ?? here, to: barAt(bars, beat)?.number ?? here })),
    };
  }, [song.data, chart.data, loudness.data, player, chosen, chosenPart, marked, sounding]);

  if ((song.error && !song.data) || (chart.error && !chart.data)) {
    return (
      <Waiting>
        <ErrorNotice error={song.error ?? chart.error}>
          <Link to="/">Back to the shelf</Link>
        </ErrorNotice>
      </Waiting>
    );
  }
  if (!song.data) return <Waiting aria-busy="true">Opening the song …</Waiting>;
  if (!workspace) {
    return (
      <Waiting>
        <Link to="/">Shelf</Link>
        <h1>{song.data.title}</h1>
        {charted ? (
          <p aria-busy="true">Unrolling the chart …</p>
        ) : (
          <>
            <Listening song={song.data} />
            {song.data.standing === "wanted" && (
              <p>
                Nothing to listen to yet:{" "}
                {song.data.stage === 0 ? "a wish of viewers." : "chosen, and waiting for its recording."}
              </p>
            )}
            {["failed", "unheard"].includes(song.data.standing) && (
              <Button $strong onPress={() => listen.mutate()} isDisabled={listen.isPending}>
                Listen to it
              </Button>
            )}
            <Suspense>
              <RecordsSheet songId={songId} />
            </Suspense>
          </>
        )}
      </Waiting>
    );
  }
  return (
    <WorkspaceContext.Provider value={workspace}>
      <SkipLinks view={view} />
      <Frame>
        <SongHeader />
        <RouteRail />
        <main id="view" tabIndex={-1}>
          <Outlet />
        </main>
        <PlayerBar />
      </Frame>
    </WorkspaceContext.Provider>
  );
}
