import styled from "styled-components";
import { useHandouts } from "../../api/queries";
import { ErrorNotice, withSigns } from "../../ui";
import { Margin, MarginHeading, Page, useWorkspace } from "../song";

const Lesson = styled.article.attrs({ tabIndex: 0 })`
  max-width: 46rem; padding-right: 1.5rem; display: grid; gap: 1.3rem; padding-bottom: 1.5rem;
  section { display: grid; grid-template-columns: 2.2rem 1fr; gap: 0 0.8rem; }
  section > b { font: 700 1.4rem "Alegreya", serif; color: var(--soft); text-align: right; line-height: 1.2; }
  h2 { font-size: 1.35rem; }
  p { grid-column: 2; margin-top: 0.25rem; text-wrap: pretty; }
  p[data-inner="true"] { padding-left: 1.2rem; border-left: 2px solid var(--line); }
  @media print { max-width: none; }
`;
const Files = styled.ul`
  list-style: none; margin: 0; padding: 0; display: grid; gap: 0.75rem;
  a { font: 700 1.15rem "Alegreya", serif; text-underline-offset: 3px; }
  span { display: block; color: var(--soft); line-height: 1.25; font-size: 0.98rem; }
`;

/** The lesson to read and print, and the files to take along. */
export function HandoutsView() {
  const { song } = useWorkspace();
  const handouts = useHandouts(song.id);
  if (handouts.error) return <ErrorNotice error={handouts.error} />;
  if (!handouts.data) return <p aria-busy="true">Writing the lesson …</p>;
  return (
    <Page>
      <Lesson aria-label="The lesson in words">
        {handouts.data.steps.map((step, i) => (
          <section key={i}>
            <b aria-hidden="true">{i + 1}</b>
            <h2>{withSigns(step.title)}</h2>
            {step.lines.map((line, k) => (
              <p key={k} data-inner={line.startsWith(" ")}>
                {withSigns(line.trim())}
              </p>
            ))}
          </section>
        ))}
      </Lesson>
      <Margin aria-label="Files" data-noprint>
        <div>
          <h2>Take along</h2>
          <MarginHeading as="p">made from the chart and hands as they are now</MarginHeading>
        </div>
        <Files>
          {handouts.data.files.map((file) => (
            <li key={file.name}>
              <a href={file.address} download>
                {file.title}
              </a>
              <span>{file.summary}</span>
            </li>
          ))}
        </Files>
        <p style={{ fontSize: "0.95rem" }}>{handouts.data.caution}</p>
      </Margin>
    </Page>
  );
}
