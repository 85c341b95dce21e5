import { useEffect, useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useSongEdits } from "../../api/edits";
import { useFindings } from "../../api/lessons";
import { Button, beatsOf, bound, ErrorNotice, KeyCap, useShortcuts, withSigns } from "../../ui";
import { useWorkspace } from "./context";
import { MeanThis } from "./MeanThis";

const QUIET_MS = 1200;
const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.5rem;
  li {
    border-left: 4px solid var(--line);
    padding-left: 0.6rem;
    line-height: 1.3;
  }
  li[data-severity="error"] {
    border-color: var(--doubt);
  }
  li[data-severity="warning"] {
    border-color: var(--right);
  }
  button {
    padding-block: 0.1rem;
  }
`;

/** Does a finding lie in a stretch of beats, and is it about the chart or about the hands? */
export function isAbout(finding: Schemas["FindingOut"], what: "chart" | "hands", from: number, to: number): boolean {
  if (finding.start === null || finding.step) return false;
  const beat = beatsOf(finding.start);
  return finding.about === what && beat >= from && beat < to;
}

interface FoundHereProps {
  /** Which findings belong to this margin. */
  belongs: (finding: Schemas["FindingOut"]) => boolean;
  /** Which page it is: what is drawn there comes with the answer to a mend. */
  show?: "chart" | "hands";
}

/**
 * What the checks find at the place in hand, in the margin where it arises; Z mends the first that can be mended. The checks
 * are asked once the hands have been still for a moment, so that they never stand in the way of a correction.
 */
export function FoundHere({ belongs, show: what = "chart" }: FoundHereProps) {
  const { song, chart } = useWorkspace();
  const [revision, setRevision] = useState(chart.revision);
  useEffect(() => {
    const timer = setTimeout(() => setRevision(chart.revision), QUIET_MS);
    return () => clearTimeout(timer);
  }, [chart.revision]);
  const findings = useFindings(song.id, revision);
  const { edit } = useSongEdits(song.id, what);
  const mend = (finding: Schemas["FindingOut"]) => finding.mend && edit.mutate({ edit: finding.mend.edit });
  const here = revision === chart.revision ? (findings.data ?? []).filter(belongs) : [];
  const first = here.find((f) => f.mend);
  useShortcuts(bound("song", { mend: () => first && !edit.isPending && mend(first) }));
  if (here.length === 0 && !edit.error) return null;
  return (
    <List aria-label="Found here">
      {here.map((f) => (
        <li key={`${f.check} ${f.sentence}`} data-severity={f.severity}>
          {withSigns(f.sentence)}
          <div>
            {f.mend && (
              <Button $quiet onPress={() => mend(f)} isDisabled={edit.isPending}>
                {f === first && <KeyCap>Z</KeyCap>} {withSigns(f.mend.words)}
              </Button>
            )}{" "}
            <MeanThis finding={f} edit={edit} />
          </div>
        </li>
      ))}
      {edit.error && <ErrorNotice error={edit.error} />}
    </List>
  );
}
