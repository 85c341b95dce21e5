import { useDeferredValue, useEffect, useState } from "react";
import { type FileDropItem, FileTrigger } from "react-aria-components";
import { Link } from "react-router";
import { ProblemError } from "../../api/client";
import { useShelf } from "../../api/records";
import { type NewSong, useAddSong, useRestoreSong, useSession } from "../../api/songs";
import {
  Button,
  bound,
  ErrorNotice,
  KeyCap,
  type KeyList,
  leaveWalk,
  Notice,
  startWalk,
  TopBar,
  useShortcuts,
  useWalk,
} from "../../ui";
import { RequestForm } from "./RequestForm";
import { ShelfSearch } from "./ShelfSearch";
import { Drop, Frame } from "./ShelfView.styles";
import { SongLine } from "./SongLine";
import { WayFilter } from "./WayFilter";

const PAGE = 60;
const KEYS: KeyList = [["On the shelf", ["shelf", "help"]]];

/** Songs and requests as one list of work in hand. */
export function ShelfView() {
  const [q, setQ] = useState("");
  const [stage, setStage] = useState("");
  const [order, setOrder] = useState("newest");
  const [deleted, setDeleted] = useState(false);
  const [limit, setLimit] = useState(PAGE);
  const [asking, setAsking] = useState(false);
  const [noted, setNoted] = useState("");
  const shelf = useShelf({ q: useDeferredValue(q), stage, order, deleted, limit });
  const session = useSession();
  const walk = useWalk();
  const add = useAddSong();
  const restore = useRestoreSong();
  const [gone, setGone] = useState<{ id: number; title: string } | null>(null);
  const [tooLarge, setTooLarge] = useState<string | null>(null);
  useEffect(() => {
    document.title = "Valley";
  }, []);
  useShortcuts({
    ...bound("shelf", {
      search: () => document.querySelector<HTMLInputElement>("input[type=search]")?.focus(),
      request: () => setAsking(true),
    }),
    escape: () => setAsking(false),
  });

  const take = async (files: File[]) => {
    setTooLarge(null);
    for (const file of files) {
      const most = session.data?.max_upload_bytes ?? Number.POSITIVE_INFINITY;
      if (file.size > most) {
        setTooLarge(
          `${file.name} has ${Math.round(file.size / 1048576)} MB; the limit is ${Math.round(most / 1048576)} MB. Export it as mp3 or m4a.`,
        );
        continue;
      }
      await add.mutateAsync({ file }).catch(() => undefined);
    }
  };
  const problem = add.error instanceof ProblemError ? add.error.problem : null;
  const last = add.variables as NewSong | undefined;
  const rows = shelf.data?.rows ?? [];
  const sought = q.trim() !== "" || stage !== "" || deleted;
  return (
    <Frame>
      <TopBar
        title="Valley"
        words="Songs in hand, from wish to lesson."
        post={shelf.data?.new_comments ?? 0}
        keys={KEYS}
      />
      <Drop
        data-noprint
        aria-label="Add a song"
        onDrop={(event) => {
          const items = event.items.filter((item): item is FileDropItem => item.kind === "file");
          void Promise.all(items.map((item) => item.getFile())).then(take);
        }}
      >
        <FileTrigger allowsMultiple onSelect={(list) => list && void take([...list])}>
          <Button $strong isDisabled={add.isPending}>
            {add.isPending ? "Taking it in …" : "Add a song"}
          </Button>
        </FileTrigger>
        <Button onPress={() => setAsking(!asking)} aria-expanded={asking}>
          <KeyCap>R</KeyCap> Note a request
        </Button>
        <p>
          Drop a recording here (mp3, m4a, ogg, opus, flac, wav, a video) and Valley listens to it; or notes and chords
          (MusicXML, MIDI, a chord chart, CSV, .lab, Valley’s own files). A chart can be pasted.
        </p>
      </Drop>
      {walk.fresh && rows.some((row) => row.song.charted) && (
        <Notice title="New here? A first walk takes two minutes: one song from a doubtful chord to the printed page.">
          <Button onPress={startWalk}>Take the walk</Button>
          <Button $quiet onPress={leaveWalk}>
            not now; it stays under “all keys”
          </Button>
        </Notice>
      )}
      {asking && (
        <RequestForm
          onCancel={() => setAsking(false)}
          onDone={(title) => {
            setAsking(false);
            setNoted(title);
          }}
        />
      )}
      {noted && (
        <Notice title={`Noted for “${noted}”.`}>
          <Button $quiet onPress={() => setNoted("")}>
            Good
          </Button>
        </Notice>
      )}
      {tooLarge && <Notice bad title="This file is too large." detail={tooLarge} />}
      {add.error && (
        <ErrorNotice error={add.error}>
          {problem?.kind === "twin" && last && (
            <>
              <Link to={`/songs/${problem.data?.song}`}>Open that song</Link>
              <Button onPress={() => add.mutate({ file: last.file, again: true })}>Add it once more</Button>
            </>
          )}
        </ErrorNotice>
      )}
      {gone && (
        <Notice title={`“${gone.title}” was taken off the shelf.`}>
          <Button
            onPress={() => {
              restore.mutate(gone.id);
              setGone(null);
            }}
          >
            Put it back
          </Button>
        </Notice>
      )}
      {shelf.data && (
        <WayFilter
          stages={shelf.data.stages}
          chosen={stage}
          onChoose={(name) => {
            setStage(name);
            setLimit(PAGE);
          }}
        />
      )}
      <ShelfSearch
        q={q}
        onSearch={(text) => {
          setQ(text);
          setLimit(PAGE);
        }}
        order={order}
        onOrder={setOrder}
        deleted={deleted}
        onDeleted={setDeleted}
        total={shelf.data?.total}
      />
      {shelf.error ? (
        <ErrorNotice error={shelf.error}>
          <Button onPress={() => void shelf.refetch()}>Try again</Button>
        </ErrorNotice>
      ) : shelf.data && rows.length === 0 ? (
        sought ? (
          <p>
            Nothing here fits.{" "}
            <Button
              $quiet
              onPress={() => {
                setQ("");
                setStage("");
                setDeleted(false);
              }}
            >
              Show all songs
            </Button>
          </p>
        ) : (
          <p>The shelf is empty. Add a song or note a request, and it will stand here with how far it has come.</p>
        )
      ) : (
        <ol aria-label="Songs" aria-busy={!shelf.data}>
          {rows.map((row) => (
            <SongLine
              key={row.song.id}
              row={row}
              deleted={deleted}
              onGone={() => setGone({ id: row.song.id, title: row.song.title })}
            />
          ))}
        </ol>
      )}
      {shelf.data && shelf.data.total > rows.length && (
        <Button $quiet onPress={() => setLimit(Math.min(200, limit + PAGE))} isDisabled={limit >= 200}>
          {limit >= 200 ? "Search for the rest" : `Show more of ${shelf.data.total}`}
        </Button>
      )}
    </Frame>
  );
}
