import { useState } from "react";
import { FileTrigger } from "react-aria-components";
import type { Schemas } from "../../api/client";
import { useAddSong, useChangeSong } from "../../api/songs";
import { Button, ErrorNotice, Field, Line, useDraft } from "../../ui";

/** What is to be taught of the song and by when; and, before there is one, its recording. */
export function Wishes({ records }: { records: Schemas["RecordsOut"] }) {
  const { song } = records;
  const change = useChangeSong(song.id);
  const add = useAddSong();
  const wanted = useDraft(song.wanted, (wanted, seen) => change.mutate({ wanted, seen: { wanted: seen } }));
  const title = useDraft(song.title, (title, seen) => title.trim() && change.mutate({ title, seen: { title: seen } }));
  const [day, setDay] = useState<string | null>(null);
  const promise = (promised_for: string | null) =>
    change.mutate({ promised_for, seen: { promised_for: song.promised_for } });
  return (
    <section>
      <h2>What is wanted</h2>
      {!song.charted && (
        <Field style={{ width: "100%" }}>
          <Line label="title" wide value={title.value} maxLength={200} onChange={title.write} onBlur={title.leave} />
        </Field>
      )}
      <Field style={{ width: "100%" }}>
        <Line
          label="how much of it"
          wide
          value={wanted.value}
          maxLength={300}
          placeholder="verse and refrain, for small hands"
          onChange={wanted.write}
          onBlur={wanted.leave}
        />
      </Field>
      <Field>
        <Line
          type="date"
          label="promised for"
          value={day ?? song.promised_for ?? ""}
          onChange={(written) => {
            // While the year is being typed it is one of long ago; that is no promise yet.
            setDay(written);
            if (written >= "2000") promise(written);
          }}
          onBlur={() => setDay(null)}
        />
        {song.promised_for && (
          <Button $quiet onPress={() => promise(null)}>
            no day
          </Button>
        )}
      </Field>
      {song.recording_id === null && (
        <div style={{ marginTop: "0.5rem", display: "flex", gap: "0.8rem", alignItems: "baseline", flexWrap: "wrap" }}>
          <FileTrigger
            onSelect={(list) => {
              const file = list?.[0];
              if (file) add.mutate({ file, to: song.id });
            }}
          >
            <Button $strong={!song.charted} isDisabled={add.isPending}>
              {add.isPending ? "Taking it in …" : song.charted ? "Add its recording" : "Add a recording or its notes"}
            </Button>
          </FileTrigger>
          <span className="soft">
            {song.charted
              ? "It was read from a file of notes; the piano plays it."
              : "Then Valley can go to work on it."}
          </span>
        </div>
      )}
      {(add.error || change.error) && <ErrorNotice error={add.error ?? change.error} />}
    </section>
  );
}
