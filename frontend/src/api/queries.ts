import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { foresee } from "./foresee";

export const isActive = (song: Schemas["SongOut"] | undefined) =>
  song?.job?.state === "waiting" || song?.job?.state === "running";

export const keys = {
  songs: ["songs"] as const,
  song: (id: number) => ["song", id] as const,
  chart: (id: number) => ["song", id, "chart"] as const,
};

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
  return useQuery({
    queryKey: keys.chart(id),
    queryFn: () => unwrap(client.GET("/api/songs/{song_id}/chart", { params: { path: { song_id: id } } })),
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

export function useArrangement(id: number, enabled = true) {
  return useQuery({
    queryKey: ["song", id, "arrangement"],
    queryFn: () => unwrap(client.GET("/api/songs/{song_id}/arrangement", { params: { path: { song_id: id } } })),
    enabled,
    retry: false,
  });
}

/** What the hands would play in another voicing, to compare. */
export function useOtherVoicing(id: number, style: string, level: string) {
  return useQuery({
    queryKey: ["song", id, "arrangement", style, level],
    queryFn: () =>
      unwrap(
        client.GET("/api/songs/{song_id}/arrangement", {
          params: { path: { song_id: id }, query: { style, level } },
        }),
      ),
    enabled: style !== "",
    retry: false,
  });
}

/** Other grips for the chord at a beat. */
export function useCandidates(id: number, start: string | undefined, revision: number) {
  return useQuery({
    queryKey: ["song", id, "candidates", start, revision],
    queryFn: () =>
      unwrap(
        client.GET("/api/songs/{song_id}/hands/candidates", {
          params: { path: { song_id: id }, query: { start: start ?? "0" } },
        }),
      ),
    enabled: start !== undefined,
    placeholderData: (before) => before,
  });
}

/** A performance held against what the hands play; with ``take`` its grips become those of the song. */
export function usePerformance(id: number) {
  const queries = useQueryClient();
  return useSongMutation(
    id,
    ({ file, take }: { file: File; take: boolean }) => {
      const form = new FormData();
      form.append("file", file);
      form.append("take", String(take));
      const revision = queries.getQueryData<Schemas["ChartOut"]>(keys.chart(id))?.revision ?? 0;
      form.append("revision", String(revision));
      return unwrap(
        client.POST("/api/songs/{song_id}/hands/performance", {
          params: { path: { song_id: id } },
          body: { file: "", take, revision },
          bodySerializer: () => form,
        }),
      );
    },
    (held) => held.taken && void queries.invalidateQueries({ queryKey: keys.chart(id) }),
  );
}

export function usePatternCheck(body: Schemas["PatternCheckIn"]) {
  return useQuery({
    queryKey: ["pattern", body],
    queryFn: () => unwrap(client.POST("/api/patterns/check", { body })),
    enabled: Boolean(body.left.trim() || body.right.trim()),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (before) => before,
  });
}

/** What is left out of a change has its usual value on the server. */
type Loose<T> = T extends { kind: infer K } ? { kind: K } & Partial<Omit<T, "kind">> : never;
export type HandsEdit = Loose<Schemas["HandsEditIn"]["edit"]>;

/** Changes to the hands answer with the whole arrangement. */
export function useHandsEdits(id: number) {
  const queries = useQueryClient();
  const now = () => queries.getQueryData<Schemas["ChartOut"]>(keys.chart(id))?.revision ?? 0;
  return useSongMutation(
    id,
    (edit: HandsEdit) =>
      unwrap(
        client.POST("/api/songs/{song_id}/hands/edits", {
          params: { path: { song_id: id } },
          body: { revision: now(), edit: edit as Schemas["HandsEditIn"]["edit"] },
        }),
      ),
    (made) => {
      queries.setQueryData(["song", id, "arrangement"], made);
      queries.setQueryData<Schemas["ChartOut"]>(
        keys.chart(id),
        (chart) =>
          chart && {
            ...chart,
            revision: made.revision,
            last_change: made.last_change,
            can_undo: true,
            can_redo: false,
          },
      );
    },
    undefined,
    true,
  );
}

export function useHandouts(id: number, enabled = true) {
  return useQuery({
    queryKey: ["song", id, "handouts"],
    queryFn: () => unwrap(client.GET("/api/songs/{song_id}/handouts", { params: { path: { song_id: id } } })),
    enabled,
    retry: false,
  });
}

export function useLesson(id: number, enabled = true) {
  return useQuery({
    queryKey: ["song", id, "lesson"],
    queryFn: () => unwrap(client.GET("/api/songs/{song_id}/lesson", { params: { path: { song_id: id } } })),
    enabled,
    retry: false,
  });
}

/** What the checks find in a song as it stands at a revision. */
export function useFindings(id: number, revision: number) {
  return useQuery({
    queryKey: ["findings", id, revision],
    queryFn: () => unwrap(client.GET("/api/songs/{song_id}/findings", { params: { path: { song_id: id } } })),
    staleTime: 60_000,
    retry: false,
  });
}

type LessonEdit = Loose<Schemas["LessonEditIn"]["edit"]>;

/** Changes to the lesson answer with the whole lesson. */
export function useLessonEdits(id: number) {
  const queries = useQueryClient();
  const path = { params: { path: { song_id: id } } };
  const now = () => queries.getQueryData<Schemas["ChartOut"]>(keys.chart(id))?.revision ?? 0;
  const keep = (lesson: Schemas["LessonOut"]) => {
    queries.setQueryData(["song", id, "lesson"], lesson);
    queries.setQueryData<Schemas["ChartOut"]>(keys.chart(id), (chart) =>
      chart && chart.revision !== lesson.revision
        ? { ...chart, revision: lesson.revision, last_change: lesson.last_change, can_undo: true, can_redo: false }
        : chart,
    );
  };
  return {
    edit: useSongMutation(
      id,
      (edit: LessonEdit) =>
        unwrap(
          client.POST("/api/songs/{song_id}/lesson/edits", {
            ...path,
            body: { revision: now(), edit: edit as Schemas["LessonEditIn"]["edit"] },
          }),
        ),
      keep,
      undefined,
      true,
    ),
    mend: useSongMutation(
      id,
      (mend: string) =>
        unwrap(client.POST("/api/songs/{song_id}/lesson/mend", { ...path, body: { revision: now(), mend } })),
      (lesson) => {
        keep(lesson);
        void queries.invalidateQueries({ queryKey: keys.chart(id) });
      },
    ),
    ready: useSongMutation(
      id,
      (body: Schemas["ReadyIn"]) => unwrap(client.POST("/api/songs/{song_id}/lesson/ready", { ...path, body })),
      keep,
    ),
  };
}

export function useProof(id: number) {
  return useMutation({
    mutationFn: (body: Schemas["ProofIn"]) =>
      unwrap(client.POST("/api/songs/{song_id}/proof", { params: { path: { song_id: id } }, body })),
  });
}

export function useScore(id: number, part: number | null, width: number, enabled = true) {
  return useQuery({
    queryKey: ["song", id, "score", part, width],
    queryFn: () =>
      unwrap(
        client.GET("/api/songs/{song_id}/score", {
          params: { path: { song_id: id }, query: { width, ...(part !== null && { part }) } },
        }),
      ),
    enabled,
    retry: false,
  });
}

export function useLog(id: number) {
  return useQuery({
    queryKey: ["song", id, "log"],
    queryFn: () => unwrap(client.GET("/api/songs/{song_id}/log", { params: { path: { song_id: id } } })),
  });
}

export function useWriteLog(id: number) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (lines: Schemas["LogIn"][]) =>
      unwrap(client.POST("/api/songs/{song_id}/log", { params: { path: { song_id: id } }, body: lines })),
    onSuccess: (log) => queries.setQueryData(["song", id, "log"], log),
  });
}

