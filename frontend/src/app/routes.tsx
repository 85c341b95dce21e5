import { Link, Navigate, type RouteObject, useParams } from "react-router";
import { CalendarView } from "../features/calendar";
import { HandoutsView } from "../features/handouts";
import { HandsView } from "../features/hands";
import { PartsView } from "../features/parts";
import { PostView } from "../features/post";
import { RecordsSheet } from "../features/records";
import { ScriptView } from "../features/script";
import { ShelfView } from "../features/shelf";
import { SongWorkspace } from "../features/song";
import { SurveyView } from "../features/survey";

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

/** The records of the song in the address. */
function Records() {
  return <RecordsSheet songId={Number(useParams().songId)} />;
}

export const routes: RouteObject[] = [
  { path: "/", element: <ShelfView /> },
  { path: "/post", element: <PostView /> },
  { path: "/calendar", element: <CalendarView /> },
  {
    path: "/songs/:songId",
    element: <SongWorkspace />,
    children: [
      { index: true, element: <Navigate to="survey" replace /> },
      { path: "survey", element: <SurveyView /> },
      { path: "parts", element: <PartsView /> },
      { path: "valley", element: <HandsView /> },
      { path: "script", element: <ScriptView /> },
      { path: "hand-outs", element: <HandoutsView /> },
      { path: "records", element: <Records /> },
    ],
  },
  { path: "*", element: <Lost /> },
];
