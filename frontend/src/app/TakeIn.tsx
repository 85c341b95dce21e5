import { useEffect, useState } from "react";
import { Link, Outlet, useLocation, useNavigate } from "react-router";
import styled from "styled-components";
import { ProblemError } from "../api/client";
import { useAddSong } from "../api/songs";
import { Walk } from "../features/walk";
import { Button, ErrorNotice, KeyCap, Notice, useShortcuts } from "../ui";

const Corner = styled.div`
  position: fixed;
  left: 50%;
  bottom: 5.5rem;
  transform: translateX(-50%);
  z-index: 40;
  max-width: min(44rem, 94vw);
  box-shadow: 0 2px 14px rgb(0 0 0 / 30%);
`;
const FIELDS = "input, textarea, select, [contenteditable=true]";

/** A text that may be a chart: several lines, or bars. One word that was copied for something else is left alone. */
export function isChartLike(text: string): boolean {
  const lines = text
    .trim()
    .split("\n")
    .filter((line) => line.trim());
  return text.length < 200_000 && (lines.length > 1 || /\|/.test(text) || text.trim().split(/[\s,–-]+/).length > 3);
}

/** What the first line of a chart calls it, as the name of a file. */
export function nameOf(text: string): string {
  const first = (text.trim().split("\n")[0] ?? "").replace(/[^\p{L}\p{N} '’&-]/gu, " ").trim();
  return `${/\p{L}{3}/u.test(first) && first.length < 60 ? first.replace(/\s+/g, " ") : "Pasted chart"}.txt`;
}

/** Every page takes in what is dropped on it, and a chart that is pasted where nothing is typed: a new song on the shelf. */
export function TakeIn() {
  const add = useAddSong();
  const [taken, setTaken] = useState<{ id: number; name: string } | null>(null);
  const { pathname } = useLocation();
  const { mutateAsync } = add;
  useEffect(() => {
    const take = async (files: File[]) => {
      for (const file of files) {
        const song = await mutateAsync({ file }).catch(() => null);
        if (song) setTaken({ id: song.id, name: file.name.replace(/\.\w+$/, "") });
      }
    };
    const over = (event: DragEvent) => {
      if (event.dataTransfer?.types.includes("Files")) event.preventDefault(); // else the browser leaves Valley for the file
    };
    const drop = (event: DragEvent) => {
      const files = [...(event.dataTransfer?.files ?? [])];
      if (files.length === 0) return;
      event.preventDefault();
      void take(files);
    };
    const paste = (event: ClipboardEvent) => {
      if (event.target instanceof Element && event.target.closest(FIELDS)) return;
      const files = [...(event.clipboardData?.files ?? [])];
      const text = event.clipboardData?.getData("text/plain") ?? "";
      if (files.length === 0 && !isChartLike(text)) return;
      event.preventDefault();
      void take(files.length > 0 ? files : [new File([text], nameOf(text), { type: "text/plain" })]);
    };
    window.addEventListener("dragover", over);
    window.addEventListener("drop", drop);
    window.addEventListener("paste", paste);
    return () => {
      window.removeEventListener("dragover", over);
      window.removeEventListener("drop", drop);
      window.removeEventListener("paste", paste);
    };
  }, [mutateAsync]);
  const navigate = useNavigate();
  const open = () => {
    if (!taken) return;
    setTaken(null);
    void navigate(`/songs/${taken.id}`);
  };
  useShortcuts(taken ? { enter: open } : {});
  const problem = add.error instanceof ProblemError ? add.error.problem : null;
  const here = taken !== null && pathname.startsWith(`/songs/${taken.id}/`);
  return (
    <>
      <Outlet />
      <Walk />
      {add.isPending && (
        <Corner>
          <Notice title={`Taking in ${add.variables.file.name} …`} />
        </Corner>
      )}
      {add.error && (
        <Corner>
          <ErrorNotice error={add.error}>
            {problem?.kind === "twin" && <Link to={`/songs/${problem.data?.song}`}>Open that song</Link>}
            <Button $quiet onPress={() => add.reset()}>
              Good
            </Button>
          </ErrorNotice>
        </Corner>
      )}
      {taken && !here && !add.isPending && !add.error && (
        <Corner>
          <Notice title={`“${taken.name}” was taken in and stands on the shelf.`}>
            <KeyCap>Enter</KeyCap>
            <Link to={`/songs/${taken.id}`} onClick={() => setTaken(null)}>
              Open it
            </Link>
            <Button $quiet onPress={() => setTaken(null)}>
              Good
            </Button>
          </Notice>
        </Corner>
      )}
    </>
  );
}