export function useChoices() {
  return useQuery({
    queryKey: ["choices"],
    queryFn: () => unwrap(client.GET("/api/choices")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** A change to one song: what hangs on the song is asked again afterwards. */
function useSongMutation<Input, Output>(
  id: number,
  call: (input: Input) => Promise<Output>,
  onDone?: (output: Output) => void,
  onSent?: (input: Input) => void,
  inTurn = false,
) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: call,
    mutationKey: keys.song(id),
    ...(inTurn && { scope: { id: `chart ${id}` } }),
    onMutate: onSent,
    onSuccess: (output) => {
      onDone?.(output);
      void queries.invalidateQueries({
        queryKey: keys.song(id),
        predicate: (q) => q.queryKey[2] !== "chart" && q.queryKey[2] !== "loudness",
      });
      void queries.invalidateQueries({ queryKey: keys.songs });
    },
    onError: () => void queries.invalidateQueries({ queryKey: keys.song(id) }),
  });
}

/** Corrections of the chart answer with the whole new chart, which goes straight into the cache. */
export function useChartEdits(id: number) {
  const queries = useQueryClient();
  const path = { params: { path: { song_id: id } } };
  // While later corrections still wait their turn, what they foresee stays in the drawing.
  const keep = (chart: Schemas["ChartOut"]) =>
    queries.setQueryData<Schemas["ChartOut"]>(keys.chart(id), (before) =>
      before && queries.isMutating({ mutationKey: keys.song(id) }) > 1
        ? { ...before, revision: chart.revision }
        : chart,
    );
  const now = (revision: number) => queries.getQueryData<Schemas["ChartOut"]>(keys.chart(id))?.revision ?? revision;
  return {
    edit: useSongMutation(
      id,
      // One after the other, each on the revision that the one before it made.
      (body: Schemas["EditIn"]) =>
        unwrap(
          client.POST("/api/songs/{song_id}/chart/edits", {
            ...path,
            body: { ...body, revision: now(body.revision) },
          }),
        ),
      keep,
      (body) => {
        // What is sure to come is drawn at once; the answer, or an error, sets it right.
        const before = queries.getQueryData<Schemas["ChartOut"]>(keys.chart(id));
        if (before) queries.setQueryData(keys.chart(id), { ...foresee(before, body.edit), can_undo: true });
      },
      true,
    ),
    spread: useSongMutation(
      id,
      (body: Schemas["SpreadIn"]) => unwrap(client.POST("/api/songs/{song_id}/chart/spread", { ...path, body })),
      keep,
    ),
    bringBack: useSongMutation(
      id,
      (number: number) =>
        unwrap(
          client.POST("/api/songs/{song_id}/revisions/{number}/bring-back", {
            params: { path: { song_id: id, number } },
          }),
        ),
      keep,
    ),
    undo: useSongMutation(
      id,
      () => unwrap(client.POST("/api/songs/{song_id}/chart/undo", path)),
      keep,
      undefined,
      true,
    ),
    redo: useSongMutation(
      id,
      () => unwrap(client.POST("/api/songs/{song_id}/chart/redo", path)),
      keep,
      undefined,
      true,
    ),
  };
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

export function useRestoreSong() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(client.POST("/api/songs/{song_id}/restore", { params: { path: { song_id: id } } })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: keys.songs }),
  });
}

