/** The shelf, requests, viewers' post, corrections, times and the calendar. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { askAfter } from "./again";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";
import { lineOf } from "./line";
import { isActive } from "./songs";

export interface ShelfAsk {
  q: string;
  stage: string;
  order: string;
  deleted: boolean;
  limit: number;
}

/** The shelf as asked for; asked again every half second while anything is being listened to. */
export function useShelf(ask: ShelfAsk) {
  return useQuery({
    queryKey: [...keys.songs, ask],
    queryFn: () => unwrap(client.GET("/api/shelf", { params: { query: ask } })),
    placeholderData: keepPreviousData,
    refetchInterval: (query) => (query.state.data?.rows.some((row) => isActive(row.song)) ? 500 : false),
  });
}

const recordsKey = (id: number) => ["song", id, "records"] as const;

export function useRecords(id: number, enabled = true) {
  return useQuery({
    enabled,
    queryKey: recordsKey(id),
    queryFn: () => unwrap(client.GET("/api/songs/{song_id}/records", { params: { path: { song_id: id } } })),
  });
}

/** Changes that answer with a song's records; the shelf, the song and the calendar are asked again. */
function useRecordsMutation<Input>(id: number, call: (input: Input) => Promise<Schemas["RecordsOut"]>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: call,
    onSuccess: (records) => {
      queries.setQueryData(recordsKey(records.song.id), records);
      if (records.song.id !== id) void queries.invalidateQueries({ queryKey: recordsKey(id) });
      queries.setQueryData(keys.song(records.song.id), records.song);
      void queries.invalidateQueries({ queryKey: ["song", id, "log"] });
      void queries.invalidateQueries({ queryKey: keys.songs });
      void queries.invalidateQueries({ queryKey: ["calendar"] });
    },
  });
}

export function useRecordsEdits(id: number) {
  const path = { params: { path: { song_id: id } } };
  return {
    mark: useRecordsMutation(id, (body: Schemas["MarkIn"]) =>
      unwrap(client.POST("/api/songs/{song_id}/way", { ...path, body })),
    ),
    ask: useRecordsMutation(id, (body: Schemas["AskingIn"]) =>
      unwrap(client.POST("/api/songs/{song_id}/askings", { ...path, body })),
    ),
    promise: useRecordsMutation(id, ({ asking, promise, seen }: { asking: number; promise: string; seen: string }) =>
      unwrap(
        client.PATCH("/api/askings/{asking_id}", {
          params: { path: { asking_id: asking } },
          body: { promise, seen: { promise: seen } },
        }),
      ),
    ),
    drop: useRecordsMutation(id, (asking: number) =>
      unwrap(client.DELETE("/api/askings/{asking_id}", { params: { path: { asking_id: asking } } })),
    ),
    merge: useRecordsMutation(id, (into: number) =>
      unwrap(client.POST("/api/songs/{song_id}/merge", { ...path, body: { into } })),
    ),
    part: useRecordsMutation(id, (request: number) =>
      unwrap(
        client.POST("/api/songs/{song_id}/part/{request_id}", {
          params: { path: { song_id: id, request_id: request } },
        }),
      ),
    ),
    report: useRecordsMutation(id, (body: Schemas["CorrectionIn"]) =>
      unwrap(client.POST("/api/songs/{song_id}/corrections", { ...path, body })),
    ),
    close: useRecordsMutation(id, ({ correction, ...body }: Schemas["CloseIn"] & { correction: number }) =>
      unwrap(
        client.PATCH("/api/corrections/{correction_id}", {
          params: { path: { correction_id: correction } },
          body,
        }),
      ),
    ),
  };
}

/** Minutes by hand, after which the records are asked again. */
export function useSpendTime(id: number) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["TimeIn"]) =>
      unwrap(client.POST("/api/songs/{song_id}/time", { params: { path: { song_id: id } }, body })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: recordsKey(id) }),
  });
}

