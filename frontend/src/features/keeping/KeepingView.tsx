import { useEffect } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useBackups, useHealth, useKeepCopy } from "../../api/keeping";
import { Button, ErrorNotice, type KeyList, Notice, TopBar } from "../../ui";

import { People } from "./People";

const Frame = styled.main`
  max-width: 74rem;
  margin: 0 auto;
  padding: 2rem 2rem 4rem;
  display: grid;
  gap: 1.2rem;
  > .cols {
    display: grid;
    grid-template-columns: minmax(0, 1.35fr) minmax(0, 1fr);
    gap: 2.4rem;
    align-items: start;
  }
  h2 {
    font-size: 1.5rem;
    margin-bottom: 0.3rem;
  }
  .soft {
    color: var(--soft);
  }
  ol {
    list-style: none;
    margin: 0.8rem 0;
    padding: 0;
  }
  ol > li {
    padding: 0.5rem 0;
    border-top: 1px solid var(--line);
    overflow-wrap: anywhere;
  }
  dl {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 0.25rem 1.2rem;
    margin: 0.4rem 0 1rem;
  }
  dd {
    margin: 0;
  }
  section {
    margin-bottom: 1.4rem;
  }
  code {
    font-family: "Alegreya Sans", sans-serif;
    font-weight: 700;
  }
  @media (max-width: 900px) {
    > .cols {
      grid-template-columns: 1fr;
    }
  }
`;

const KEYS: KeyList = [["Keeping", ["help"]]];

/** Copies of everything, and how Valley stands: for whoever looks after it. */
export function KeepingView() {
  const health = useHealth();
  useEffect(() => {
    document.title = "Keeping · Valley";
  }, []);
  return (
    <Frame>
      <TopBar title="Keeping" words="Copies of your work, and how Valley stands." keys={KEYS} />
      {health.error && <ErrorNotice error={health.error} />}
      {health.data?.troubles.map((trouble) => (
        <Notice key={trouble} bad title={trouble} />
      ))}
      <div className="cols">
        <Copies />
        <div>
          {health.data ? <Standing health={health.data} /> : <p aria-busy="true">Looking around …</p>}
          <People />
        </div>
      </div>
    </Frame>
  );
}

function Copies() {
  const backups = useBackups();
  const keep = useKeepCopy();
  return (
    <section aria-label="Copies">
      <h2>Copies</h2>
      <p>
        A copy holds all songs with their history, the recordings, and the records. You can go on working while it is
        made. Bring one to another disk now and then: a copy beside the work goes down with it.
      </p>
      <p>
        <Button $strong onPress={() => keep.mutate()} isDisabled={keep.isPending}>
          {keep.isPending ? "Copying …" : "Keep a copy of everything"}
        </Button>
      </p>
      {keep.error && <ErrorNotice error={keep.error} />}
      {backups.error && <ErrorNotice error={backups.error} />}
      {backups.data?.length === 0 && <p className="soft">There is no copy yet.</p>}
      <ol aria-label="Copies that are there">
        {backups.data?.map((copy) => (
          <li key={copy.name}>
            <b>{new Date(copy.made).toLocaleString()}</b>: {count(copy.songs, "song")}, {size(copy.size)}
            {copy.missing > 0 && `; ${count(copy.missing, "recording")} could not be copied`}
            <br />
            <span className="soft">{copy.place}</span>
          </li>
        ))}
      </ol>
      <h2>Back to a copy</h2>
      <p>
        Stop Valley, then run <code>valley restore</code> with the copy’s folder. What is there now is kept beside it
        under another name. One song alone goes into a file with its history from its Hand-outs; drop that file on the
        shelf to read it in again, here or in another Valley.
      </p>
    </section>
  );
}

function Standing({ health }: { health: Schemas["HealthOut"] }) {
  return (
    <section aria-label="How Valley stands">
      <h2>How Valley stands</h2>
      <dl>
        <dt>on the shelf</dt>
        <dd>
          {count(health.songs, "song")}
          {health.deleted > 0 && `, ${health.deleted} taken off it (cleared away after 30 days)`}
        </dd>
        <dt>in line</dt>
        <dd>
          {health.running} at work, {health.waiting} waiting, {health.failed} failed
        </dd>
        <dt>last copy</dt>
        <dd>{health.last_backup ? new Date(health.last_backup).toLocaleString() : "none yet"}</dd>
      </dl>
      <h2>Room</h2>
      <dl>
        <dt>free on the disk</dt>
        <dd>{size(health.disk_free)}</dd>
        <dt>songs and records</dt>
        <dd>{size(health.database)}</dd>
        <dt>recordings</dt>
        <dd>{size(health.recordings)}</dd>
        <dt>films</dt>
        <dd>{size(health.films)}</dd>
        <dt>copies</dt>
        <dd>{size(health.backups)}</dd>
        <dt>memory in use</dt>
        <dd>{size(health.memory)}</dd>
      </dl>
      <p className="soft">
        {Object.entries(health.versions)
          .map(([name, number]) => `${name} ${number}`)
          .join(" · ")}
      </p>
    </section>
  );
}

const count = (n: number, word: string) => `${n} ${word}${n === 1 ? "" : "s"}`;
const size = (bytes: number) =>
  bytes >= 2 ** 30
    ? `${(bytes / 2 ** 30).toFixed(1)} GB`
    : bytes >= 2 ** 20
      ? `${Math.round(bytes / 2 ** 20)} MB`
      : `${Math.ceil(bytes / 1024)} kB`;
