import { useQueryClient } from "@tanstack/react-query";
import { Button as AriaButton } from "react-aria-components";
import { Link, NavLink, useNavigate } from "react-router";
import styled from "styled-components";
import { ProblemError } from "../../api/client";
import { songLine, useSongEdits } from "../../api/edits";
import { useChangeSong } from "../../api/songs";
import { Button, bound, ErrorNotice, Line, useDraft, useShortcuts, withSigns } from "../../ui";
import { useWorkspace } from "./context";

const Bar = styled.header`
  display: flex;
  align-items: flex-start;
  gap: 2rem;
  justify-content: space-between;
  h1 {
    font-size: 2rem;
  }
  @media (max-width: 900px) {
    flex-direction: column;
    gap: 0.3rem;
    > * {
      flex: none !important;
    }
    h1 {
      font-size: 1.4rem;
    }
  }
  @media (max-height: 560px) {
    flex-flow: row wrap;
    gap: 0 1.4rem;
    align-items: baseline;
    > * {
      flex: 0 1 auto !important;
      min-width: 0;
    }
    > :last-child {
      display: flex;
      flex-wrap: wrap;
      gap: 0 1.4rem;
      align-items: baseline;
    }
    h1 {
      font-size: 1.15rem;
    }
    p {
      display: none;
    }
    span[role="status"] {
      max-width: 9rem;
      overflow: hidden;
      white-space: nowrap;
      text-overflow: ellipsis;
    }
  }
  h1 button {
    all: unset;
    cursor: text;
    border-radius: 3px;
  }
  h1 button:focus-visible {
    outline: 3px solid var(--river);
  }
  input {
    font: 700 2rem "Alegreya", serif;
    color: var(--ink);
    background: var(--raised);
    border: 0;
    border-bottom: 2px solid var(--ink);
    width: 100%;
  }
  p {
    color: var(--soft);
  }
`;
const Views = styled.div`
  display: flex;
  gap: 1.5rem;
  padding-top: 0.35rem;
  align-items: flex-start;
  flex-wrap: wrap;
  > a {
    text-decoration: none;
    color: var(--soft);
    font-size: 1.15rem;
    padding-bottom: 0.55rem;
    position: relative;
  }
  @media (max-height: 560px) {
    gap: 0 1rem;
    padding-top: 0;
    > a {
      font-size: 1rem;
      padding-bottom: 0.35rem;
    }
  }
  > a[aria-current="page"] {
    color: var(--ink);
    font-weight: 700;
  }
  > a[aria-current="page"]::after {
    content: "";
    position: absolute;
    inset: auto -4px 0 -4px;
    height: 8px;
    background: var(--ink);
    mask: url("data:image/svg+xml,%3Csvg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 60 8' preserveAspectRatio='none'%3E%3Cpath d='M1 5c10-4 20 3 30 0s18-3 28-1' fill='none' stroke='%23000' stroke-width='2'/%3E%3C/svg%3E") center / 100% 100%;
  }
`;

const VIEWS = [
  ["survey", "Survey"],
  ["parts", "Parts"],
  ["valley", "Valley"],
  ["script", "Script"],
  ["hand-outs", "Hand-outs"],
  ["records", "Records"],
] as const;

function Title() {
  const { song } = useWorkspace();
  const change = useChangeSong(song.id);
  const draft = useDraft(song.title, (title, seen) => title.trim() && change.mutate({ title, seen: { title: seen } }));
  return (
    <div style={{ flex: "1 1 20rem", minWidth: 0 }}>
      {!draft.open ? (
        <h1>
          <AriaButton onPress={() => draft.write(song.title)}>{song.title}</AriaButton>
        </h1>
      ) : (
        <Line
          label="Title of the song"
          hidden
          autoFocus
          value={draft.value}
          maxLength={200}
          onChange={draft.write}
          onBlur={draft.leave}
          onEnter={draft.leave}
          onEscape={draft.drop}
        />
      )}
      <Headline />
      {change.error && <ErrorNotice error={change.error} />}
    </div>
  );
}

function Headline() {
  const { chart, song } = useWorkspace();
  return (
    <p>
      {withSigns(chart.headline)}
      {song.warning && ` · ${song.warning}`}
    </p>
  );
}

/** Title and facts at the left; the views, and undo, at the right. */
export function SongHeader() {
  const { song, chart, part, select, selectPart } = useWorkspace();
  const { undo, redo } = useSongEdits(song.id);
  const refused = undo.error ?? redo.error;
  const line = songLine(useQueryClient(), song.id);
  // In line like every change: pressed three times quickly, three steps are taken back. Whether there is one more, the server knows;
  // forward there is something only after a step back, which may still be on its way.
  const goTo = useNavigate();
  const view = (path: string) => () => goTo(`/songs/${song.id}/${path}`);
  const partBy = (by: number) => {
    const next = chart.parts.find((p) => p.number === part.number + by);
    const first = next && chart.chords.find((c) => c.start_beats + c.duration_beats > next.start_beats);
    if (first) select(first.start);
    if (next) selectPart(next.number);
  };
  useShortcuts(
    bound("song", {
      undo: () => undo.mutate(),
      redo: () => (chart.can_redo || line.waiting > 0) && redo.mutate(),
      survey: view("survey"),
      parts: view("parts"),
      valley: view("valley"),
      script: view("script"),
      handouts: view("hand-outs"),
      records: view("records"),
      shelf: () => goTo("/"),
      partBefore: () => partBy(-1),
      partAfter: () => partBy(1),
    }),
  );
  return (
    <Bar>
      <Title />
      <div>
        <Views as="nav" aria-label="Views of this song">
          <Link to="/">Shelf</Link>
          {VIEWS.map(([path, name]) => (
            <NavLink key={path} to={`/songs/${song.id}/${path}`}>
              {name}
            </NavLink>
          ))}
        </Views>
        <div style={{ display: "flex", gap: "0.6rem", alignItems: "baseline" }} data-noprint>
          <Button $quiet isDisabled={!chart.can_undo} onPress={() => undo.mutate()}>
            Undo
          </Button>
          <Button $quiet isDisabled={!chart.can_redo} onPress={() => redo.mutate()}>
            Redo
          </Button>
          <span style={{ color: "var(--soft)", fontSize: "0.95rem" }} role="status">
            {withSigns(chart.last_change)}
          </span>
          {refused instanceof ProblemError && (
            <span role="alert" style={{ fontSize: "0.95rem", maxWidth: "26rem" }}>
              {refused.problem.title} {withSigns(refused.problem.detail)}
            </span>
          )}
        </div>
      </div>
    </Bar>
  );
}
