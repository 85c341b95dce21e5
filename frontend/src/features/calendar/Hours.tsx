import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useSetWeek } from "../../api/records";
import { Button, ErrorNotice, Line, leaveField, Tick } from "../../ui";

const Table = styled.table`
  border-collapse: collapse;
  width: 100%;
  th {
    font-weight: 400;
    color: var(--soft);
    text-align: left;
    padding: 0 0.5rem 0.1rem 0;
  }
  td {
    padding: 0.12rem 0.5rem 0.12rem 0;
  }
  input[type="text"] {
    width: 4rem;
    text-align: right;
  }
`;
const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

const flip = (days: number[], day: number) => (days.includes(day) ? days.filter((d) => d !== day) : [...days, day]);

/** The hours of an ordinary week, on which days the room is quiet enough to film, when lessons come out, days off. */
export function Hours({ week }: { week: Schemas["WeekOut"] }) {
  const set = useSetWeek();
  const [drafts, setDrafts] = useState<Record<number, string>>({});
  const [off, setOff] = useState("");
  return (
    <section>
      <h2>Your week</h2>
      <Table>
        <thead>
          <tr>
            <th scope="col">day</th>
            <th scope="col">minutes</th>
            <th scope="col">film</th>
            <th scope="col">publish</th>
          </tr>
        </thead>
        <tbody>
          {DAYS.map((name, i) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              <td>
                <Line
                  inputMode="numeric"
                  label={`Minutes on ${name}`}
                  hidden
                  value={drafts[i] ?? String(Math.round(week.minutes[i] ?? 0))}
                  onChange={(typed) => setDrafts({ ...drafts, [i]: typed.replace(/\D/g, "") })}
                  onBlur={() => {
                    const typed = drafts[i];
                    if (typed === undefined) return;
                    const minutes = Math.min(1440, Number(typed) || 0);
                    set.change((w) => ({ minutes: w.minutes.map((m, k) => (k === i ? minutes : m)) }));
                    setDrafts({});
                  }}
                  onEnter={leaveField}
                />
              </td>
              <td>
                <Tick
                  label={`Film on ${name}`}
                  checked={week.film.includes(i)}
                  onChange={() => set.change((w) => ({ film: flip(w.film, i) }))}
                />
              </td>
              <td>
                <Tick
                  label={`Publish on ${name}`}
                  checked={week.publish.includes(i)}
                  onChange={() => set.change((w) => ({ publish: flip(w.publish, i) }))}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      <form
        style={{ display: "flex", gap: "0.5rem", marginTop: "0.5rem", alignItems: "baseline", flexWrap: "wrap" }}
        onSubmit={(e) => {
          e.preventDefault();
          if (off >= "2000" && !week.off.includes(off)) set.change((w) => ({ off: [...w.off, off] }));
          setOff("");
        }}
      >
        <Line type="date" label="day off" value={off} onChange={setOff} />
        <Button type="submit" isDisabled={!off}>
          Add
        </Button>
        {week.off.map((d) => (
          <Button key={d} $quiet onPress={() => set.change((w) => ({ off: w.off.filter((x) => x !== d) }))}>
            {new Date(`${d}T12:00:00`).toLocaleDateString("en-GB", { day: "numeric", month: "short" })}: work after all
          </Button>
        ))}
      </form>
      {set.error && <ErrorNotice error={set.error} />}
    </section>
  );
}
