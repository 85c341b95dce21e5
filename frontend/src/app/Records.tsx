import { useParams } from "react-router";
import { RecordsSheet } from "../features/records";

/** The records of the song in the address. */
export function Records() {
  return <RecordsSheet songId={Number(useParams().songId)} />;
}
