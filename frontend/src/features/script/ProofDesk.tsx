import { useEffect, useRef, useState } from "react";
import { FileTrigger } from "react-aria-components";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useProof } from "../../api/lessons";
import { Button, Choice, clock, ErrorNotice, Field, type Option, Paragraphs, withSigns } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";

const LANGUAGES: Option<string>[] = [
  { value: "en", words: "English" },
  { value: "fr", words: "français" },
  { value: "de", words: "Deutsch" },
  { value: "es", words: "español" },
];
const NAMINGS: Option<string>[] = [
  { value: "letters", words: "letters" },
  { value: "syllables", words: "do re mi" },
  { value: "german", words: "German letters" },
];
const Read = styled.p`
  white-space: pre-wrap;
  line-height: 1.5;
  mark {
    background: none;
    color: inherit;
    border-bottom: 2.5px solid var(--done);
  }
  mark[data-verdict="wrong"] {
    border-bottom: 2.5px solid var(--doubt);
    color: var(--doubt);
    font-weight: 700;
  }
  mark[data-verdict="perhaps"] {
    border-bottom: 2.5px dashed var(--doubt);
  }
  mark[data-verdict="unknown"] {
    border-bottom: 2px dotted var(--soft);
  }
`;
const Answer = styled.section`
  display: grid;
  gap: 0.9rem;
`;
const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.4rem;
  b {
    font-weight: 700;
  }
  small {
    color: var(--soft);
    display: block;
  }
`;

/** Words cut where claims begin and end; a claim inside another is passed over. */
export function cutText(text: string, claims: readonly Schemas["ClaimOut"][]) {
  const pieces: { text: string; claim: Schemas["ClaimOut"] | null }[] = [];
  let at = 0;
  for (const claim of claims) {
    if (claim.start < at) continue;
    if (claim.start > at) pieces.push({ text: text.slice(at, claim.start), claim: null });
    pieces.push({ text: text.slice(claim.start, claim.end), claim });
    at = claim.end;
  }
  if (at < text.length) pieces.push({ text: text.slice(at), claim: null });
  return pieces;
}

type Standing = "right" | "wrong" | "perhaps" | "unknown";

/** How a claim stands: surely a slip, to be listened to again, or not checked since nothing is there to hold it against. */
function standingOf(claim: Schemas["ClaimOut"]): Standing {
  if (claim.verdict === "agrees") return "right";
  if (claim.verdict === "unknown") return "unknown";
  return claim.sure ? "wrong" : "perhaps";
}

/** What is listed, and under which heading. */
const GROUPS: [Standing, string][] = [
  ["wrong", "Wrong"],
  ["perhaps", "Perhaps wrong: listen again"],
  ["unknown", "Not checked: nothing to hold it against"],
];

const CAPTIONS = [".srt", ".vtt", ".txt", "text/plain", "text/vtt"];
const OCTAVES: Option<string>[] = [
  { value: "c4", words: "C4" },
  { value: "c3", words: "C3" },
];
const MOST_BYTES = 200_000;

interface ProofDeskProps {
  text: string;
  onText: (text: string) => void;
  /** Where teachers differ: words are read as the lesson is written, until it is said otherwise. */
  matters: Schemas["LessonOut"]["matters"];
}

/** How many claims stand in each way, but for those that are right. */
function tellStandings(claims: readonly Schemas["ClaimOut"][]): string {
  const count = (standing: Standing) => claims.filter((c) => standingOf(c) === standing).length;
  const told = [
    [count("wrong"), "wrong"],
    [count("perhaps"), "to listen to again"],
    [count("unknown"), "not checked"],
  ].filter(([n]) => n);
  return told.length ? told.map(([n, words]) => `${n} ${words}`).join(", ") : "all of them right";
}

/** Claims that stand alike, under a heading; nothing where there are none. */
function Claims({ words, claims }: { words: string; claims: readonly Schemas["ClaimOut"][] }) {
  if (claims.length === 0) return null;
  return (
    <div>
      <MarginHeading>{words}</MarginHeading>
      <List aria-label={words}>
        {claims.map((c) => (
          <li key={`${c.start}${c.kind}`}>
            {c.seconds != null && <time>{clock(c.seconds)} </time>}“{c.text}”
            {c.expected && <b> → {withSigns(c.expected)}</b>}
            <small>{withSigns(c.message)}</small>
          </li>
        ))}
      </List>
    </div>
  );
}

/** The proof-reader: a creator's words, each note, chord, hand, count and octave in them held against what is played. */
export function ProofDesk({ text, onText, matters }: ProofDeskProps) {
  const { song } = useWorkspace();
  const proof = useProof(song.id);
  const school = (name: string) => matters.find((m) => m.name === name)?.school ?? "";
  const [language, setLanguage] = useState(school("language") || "en");
  const [naming, setNaming] = useState(school("naming") || "letters");
  const [octaves, setOctaves] = useState(school("octaves") === "c3" ? "c3" : "c4");
  const [unread, setUnread] = useState("");
  const read = proof.data?.text ?? "";
  const claims = proof.data?.claims ?? [];
  const answer = useRef<HTMLElement>(null);
  useEffect(() => {
    if (proof.data) answer.current?.scrollIntoView?.({ block: "start" });
  }, [proof.data]);
  const take = async (chosen: File | undefined) => {
    if (!chosen) return;
    setUnread(chosen.size > MOST_BYTES ? `${chosen.name} is too long to be the words of a lesson.` : "");
    if (chosen.size <= MOST_BYTES) onText(await chosen.text());
  };
  return (
    <>
      <div>
        <MarginHeading as="p">Your words, held against the music</MarginHeading>
        <h2>Proof-reader</h2>
      </div>
      <Paragraphs
        label="Words to read"
        rows={7}
        value={text}
        placeholder="In bar 3 the right hand plays A3, C4 and F4 … Captions with their times (SRT, WebVTT) can be pasted as well."
        onChange={onText}
      />
      <div>
        <FileTrigger acceptedFileTypes={CAPTIONS} onSelect={(files) => void take(files?.[0])}>
          <Button $quiet>captions of a film …</Button>
        </FileTrigger>
        {unread && <p role="alert">{unread}</p>}
      </div>
      <section>
        <Field>
          <Choice label="said in" value={language} options={LANGUAGES} onChange={setLanguage} />
        </Field>
        <Field>
          <Choice label="notes named in" value={naming} options={NAMINGS} onChange={setNaming} />
        </Field>
        <Field>
          <Choice label="middle C is" value={octaves} options={OCTAVES} onChange={setOctaves} />
        </Field>
      </section>
      <Button
        onPress={() => proof.mutate({ text, naming, octaves, language })}
        isDisabled={!text.trim() || proof.isPending}
      >
        Read it
      </Button>
      {proof.error && <ErrorNotice error={proof.error} />}
      {proof.data && (
        <Answer aria-live="polite" ref={answer}>
          <MarginHeading>
            {claims.length === 0
              ? "Nothing in it says what is played."
              : `${claims.length} ${claims.length === 1 ? "claim" : "claims"}, ${tellStandings(claims)}`}
          </MarginHeading>
          <Read>
            {cutText(read, claims).map((piece, i) =>
              piece.claim ? (
                <mark key={i} data-verdict={standingOf(piece.claim)} title={piece.claim.message || "right"}>
                  {piece.text}
                </mark>
              ) : (
                piece.text
              ),
            )}
          </Read>
          {GROUPS.map(([standing, words]) => (
            <Claims key={standing} words={words} claims={claims.filter((c) => standingOf(c) === standing)} />
          ))}
        </Answer>
      )}
    </>
  );
}
