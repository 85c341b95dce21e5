/** The lesson, what the checks find, its files, its logbook. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";
import { useSongQuery } from "./songQuery";
import { useSongMutation } from "./songs";

export function useLesson(id: number, enabled = true) {
  return useSongQuery(id, {
    queryKey: keys.lesson(id),
    queryFn: () => unwrap(client.GET("/api/songs/{song_id}/lesson", { params: { path: { song_id: id } } })),
    enabled,
  });
}

/** What the checks find in a song as it stands at a revision. */
export function useFindings(id: number, revision: number) {
  return useSongQuery(id, {
    queryKey: ["findings", id, revision],
    queryFn: () => unwrap(client.GET("/api/songs/{song_id}/findings", { params: { path: { song_id: id } } })),
    staleTime: 60_000,
  });
}

export function useReady(id: number) {
  const queries = useQueryClient();
  return useSongMutation(
    id,
    (body: Schemas["ReadyIn"]) =>
      unwrap(client.POST("/api/songs/{song_id}/lesson/ready", { params: { path: { song_id: id } }, body })),
    (lesson) => queries.setQueryData(keys.lesson(id), lesson),
  );
}

export function useProof(id: number) {
  return useMutation({
    mutationFn: (body: Schemas["ProofIn"]) =>
      unwrap(client.POST("/api/songs/{song_id}/proof", { params: { path: { song_id: id } }, body })),
  });
}

export function useHandouts(id: number, enabled = true) {
  return useSongQuery(id, {
    queryKey: ["song", id, "handouts"],
    queryFn: () => unwrap(client.GET("/api/songs/{song_id}/handouts", { params: { path: { song_id: id } } })),
    enabled,
  });
}

const LONGEST_LOOK = 60_000; // letters; more than that is taken along rather than read here

async function readText(address: string): Promise<{ data?: string; error?: unknown; response: Response }> {
  const response = await fetch(address);
  if (!response.ok) return { error: await response.json().catch(() => undefined), response };
  return { data: (await response.text()).slice(0, LONGEST_LOOK), response };
}

/** A hand-out that is text, to look at. */
export function useHandoutText(address: string) {
  return useQuery({
    queryKey: ["handout", address],
    queryFn: () => unwrap(readText(`${address}?look=true`)),
    retry: false,
    gcTime: 0,
    staleTime: 0,
  });
}

export function useScore(id: number, part: number | null, width: number, enabled = true) {
  return useSongQuery(id, {
    queryKey: ["song", id, "score", part, width],
    queryFn: () =>
      unwrap(
        client.GET("/api/songs/{song_id}/score", {
          params: { path: { song_id: id }, query: { width, ...(part !== null && { part }) } },
        }),
      ),
    enabled,
  });
}

/** The newest lines of the logbook, and the bars that slip most. */
export function useLog(id: number, limit = 80) {
  return useQuery({
    queryKey: [...keys.log(id), limit],
    queryFn: () =>
      unwrap(client.GET("/api/songs/{song_id}/log", { params: { path: { song_id: id }, query: { limit } } })),
    placeholderData: keepPreviousData,
  });
}

export function useWriteLog(id: number) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (lines: Schemas["LogIn"][]) =>
      unwrap(client.POST("/api/songs/{song_id}/log", { params: { path: { song_id: id } }, body: lines })),
    onSuccess: () => queries.invalidateQueries({ queryKey: keys.log(id) }),
  });
}
