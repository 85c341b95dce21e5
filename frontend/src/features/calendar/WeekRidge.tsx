import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { type Point, smoothPath } from "../../ui";

const WIDTH = 640;
const HEIGHT = 92;
const GROUND = 74;
const MOST = 180; // minutes at the top of the drawing
const Frame = styled.section`
  margin-bottom: 1.5rem;
  h2 {
    font-size: 1.25rem;
  }
  svg {
    width: 100%;
    height: auto;
    display: block;
    overflow: visible;
  }
  text {
    font-size: 14px;
    fill: var(--soft);
  }
  text.today {
    fill: var(--ink);
    font-weight: 700;
  }
  li {
    display: grid;
    grid-template-columns: 6.4rem 1fr;
    gap: 0.8rem;
    line-height: 1.35;
  }
  li > span:first-child {
    color: var(--soft);
  }
  .film {
    font-weight: 700;
  }
  .out {
    font-weight: 700;
    color: var(--done);
  }
`;

const short = (iso: string) =>
  new Date(`${iso}T12:00:00`).toLocaleDateString("en-GB", { weekday: "short", day: "numeric" });
const FILMED = 6;
const PUBLISHED = 7;

/** One week as a line of hills: how high is how long one works, the dotted line how long one could; beneath it, what is done. */
export function WeekRidge({ days, now }: { days: Schemas["DayOut"][]; now: boolean }) {
  const first = days[0];
  if (!first) return null;
  const offset = (new Date(`${first.day}T12:00:00`).getDay() + 6) % 7; // days of the first week that are over
  const x = (i: number) => 46 + (i + offset) * 91;
  const y = (minutes: number) => GROUND - (58 * Math.min(minutes, MOST)) / MOST;
  const used = days.map((d) => d.slots.reduce((sum, s) => sum + s.minutes, 0));
  const hills: Point[] = [[x(0) - 40, GROUND]];
  days.forEach((_, i) => {
    hills.push([x(i) - 18, y((used[i] ?? 0) * 0.94)], [x(i) + 18, y(used[i] ?? 0)]);
    hills.push([x(i) + 45, GROUND]);
  });
  const month = new Date(`${first.day}T12:00:00`).toLocaleDateString("en-GB", { day: "numeric", month: "long" });
  const total = used.reduce((a, b) => a + b, 0);
  return (
    <Frame>
      <h2>
        {now ? "This week" : `Week of ${month}`}
        <span style={{ fontWeight: 400, color: "var(--soft)", fontSize: "1rem" }}>
          {" "}
          {total >= 1 ? `${Math.round(total / 6) / 10} hours` : "nothing to do"}
        </span>
      </h2>
      <svg viewBox={`0 0 ${WIDTH + 30} ${HEIGHT}`} aria-hidden="true">
        <path d={`${smoothPath(hills)} Z`} fill="var(--water)" stroke="var(--river)" strokeWidth="1.6" />
        {days.map((d, i) => (
          <g key={d.day}>
            {d.free > 0 && (
              <path
                d={`M${x(i) - 34} ${y(d.free)}h68`}
                stroke="var(--soft)"
                strokeWidth="1.4"
                strokeDasharray="1 5"
                strokeLinecap="round"
              />
            )}
            {d.slots.some((s) => s.stage === FILMED) && (
              <path
                d={`M${x(i)} ${y(used[i] ?? 0) - 22}l-6 15m6 -15l6 15m-6 -15v15m-7 -20h14v6h-14z`}
                fill="none"
                stroke="var(--ink)"
                strokeWidth="1.6"
              />
            )}
            {d.slots.some((s) => s.stage === PUBLISHED && s.done) && (
              <path
                d={`M${x(i) + 22} ${y(used[i] ?? 0) - 4}v-19l13 4l-13 5`}
                fill="var(--done)"
                stroke="var(--done)"
                strokeWidth="1.6"
              />
            )}
            <text x={x(i)} y={GROUND + 16} textAnchor="middle" className={i === 0 && now ? "today" : undefined}>
              {short(d.day)}
              {d.off ? " off" : ""}
            </text>
          </g>
        ))}
      </svg>
      <ul>
        {days
          .filter((d) => d.slots.length)
          .map((d) => (
            <li key={d.day}>
              <span>{short(d.day)}</span>
              <span>
                {[...new Set(d.slots.map((s) => s.song_id))].map((song, i) => {
                  const mine = d.slots.filter((s) => s.song_id === song);
                  return (
                    <span key={song}>
                      {i > 0 && "; "}
                      <Link to={`/songs/${song}/records`}>{mine[0]?.title}</Link>:{" "}
                      {mine.map((s, k) => (
                        <span key={s.stage}>
                          {k > 0 && ", "}
                          <span className={s.stage === FILMED ? "film" : s.stage === PUBLISHED ? "out" : undefined}>
                            {s.deed}
                          </span>{" "}
                          ({s.words}
                          {!s.done && " of it"})
                        </span>
                      ))}
                    </span>
                  );
                })}
              </span>
            </li>
          ))}
      </ul>
    </Frame>
  );
}
