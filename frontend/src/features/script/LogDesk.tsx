import { useLog } from "../../api/lessons";
import { LogLines } from "../records";
import { MarginHeading, useWorkspace } from "../song";

/** The logbook beside the script, and the bars that slip under the fingers: what to practise before filming. */
export function LogDesk() {
  const { song } = useWorkspace();
  const log = useLog(song.id);
  const worst = log.data?.slips ?? [];
  return (
    <LogLines songId={song.id}>
      <MarginHeading as="p">Logbook</MarginHeading>
      <h2>Worth remembering</h2>
      <p style={{ margin: "0.3rem 0 0.6rem" }}>
        {worst.length > 0
          ? `Practise before filming: ${worst.map((s) => `bar ${s.bar} (${s.times} slip${s.times > 1 ? "s" : ""})`).join(", ")}.`
          : "Slips in rehearsal are counted here by themselves."}
      </p>
    </LogLines>
  );
}
