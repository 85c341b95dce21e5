/** Whether another window, or another person, has changed a song meanwhile. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { client, type Schemas, unwrap } from "./client";
import { songLine } from "./edits";
import { keys } from "./keys";

const EVERY_MS = 2000;

/** Asks every two seconds while the page is looked at; what is new is drawn. Its own changes, on their way or answered meanwhile, are no news. */
export function useNews(id: number, enabled: boolean): void {
  const queries = useQueryClient();
  const { data } = useQuery({
    queryKey: ["news", id],
    queryFn: async () => {
      const line = songLine(queries, id);
      const before = line.answered;
      const now = await unwrap(client.GET("/api/songs/{song_id}/revision", { params: { path: { song_id: id } } }));
      const shown = queries.getQueryData<Schemas["SongOut"]>(keys.song(id));
      const same = now.revision === line.revision && (!shown || now.changed_at === shown.changed_at);
      const own = line.waiting > 0 || line.answered !== before || !line.revision || same;
      return own ? null : { music: now.revision !== line.revision, at: `${now.revision} ${now.changed_at}` };
    },
    enabled,
    refetchInterval: EVERY_MS,
    retry: false,
    gcTime: 0,
  });
  useEffect(() => {
    if (!data) return;
    // A title, a wish or a permission asks for no note again: only another version does.
    void queries.invalidateQueries({ queryKey: keys.song(id), exact: !data.music });
    void queries.invalidateQueries({ queryKey: keys.songs });
  }, [data, queries, id]);
}
