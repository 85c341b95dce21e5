import { useState } from "react";
import { ToggleButton } from "react-aria-components";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useRecordsEdits, useSpendTime } from "../../api/records";
import { Button, Choice, ErrorNotice, Line, smoothPath, waver } from "../../ui";

const ROW = 62;
const Frame = styled.section`
  position: relative;
  padding-left: 0.5rem;
  > svg {
    position: absolute;
    left: 0.5rem;
    top: 2.4rem;
    pointer-events: none;
  }
  ol {
    position: relative;
  }
  li {
    height: ${ROW}px;
    display: grid;
    grid-template-columns: 3.2rem 1fr auto;
    align-items: start;
    gap: 0 0.6rem;
  }
  li > button.mark {
    all: unset;
    cursor: pointer;
    box-sizing: border-box;
    width: 1.9rem;
    height: 1.9rem;
    border-radius: 50%;
    border: 1.8px solid var(--ink);
    background: var(--ground);
    position: relative;
  }
  li > button.mark[aria-pressed="true"] {
    background: var(--ink);
    forced-color-adjust: none;
  }
  li > button.mark:focus-visible {
    outline: 3px solid var(--river);
    outline-offset: 2px;
  }
  li strong {
    font: 700 1.2rem "Alegreya", serif;
    display: block;
    line-height: 1.1;
  }
  li small {
    font-size: 0.95rem;
    color: var(--soft);
    line-height: 1.2;
    display: block;
  }
  li .took {
    color: var(--soft);
    font-size: 0.95rem;
    text-align: right;
    white-space: nowrap;
  }
`;
const Spent = styled.form`
  display: flex;
  gap: 0.5rem;
  align-items: baseline;
  flex-wrap: wrap;
  color: var(--soft);
  input {
    width: 4.5rem;
  }
`;

const onDay = (iso: string) =>
  new Date(iso.length === 10 ? `${iso}T12:00:00` : iso).toLocaleDateString("en-GB", {
    weekday: "short",
    day: "numeric",
    month: "long",
  });
const took = (minutes: number) =>
  minutes < 1 ? "" : minutes < 90 ? `took ${Math.round(minutes)} min` : `took ${Math.round(minutes / 6) / 10} h`;

/** The way of one song, down the page: what was reached when and how long it took, what is ahead and how long it will take. */
export function WayDown({ records }: { records: Schemas["RecordsOut"] }) {
  const { song, way } = records;
  const { mark } = useRecordsEdits(song.id);
  const spend = useSpendTime(song.id);
  const [stage, setStage] = useState(Math.min(8, song.stage + 1));
  const [minutes, setMinutes] = useState("");
  const seen = Math.max(0, ...way.map((w) => w.looked_back));
  const points = way.map((_, i) => [15 + 6 * waver(song.id * 9 + i), 15 + i * ROW] as const);
  return (
    <Frame aria-label="The way of this song">
      <h2>The way</h2>
      <svg width="44" height={way.length * ROW} aria-hidden="true">
        <path
          d={smoothPath(points)}
          fill="none"
          stroke="var(--soft)"
          strokeWidth="2.4"
          strokeDasharray="0.1 6"
          strokeLinecap="round"
        />
      </svg>
      <ol>
        {way.map((w, i) => (
          <li key={w.name}>
            <ToggleButton
              className="mark"
              style={{ left: (points[i]?.[0] ?? 15) - 15 }}
              isSelected={w.stage <= song.stage}
              aria-label={
                w.stage <= song.stage ? `${w.name}, reached; take it back` : `${w.name}, not reached; mark it`
              }
              onPress={() => mark.mutate({ stage: w.stage, reached: w.stage > song.stage, seen: song.stage })}
            />
            <div>
              <strong>{w.name}</strong>
              <small>
                {w.reached_at
                  ? onDay(w.reached_at)
                  : w.stage < song.stage
                    ? "passed"
                    : w.stage === song.stage + 1
                      ? `next: ${song.next_step === "done" ? w.deed : song.next_step}`
                      : w.deed}
              </small>
            </div>
            <span className="took">
              {w.stage <= song.stage ? took(w.spent) : w.estimate.split(" (")[0]}
              {w.stage > song.stage && w.estimate.includes(" (") && (
                <small>{w.estimate.split(" (")[1]?.replace(")", "")}</small>
              )}
              {w.stage > song.stage && w.spent >= 1 && <small>{took(w.spent)} so far</small>}
            </span>
          </li>
        ))}
      </ol>
      {mark.error && <ErrorNotice error={mark.error} />}
      {records.time_left && (
        <p>
          {records.time_left} until it is out
          {records.out_on && `, by your hours on ${onDay(records.out_on)}`}.
          {records.late_days > 0 && (
            <b style={{ color: "var(--doubt)" }}>
              {" "}
              That is {records.late_days} day{records.late_days > 1 ? "s" : ""} after the day you promised.
            </b>
          )}
        </p>
      )}
      <p className="soft" style={{ fontSize: "0.95rem" }}>
        Four songs of five end within the range.{" "}
        {seen > 0
          ? `It looks back at ${seen === 1 ? "the one song" : `up to ${seen} songs`} of yours that went this way.`
          : "No song of yours has gone this way yet, so these are usual times."}{" "}
        Work at Valley’s pages is timed by itself.
      </p>
      <Spent
        onSubmit={(e) => {
          e.preventDefault();
          const worked = Number(minutes);
          if (worked) spend.mutate({ stage, minutes: worked, by_hand: true }, { onSuccess: () => setMinutes("") });
        }}
      >
        <Line
          inputMode="numeric"
          label="Minutes of other work"
          hidden
          value={minutes}
          placeholder="90"
          onChange={(typed) => setMinutes(typed.replace(/[^\d.-]/g, ""))}
        />
        minutes more until it was
        <Choice
          label="Stage of this work"
          hidden
          value={stage}
          options={way.slice(1).map((w) => ({ value: w.stage, words: w.name }))}
          onChange={setStage}
        />
        <Button type="submit" isDisabled={!Number(minutes)}>
          Note
        </Button>
      </Spent>
      {spend.error && <ErrorNotice error={spend.error} />}
    </Frame>
  );
}
