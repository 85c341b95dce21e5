import { useLog } from "../../api/lessons";
import { LogLines } from "../records";
import { MarginHeading, useWorkspace } from "../song";

/** The logbook beside the script, and the bars that slip under the fingers: what to practise before filming. */
export function LogDesk() {
  const { song } = useWorkspace();
  const log = useLog(song.id);
  const slips = new Map<number, number>();
  for (const e of log.data ?? []) if (e.kind === "slip" && e.bar) slips.set(e.bar, (slips.get(e.bar) ?? 0) + e.count);
  const worst = [...slips].sort((a, b) => b[1] - a[1]).slice(0, 5);
  return (
    <LogLines songId={song.id}>
      <MarginHeading as="p">Logbook</MarginHeading>
      <h2>Worth remembering</h2>
      <p style={{ margin: "0.3rem 0 0.6rem" }}>
        {worst.length > 0
          ? `Practise before filming: ${worst.map(([bar, n]) => `bar ${bar} (${n} slip${n > 1 ? "s" : ""})`).join(", ")}.`
          : "Slips in rehearsal are counted here by themselves."}
      </p>
    </LogLines>
  );
}
