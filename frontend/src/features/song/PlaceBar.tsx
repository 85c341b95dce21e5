import styled from "styled-components";
import { secondsAt } from "../../player";
import { beatsOf, clock, Slide } from "../../ui";
import { usePlayer, useWorkspace } from "./context";

const Strip = styled.div`
  position: relative;
  flex: 1 0 100%;
  height: 1.5rem;
  margin-bottom: 0.1rem;
  font-size: 0.82rem;
  > span {
    position: absolute;
    top: 0;
    bottom: 0;
    pointer-events: none;
  }
  .part {
    border-left: 1.4px solid var(--ink);
    border-bottom: 1.6px solid var(--ink);
    padding-left: 0.3rem;
    color: var(--soft);
    overflow: hidden;
  }
  .part[data-here="true"] {
    color: var(--ink);
    font-weight: 700;
    border-bottom-width: 4px;
  }
  .loop {
    background: var(--river);
    opacity: 0.35;
  }
  .marked {
    background: var(--water);
    bottom: 45%;
  }
  .chosen {
    border-left: 1.4px dashed var(--ink);
    top: 55%;
  }
  .head {
    border-left: 2.6px solid var(--doubt);
  }
  &:focus-within {
    outline: 2.5px solid var(--river);
    outline-offset: 2px;
  }
`;

/** The song from end to end: its parts, what is repeated, what is selected, and where it sounds. */
export function PlaceBar() {
  const { player, song, chart, part, selected, stretch: marked } = useWorkspace();
  const time = usePlayer(player, (s) => s.time);
  const loop = usePlayer(player, (s) => s.loop);
  const end = Math.max(song.duration, secondsAt(chart, chart.beats.length), 1); // the last beat lasts as well
  const place = (seconds: number) => `${Math.min(100, (100 * Math.max(0, seconds)) / end)}%`;
  const stretch = (from: number, to: number) => ({ left: place(from), width: place(to - from) });
  return (
    <Strip>
      {marked && (
        <span className="marked" style={stretch(secondsAt(chart, marked.from), secondsAt(chart, marked.to))} />
      )}
      {chart.parts.map((p) => (
        <span
          key={p.number}
          className="part"
          data-here={p.number === part.number}
          style={stretch(secondsAt(chart, p.start_beats), secondsAt(chart, p.end_beats))}
        >
          {p.number}
        </span>
      ))}
      {loop && <span className="loop" style={stretch(loop.from, loop.to)} />}
      <span className="chosen" style={{ left: place(secondsAt(chart, beatsOf(selected))) }} />
      <span className="head" style={{ left: place(time) }} />
      <Slide
        label="Place in the recording"
        bare
        min={0}
        max={Math.ceil(end)}
        step={0.1}
        value={time}
        words={clock}
        onChange={(at) => player.seek(at)}
      />
    </Strip>
  );
}
