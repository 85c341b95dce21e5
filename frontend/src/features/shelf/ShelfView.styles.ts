import { DropZone } from "react-aria-components";
import styled from "styled-components";

export const Frame = styled.main`
  max-width: 64rem;
  margin: 0 auto;
  padding: 2rem 2rem 4rem;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 1.2rem;
  @media (max-width: 600px) {
    padding: 1rem 0.9rem 2rem;
  }
  ol {
    list-style: none;
    margin: 0;
    padding: 0;
  }
`;

export const Drop = styled(DropZone)`
  display: flex;
  gap: 1rem;
  align-items: center;
  flex-wrap: wrap;
  padding: 0.7rem 1rem;
  border: 1.5px dashed var(--soft);
  border-radius: 6px;
  &[data-drop-target] {
    background: var(--water);
    border-style: solid;
  }
  p {
    color: var(--soft);
    flex: 1 1 16rem;
    line-height: 1.25;
  }
`;

export const Search = styled.div`
  display: flex;
  gap: 1.2rem;
  align-items: center;
  flex-wrap: wrap;
  color: var(--soft);
  .search {
    display: inline-flex;
    align-items: center;
    gap: 0.5rem;
  }
  input[type="search"] {
    width: 19rem;
  }
`;
