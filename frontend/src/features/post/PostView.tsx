import { useEffect, useState } from "react";
import styled from "styled-components";
import { usePost, usePostDeeds } from "../../api/records";
import { Button, bound, ErrorNotice, KeyCap, type KeyList, Notice, TopBar, useShortcuts } from "../../ui";
import { ReportedFault } from "./ReportedFault";
import { Rest } from "./Rest";
import { WishGroup } from "./WishGroup";

const Frame = styled.main`
  max-width: 74rem;
  margin: 0 auto;
  padding: 2rem 2rem 4rem;
  display: grid;
  gap: 1.2rem;
  > .cols {
    display: grid;
    grid-template-columns: minmax(0, 1.35fr) minmax(0, 1fr);
    gap: 2.4rem;
    align-items: start;
  }
  h2 {
    font-size: 1.5rem;
    margin-bottom: 0.3rem;
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
    > .cols {
      grid-template-columns: 1fr;
    }
  }
`;
const Row = styled.div`
  display: flex;
  gap: 1rem;
  align-items: baseline;
  flex-wrap: wrap;
`;

const PAGE = 40;
const KEYS: KeyList = [["In the post", ["post", "help"]]];

export interface Dealt {
  comments: number[];
  what: string;
}

/** What viewers write, sorted: wishes by song, reports of mistakes, the rest. Every deed can be taken back. */
export function PostView() {
  const [limit, setLimit] = useState(PAGE);
  const post = usePost(limit);
  const deeds = usePostDeeds(limit);
  const [dealt, setDealt] = useState<Dealt | null>(null);
  useEffect(() => {
    document.title = "Post · Valley";
  }, []);
  const back = () => {
    if (dealt) deeds.back.mutate(dealt.comments, { onSuccess: () => setDealt(null) });
  };
  useShortcuts(bound("post", { fetch: () => deeds.fetchNew.mutate(), undo: back }));
  const failed = [deeds.fetchNew, deeds.take, deeds.aside, deeds.back, deeds.report].find((d) => d.error);
  const data = post.data;
  const count = data ? data.groups.length + data.corrections.length + data.others.length : 0;
  return (
    <Frame>
      <TopBar title="Post" words="What viewers write, sorted; you decide." keys={KEYS} />
      <Row data-noprint>
        <Button $strong onPress={() => deeds.fetchNew.mutate()} isDisabled={deeds.fetchNew.isPending}>
          <KeyCap>G</KeyCap> {deeds.fetchNew.isPending ? "Fetching …" : "Get new comments"}
        </Button>
        <span className="soft" role="status">
          {deeds.fetchNew.data &&
            (deeds.fetchNew.data.fetched
              ? `${deeds.fetchNew.data.fetched} new comments came.`
              : "Nothing new has come since.")}{" "}
          From the practice site that ships with Valley; its viewers are made up.
        </span>
      </Row>
      {dealt && (
        <Notice title={dealt.what}>
          <Button onPress={back} isDisabled={deeds.back.isPending}>
            Take it back
          </Button>
        </Notice>
      )}
      {failed && <ErrorNotice error={failed.error} />}
      {post.error && (
        <ErrorNotice error={post.error}>
          <Button onPress={() => void post.refetch()}>Try again</Button>
        </ErrorNotice>
      )}
      {!data && !post.error && <p aria-busy="true">Reading the post …</p>}
      {data && count === 0 && (
        <p>
          No new post.{" "}
          {data.dealt_with > 0
            ? `${data.dealt_with} comments were dealt with.`
            : "Get what viewers wrote, and it will lie here."}
        </p>
      )}
      {data && count > 0 && (
        <div className="cols">
          <section aria-label="Wishes">
            <h2>Wishes</h2>
            {data.groups.length === 0 && <p className="soft">Nobody asks for a song.</p>}
            <ol>
              {data.groups.map((g) => (
                <WishGroup key={`${g.title} ${g.comments[0]?.id}`} group={g} deeds={deeds} onDealt={setDealt} />
              ))}
            </ol>
            <More shown={data.groups.length} of={data.total_groups} onPress={() => setLimit(limit + PAGE)} />
          </section>
          <div>
            <section aria-label="Reported mistakes" style={{ marginBottom: "1.8rem" }}>
              <h2>Reported mistakes</h2>
              {data.corrections.length === 0 && <p className="soft">Nobody reports one.</p>}
              <ul>
                {data.corrections.map((c) => (
                  <ReportedFault key={c.id} comment={c} deeds={deeds} onDealt={setDealt} />
                ))}
              </ul>
              <More
                shown={data.corrections.length}
                of={data.total_corrections}
                onPress={() => setLimit(limit + PAGE)}
              />
            </section>
            <Rest comments={data.others} deeds={deeds} onDealt={setDealt} />
            <More shown={data.others.length} of={data.total_others} onPress={() => setLimit(limit + PAGE)} />
          </div>
        </div>
      )}
    </Frame>
  );
}

function More({ shown, of, onPress }: { shown: number; of: number; onPress: () => void }) {
  if (shown >= of) return null;
  return (
    <Button $quiet onPress={onPress}>
      Show more of {of}
    </Button>
  );
}
