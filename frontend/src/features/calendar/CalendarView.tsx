import { useEffect } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useCalendar } from "../../api/records";
import { Button, ErrorNotice, type KeyList, TopBar } from "../../ui";
import { Hours } from "./Hours";
import { WeekRidge } from "./WeekRidge";

const Frame = styled.main`
  max-width: 74rem;
  margin: 0 auto;
  padding: 2rem 2rem 4rem;
  display: grid;
  gap: 1.2rem;
  > .cols {
    display: grid;
    grid-template-columns: minmax(0, 1.7fr) minmax(17rem, 1fr);
    gap: 2.4rem;
    align-items: start;
  }
  h2 {
    font-size: 1.5rem;
    margin-bottom: 0.3rem;
  }
  .soft {
    color: var(--soft);
  }
  ol, ul {
    list-style: none;
    margin: 0;
    padding: 0;
  }
  @media (max-width: 900px) {
    > .cols {
      grid-template-columns: 1fr;
    }
  }
`;
const Songs = styled.ol`
  margin-bottom: 1.6rem !important;
  li {
    border-top: 1.5px solid var(--line);
    padding: 0.4rem 0;
    line-height: 1.3;
  }
  li a {
    font: 700 1.15rem "Alegreya", serif;
  }
  .late {
    color: var(--doubt);
    font-weight: 700;
  }
`;

const onDay = (iso: string) =>
  new Date(`${iso}T12:00:00`).toLocaleDateString("en-GB", { weekday: "long", day: "numeric", month: "long" });

const KEYS: KeyList = [["In the calendar", ["help"]]];

/** Whole weeks of the plan, Monday first. */
export function weeksOf(days: Schemas["DayOut"][]): Schemas["DayOut"][][] {
  const weeks: Schemas["DayOut"][][] = [];
  for (const day of days) {
    const monday = new Date(`${day.day}T12:00:00`).getDay() === 1;
    if (monday || weeks.length === 0) weeks.push([]);
    weeks.at(-1)?.push(day);
  }
  return weeks;
}

/** What to work on when: the songs in hand laid over the hours there are; when each will be out. */
export function CalendarView() {
  const calendar = useCalendar();
  useEffect(() => {
    document.title = "Calendar · Valley";
  }, []);
  const data = calendar.data;
  return (
    <Frame>
      <TopBar title="Calendar" words="What is filmed and published when, worked out from your hours." keys={KEYS} />
      {calendar.error && (
        <ErrorNotice error={calendar.error}>
          <Button onPress={() => void calendar.refetch()}>Try again</Button>
        </ErrorNotice>
      )}
      {!data && !calendar.error && <p aria-busy="true">Laying out the weeks …</p>}
      {data && (
        <div className="cols">
          <section aria-label="The weeks ahead">
            {data.songs.length === 0 ? (
              <p>
                No song is chosen yet. Choose one on the <Link to="/">shelf</Link>, and its work is laid out here.
              </p>
            ) : (
              weeksOf(data.days).map((week, i) => <WeekRidge key={week[0]?.day} days={week} now={i === 0} />)
            )}
          </section>
          <aside>
            <h2>Out when</h2>
            <Songs>
              {data.songs.map((s) => (
                <li key={s.song_id}>
                  <Link to={`/songs/${s.song_id}/records`}>{s.title}</Link>
                  <br />
                  {s.out_on ? onDay(s.out_on) : "beyond what is laid out here"}
                  <span className="soft"> · {s.time_left} to go</span>
                  {s.late_days > 0 && s.promised_for && (
                    <p className="late">
                      {s.late_days} day{s.late_days > 1 ? "s" : ""} after the promised {onDay(s.promised_for)}
                    </p>
                  )}
                </li>
              ))}
            </Songs>
            <Hours week={data.week} />
            <p className="soft" style={{ marginTop: "1rem" }}>
              Promises come first where they can be kept; then the song that most viewers wait for per hour of work.
              Songs that are only asked for have no place here until you choose them.
            </p>
            <p style={{ marginTop: "0.5rem" }}>
              <a href="/api/calendar.ics" download>
                Take it along as a calendar file
              </a>
            </p>
          </aside>
        </div>
      )}
    </Frame>
  );
}
