import { useState } from "react";
import styled from "styled-components";
import { Tick, withSigns } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";

const Entry = styled.article`
  border-bottom: 1px solid var(--line);
  padding: 0.3rem 0;
  h3 {
    display: flex;
    gap: 0.7rem;
    align-items: baseline;
    margin: 0;
    font: 700 1.2rem "Alegreya", "Signs", serif;
    small {
      font: 400 0.9rem "Alegreya Sans";
      color: var(--soft);
    }
  }
  p {
    margin: 0;
    line-height: 1.25;
    font-size: 0.97rem;
  }
  em {
    color: var(--doubt);
    font-style: normal;
  }
`;

const joinNames = (names: readonly string[]) =>
  names.length < 2 ? names.join("") : `${names.slice(0, -1).join(", ")} and ${names.at(-1)}`;

/** Every chord of the song once, key by key: how often, where, what it does, why it stands out, where it goes. */
export function ChordsDesk() {
  const { chart } = useWorkspace();
  const [roman, setRoman] = useState(false);
  const keys = [...new Set(chart.vocabulary.map((v) => v.key))];
  return (
    <>
      <Tick checked={roman} onChange={setRoman}>
        Roman numerals too
      </Tick>
      {keys.map((key) => (
        <section key={key} aria-label={`Chords in ${key}`}>
          <MarginHeading>{withSigns(key)}</MarginHeading>
          {chart.vocabulary
            .filter((v) => v.key === key)
            .map((v) => (
              <Entry key={v.symbol}>
                <h3>
                  {withSigns(v.symbol)}
                  {roman && <small>{withSigns(v.roman)}</small>}
                  <small>{withSigns(v.notes.join(" "))}</small>
                </h3>
                <p>
                  {v.times}×{v.function && `, ${withSigns(v.function)}`}; bar{v.bars.length > 1 ? "s" : ""}{" "}
                  {v.bars.slice(0, 6).join(", ")}
                  {v.bars.length > 6 && " …"}
                </p>
                {v.unusual && (
                  <p>
                    <em>{withSigns(v.unusual)}</em>
                  </p>
                )}
                {v.after[0] && (
                  <p style={{ color: "var(--soft)" }}>
                    then mostly {withSigns(v.after[0].symbol)}
                    {v.after[0].common.length
                      ? `, which keeps ${withSigns(joinNames(v.after[0].common))}`
                      : ", which keeps no note"}
                  </p>
                )}
              </Entry>
            ))}
        </section>
      ))}
    </>
  );
}
