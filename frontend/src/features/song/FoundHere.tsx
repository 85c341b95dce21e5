import { useEffect, useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useFindings, useLessonEdits } from "../../api/queries";
import { Button, beatsOf, ErrorNotice, KeyCap, useShortcuts, withSigns } from "../../ui";
import { useWorkspace } from "./context";

const QUIET_MS = 1200;
const List = styled.ul`
  list-style: none; margin: 0; padding: 0; display: grid; gap: 0.5rem;
  li { border-left: 4px solid var(--line); padding-left: 0.6rem; line-height: 1.3; } li[data-severity="error"] { border-color: var(--doubt); } li[data-severity="warning"] { border-color: var(--right); }
  button { padding-block: 0.1rem; }
`;

/** Checks of the chart itself; what they find is shown in Survey, the rest where the hands are. */
const OF_THE_CHART = ["label", "arithmetic", "doubts"];

/** Does a finding lie in a stretch of beats, and is it about the chart or about the hands? */
export function isAbout(finding: Schemas["FindingOut"], what: "chart" | "hands", from: number, to: number): boolean {
  if (finding.start === null || finding.step) return false;
  const beat = beatsOf(finding.start);
  const chart = OF_THE_CHART.includes(finding.check) || finding.mend.startsWith("respell");
  return chart === (what === "chart") && beat >= from && beat < to;
}

interface FoundHereProps {
  /** Which findings belong to this margin. */
  belongs: (finding: Schemas["FindingOut"]) => boolean;
}

/**
 * What the checks find at the place in hand, in the margin where it arises; Z mends the first that can be mended. The checks
 * are asked once the hands have been still for a moment, so that they never stand in the way of a correction.
 */
export function FoundHere({ belongs }: FoundHereProps) {
  const { song, chart } = useWorkspace();
  const [revision, setRevision] = useState(chart.revision);
  useEffect(() => {
    const timer = setTimeout(() => setRevision(chart.revision), QUIET_MS);
    return () => clearTimeout(timer);
  }, [chart.revision]);
  const findings = useFindings(song.id, revision);
  const { mend } = useLessonEdits(song.id);
  const here = revision === chart.revision ? (findings.data ?? []).filter(belongs) : [];
  const first = here.find((f) => f.mend);
  useShortcuts({ z: () => first && !mend.isPending && mend.mutate(first.mend) });
  if (here.length === 0 && !mend.error) return null;
  return (
    <List aria-label="Found here">
      {here.map((f) => (
        <li key={`${f.check} ${f.sentence}`} data-severity={f.severity}>
          {withSigns(f.sentence)}
          {f.mend && (
            <div>
              <Button $quiet onPress={() => mend.mutate(f.mend)} isDisabled={mend.isPending}>
                {f === first && <KeyCap>Z</KeyCap>} {withSigns(f.mend_words)}
              </Button>
            </div>
          )}
        </li>
      ))}
      {mend.error && <ErrorNotice error={mend.error} />}
    </List>
  );
}
