import { useState } from "react";
import { FileTrigger } from "react-aria-components";
import { usePerformance } from "../../api/hands";
import { useSession } from "../../api/songs";
import { Button, ErrorNotice, percent, withSigns } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";

const SHOWN = 12;

/** A performance from a MIDI keyboard: what was struck otherwise, bar by bar; or its grips taken as they were played. */
export function PerformanceDesk() {
  const { song } = useWorkspace();
  const session = useSession();
  const performance = usePerformance(song.id);
  const [file, setFile] = useState<File | null>(null);
  const held = performance.data;
  return (
    <section>
      <MarginHeading>Your own playing</MarginHeading>
      <FileTrigger
        acceptedFileTypes={session.data?.score_endings ?? []}
        onSelect={(list) => {
          const chosen = list?.[0];
          if (!chosen) return;
          setFile(chosen);
          performance.mutate({ file: chosen, take: false });
        }}
      >
        <Button isDisabled={performance.isPending}>
          {performance.isPending ? "Comparing …" : "Compare a MIDI file"}
        </Button>
      </FileTrigger>
      {performance.error && <ErrorNotice error={performance.error} />}
      {held && (
        <div role="status" style={{ marginTop: "0.5rem", display: "grid", gap: "0.4rem" }}>
          <p>
            {file?.name}: {percent(held.found)} of {held.notes} notes were struck.
            {held.faults.length === 0 && " Nothing was otherwise."}
          </p>
          {held.faults.length > 0 && (
            <ul style={{ margin: 0, paddingLeft: "1.1rem" }} aria-label="Bars that went otherwise">
              {held.faults.slice(0, SHOWN).map((f) => (
                <li key={f.bar}>
                  bar {f.bar}: {withSigns(f.words)}
                </li>
              ))}
              {held.faults.length > SHOWN && <li>and {held.faults.length - SHOWN} bars more</li>}
            </ul>
          )}
          {held.taken ? (
            <p>{held.grips} grips are now as you played them. Undo brings the others back.</p>
          ) : (
            held.grips > 0 &&
            file && (
              <Button onPress={() => performance.mutate({ file, take: true })} isDisabled={performance.isPending}>
                Take {held.grips} grips as played
              </Button>
            )
          )}
        </div>
      )}
    </section>
  );
}
