import styled from "styled-components";
import { useRecords } from "../../api/records";
import { ErrorNotice } from "../../ui";
import { Askers } from "./Askers";
import { LogLines } from "./LogLines";
import { Reports } from "./Reports";
import { WayDown } from "./WayDown";
import { Wishes } from "./Wishes";

const Sheet = styled.div.attrs({ tabIndex: 0 })`
  display: grid;
  grid-template-columns: minmax(20rem, 26rem) minmax(0, 1fr);
  gap: 0.5rem 2.6rem;
  align-items: start;
  height: 100%;
  overflow: auto;
  padding-bottom: 1.5rem;
  outline-offset: -3px;
  h2 {
    font-size: 1.45rem;
    margin-bottom: 0.35rem;
  }
  section {
    margin-bottom: 1.4rem;
  }
  .soft {
    color: var(--soft);
  }
  ul, ol {
    list-style: none;
    margin: 0;
    padding: 0;
  }
  @media (max-width: 900px) {
    grid-template-columns: 1fr;
    height: auto;
  }
`;

/** All that is kept around one song: its way, who asks for it, what viewers report, what was decided. */
export function RecordsSheet({ songId }: { songId: number }) {
  const records = useRecords(songId);
  if (records.error) return <ErrorNotice error={records.error} />;
  if (!records.data) return <p aria-busy="true">Opening the records …</p>;
  return (
    <Sheet aria-label="Records of this song" role="region">
      <WayDown records={records.data} />
      <div>
        <Wishes records={records.data} />
        <Askers records={records.data} />
        <Reports records={records.data} />
        <LogLines songId={songId} />
      </div>
    </Sheet>
  );
}