export interface NewSong {
  file: File;
  again?: boolean;
  /** A song that is here already and has no recording or chart yet. */
  to?: number;
}

export function useAddSong() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ file, again = false, to }: NewSong) => {
      const form = new FormData();
      form.append("file", file);
      form.append("again", String(again));
      if (to) form.append("to", String(to));
      return unwrap(
        client.POST("/api/songs", { body: { file: "", title: "", again, to: null }, bodySerializer: () => form }),
      );
    },
    onSuccess: (song) => {
      void queries.invalidateQueries({ queryKey: keys.songs });
      void queries.invalidateQueries({ queryKey: keys.song(song.id) });
    },
  });
}

/** Names for keys played at a place, ranked. */
export function useNamed(id: number, midi: readonly number[], beat: string) {
  const text = [...midi].sort((a, b) => a - b).join(",");
  return useQuery({
    queryKey: ["song", id, "named", text, beat],
    queryFn: () =>
      unwrap(
        client.GET("/api/songs/{song_id}/chart/named", {
          params: { path: { song_id: id }, query: { midi: text, beat } },
        }),
      ),
    enabled: midi.length > 1,
    placeholderData: (before) => before,
  });
}

export function useVersions(id: number) {
  return useQuery({
    queryKey: ["song", id, "versions"],
    queryFn: () => unwrap(client.GET("/api/songs/{song_id}/revisions", { params: { path: { song_id: id } } })),
  });
}

export function useChanges(id: number, from: number, to: number) {
  return useQuery({
    queryKey: ["song", id, "changes", from, to],
    queryFn: () =>
      unwrap(
        client.GET("/api/songs/{song_id}/revisions/{number}/changes", {
          params: { path: { song_id: id, number: from }, query: { to } },
        }),
      ),
    enabled: from > 0 && to > 0 && from !== to,
  });
}

export function useNameVersion(id: number) {
  return useSongMutation(id, ({ number, name }: { number: number; name: string }) =>
    unwrap(
      client.PATCH("/api/songs/{song_id}/revisions/{number}", {
        params: { path: { song_id: id, number } },
        body: { name },
      }),
    ),
  );
}

export function useChordPreview(text: string) {
  return useQuery({
    queryKey: ["chord", text],
    queryFn: () => unwrap(client.GET("/api/chord", { params: { query: { text } } })),
    enabled: text.trim() !== "",
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (before) => before,
  });
}
