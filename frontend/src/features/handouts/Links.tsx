import { useLinks, useMakeLink, useTakeBackLink } from "../../api/keeping";
import { Button, ErrorNotice } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";
import { FilmRow } from "./HandoutsView.styles";

/** Links to the page for viewers, for people without an account, until they are taken back. */
export function Links() {
  const { song } = useWorkspace();
  const links = useLinks(song.id);
  const make = useMakeLink(song.id);
  const back = useTakeBackLink(song.id);
  const error = links.error ?? make.error ?? back.error;
  return (
    <section aria-label="Links for viewers" style={{ marginTop: "0.8rem" }}>
      <MarginHeading>A link for viewers</MarginHeading>
      <p style={{ fontSize: "0.95rem" }}>
        It shows the page for viewers as the song stands, to whoever has it and can reach this machine. No account is
        needed; nothing else is seen.
      </p>
      <Button $quiet onPress={() => make.mutate()} isDisabled={make.isPending}>
        make a link
      </Button>
      {error && <ErrorNotice error={error} />}
      {links.data?.map((link) => (
        <FilmRow key={link.id}>
          <a href={link.address} target="_blank" rel="noreferrer">
            {link.address}
          </a>
          <span>made {new Date(link.made).toLocaleDateString()}</span>
          <div>
            <Button $quiet onPress={() => back.mutate(link.id)}>
              take it back
            </Button>
          </div>
        </FilmRow>
      ))}
    </section>
  );
}
