import { useLesson } from "../../api/lessons";
import { sayMinutes } from "../../ui";
import { useWorkspace } from "../song";

/** How long a part takes to teach, as the lesson has it: its words and what is played. */
export function MinutesOf({ part, long = false }: { part: number; long?: boolean }) {
  const { song } = useWorkspace();
  const lesson = useLesson(song.id);
  const minutes = lesson.data?.part_times.find((t) => t.part === part)?.minutes;
  if (minutes === undefined) return null;
  const said = sayMinutes(60 * minutes);
  return <>{long ? `about ${said} to teach` : said}</>;
}
