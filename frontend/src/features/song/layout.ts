import { Tabs } from "react-aria-components";
import styled from "styled-components";

/** A view: the drawing, and the margin of the field book beside it. */
export const Page = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 18.4rem;
  gap: 1.5rem;
  min-height: 0;
  height: 100%;
  > :first-child {
    min-height: 0;
    overflow: auto;
    scrollbar-width: thin;
    scrollbar-color: var(--line) transparent;
  }
  @media (max-width: 900px) {
    grid-template-columns: minmax(0, 1fr);
    height: auto;
  }
  @media print {
    display: block;
    > :first-child {
      overflow: visible;
    }
  }
`;

export const Margin = styled.aside.attrs({ tabIndex: 0, id: "margin" })`
  border-left: 1.5px solid var(--line);
  padding-left: 1.25rem;
  overflow: auto;
  scrollbar-width: thin;
  scrollbar-color: var(--line) transparent;
  display: flex;
  flex-direction: column;
  gap: 1rem;
  padding-bottom: 0.5rem;
  h2 {
    font-size: 1.5rem;
  }
`;

export const MarginHeading = styled.h2`
  && {
    font-family: "Alegreya Sans", sans-serif;
    font-weight: 400;
    font-size: 1rem;
    color: var(--soft);
    margin-bottom: 0.15rem;
  }
`;

/** Desks in a margin: one tab for each kind of question. */
export const Desks = styled(Tabs)`
  display: contents;
  [role="tablist"] {
    display: flex;
    gap: 0.42rem;
    flex-wrap: wrap;
    white-space: nowrap;
    border-bottom: 1.5px solid var(--line);
  }
  [role="tab"] {
    cursor: pointer;
    color: var(--soft);
    padding: 0 0 0.2rem;
    outline: none;
    border-bottom: 3px solid transparent;
    margin-bottom: -1.5px;
  }
  [role="tab"][aria-selected="true"] {
    color: var(--ink);
    font-weight: 700;
    border-bottom-color: var(--ink);
  }
  [role="tab"] kbd {
    font-size: 0.75rem;
    padding: 0 0.28rem;
    min-width: 0;
    height: 1.2rem;
    vertical-align: 0.1em;
  }
  [role="tab"][data-focus-visible] {
    outline: 3px solid var(--river);
  }
  [role="tabpanel"] {
    display: flex;
    flex-direction: column;
    gap: 1rem;
    outline: none;
  }
`;
