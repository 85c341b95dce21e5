import styled from "styled-components";

/** A view: the drawing, and the margin of the field book beside it. */
export const Page = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 17.5rem; gap: 1.5rem; min-height: 0; height: 100%;
  > :first-child { min-height: 0; overflow: auto; scrollbar-width: thin; scrollbar-color: var(--line) transparent; }
  @media (max-width: 900px) { grid-template-columns: minmax(0, 1fr); height: auto; }
  @media print { display: block; > :first-child { overflow: visible; } }
`;

export const Margin = styled.aside.attrs({ tabIndex: 0 })`
  border-left: 1.5px solid var(--line); padding-left: 1.25rem; overflow: auto; scrollbar-width: thin; scrollbar-color: var(--line) transparent;
  display: flex; flex-direction: column; gap: 1rem; padding-bottom: 0.5rem;
  h2 { font-size: 1.5rem; }
`;

export const MarginHeading = styled.h3`
  font-family: "Alegreya Sans", sans-serif; font-weight: 400; font-size: 1rem; color: var(--soft); margin-bottom: 0.15rem;
`;
