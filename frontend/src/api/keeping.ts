/** Copies of everything, and how Valley stands. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";

export function useHealth() {
  return useQuery({ queryKey: ["health"], queryFn: () => unwrap(client.GET("/api/health")), refetchInterval: 10_000 });
}

export function useBackups() {
  return useQuery({ queryKey: ["backups"], queryFn: () => unwrap(client.GET("/api/backups")) });
}

export function useKeepCopy() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => unwrap(client.POST("/api/backups")),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ["backups"] });
      void queries.invalidateQueries({ queryKey: ["health"] });
    },
  });
}

const PEOPLE = ["people"];

export function usePeople() {
  return useQuery({ queryKey: PEOPLE, queryFn: () => unwrap(client.GET("/api/people")) });
}

export function useAddPerson() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["PersonIn"]) => unwrap(client.POST("/api/people", { body })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: PEOPLE }),
  });
}

export function useChangePerson() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ name, active }: { name: string; active: boolean }) =>
      unwrap(client.PATCH("/api/people/{name}", { params: { path: { name } }, body: { active, password: "" } })),
    onSettled: () => void queries.invalidateQueries({ queryKey: PEOPLE }),
  });
}

export function useOwnPassword() {
  return useMutation({
    mutationFn: (body: Schemas["OwnPasswordIn"]) => unwrap(client.POST("/api/own-password", { body })),
  });
}

const linksOf = (song: number) => ["song", song, "share links"];

/** Links by which viewers see a song’s page without an account. */
export function useLinks(song: number) {
  return useQuery({
    queryKey: linksOf(song),
    queryFn: () => unwrap(client.GET("/api/songs/{song_id}/share-links", { params: { path: { song_id: song } } })),
  });
}

export function useMakeLink(song: number) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => unwrap(client.POST("/api/songs/{song_id}/share-links", { params: { path: { song_id: song } } })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: linksOf(song) }),
  });
}

export function useTakeBackLink(song: number) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (link: number) =>
      unwrap(client.DELETE("/api/share-links/{link_id}", { params: { path: { link_id: link } } })),
    onSettled: () => void queries.invalidateQueries({ queryKey: linksOf(song) }),
  });
}
