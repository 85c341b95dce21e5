import styled from "styled-components";
import { useSongEdits } from "../../api/edits";
import { useLesson } from "../../api/lessons";
import { Button, Choice, ErrorNotice, Field, sayMinutes, Tick } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";
import { MinutesOf } from "./MinutesOf";
import { Thanks } from "./Thanks";

const Order = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  li {
    display: grid;
    grid-template-columns: auto 1fr auto auto auto;
    gap: 0.45rem;
    align-items: baseline;
    padding: 0.1rem 0;
  }
  small {
    color: var(--soft);
  }
  button {
    padding: 0 0.3rem;
  }
`;
const LENGTHS = [0, 5, 8, 10, 15, 20, 30].map((value) => ({
  value,
  words: value ? `${value} minutes` : "any length, all in one",
}));

/** What to teach, in which order, in how many lessons. */
export function LessonsDesk() {
  const { song, chart } = useWorkspace();
  const { edit } = useSongEdits(song.id);
  const lesson = useLesson(song.id);
  const order = chart.lesson_order;
  const set = (parts: number[]) => edit.mutate({ edit: { kind: "plan_lessons", order: parts } });
  const rest = chart.parts.filter((p) => !order.includes(p.number));
  const swap = (i: number, by: number) => {
    const next = [...order];
    const [moved] = next.splice(i, 1);
    if (moved !== undefined) next.splice(i + by, 0, moved);
    set(next);
  };
  const name = (n: number) => {
    const part = chart.parts.find((p) => p.number === n);
    return { part, text: `Part ${n}${part?.name ? `, ${part.name}` : ""}` };
  };
  const must = chart.parts.filter((p) => p.must).map((p) => p.number);
  return (
    <>
      <div>
        <MarginHeading>What to teach, in this order</MarginHeading>
        <Order aria-label="Parts in teaching order">
          {order.map((n, i) => {
            const { part, text } = name(n);
            return (
              <li key={n}>
                <Tick
                  checked
                  label={`Teach ${text}`}
                  disabled={order.length === 1}
                  onChange={() => set(order.filter((m) => m !== n))}
                />
                <span>
                  {text}
                  {!part?.must && <small> nothing new</small>}
                </span>
                <small>
                  <MinutesOf part={n} />
                </small>
                <Button $quiet aria-label={`${text} earlier`} isDisabled={i === 0} onPress={() => swap(i, -1)}>
                  ↑
                </Button>
                <Button
                  $quiet
                  aria-label={`${text} later`}
                  isDisabled={i === order.length - 1}
                  onPress={() => swap(i, 1)}
                >
                  ↓
                </Button>
              </li>
            );
          })}
          {rest.map((p) => (
            <li key={p.number}>
              <Tick checked={false} label={`Teach ${name(p.number).text}`} onChange={() => set([...order, p.number])} />
              <small>{name(p.number).text}, left out</small>
            </li>
          ))}
        </Order>
        <Button $quiet onPress={() => set(chart.parts.map((p) => p.number))}>
          all, as in the song
        </Button>{" "}
        <Button $quiet onPress={() => set(must)} isDisabled={!must.length}>
          only what must be learned
        </Button>
      </div>
      <Thanks />
      <div>
        <MarginHeading>Lessons</MarginHeading>
        <Field>
          <Choice
            label="lessons of about"
            value={chart.lesson_minutes}
            options={LENGTHS}
            onChange={(minutes) => edit.mutate({ edit: { kind: "plan_lessons", minutes } })}
          />
        </Field>
        <ul style={{ margin: "0.4rem 0 0", paddingLeft: "1.1rem" }}>
          {lesson.data?.lessons.map((l) => (
            <li key={l.index}>
              Lesson {l.index}
              {l.parts.length > 0 && `: part${l.parts.length > 1 ? "s" : ""} ${l.parts.join(", ")}`}, about{" "}
              {sayMinutes(60 * l.minutes)}
            </li>
          ))}
        </ul>
      </div>
      {edit.error && <ErrorNotice error={edit.error} />}
    </>
  );
}
