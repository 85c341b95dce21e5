import { type UseQueryOptions, useQuery, useQueryClient } from "@tanstack/react-query";
import { songLine } from "./edits";

/**
 * Something that is made of a song's state. An answer that a change has overtaken is asked for again: marking a first question as out of date while
 * it is on its way would not do it, the cache then takes its answer for the newest.
 */
export function useSongQuery<T>(id: number, options: UseQueryOptions<T> & { queryFn: () => Promise<T> }) {
  const queries = useQueryClient();
  return useQuery<T>({ retry: false, ...options, queryFn: () => songLine(queries, id).fresh(options.queryFn) });
}
