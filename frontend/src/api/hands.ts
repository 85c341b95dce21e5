/** What both hands play, other ways to play it, and a performance held against it. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { songLine } from "./edits";
import { keys } from "./keys";
import { useSongQuery } from "./songQuery";
import { useSongMutation } from "./songs";

export function useArrangement(id: number, enabled = true) {
  return useSongQuery(id, {
    queryKey: keys.arrangement(id),
    queryFn: () => unwrap(client.GET("/api/songs/{song_id}/arrangement", { params: { path: { song_id: id } } })),
    enabled,
  });
}

/** What the hands would play in another voicing, to compare. */
export function useOtherVoicing(id: number, style: string, level: string) {
  return useSongQuery(id, {
    queryKey: [...keys.arrangement(id), style, level],
    queryFn: () =>
      unwrap(
        client.GET("/api/songs/{song_id}/arrangement", {
          params: { path: { song_id: id }, query: { style, level } },
        }),
      ),
    enabled: style !== "",
  });
}

/** Other grips for the chord at a beat. */
export function useCandidates(id: number, start: string | undefined, revision: number) {
  return useSongQuery(id, {
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
      const revision = songLine(queries, id).revision;
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

export function useChoices() {
  return useQuery({
    queryKey: ["choices"],
    queryFn: () => unwrap(client.GET("/api/choices")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** The bar in which a beat lies, seen close: what each hand plays, as notes and as it is typed. */
export function useCloseBar(id: number, start: string | undefined, revision: number) {
  return useSongQuery(id, {
    queryKey: ["song", id, "bar", start, revision],
    queryFn: () =>
      unwrap(
        client.GET("/api/songs/{song_id}/hands/bar", {
          params: { path: { song_id: id }, query: { start: start ?? "0" } },
        }),
      ),
    enabled: start !== undefined,
    placeholderData: (before) => before,
  });
}
