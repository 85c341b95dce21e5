import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Button, Choice, Field, named, Tick, withSigns } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";
import type { Hands } from "./useHands";

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.6rem;
  li {
    border-left: 3px solid var(--line);
    padding-left: 0.6rem;
  }
  li[data-taken="true"] {
    border-left-color: var(--ink);
  }
  p {
    margin: 0;
  }
  small {
    color: var(--soft);
  }
`;
const NAMES: Record<string, string> = {
  walk: "walk",
  approach: "approach note",
  fill: "fill",
  grace: "grace note",
  run: "run in octaves",
};
const ENDINGS = { "": "plain", octaves: "in octaves, full", rolled: "rolled" } as const;
type Link = Schemas["LinkOut"];

/** What joins the chords of a part, and how this occurrence of it begins and ends. */
export function JoinsDesk({ hands }: { hands: Hands }) {
  const { part } = useWorkspace();
  const { arranged, arrangement, change } = hands;
  if (!arranged || !arrangement) return null;
  const take = (link: Link, form: "" | "full" | "easier") =>
    change({ kind: "take_link", start: link.start, link: link.kind, form });
  return (
    <>
      <div>
        <MarginHeading as="p">Part {part.number}</MarginHeading>
        <h2>From chord to chord</h2>
      </div>
      <section>
        <MarginHeading>This time</MarginHeading>
        <Field>
          <Tick
            checked={arranged.lead_in}
            onChange={(lead_in) => change({ kind: "vary_part", part: part.number, lead_in })}
          >
            lead in with three steps
          </Tick>
        </Field>
        <Field>
          <Tick
            checked={arranged.drop_last}
            onChange={(drop_last) => change({ kind: "vary_part", part: part.number, drop_last })}
          >
            drop the last chord
          </Tick>
        </Field>
        <Field>
          <Choice
            label="ending"
            value={arranged.ending as keyof typeof ENDINGS}
            options={named(ENDINGS)}
            onChange={(ending) => change({ kind: "vary_part", part: part.number, ending })}
          />
        </Field>
        <Field>
          <Tick checked={arrangement.settings.pedal} onChange={(pedal) => change({ kind: "set_hands", pedal })}>
            pedal, changed with every chord
          </Tick>
        </Field>
      </section>
      <section>
        <MarginHeading>Where there is room</MarginHeading>
        {arranged.links.length === 0 && <p>No room for walks or fills in this part.</p>}
        <List aria-label="Links">
          {arranged.links.map((link) => (
            <li key={`${link.start}${link.kind}`} data-taken={link.taken !== ""}>
              <p>
                <b>{NAMES[link.kind]}</b> <small>bar {link.bar}</small>
              </p>
              <p>{withSigns(link.taken === "easier" ? link.easy_words : link.words)}</p>
              <Button
                $quiet
                onPress={() => take(link, link.taken === "full" ? "" : "full")}
                aria-pressed={link.taken === "full"}
              >
                {link.taken === "full" ? "leave it out" : "play it"}
              </Button>
              {link.has_easier && link.taken !== "easier" && (
                <Button $quiet onPress={() => take(link, "easier")}>
                  the easier way
                </Button>
              )}
              {link.taken === "easier" && (
                <Button $quiet onPress={() => take(link, "")}>
                  leave it out
                </Button>
              )}
            </li>
          ))}
        </List>
      </section>
    </>
  );
}
