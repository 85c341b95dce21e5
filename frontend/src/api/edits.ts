/** Every change of a song's state: one mutation, in line behind those before it, each on the version that the last answer named. */

import { type QueryClient, useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { client, ProblemError, type Schemas, unwrap } from "./client";
import { foresee } from "./foresee";
import { keys } from "./keys";
import { lineOf } from "./line";
import { patched } from "./patch";
import { forget, listUnsent, newKey, remember } from "./unsent";

/** What is left out of an edit has its usual value on the server. */
type Loose<T> = T extends { kind: infer K } ? { kind: K } & Partial<Omit<T, "kind">> : never;
export type Edit = Loose<Schemas["EditIn"]["edit"]>;
type View = Schemas["EditIn"]["show"];
type Edited = Schemas["EditedOut"];
interface Asked {
  edit: Edit;
  spread?: number[];
  /** Of one that was made before the page was loaded: its name. */
  key?: string;
}

export const songLine = (queries: QueryClient, id: number) => lineOf(queries, `song ${id}`);

/** The version to change: that of the last answer, else of the chart that was opened. */
function baseOf(queries: QueryClient, id: number): number {
  return songLine(queries, id).revision || (queries.getQueryData<Schemas["ChartOut"]>(keys.chart(id))?.revision ?? 0);
}

/** The version of the chart that the server told last; 0 where none was kept. */
const toldOf = (queries: QueryClient, id: number) =>
  (songLine(queries, id).told as Schemas["ChartOut"] | undefined)?.revision ?? 0;

/** What hangs on a song and is no part of the answer is asked again. */
export function askAgain(queries: QueryClient, id: number, kept: readonly unknown[] = []): void {
  const known = ["chart", "loudness", ...kept];
  void queries.invalidateQueries({ queryKey: keys.song(id), predicate: (q) => !known.includes(q.queryKey[2]) });
  void queries.invalidateQueries({ queryKey: keys.songs });
}

/** Takes an answer into the cache. While later changes wait, what they foresee stays in the drawing; the last answer sets it right. */
function keep(queries: QueryClient, id: number, edited: Edited): void {
  const line = songLine(queries, id);
  line.revision = edited.revision;
  const { revision, last_change, can_undo, can_redo, offer } = edited;
  const told = line.told as Schemas["ChartOut"] | undefined;
  const chart = edited.chart ?? (edited.patch ? patched(told, edited.patch) : undefined);
  if (edited.patch && !chart) void queries.invalidateQueries({ queryKey: keys.chart(id) });
  // Where the chart did not change, the one that was told stands at the new version as well.
  line.told = chart ?? (edited.patch || !told ? undefined : { ...told, revision });
  queries.setQueryData<Schemas["ChartOut"]>(keys.chart(id), (before) => {
    if (chart && (line.waiting <= 1 || !before)) return chart;
    return before && { ...before, revision, last_change, can_undo, can_redo, offer };
  });
  if (edited.arrangement) queries.setQueryData(keys.arrangement(id), edited.arrangement);
  if (edited.lesson) queries.setQueryData(keys.lesson(id), edited.lesson);
  askAgain(queries, id, [edited.arrangement && "arrangement", edited.lesson && "lesson"]);
}

/** A window that is closed while a correction is on its way does not call it back; browsers let that much of it live on. */
const outlives = (edit: Edit) => JSON.stringify(edit).length < 30_000;

const AGAIN_MS = [400, 1200, 3000];

/** Sends; where nothing answers, a few times more. */
async function insist(send: () => Promise<Edited>): Promise<Edited> {
  for (const wait of AGAIN_MS) {
    try {
      return await send();
    } catch (error) {
      if (!(error instanceof ProblemError) || error.status !== 0) throw error;
      await new Promise((resolve) => setTimeout(resolve, wait));
    }
  }
  return send();
}

function useEdited<Input>(
  id: number,
  send: (input: Input, base: number) => Promise<Edited>,
  onSent?: (i: Input) => void,
) {
  const queries = useQueryClient();
  return useMutation({
    networkMode: "always",
    mutationFn: (input: Input) =>
      songLine(queries, id).add(async () => {
        try {
          const edited = await send(input, baseOf(queries, id));
          keep(queries, id, edited);
          return edited;
        } catch (error) {
          // Another window was faster: those that wait behind this one are made on what stands there now.
          if (error instanceof ProblemError && typeof error.problem.data.current === "number")
            songLine(queries, id).revision = error.problem.data.current;
          throw error;
        }
      }),
    onMutate: onSent,
    onError: () => void queries.invalidateQueries({ queryKey: keys.song(id) }),
  });
}

/** Edits and the way along the versions; ``show`` is the page that is looked at, whose contents come with the answer. */
export function useSongEdits(id: number, show: View = "chart") {
  const queries = useQueryClient();
  const path = { params: { path: { song_id: id } } };
  return {
    edit: useEdited(
      id,
      async (asked: Asked, revision) => {
        const { edit, spread = [] } = asked;
        const key = asked.key ?? newKey();
        try {
          const edited = await insist(() =>
            unwrap(
              client.POST("/api/songs/{song_id}/edits", {
                ...path,
                keepalive: outlives(edit),
                body: {
                  revision,
                  edit: edit as Schemas["EditIn"]["edit"],
                  spread,
                  show,
                  key,
                  have: toldOf(queries, id),
                },
              }),
            ),
          );
          forget(id, key);
          return edited;
        } catch (error) {
          if (error instanceof ProblemError && error.status !== 0) forget(id, key); // it was answered: with a no
          throw error;
        }
      },
      (asked) => {
        asked.key ??= newKey();
        remember(id, { key: asked.key, edit: asked.edit, spread: asked.spread ?? [] });
        const { edit } = asked;
        // What is sure to come is drawn at once; the answer, or an error, sets it right.
        const before = queries.getQueryData<Schemas["ChartOut"]>(keys.chart(id));
        if (before) queries.setQueryData(keys.chart(id), { ...foresee(before, edit), can_undo: true });
      },
    ),
    spread: useEdited(id, (parts: number[], revision) =>
      unwrap(client.POST("/api/songs/{song_id}/spread", { ...path, body: { revision, parts, show } })),
    ),
    undo: useEdited(id, (_: undefined, revision) =>
      unwrap(client.POST("/api/songs/{song_id}/undo", { ...path, body: { show, revision } })),
    ),
    redo: useEdited(id, (_: undefined, revision) =>
      unwrap(client.POST("/api/songs/{song_id}/redo", { ...path, body: { show, revision } })),
    ),
    bringBack: useEdited(id, (number: number, revision) =>
      unwrap(
        client.POST("/api/songs/{song_id}/revisions/{number}/bring-back", {
          params: { path: { song_id: id, number } },
          body: { show, revision },
        }),
      ),
    ),
  };
}

export type SongEdits = ReturnType<typeof useSongEdits>;

/** Sends what an earlier page of this browser made and had not been answered. Once for every song that is opened. */
export function useUnsent(id: number, ready: boolean) {
  const { edit } = useSongEdits(id);
  const { mutate } = edit;
  useEffect(() => {
    if (ready) for (const row of listUnsent(id)) mutate(row);
  }, [id, ready, mutate]);
}
