/** Names of chords while they are typed or played, and the versions of a chart. */
import { useQuery } from "@tanstack/react-query";
import { client, unwrap } from "./client";
import { useSongQuery } from "./songQuery";
import { useSongMutation } from "./songs";

/** The newest versions, the first, and those with a name. */
export function useVersions(id: number, limit: number) {
  return useSongQuery(id, {
    queryKey: ["song", id, "versions", limit],
    queryFn: () =>
      unwrap(client.GET("/api/songs/{song_id}/revisions", { params: { path: { song_id: id }, query: { limit } } })),
  });
}

export function useChanges(id: number, from: number, to: number) {
  return useSongQuery(id, {
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
  return useSongMutation(id, ({ number, ...body }: { number: number; name: string; seen: string }) =>
    unwrap(
      client.PATCH("/api/songs/{song_id}/revisions/{number}", {
        params: { path: { song_id: id, number } },
        body,
      }),
    ),
  );
}

/** Names for keys played at a place, ranked. */
export function useNamed(id: number, midi: readonly number[], beat: string) {
  const text = [...midi].sort((a, b) => a - b).join(",");
  return useSongQuery(id, {
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

export function useChordPreview(text: string) {
  return useQuery({
    queryKey: ["chord", text],
    queryFn: () => unwrap(client.GET("/api/chord", { params: { query: { text } } })),
    enabled: text.trim() !== "",
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (before) => before,
  });
}
