import { useState } from "react";
import { FileTrigger, ToggleButton } from "react-aria-components";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { useChanges, useNameVersion, useVersions } from "../../api/chords";
import { useSongEdits } from "../../api/edits";
import { useAddSong, useCopySong, useListenAgain, useSession } from "../../api/songs";
import { Button, ErrorNotice, Field, Line, leaveField, percent, useDraft, withSigns } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";

const List = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.15rem;
  max-height: 15rem;
  overflow: auto;
  scrollbar-width: thin;
  button {
    all: unset;
    cursor: pointer;
    display: block;
    box-sizing: border-box;
    width: 100%;
    padding: 0.15rem 0.3rem;
    border-radius: 4px;
    line-height: 1.2;
  }
  button:hover, button[aria-pressed="true"] {
    background: var(--raised);
  }
  button:focus-visible {
    outline: 3px solid var(--river);
  }
  small {
    color: var(--soft);
  }
`;

const PAGE = 60;

/** Every state the chart has been in: name one, compare it with the present one, bring it back. */
export function VersionsDesk() {
  const { song, chart } = useWorkspace();
  const [limit, setLimit] = useState(PAGE);
  const versions = useVersions(song.id, limit);
  const naming = useNameVersion(song.id);
  const { bringBack } = useSongEdits(song.id);
  const listen = useListenAgain(song.id);
  const [chosen, setChosen] = useState(0);
  const read = useAddSong();
  const session = useSession();
  const navigate = useNavigate();
  const copy = useCopySong((made) => navigate(`/songs/${made.id}/survey`));
  const failed = copy.error ?? bringBack.error ?? naming.error ?? read.error ?? listen.error;
  const changes = useChanges(song.id, chosen, chart.revision);
  const version = versions.data?.versions.find((v) => v.number === chosen);
  const name = useDraft(
    version?.name ?? "",
    (name, seen) => version && naming.mutate({ number: version.number, name, seen }),
  );
  return (
    <>
      <div>
        <MarginHeading as="p">Versions of this chart</MarginHeading>
        <h2>Nothing is ever lost</h2>
      </div>
      <List aria-label="Versions">
        {versions.data?.versions.map((v) => (
          <li key={v.number}>
            <ToggleButton isSelected={v.number === chosen} onPress={() => setChosen(v.number)}>
              {v.name ? <b>{v.name}</b> : withSigns(v.what)}
              <br />
              <small>
                version {v.number}, {new Date(v.made_at).toLocaleString([], { dateStyle: "short", timeStyle: "short" })}
                {v.current && ", the present one"}
                {v.kept_aside && ", kept aside from another window"}
              </small>
            </ToggleButton>
          </li>
        ))}
      </List>
      {versions.data && versions.data.total > limit && (
        <Button $quiet onPress={() => setLimit(limit + PAGE)}>
          Show more of {versions.data.total}
        </Button>
      )}
      {version && (
        <section>
          <Field>
            <Line
              label={`name of version ${version.number}`}
              size={18}
              maxLength={80}
              value={name.value}
              placeholder="to find it by"
              onChange={name.write}
              onBlur={name.leave}
              onEnter={leaveField}
            />
          </Field>
          {!version.current && (
            <>
              <MarginHeading>Since then</MarginHeading>
              <ul style={{ margin: 0, paddingLeft: "1.1rem" }}>
                {changes.data?.slice(0, 12).map((c) => (
                  <li key={`${c.bar}${c.what}`}>
                    {c.bar ? `bar ${c.bar}: ` : ""}
                    {withSigns(c.what)}
                  </li>
                ))}
              </ul>
              {changes.data?.length === 0 && <p>Nothing differs from the present one.</p>}
              {(changes.data?.length ?? 0) > 12 && <p>and {(changes.data?.length ?? 0) - 12} more</p>}
              <Button onPress={() => bringBack.mutate(version.number)} isDisabled={bringBack.isPending}>
                Bring version {version.number} back
              </Button>
            </>
          )}
        </section>
      )}
      <section>
        <MarginHeading>A new hearing</MarginHeading>
        {song.recording_id === null ? (
          <p>
            There is no recording to hear. <Link to={`/songs/${song.id}/records`}>Add one to its records</Link>
          </p>
        ) : song.job && ["waiting", "running"].includes(song.job.state) ? (
          <p role="status">
            {song.job.stage || "In line"} … {percent(song.job.fraction)}
          </p>
        ) : (
          <>
            <p>What you set is kept; what it hears otherwise is shown beside yours.</p>
            <Button onPress={() => listen.mutate()} isDisabled={listen.isPending}>
              Listen again
            </Button>
          </>
        )}
      </section>
      <section>
        <MarginHeading>From a file</MarginHeading>
        <p>MusicXML, MIDI, a chord chart or Valley’s own file becomes the next version; undo brings this one back.</p>
        <FileTrigger
          acceptedFileTypes={session.data?.note_endings}
          onSelect={(list) => {
            const file = list?.[0];
            if (file) read.mutate({ file, to: song.id, base: chart.revision });
          }}
        >
          <Button isDisabled={read.isPending}>{read.isPending ? "Reading …" : "Read a file"}</Button>
        </FileTrigger>
      </section>
      <section>
        <MarginHeading>Another song from this one</MarginHeading>
        <p>With the same recording and everything as it is now: for another key, another level, another series.</p>
        <Button onPress={() => copy.mutate(song.id)} isDisabled={copy.isPending}>
          {copy.isPending ? "Copying …" : "Make a copy"}
        </Button>
      </section>
      {failed && <ErrorNotice error={failed} />}
    </>
  );
}
