import { useState } from "react";
import styled from "styled-components";
import { useHandouts, useScore } from "../../api/lessons";
import { useChangeSong } from "../../api/songs";
import { Button, ErrorNotice } from "../../ui";
import { Margin, MarginHeading, Page, useWorkspace } from "../song";

const Sheet = styled.div.attrs({ tabIndex: 0 })`
  max-width: 54rem; padding: 0 1rem 1.5rem 0; display: grid; gap: 1rem;
  .paper { background: #fff; color: #000; border: 1.5px solid var(--line); border-radius: 3px; padding: 0.6rem; }
  .paper svg { display: block; width: 100%; height: auto; }
  iframe { width: 100%; height: 74vh; border: 1.5px solid var(--line); background: #fff; }
  pre { white-space: pre-wrap; font: 1rem/1.5 "Alegreya Sans", "Signs", sans-serif; margin: 0; padding: 0.8rem 1rem; border: 1.5px solid var(--line); background: var(--raised); max-height: 74vh; overflow: auto; }
`;
const Files = styled.ul`
  list-style: none; margin: 0; padding: 0; display: grid; gap: 0.35rem;
  li { display: grid; grid-template-columns: 1fr auto; gap: 0 0.5rem; align-items: baseline; line-height: 1.25; }
  button.look { all: unset; cursor: pointer; font: 700 1.1rem "Alegreya", serif; } button.look[aria-pressed="true"] { text-decoration: underline; text-decoration-thickness: 2px; text-underline-offset: 3px; }
  button.look:focus-visible { outline: 3px solid var(--river); }
  span { grid-column: 1 / 3; color: var(--soft); font-size: 0.95rem; } a { color: var(--soft); }
`;
const KINDS = [
  ["read", "To read and print"],
  ["play", "To play"],
  ["show", "To show"],
  ["keep", "To keep"],
] as const;
const AS_TEXT = /\.(txt|vtt|srt|csv|lab|json|jams)$/;

/** Every hand-out: looked at here, taken along one by one or all in one. */
export function HandoutsView() {
  const { song, part } = useWorkspace();
  const handouts = useHandouts(song.id);
  const [name, setName] = useState("score.musicxml");
  const [whole, setWhole] = useState(true);
  const drawn = name === "score.musicxml" || name === "score.pdf" || name === "hands.mid";
  const score = useScore(song.id, whole ? null : part.number, 2000, drawn);
  if (handouts.error) return <ErrorNotice error={handouts.error} />;
  if (!handouts.data) return <p aria-busy="true">Laying out the hand-outs …</p>;
  const file = handouts.data.files.find((f) => f.name === name);
  return (
    <Page>
      <Sheet aria-label={`${file?.title ?? "Hand-out"}, to look at`} role="region">
        {drawn && (
          <>
            <div data-noprint>
              <Button $quiet onPress={() => setWhole(!whole)}>
                {whole ? `only part ${part.number}` : "the whole song"}
              </Button>
            </div>
            {score.error && <ErrorNotice error={score.error} />}
            {!score.data && !score.error && <p aria-busy="true">Engraving …</p>}
            {score.data?.map((svg, i) => (
              <div
                key={i}
                className="paper"
                role="img"
                aria-label={`Sheet music, page ${i + 1}`}
                ref={(paper) => {
                  // Parsed as a picture, so that nothing in it can run.
                  const drawing = new DOMParser().parseFromString(svg, "image/svg+xml").documentElement;
                  paper?.replaceChildren(paper.ownerDocument.importNode(drawing, true));
                }}
              />
            ))}
          </>
        )}
        {!drawn && file && <Preview key={file.name} address={file.address} name={file.name} />}
      </Sheet>
      <Margin aria-label="Files" data-noprint>
        <div>
          <h2>Take along</h2>
          <MarginHeading as="p">made from chart, hands and script as they are now</MarginHeading>
          <a href={`/api/songs/${song.id}/handouts/all.zip`} download>
            everything in one file
          </a>
        </div>
        {KINDS.map(([kind, title]) => (
          <section key={kind}>
            <MarginHeading>{title}</MarginHeading>
            <Files>
              {handouts.data.files
                .filter((f) => f.kind === kind)
                .map((f) => (
                  <li key={f.name}>
                    <button
                      type="button"
                      className="look"
                      aria-pressed={f.name === name}
                      onClick={() => setName(f.name)}
                    >
                      {f.title}
                    </button>
                    <a href={f.address} download aria-label={`Take ${f.title}`}>
                      take
                    </a>
                    <span>{f.summary}</span>
                  </li>
                ))}
            </Files>
          </section>
        ))}
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

const Note = styled.textarea`
  font: inherit; color: var(--ink); background: var(--raised); border: 1.3px solid var(--soft); border-radius: 4px; padding: 0.3rem 0.5rem; width: 100%; min-height: 3.6rem; resize: vertical;
`;

/** What permission is held, kept with the song; saved when the field is left. */
function Rights({ caution }: { caution: string }) {
  const { song } = useWorkspace();
  const change = useChangeSong(song.id);
  const [draft, setDraft] = useState<string | null>(null);
  return (
    <section>
      <MarginHeading>Rights</MarginHeading>
      <Note
        aria-label="Permission held for this song"
        placeholder="permission held, from whom, for what"
        maxLength={1000}
        value={draft ?? song.rights}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={() => {
          if (draft !== null && draft.trim() !== song.rights) change.mutate({ rights: draft });
        }}
      />
      <p style={{ fontSize: "0.95rem" }}>{caution}</p>
    </section>
  );
}

function Preview({ address, name }: { address: string; name: string }) {
  const [text, setText] = useState<string | null>(null);
  const [failed, setFailed] = useState("");
  if (AS_TEXT.test(name)) {
    if (text === null && !failed) {
      void fetch(`${address}?look=true`)
        .then(async (r) =>
          r.ok
            ? setText((await r.text()).slice(0, 60_000))
            : setFailed((await r.json()).title ?? "It cannot be made now."),
        )
        .catch(() => setFailed("The server does not answer; is Valley still running?"));
    }
    if (failed) return <p role="alert">{failed}</p>;
    return text === null ? <p aria-busy="true">Opening …</p> : <pre>{text}</pre>;
  }
  if (name.endsWith(".pdf")) return <iframe title="Lesson sheet" src={`${address}?look=true`} />;
  return (
    <>
      <p>A folder of pictures, packed; the grip pictures look like this:</p>
      <GripPictures />
    </>
  );
}

function GripPictures() {
  const { song, chart, part } = useWorkspace();
  const inside = chart.chords.filter(
    (c) => c.start_beats >= part.start_beats && c.start_beats < part.end_beats && c.notes.length,
  );
  return (
    <div style={{ display: "grid", gridTemplateColumns: "repeat(auto-fill, minmax(20rem, 1fr))", gap: "1rem" }}>
      {inside.slice(0, 8).map((c) => (
        <img
          key={c.start}
          alt={`Keys of ${c.symbol}`}
          style={{ width: "100%" }}
          src={`/api/songs/${song.id}/hands/picture.svg?start=${encodeURIComponent(c.start)}`}
        />
      ))}
    </div>
  );
}
