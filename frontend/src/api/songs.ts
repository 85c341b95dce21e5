/** Songs: what is asked of them, and what is changed about them besides their versions. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { askAfter } from "./again";
import { client, type Schemas, unwrap } from "./client";
import { askAgain, songLine } from "./edits";
import { keys } from "./keys";

export const isActive = (song: Schemas["SongOut"] | undefined) =>
  song?.job?.state === "waiting" || song?.job?.state === "running";

export function useSession() {
  return useQuery({
    queryKey: ["session"],
    queryFn: () => unwrap(client.GET("/api/session")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

export function useSong(id: number) {
  return useQuery({
    queryKey: keys.song(id),
    queryFn: () => unwrap(client.GET("/api/songs/{song_id}", { params: { path: { song_id: id } } })),
    refetchInterval: (query) => (isActive(query.state.data) ? 500 : false),
  });
}

export function useChart(id: number, enabled = true) {
  const queries = useQueryClient();
  return useQuery({
    queryKey: keys.chart(id),
    // A chart that was asked for before the last edit was answered would show the song as it was before it.
    queryFn: async () => {
      const line = songLine(queries, id);
      const chart = await line.fresh(() =>
        unwrap(client.GET("/api/songs/{song_id}/chart", { params: { path: { song_id: id } } })),
      );
      line.revision = chart.revision;
      line.told = chart;
      return chart;
    },
    enabled,
  });
}

export function useLoudness(id: number, enabled = true) {
  return useQuery({
    queryKey: ["song", id, "loudness"],
    queryFn: () => unwrap(client.GET("/api/songs/{song_id}/loudness", { params: { path: { song_id: id } } })),
    enabled,
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** A change to one song that makes no version: sent in line with its edits; what hangs on the song is asked again afterwards. */
export function useSongMutation<Input, Output>(
  id: number,
  call: (input: Input) => Promise<Output>,
  onDone?: (output: Output) => void,
) {
  const queries = useQueryClient();
  return useMutation({
    networkMode: "always",
    mutationFn: (input: Input) => songLine(queries, id).add(() => call(input)),
    onSuccess: (output) => {
      onDone?.(output);
      askAgain(queries, id);
    },
    onError: () => void queries.invalidateQueries({ queryKey: keys.song(id) }),
  });
}

export function useChangeSong(id: number) {
  const queries = useQueryClient();
  return useSongMutation(
    id,
    (body: Schemas["SongChangeIn"]) =>
      unwrap(client.PATCH("/api/songs/{song_id}", { params: { path: { song_id: id } }, body })),
    () => void queries.invalidateQueries({ queryKey: keys.chart(id) }),
  );
}

export function useListenAgain(id: number) {
  return useSongMutation(id, () =>
    unwrap(client.POST("/api/songs/{song_id}/listen", { params: { path: { song_id: id } } })),
  );
}

export function useCancelJob(id: number) {
  return useSongMutation(id, (job: number) =>
    unwrap(client.POST("/api/jobs/{job_id}/cancel", { params: { path: { job_id: job } } })),
  );
}

export function useDeleteSong() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: number) => unwrap(client.DELETE("/api/songs/{song_id}", { params: { path: { song_id: id } } })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: keys.songs }),
  });
}

export function useCopySong(onDone: (copy: Schemas["SongOut"]) => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: number) => unwrap(client.POST("/api/songs/{song_id}/copy", { params: { path: { song_id: id } } })),
    onSuccess: (copy) => {
      void queries.invalidateQueries({ queryKey: keys.songs });
      onDone(copy);
    },
  });
}

export function useRestoreSong() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(client.POST("/api/songs/{song_id}/restore", { params: { path: { song_id: id } } })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: keys.songs }),
  });
}

/** How the file of a whole song with its history ends. */
const WHOLE_SONG = ".valley.zip";

export interface NewSong {
  file: File;
  again?: boolean;
  /** A song that is here already and has no recording or chart yet. */
  to?: number;
  /** The version of that song that was seen. */
  base?: number;
}

export function useAddSong() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ file, again = false, to, base = 0 }: NewSong): Promise<{ id: number }> => {
      const form = new FormData();
      form.append("file", file);
      if (file.name.endsWith(WHOLE_SONG))
        return unwrap(client.POST("/api/songs/from-file", { body: { file: "" }, bodySerializer: () => form }));
      form.append("again", String(again));
      if (to) form.append("to", String(to));
      if (base) form.append("base", String(base));
      return unwrap(
        client.POST("/api/songs", { body: { file: "", title: "", again, to: null, base }, bodySerializer: () => form }),
      );
    },
    onSuccess: (song) => {
      void askAfter(queries, keys.songs);
      void askAfter(queries, keys.song(song.id));
    },
  });
}
