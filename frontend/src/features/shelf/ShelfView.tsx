import { useEffect, useState } from "react";
import { DropZone, type FileDropItem, FileTrigger } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import { ProblemError } from "../../api/client";
import { type NewSong, useAddSong, useRestoreSong, useSession, useSongs } from "../../api/queries";
import { Button, ErrorNotice, Notice } from "../../ui";
import { SongLine } from "./SongLine";
import { ThemeChoice } from "./ThemeChoice";

const Frame = styled.main`
  max-width: 62rem; margin: 0 auto; padding: 2.2rem 2rem 4rem; display: grid; gap: 1.4rem;
  > header { display: flex; align-items: flex-end; justify-content: space-between; gap: 2rem; }
  h1 { font-size: 2.6rem; } header p { color: var(--soft); }
  ol { list-style: none; margin: 0; padding: 0; }
`;
const Drop = styled(DropZone)`
  display: flex; gap: 1.2rem; align-items: center; flex-wrap: wrap; padding: 0.9rem 1.1rem; border: 1.5px dashed var(--soft); border-radius: 6px;
  &[data-drop-target] { background: var(--water); border-style: solid; }
  p { color: var(--soft); }
`;
const KINDS = "mp3, m4a, ogg, opus, flac, wav, or a video";

/** All songs in hand as one list of work, the newest first. */
export function ShelfView() {
  const songs = useSongs();
  const session = useSession();
  const add = useAddSong();
  const restore = useRestoreSong();
  const [gone, setGone] = useState<{ id: number; title: string } | null>(null);
  const [tooLarge, setTooLarge] = useState<string | null>(null);
  useEffect(() => {
    document.title = "Valley";
  }, []);

  const take = async (files: File[]) => {
    setTooLarge(null);
    for (const file of files) {
      const limit = session.data?.max_upload_bytes ?? Number.POSITIVE_INFINITY;
      if (file.size > limit) {
        setTooLarge(
          `${file.name} has ${Math.round(file.size / 1048576)} MB; the limit is ${Math.round(limit / 1048576)} MB. Export it as mp3 or m4a.`,
        );
        continue;
      }
      await add.mutateAsync({ file }).catch(() => undefined);
    }
  };
  const problem = add.error instanceof ProblemError ? add.error.problem : null;
  const last = add.variables as NewSong | undefined;
  return (
    <Frame>
      <header>
        <div>
          <h1>Valley</h1>
          <p>Songs in hand, from recording to lesson.</p>
        </div>
        <ThemeChoice />
      </header>
      <Drop
        aria-label="Add a recording"
        onDrop={(event) => {
          const items = event.items.filter((item): item is FileDropItem => item.kind === "file");
          void Promise.all(items.map((item) => item.getFile())).then(take);
        }}
      >
        <FileTrigger
          allowsMultiple
          acceptedFileTypes={["audio/*", "video/*", ".opus", ".flac", ".m4a", ".mkv"]}
          onSelect={(list) => list && void take([...list])}
        >
          <Button $strong isDisabled={add.isPending}>
            {add.isPending ? "Taking it in …" : "Add a recording"}
          </Button>
        </FileTrigger>
        <p>or drop it here: {KINDS}. Valley listens to it by itself.</p>
      </Drop>
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
      {songs.error ? (
        <ErrorNotice error={songs.error}>
          <Button onPress={() => void songs.refetch()}>Try again</Button>
        </ErrorNotice>
      ) : songs.data?.length === 0 ? (
        <p>The shelf is empty. Add a recording, and it will stand here with what was heard in it.</p>
      ) : (
        <ol aria-label="Songs" aria-busy={!songs.data}>
          {songs.data?.map((song) => (
            <SongLine key={song.id} song={song} onGone={() => setGone({ id: song.id, title: song.title })} />
          ))}
        </ol>
      )}
    </Frame>
  );
}
