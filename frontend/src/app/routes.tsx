import { type ComponentType, lazy, Suspense, useState } from "react";
import { Link, Navigate, type RouteObject } from "react-router";
import { TakeIn } from "./TakeIn";

/** A page that comes when it is gone to; ``loaded`` once it was fetched. */
interface Paged {
  loaded?: ComponentType;
  Later: ComponentType;
  fetch: () => Promise<ComponentType>;
}

function page(load: () => Promise<ComponentType>): Paged {
  const fetch = async () => {
    paged.loaded = await load();
    return paged.loaded;
  };
  const paged: Paged = { fetch, Later: lazy(async () => ({ default: await fetch() })) };
  return paged;
}

/** One that was fetched before is drawn at once, so that no key that is pressed meanwhile is lost. */
function Opened({ page }: { page: Paged }) {
  const [Page] = useState<ComponentType>(() => page.loaded ?? page.Later);
  return (
    <Suspense>
      <Page />
    </Suspense>
  );
}

let count = 0;
/** Each page is an element of its own: one is never taken for another that stood in the same place. */
const opened = (page: Paged) => <Opened key={`page-${++count}`} page={page} />;

const pages = {
  shelf: page(async () => (await import("../features/shelf")).ShelfView),
  post: page(async () => (await import("../features/post")).PostView),
  calendar: page(async () => (await import("../features/calendar")).CalendarView),
  keeping: page(async () => (await import("../features/keeping")).KeepingView),
  song: page(async () => (await import("../features/song")).SongWorkspace),
  survey: page(async () => (await import("../features/survey")).SurveyView),
  parts: page(async () => (await import("../features/parts")).PartsView),
  valley: page(async () => (await import("../features/hands")).HandsView),
  script: page(async () => (await import("../features/script")).ScriptView),
  handouts: page(async () => (await import("../features/handouts")).HandoutsView),
  records: page(async () => (await import("./Records")).Records),
};

/** Fetch the pages ahead of their opening. */
export async function fetchPages(): Promise<void> {
  await Promise.allSettled(Object.values(pages).map((p) => p.fetch()));
}

/** The pages of an address, before anything is drawn. */
export async function fetchPagesOf(path: string): Promise<void> {
  const [first, , view = "survey"] = path.split("/").filter(Boolean);
  const name = view === "hand-outs" ? "handouts" : view;
  const wanted =
    first === "songs"
      ? [pages.song, pages[name as keyof typeof pages]]
      : [pages[(first ?? "shelf") as keyof typeof pages]];
  await Promise.allSettled(wanted.map((p) => p?.fetch()));
}

function Lost() {
  return (
    <main style={{ maxWidth: "36rem", margin: "18vh auto", padding: "0 2rem" }}>
      <h1>There is no page here.</h1>
      <p>
        The address may be mistyped, or the song was taken off the shelf. <Link to="/">Back to the shelf</Link>
      </p>
    </main>
  );
}

export const routes: RouteObject[] = [
  {
    element: <TakeIn />,
    children: [
      { path: "/", element: opened(pages.shelf) },
      { path: "/post", element: opened(pages.post) },
      { path: "/calendar", element: opened(pages.calendar) },
      { path: "/keeping", element: opened(pages.keeping) },
      {
        path: "/songs/:songId",
        element: opened(pages.song),
        children: [
          { index: true, element: <Navigate to="survey" replace /> },
          { path: "survey", element: opened(pages.survey) },
          { path: "parts", element: opened(pages.parts) },
          { path: "valley", element: opened(pages.valley) },
          { path: "script", element: opened(pages.script) },
          { path: "hand-outs", element: opened(pages.handouts) },
          { path: "records", element: opened(pages.records) },
        ],
      },
      { path: "*", element: <Lost /> },
    ],
  },
];