export function useNoteRequest() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["RequestIn"]) => unwrap(client.POST("/api/requests", { body })),
    onSuccess: (song) => {
      void askAfter(queries, keys.songs);
      void askAfter(queries, keys.song(song.id));
    },
  });
}

const POST = ["post"] as const;

/** What nobody has dealt with, at most `limit` wishes, reports and others. */
export function usePost(limit: number) {
  return useQuery({
    queryKey: [...POST, limit],
    queryFn: () => unwrap(client.GET("/api/post", { params: { query: { limit } } })),
    placeholderData: keepPreviousData,
  });
}

export function usePostDeeds(limit: number) {
  const queries = useQueryClient();
  const page = { params: { query: { limit } } };
  const keep = (post: Schemas["PostOut"]) => {
    queries.setQueryData([...POST, limit], post);
    void queries.invalidateQueries({ queryKey: keys.songs });
    void queries.invalidateQueries({ queryKey: ["song"] });
  };
  const fetchNew = useMutation({
    mutationFn: () => unwrap(client.POST("/api/post/fetch")),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: POST });
      void queries.invalidateQueries({ queryKey: keys.songs });
    },
  });
  const take = useMutation({
    mutationFn: (body: Schemas["TakeIn"]) => unwrap(client.POST("/api/post/take", { ...page, body })),
    onSuccess: keep,
  });
  const aside = useMutation({
    mutationFn: (comments: number[]) => unwrap(client.POST("/api/post/aside", { ...page, body: { comments } })),
    onSuccess: keep,
  });
  const back = useMutation({
    mutationFn: (comments: number[]) => unwrap(client.POST("/api/post/back", { ...page, body: { comments } })),
    onSuccess: keep,
  });
  const report = useMutation({
    mutationFn: ({ song, ...body }: Schemas["CorrectionIn"] & { song: number }) =>
      unwrap(client.POST("/api/songs/{song_id}/corrections", { params: { path: { song_id: song } }, body })),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: POST });
      void queries.invalidateQueries({ queryKey: keys.songs });
      void queries.invalidateQueries({ queryKey: ["song"] });
    },
  });
  return { fetchNew, take, aside, back, report };
}

const CALENDAR = ["calendar"] as const;

export function useCalendar() {
  const queries = useQueryClient();
  return useQuery({
    queryKey: CALENDAR,
    queryFn: async () => {
      const line = lineOf(queries, "week");
      const calendar = await line.fresh(() => unwrap(client.GET("/api/calendar")));
      line.told = calendar.week;
      return calendar;
    },
  });
}

type Week = Schemas["WeekOut"];
type Calendar = Schemas["CalendarOut"];

/**
 * Change the week. What was changed is in the cache at once, and each change is sent in line with all that was changed before it: two that are
 * made quickly never take each other back.
 */
export function useSetWeek() {
  const queries = useQueryClient();
  const line = lineOf(queries, "week");
  const put = (change: Partial<Week>) =>
    queries.setQueryData<Calendar>(CALENDAR, (now) => now && { ...now, week: { ...now.week, ...change } });
  const send = () =>
    line.add(async () => {
      const week = queries.getQueryData<Calendar>(CALENDAR)?.week;
      if (!week) return;
      const seen = (line.told ?? week) as Week;
      const calendar = await unwrap(client.PUT("/api/calendar/week", { body: { ...week, seen } }));
      line.told = calendar.week;
      queries.setQueryData<Calendar>(CALENDAR, (now) =>
        now && line.waiting > 1 ? { ...calendar, week: now.week } : calendar,
      );
    });
  const set = useMutation({
    networkMode: "always",
    mutationFn: (sent: Promise<void>) => sent,
    onError: () => void queries.invalidateQueries({ queryKey: CALENDAR }),
  });
  return {
    change: (make: (week: Week) => Partial<Week>) => {
      const now = queries.getQueryData<Calendar>(CALENDAR)?.week;
      if (!now) return;
      put(make(now));
      set.mutate(send()); // in line with the drawing: an answer that arrives in between would undo it
    },
    error: set.error,
  };
}
