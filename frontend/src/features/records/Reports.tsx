import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useRecordsEdits } from "../../api/records";
import { Button, ErrorNotice, Line, withSigns } from "../../ui";

const List = styled.ul`
  display: grid;
  gap: 0.7rem;
  li {
    border-left: 4px solid var(--doubt);
    padding: 0.1rem 0 0.1rem 0.8rem;
  }
  li[data-state="mended"] {
    border-color: var(--done);
  }
  li[data-state="kept"] {
    border-color: var(--line);
  }
  p {
    overflow-wrap: anywhere;
  }
`;
const Row = styled.form`
  display: flex;
  gap: 0.5rem;
  margin-top: 0.3rem;
  flex-wrap: wrap;
  align-items: baseline;
`;
const STATES = { open: "open", mended: "mended", kept: "kept as it is" } as const;

/** What viewers report as wrong, at its bar and step, what the chart says there, and what became of it. */
export function Reports({ records }: { records: Schemas["RecordsOut"] }) {
  const { song, corrections } = records;
  const edits = useRecordsEdits(song.id);
  const [text, setText] = useState("");
  const [bar, setBar] = useState("");
  const [handle, setHandle] = useState("");
  return (
    <section>
      <h2>What viewers report</h2>
      {corrections.length === 0 && <p className="soft">Nothing so far.</p>}
      <List aria-label="Reports of viewers">
        {corrections.map((c) => (
          <Report
            key={c.id}
            report={c}
            song={song}
            onClose={(body) => edits.close.mutate({ ...body, correction: c.id, seen: c.state })}
          />
        ))}
      </List>
      <Row
        onSubmit={(e) => {
          e.preventDefault();
          edits.report.mutate(
            { text, handle, bar: bar ? Number(bar) : null, step: "", comment: null },
            {
              onSuccess: () => {
                setText("");
                setBar("");
                setHandle("");
              },
            },
          );
        }}
      >
        <Line
          label="What is reported as wrong"
          hidden
          wide
          placeholder="bar 12 should be Am, not A"
          value={text}
          maxLength={2000}
          onChange={setText}
        />
        <Line
          label="Bar of the report"
          hidden
          size={4}
          placeholder="bar"
          inputMode="numeric"
          value={bar}
          onChange={(typed) => setBar(typed.replace(/\D/g, ""))}
        />
        <Line
          label="Who reports it"
          hidden
          size={12}
          placeholder="@handle"
          value={handle}
          maxLength={80}
          onChange={setHandle}
        />
        <Button type="submit" isDisabled={!text.trim()}>
          Note
        </Button>
      </Row>
      {(edits.report.error || edits.close.error) && <ErrorNotice error={edits.report.error ?? edits.close.error} />}
    </section>
  );
}

interface ReportProps {
  report: Schemas["CorrectionOut"];
  song: Schemas["SongOut"];
  onClose: (body: Omit<Schemas["CloseIn"], "seen">) => void;
}

function Report({ report, song, onClose }: ReportProps) {
  const [answer, setAnswer] = useState("");
  const place = [report.bar !== null && `bar ${report.bar}`, report.step_title].filter(Boolean).join(", ");
  return (
    <li data-state={report.state}>
      <p>
        <b>{report.handle}</b>
        {place && ` on ${place}`}: “{withSigns(report.text)}”
      </p>
      {report.weighed && report.state === "open" && <p className="soft">{withSigns(report.weighed)}</p>}
      {report.state === "open" ? (
        <Row
          onSubmit={(e) => {
            e.preventDefault();
            onClose({ state: "mended", answer });
          }}
        >
          {song.charted && report.bar !== null && (
            <Link to={`/songs/${song.id}/survey?bar=${report.bar}`}>look at bar {report.bar}</Link>
          )}
          {song.charted && report.step && (
            <Link to={`/songs/${song.id}/script?step=${encodeURIComponent(report.step)}`}>look at the step</Link>
          )}
          <Line
            label={`Answer to ${report.handle}`}
            hidden
            wide
            placeholder="answer or reason"
            value={answer}
            maxLength={500}
            onChange={setAnswer}
          />
          <Button type="submit">Mended</Button>
          <Button $quiet onPress={() => onClose({ state: "kept", answer })}>
            Keep it as it is
          </Button>
        </Row>
      ) : (
        <p className="soft">
          {STATES[report.state]}
          {report.answer && `: ${report.answer}`}{" "}
          <Button $quiet onPress={() => onClose({ state: "open", answer: report.answer })}>
            Open it again
          </Button>
        </p>
      )}
    </li>
  );
}
