"""What viewers write: which comments ask for a song, which report a mistake, and which do neither.

A comment is read sentence by sentence. Asking is told by its phrases ("could you do", "any chance of", "… please"); the song by known
titles, however spelled, by quotation marks, or by what stands after the phrase or before the "please". A mistake is told by a place
(bar, step, part, time) together with words of doubt or a musical name set right. Thanks and refusals in the same sentence undo an
asking. Nothing is decided here: proposals are made, with the words that led to them.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Final, Literal

from valley.records._phrases import (
    AFTER_TITLE,
    AGREE,
    ASK,
    BEFORE_TITLE,
    CAPITALS,
    EMPTY,
    HINT,
    NO_BEGINNING,
    PLEASE,
    REFUSE,
    SAME_SONG,
    TAIL,
)
from valley.records.places import Place, find_place, find_set_right, says_fault
from valley.records.titles import TitleIndex, best_spelling, find_mentions, likeness, make_plain

Kind = Literal["request", "correction", "other"]


@dataclass(frozen=True)
class Comment:
    """``under`` is the title of the lesson it stands below, ``reply_to`` another comment; ``likes`` are viewers who agree."""

    id: int
    handle: str
    text: str
    under: str = ""
    reply_to: int | None = None
    likes: int = 0


@dataclass(frozen=True)
class CommentReading:
    """What a comment is taken for. ``titles`` are the songs asked for; ``why`` names the words that led there."""

    comment: int
    kind: Kind
    titles: tuple[str, ...] = ()
    place: Place = field(default_factory=Place)
    wanted: tuple[str, ...] = ()
    said: tuple[str, ...] = ()
    why: str = ""


@dataclass(frozen=True)
class Group:
    """Comments that ask for one song. ``known`` is the title of a song or request that it is taken for, or empty."""

    title: str
    known: str
    comments: tuple[int, ...]
    handles: tuple[str, ...]
    votes: int
    spellings: tuple[str, ...]


_LONGEST_TITLE: Final = 6


def read_comments(comments: Sequence[Comment], known: Sequence[str]) -> tuple[CommentReading, ...]:
    """What each comment is taken for, in the order given.

    Parameters
    ----------
    comments : all that are to be read, answers after what they answer
    known : titles of songs and requests that are there already

    >>> read_comments([Comment(1, "@moss", "papr harbor pls!!")], ["Paper Harbour"])[0].titles
    ('Paper Harbour',)
    """
    index = TitleIndex(known)
    readings = [_read(c, index) for c in comments]
    named = [t for r in readings if r.kind == "request" for t in r.titles]
    by_id = {r.comment: r for r in readings}
    asked = TitleIndex(named)
    for i, (comment, reading) in enumerate(zip(comments, readings, strict=True)):
        if reading.kind == "other" and (second := _read_again(comment, by_id, asked)):
            readings[i] = by_id[comment.id] = second
    return tuple(readings)


def group_requests(comments: Sequence[Comment], readings: Sequence[CommentReading], known: Sequence[str]) -> tuple[Group, ...]:
    """Requests for the same song together, most votes first. A viewer counts once; the likes of a comment count as viewers."""
    by_id = {c.id: c for c in comments}
    index = TitleIndex(known)
    clusters: list[list[tuple[int, str]]] = []
    for reading in readings:
        for title in reading.titles if reading.kind == "request" else ():
            scores = [max(likeness(make_plain(title), make_plain(t)) for _, t in cluster) for cluster in clusters]
            best = max(range(len(scores)), key=scores.__getitem__, default=None)
            if best is not None and scores[best]:
                clusters[best].append((reading.comment, title))
            else:
                clusters.append([(reading.comment, title)])
    groups = []
    for cluster in clusters:
        titles = [t for _, t in cluster]
        taken_for = next((k for t in titles if (k := index.find_like(make_plain(t)))), "")
        members = [by_id[i] for i in dict.fromkeys(i for i, _ in cluster)]
        handles = tuple(dict.fromkeys(c.handle for c in members))
        groups.append(
            Group(
                taken_for or best_spelling(titles),
                taken_for,
                tuple(c.id for c in members),
                handles,
                len(handles) + sum(c.likes for c in members),
                tuple(dict.fromkeys(titles)),
            )
        )
    return tuple(sorted(groups, key=lambda g: (-g.votes, g.title)))


def _read(comment: Comment, known: TitleIndex) -> CommentReading:
    place = find_place(comment.text)
    wanted, said = find_set_right(comment.text)
    if place and (says_fault(comment.text) or (wanted and said)):
        return CommentReading(comment.id, "correction", (), place, wanted, said, f"names {place.words} and what is wrong there")
    titles: list[str] = []
    why = ""
    raws = _sentences(comment.text)
    plains = [make_plain(s) for s in raws]
    # A lone "Please." belongs to what stands before it, and what is asked once holds for the sentence after it.
    loose = " ".join(s for s in plains if re.fullmatch(rf"(?:{PLEASE} ?)+|next|when|anyone", s))
    hinted = bool(HINT.search(" ".join(plains)))
    for raw, plain in zip(raws, plains, strict=True):
        if any(re.search(p, plain) for p in REFUSE):
            continue
        asks = next((m.group() for p in ASK if (m := re.search(p, plain))), "") or loose
        found = _known_titles(raw, plain, known) if asks or hinted else []
        if not found and asks:
            found = _new_titles(raw, plain, bool(loose))
        if not found and (asks or hinted):
            found = _written_titles(raw)
        if not found and asks and comment.under and SAME_SONG.search(plain):
            found = [comment.under]
        titles += [t for t in found if t not in titles]
        why = why or ((asks or "hints at a wish") if found else "")
    if titles:
        return CommentReading(comment.id, "request", tuple(titles), why=f"asks with “{why}”" if why != "hints at a wish" else why)
    return CommentReading(comment.id, "other")


def _read_again(comment: Comment, by_id: dict[int, CommentReading], named: TitleIndex) -> CommentReading | None:
    """A mere "same!" under a request, or a title that others ask for, alone or with the least hint of a wish."""
    plain = make_plain(comment.text)
    above = by_id.get(comment.reply_to or 0)
    if above is not None and above.kind == "request" and re.match(AGREE, plain):
        return CommentReading(comment.id, "request", above.titles, why="agrees with the request that it answers")
    if any(re.search(p, plain) for p in REFUSE):
        return None
    mentions = find_mentions(plain, named)
    if not mentions:
        return None
    bare = sum(m.end - m.start for m in mentions) >= len(plain.split()) - 2
    if bare or HINT.search(plain) or any(re.search(p, plain) for p in ASK):
        titles = tuple(dict.fromkeys(m.title for m in mentions))
        return CommentReading(comment.id, "request", titles, why="is little but a title that others ask for" if bare else "names a title that others ask for")
    return None


def _sentences(text: str) -> list[str]:
    return [s.strip() for s in re.split(r"(?<=[.!?…])\s+|\n+|[!?…]{2,}", text) if s.strip(" .!?…")]


def _known_titles(raw: str, plain: str, known: TitleIndex) -> list[str]:
    """Known titles, and one that is not known where "and" joins it to them."""
    mentions = find_mentions(plain, known)
    if not mentions:
        return []
    words = plain.split()
    titles = [m.title for m in mentions]
    end = mentions[-1].end
    beyond = _trim(" ".join(words[end + 1 :])) if words[end : end + 1] in (["and"], ["or"]) else ""
    start = mentions[0].start
    before = BEFORE_TITLE.search(" ".join(words[: start - 1])) if words[start - 1 : start] in (["and"], ["or"]) else None
    more = [t for t in (_trim(before.group(1)) if before else "", beyond) if len(t.split()) > 1 and _is_title(t)]
    return [*titles, *(_as_written(t, raw) for t in more)]


def _new_titles(raw: str, plain: str, loose: bool) -> list[str]:
    """Titles that are not known yet, as they are written."""
    quoted = [q.strip() for q in re.findall(r"[\"“”„«]([^\"“”„»]{2,60})[\"“”»]", raw)]
    if quoted:
        return [q for q in quoted if make_plain(q) not in EMPTY]
    clause = make_plain(re.split(r"[,;(–—]|:\s(?=[a-z])| - ", _after_colon(raw))[0])
    for pattern, text in ((BEFORE_TITLE, clause), (AFTER_TITLE, clause), (BEFORE_TITLE, plain), (AFTER_TITLE, plain)):
        if match := pattern.search(text):
            made = [t for t in _split_list(_trim(match.group(1))) if _is_title(t)]
            if made:
                return [_as_written(t, raw) for t in made]
    if (loose or clause != plain) and _is_title(_trim(clause)):
        return [_as_written(_trim(clause), raw)]
    return []


def _written_titles(raw: str) -> list[str]:
    """In quotation marks, or written with capitals as titles are; the first word of a sentence has one anyway."""
    quoted = [q.strip() for q in re.findall(r"[\"“”„«]([^\"“”„»]{2,60})[\"“”»]", raw)]
    runs = [] if raw.isupper() else [m.group() for m in CAPITALS.finditer(raw)]
    return [t for t in dict.fromkeys((*quoted, *runs)) if _is_title(make_plain(t))][:3]


def _after_colon(raw: str) -> str:
    """What stands after "Request:" or "Next:"."""
    head, colon, rest = raw.partition(":")
    return rest if colon and re.search(r"\b(?:request|next|next one|song|idea|wish)$", make_plain(head)) else raw


def _trim(text: str) -> str:
    """Without what follows a title: "please", "next", "on piano", "for my wedding" …"""
    before = None
    while before != text:
        before, text = text, TAIL.sub("", text)
    return re.sub(r"^(?:please |pls |maybe |also |hey |hi |the song |a song |song |called |one of |doing |to |a (?:tutorial|lesson) (?:for|on|of) )+", "", text)


def _split_list(text: str) -> list[str]:
    """Two titles joined by "and" are told from one with "and" in it by their length."""
    parts = re.split(r" and | or ", text)
    return parts if len(parts) == 2 and all(len(p.split()) >= 2 for p in parts) else [text]


def _is_title(plain: str) -> bool:
    words = plain.split()
    telling = [w for w in words if w not in EMPTY and not w.isdigit()]
    if not words or len(words) > _LONGEST_TITLE or not telling:
        return False
    # Commands about the video itself begin with a word that no title is taken to begin with.
    return words[0] not in NO_BEGINNING and len(telling) >= 2


def _as_written(plain: str, raw: str) -> str:
    """The stretch of the raw text that reads like the plain title."""
    words = raw.split()
    for length in range(1, len(words) + 1):
        for start in range(len(words) - length + 1):
            piece = " ".join(words[start : start + length])
            if make_plain(piece) == plain:
                return piece.strip(' .,!?…:;"“”()*~')
    return plain
