import { useState } from "react";
import { ToggleButton } from "react-aria-components";
import type { Schemas } from "../../api/client";
import { useHandouts, useScore } from "../../api/lessons";
import { useChangeSong } from "../../api/songs";
import { Button, ErrorNotice, Paragraphs, useDraft } from "../../ui";
import { Margin, MarginHeading, Page, useWorkspace } from "../song";
import { FIRST_WISH, FilmLook, Films } from "./Films";
import { Files, Sheet } from "./HandoutsView.styles";
import { Links } from "./Links";
import { OneFile } from "./OneFile";
import { PracticeTracks } from "./PracticeTracks";
import { Preview } from "./Preview";
import { Score } from "./Score";

const KINDS = [
  ["read", "To read and print"],
  ["play", "To play"],
  ["show", "To show"],
  ["keep", "To keep"],
] as const;

const FILM = "film";

/** Every hand-out: looked at here, taken along one by one or all in one. */
export function HandoutsView() {
  const { song, part } = useWorkspace();
  const handouts = useHandouts(song.id);
  const [name, setName] = useState("score.musicxml");
  const [whole, setWhole] = useState(true);
  const [wish, setWish] = useState(FIRST_WISH);
  const [watched, setWatched] = useState<Schemas["FilmOut"] | null>(null);
  const drawn = name === "score.musicxml" || name === "score.pdf" || name === "hands.mid";
  const score = useScore(song.id, whole ? null : part.number, 2000, drawn);
  if (handouts.error) return <ErrorNotice error={handouts.error} />;
  if (!handouts.data) return <p aria-busy="true">Laying out the hand-outs …</p>;
  const file = handouts.data.files.find((f) => f.name === name);
  return (
    <Page>
      <Sheet
        aria-label={`${name === FILM ? "Film" : (file?.title ?? "Hand-out")}, to look at`}
        role="region"
        data-stop="handouts"
      >
        {name === FILM && <FilmLook wish={wish} film={watched} />}
        {drawn && (
          <>
            <div data-noprint>
              <Button $quiet onPress={() => setWhole(!whole)}>
                {whole ? `only part ${part.number}` : "the whole song"}
              </Button>
            </div>
            {score.error && <ErrorNotice error={score.error} />}
            {!score.data && !score.error && <p aria-busy="true">Engraving …</p>}
            {score.data && <Score key={whole ? "whole" : part.number} pages={score.data} />}
          </>
        )}
        {!drawn && file && <Preview key={file.name} address={file.address} name={file.name} title={file.title} />}
      </Sheet>
      <Margin aria-label="Files" data-noprint>
        <div>
          <h2>To hand out</h2>
          <MarginHeading as="p">made from chart, hands and script as they are now</MarginHeading>
          <OneFile songId={song.id} files={handouts.data.files} />
        </div>
        {KINDS.map(([kind, title]) => (
          <section key={kind}>
            <MarginHeading>{title}</MarginHeading>
            <Files>
              {handouts.data.files
                .filter((f) => f.kind === kind)
                .map((f) => (
                  <li key={f.name}>
                    <ToggleButton className="look" isSelected={f.name === name} onPress={() => setName(f.name)}>
                      {f.title}
                    </ToggleButton>
                    <a href={f.address} download aria-label={`Download ${f.title}`}>
                      download
                    </a>
                    <span>{f.summary}</span>
                  </li>
                ))}
            </Files>
            {kind === "keep" && (
              <p>
                <a href={`/api/songs/${song.id}/song-file`} download>
                  this song with its history
                </a>
                , to keep, or to read in again on any shelf
              </p>
            )}
            {kind === "play" && <PracticeTracks parts={handouts.data.parts} />}
            {kind === "show" && <Links />}
            {kind === "show" && (
              <Films
                parts={handouts.data.parts}
                wish={wish}
                onWish={(next) => {
                  setWish(next);
                  setName(FILM);
                }}
                onWatch={(film) => {
                  setWatched(film);
                  setName(FILM);
                }}
              />
            )}
          </section>
        ))}
        <p>
          Still pictures of other sizes:{" "}
          {[
            ["720p", "1280 × 720"],
            ["upright", "upright, for phones"],
          ].map(([shape, words]) => (
            <a
              key={shape}
              href={`/api/songs/${song.id}/handouts/stills-${shape}.zip`}
              download
              style={{ marginRight: "0.6rem" }}
            >
              {words}
            </a>
          ))}
        </p>
        {handouts.data.parts.length > 1 && (
          <p>
            Frames of other parts:{" "}
            {handouts.data.parts.slice(1).map((n) => (
              <a
                key={n}
                href={`/api/songs/${song.id}/handouts/frames-${n}.zip`}
                download
                style={{ marginRight: "0.6rem" }}
              >
                {n}
              </a>
            ))}
          </p>
        )}
        <Rights caution={handouts.data.caution} />
      </Margin>
    </Page>
  );
}

/** What permission is held, kept with the song; saved when the field is left. */
function Rights({ caution }: { caution: string }) {
  const { song } = useWorkspace();
  const change = useChangeSong(song.id);
  const draft = useDraft(song.rights, (rights, seen) => change.mutate({ rights, seen: { rights: seen } }));
  return (
    <section>
      <MarginHeading>Rights</MarginHeading>
      <Paragraphs
        label="Permission held for this song"
        rows={3}
        placeholder="permission held, from whom, for what"
        maxLength={1000}
        value={draft.value}
        onChange={draft.write}
        onBlur={draft.leave}
      />
      {change.error && <ErrorNotice error={change.error} />}
      <p style={{ fontSize: "0.95rem" }}>{caution}</p>
    </section>
  );
}
