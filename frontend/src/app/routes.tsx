import { Link, Navigate, type RouteObject } from "react-router";

/** Pages come when they are gone to; those beside the one that is open are fetched as soon as nothing else is to do. */
const pages = {
  shelf: async () => ({ Component: (await import("../features/shelf")).ShelfView }),
  post: async () => ({ Component: (await import("../features/post")).PostView }),
  calendar: async () => ({ Component: (await import("../features/calendar")).CalendarView }),
  song: async () => ({ Component: (await import("../features/song")).SongWorkspace }),
  survey: async () => ({ Component: (await import("../features/survey")).SurveyView }),
  parts: async () => ({ Component: (await import("../features/parts")).PartsView }),
  valley: async () => ({ Component: (await import("../features/hands")).HandsView }),
  script: async () => ({ Component: (await import("../features/script")).ScriptView }),
  handouts: async () => ({ Component: (await import("../features/handouts")).HandoutsView }),
  records: async () => ({ Component: (await import("./Records")).Records }),
};

/** Fetch every page ahead of its opening. */
export async function fetchPages(): Promise<void> {
  for (const page of Object.values(pages)) await page().catch(() => undefined);
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

/** Nothing is drawn until the first page is there; it is a blink. */
const HydrateFallback = () => null;

export const routes: RouteObject[] = [
  { path: "/", HydrateFallback, lazy: pages.shelf },
  { path: "/post", HydrateFallback, lazy: pages.post },
  { path: "/calendar", HydrateFallback, lazy: pages.calendar },
  {
    path: "/songs/:songId",
    HydrateFallback,
    lazy: pages.song,
    children: [
      { index: true, element: <Navigate to="survey" replace /> },
      { path: "survey", lazy: pages.survey },
      { path: "parts", lazy: pages.parts },
      { path: "valley", lazy: pages.valley },
      { path: "script", lazy: pages.script },
      { path: "hand-outs", lazy: pages.handouts },
      { path: "records", lazy: pages.records },
    ],
  },
  { path: "*", element: <Lost /> },
];
