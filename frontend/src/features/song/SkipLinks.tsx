import styled from "styled-components";

const Links = styled.nav`
  position: absolute;
  left: 0.8rem;
  top: 0.4rem;
  z-index: 5;
  a {
    position: absolute;
    white-space: nowrap;
    padding: 0.3rem 0.8rem;
    background: var(--ground);
    border: 2px solid var(--ink);
    transform: translateY(-6rem);
  }
  a:focus {
    transform: none;
  }
`;
const PLACES = [
  ["view", "to the music"],
  ["margin", "to the margin beside it"],
  ["player", "to the player"],
] as const;

/** Seen when they are reached by Tab: past header and rail to where the hands want to be. */
export function SkipLinks({ view }: { view: string }) {
  const places = PLACES.filter(([id]) => id !== "margin" || view !== "records"); // the sheet of records has none
  const go = (id: string) => {
    const place = document.getElementById(id);
    place?.focus();
    place?.scrollIntoView?.({ block: "nearest" });
  };
  return (
    <Links aria-label="Skip" data-noprint>
      {places.map(([id, words]) => (
        <a
          key={id}
          href={`#${id}`}
          onClick={(event) => {
            event.preventDefault(); // the address stays that of the view
            go(id);
          }}
        >
          {words}
        </a>
      ))}
    </Links>
  );
}
