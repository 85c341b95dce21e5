import { Button } from "react-aria-components";
import styled from "styled-components";
import { smoothPath, waver } from "../../ui";
import { useWorkspace } from "./context";

const Rail = styled.nav`
  position: relative;
  padding-top: 5.6rem;
  overflow: hidden auto;
  scrollbar-width: none;
  svg.path {
    position: absolute;
    inset: 5.6rem 0 auto 0;
    pointer-events: none;
  }
  ol {
    list-style: none;
    margin: 0;
    padding: 0;
    position: relative;
  }
  li {
    height: 4.1rem;
  }
  button {
    all: unset;
    box-sizing: border-box;
    position: relative;
    width: 2.3rem;
    height: 2.3rem;
    border-radius: 50%;
    display: grid;
    place-items: center;
    cursor: pointer;
    border: 1.8px solid var(--ink);
    background: var(--ground);
    font-weight: 700;
    font-size: 1.1rem;
    margin: 0 auto;
  }
  button[data-repeat="true"] {
    border-style: dashed;
  }
  button[aria-current="true"] {
    background: var(--ink);
    color: var(--ground);
    forced-color-adjust: none;
  }
  button:focus-visible {
    outline: 3px solid var(--river);
    outline-offset: 2px;
  }
  small {
    display: block;
    text-align: center;
    color: var(--soft);
    font-size: 0.82rem;
    line-height: 1.1;
    background: var(--ground);
    width: fit-content;
    margin: 0.1rem auto 0;
    position: relative;
  }
  @media (max-width: 900px) {
    padding: 0.4rem 0 0.1rem;
    overflow: auto hidden;
    svg.path {
      display: none;
    }
    ol {
      display: flex;
      gap: 0.6rem;
    }
    li {
      height: auto;
    }
  }
  @media (max-width: 900px) and (max-height: 560px) {
    display: none; /* the bar in the player shows the parts as well */
  }
`;

/** The way through the song at the edge of every page: one waymark a part, dashed where it walks an earlier one again. */
export function RouteRail() {
  const { chart, part, selectPart, select } = useWorkspace();
  const step = 65.6;
  const points = chart.parts.map((p, i) => [33 + 6 * waver(p.number), 18 + i * step] as const);
  return (
    <Rail aria-label="Parts of the song" data-noprint>
      <svg className="path" width="66" height={chart.parts.length * step} aria-hidden="true">
        <path
          d={smoothPath(points)}
          fill="none"
          stroke="var(--soft)"
          strokeWidth="2.5"
          strokeDasharray="0.1 6"
          strokeLinecap="round"
        />
      </svg>
      <ol>
        {chart.parts.map((p) => (
          <li key={p.number}>
            <Button
              aria-current={p.number === part.number}
              data-repeat={p.same_as !== null}
              aria-label={`Part ${p.number}, bars ${p.start_bar} to ${p.end_bar}, ${p.words}`}
              onPress={() => {
                const first = chart.chords.find((c) => c.start_beats + c.duration_beats > p.start_beats);
                if (first) select(first.start);
                selectPart(p.number);
              }}
            >
              {p.number}
            </Button>
            {p.same_as !== null && <small>as {p.same_as}</small>}
          </li>
        ))}
      </ol>
    </Rail>
  );
}
