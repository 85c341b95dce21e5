import { useHandoutText } from "../../api/lessons";
import { ErrorNotice } from "../../ui";
import { useWorkspace } from "../song";

const AS_TEXT = /\.(txt|vtt|srt|csv|lab|json|jams)$/;

/** One hand-out to look at: as text, as a page that runs shut in, or as the pictures it is a folder of. */
export function Preview({ address, name, title }: { address: string; name: string; title: string }) {
  if (AS_TEXT.test(name)) return <TextPreview address={address} />;
  if (name.endsWith(".pdf"))
    return <iframe title={title} src={`${address}?look=true#toolbar=0&navpanes=0&view=FitH`} />;
  if (name.endsWith(".html"))
    return <iframe title={title} src={`${address}?look=true`} sandbox="allow-scripts allow-modals" allow="autoplay" />;
  return (
    <>
      <p>A folder of pictures, packed; the grip pictures look like this:</p>
      <GripPictures />
    </>
  );
}

function TextPreview({ address }: { address: string }) {
  const text = useHandoutText(address);
  if (text.error) return <ErrorNotice error={text.error} />;
  return text.data === undefined ? <p aria-busy="true">Opening …</p> : <pre>{text.data}</pre>;
}

function GripPictures() {
  const { song, chart, part } = useWorkspace();
  const inside = chart.chords.filter(
    (c) => c.start_beats >= part.start_beats && c.start_beats < part.end_beats && c.notes.length,
  );
  return (
    <div style={{ display: "grid", gridTemplateColumns: "repeat(auto-fill, minmax(20rem, 1fr))", gap: "1rem" }}>
      {inside.slice(0, 8).map((c) => (
        <img
          key={c.start}
          alt={`Keys of ${c.symbol}`}
          style={{ width: "100%" }}
          src={`/api/songs/${song.id}/hands/picture.svg?start=${encodeURIComponent(c.start)}`}
        />
      ))}
    </div>
  );
}
