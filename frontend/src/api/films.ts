/** Films of what stands beside the hands: asked for, looked at, made in the background. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { useSongQuery } from "./songQuery";

export type FilmWish = Required<Schemas["FilmIn"]>;

const nameOf = (id: number) => ["song", id, "films"];
const isBusy = (film: Schemas["FilmOut"]) => film.state === "waiting" || film.state === "running";

export function useFilmChoices() {
  return useQuery({
    queryKey: ["film choices"],
    queryFn: () => unwrap(client.GET("/api/films/choices")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

export function useFilms(id: number) {
  return useSongQuery(id, {
    queryKey: nameOf(id),
    queryFn: () => unwrap(client.GET("/api/songs/{song_id}/films", { params: { path: { song_id: id } } })),
    refetchInterval: (query) => (query.state.data?.some(isBusy) ? 700 : false),
  });
}

export function useMakeFilm(id: number) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: FilmWish) =>
      unwrap(client.POST("/api/songs/{song_id}/films", { params: { path: { song_id: id } }, body })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: nameOf(id) }),
  });
}

export function useDropFilm(id: number) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (film: number) =>
      unwrap(client.DELETE("/api/films/{film_id}", { params: { path: { film_id: film } } })),
    onSettled: () => void queries.invalidateQueries({ queryKey: nameOf(id) }),
  });
}

export function useGoOnWithFilm(id: number) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (film: number) =>
      unwrap(client.POST("/api/films/{film_id}/go-on", { params: { path: { film_id: film } } })),
    onSettled: () => void queries.invalidateQueries({ queryKey: nameOf(id) }),
  });
}

/** Where one picture of a film lies, before it is made. */
export function lookAddress(id: number, wish: FilmWish, at: number, revision: number): string {
  const { layers, ...rest } = wish;
  const query = new URLSearchParams(Object.entries(rest).map(([name, value]) => [name, `${value}`]));
  for (const layer of layers) query.append("layers", layer);
  query.set("at", `${at}`);
  query.set("version", `${revision}`); // another version looks otherwise
  return `/api/songs/${id}/film-look?${query}`;
}
