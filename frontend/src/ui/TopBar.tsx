import { NavLink } from "react-router";
import styled from "styled-components";
import { type KeyList, KeysDialog } from "./KeysDialog";
import { ThemeChoice } from "./ThemeChoice";

const Bar = styled.header`
  display: flex;
  align-items: flex-end;
  justify-content: space-between;
  gap: 1rem 2rem;
  flex-wrap: wrap;
  h1 {
    font-size: 2.6rem;
  }
  p {
    color: var(--soft);
  }
  nav {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 1.5rem;
    align-items: baseline;
  }
  nav a {
    text-decoration: none;
    color: var(--soft);
    font-size: 1.15rem;
    padding-bottom: 0.3rem;
    border-bottom: 3px solid transparent;
  }
  nav a[aria-current="page"] {
    color: var(--ink);
    font-weight: 700;
    border-bottom-color: var(--ink);
  }
`;

interface TopBarProps {
  title: string;
  words: string;
  /** Comments that nobody has dealt with. */
  post?: number;
  keys: KeyList;
}

/** Heading of the pages that are about all songs, and the way between them. */
export function TopBar({ title, words, post = 0, keys }: TopBarProps) {
  return (
    <Bar>
      <div>
        <h1>{title}</h1>
        <p>{words}</p>
      </div>
      <nav aria-label="Pages" data-noprint>
        <NavLink to="/" end>
          Shelf
        </NavLink>
        <NavLink to="/post">Post{post > 0 && ` (${post} new)`}</NavLink>
        <NavLink to="/calendar">Calendar</NavLink>
        <NavLink to="/keeping">Keeping</NavLink>
        <ThemeChoice />
        <KeysDialog keys={keys} />
      </nav>
    </Bar>
  );
}
