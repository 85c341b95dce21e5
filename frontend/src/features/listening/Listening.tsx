import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useCancelJob } from "../../api/songs";
import { Button, Notice, percent, smoothPath, waver } from "../../ui";

const Box = styled.div`
  display: grid;
  gap: 0.35rem;
  max-width: 40rem;
  ul {
    margin: 0.2rem 0 0;
    padding: 0;
    list-style: none;
    display: flex;
    flex-wrap: wrap;
    gap: 0.1rem 1.1rem;
    color: var(--soft);
  }
  li::before {
    content: "✓ ";
    color: var(--done);
    font-family: "Signs";
  }
  svg {
    display: block;
    width: 100%;
    height: 26px;
  }
  .row {
    display: flex;
    align-items: center;
    gap: 1rem;
  }
`;

const course = smoothPath(Array.from({ length: 41 }, (_, i) => [i * 10, 13 + 7 * waver(i + 3)] as const));

/** How far the listening is: a river that fills from its spring, the stage, and what has been found. */
export function Listening({ song }: { song: Schemas["SongOut"] }) {
  const cancel = useCancelJob(song.id);
  const { job } = song;
  if (!job || job.state === "done") return null;
  if (job.state === "failed") return <Notice bad title="This recording could not be heard." detail={job.error} />;
  if (job.state === "cancelled")
    return <Notice title="Listening was stopped." detail="The recording is kept; start again whenever you like." />;
  const share = Math.max(0.02, job.fraction);
  return (
    <Box>
      <div className="row">
        <span>{job.state === "waiting" ? "In line to be heard" : `${job.stage} …`}</span>
        <span>{job.state === "running" && percent(job.fraction)}</span>
        <Button $quiet onPress={() => cancel.mutate(job.id)} isDisabled={cancel.isPending}>
          Stop
        </Button>
      </div>
      <div
        role="progressbar"
        aria-label={`Listening to ${song.title}`}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(share * 100)}
      >
        <svg viewBox="0 0 400 26" preserveAspectRatio="none" aria-hidden="true">
          <path d={course} fill="none" stroke="var(--line)" strokeWidth="2" vectorEffect="non-scaling-stroke" />
          <path
            d={course}
            fill="none"
            stroke="var(--river)"
            strokeWidth="7"
            strokeLinecap="round"
            pathLength={1}
            strokeDasharray={`${share} 1`}
          />
        </svg>
      </div>
      {job.found.length > 0 && (
        <ul aria-label="Found so far">
          {job.found.map((found) => (
            <li key={found}>{found}</li>
          ))}
        </ul>
      )}
    </Box>
  );
}
