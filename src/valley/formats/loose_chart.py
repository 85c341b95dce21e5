"""Chord charts as people write them, made into our own notation: what they mean is read by ``chord_chart`` as if it had been typed so.

Understood beside our own: parts as ``Verse 1``, ``CHORUS:``, ``[Bridge]``, ``A:``, ``Intro: Em C G D x2``; a part's name alone, or
"same as", for "as before"; ``Form: A A B A``; title, key, tempo and time as they are said (``Autumn Path - in Em``, ``90 bpm``,
``Time: 3/4``, ``Capo 2``); chords over lines of words, whose words become cues; and everything that ``loose_bars`` reads.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from itertools import pairwise

from valley.errors import FormatError
from valley.formats.chart_lines import is_line
from valley.formats.inline_chords import over_words
from valley.formats.loose_bars import Item, Tongue, find_stranger, is_chord_line, read_bars, read_times, symbol_of, unfold, without_remarks
from valley.formats.written_out import respell
from valley.theory.key import Key
from valley.theory.meter import Meter

_NAMES = (
    r"intro(?:duction)?|verse|pre[- ]?chorus|post[- ]?chorus|chorus|refrain|bridge|middle(?: eight| 8)?|interlude|instrumental|solo|outro|coda|ending|end|tag"
    r"|hook|riff|break|turnaround|vamp|part|section|theme|strophe|couplet|pont|final|vorspiel|zwischenspiel|nachspiel|br[uü]cke|schluss|estrofa|estribillo|puente|final"
)
_PART = re.compile(
    rf"^[\[({{<*=#_~\s-]*(?P<name>(?:{_NAMES})(?:\s*(?:\d{{1,2}}(?![\dx])|[A-Z]\b|[IVX]{{1,4}}\b))?(?:\s*[&/]\s*\d)?)(?P<times>\s+\(?(?:x\d{{1,2}}|\d{{1,2}}x)\)?)?(?P<close>\s*[\])}}>*=_~:.-]*)\s*(?P<rest>.*)$",
    re.IGNORECASE,
)
_LETTER = re.compile(r"^[\[(]?(?P<name>[A-Z][1-9]?)(?:[\])]\s*:?|:)\s*(?P<rest>.*)$")
_FORM = re.compile(r"^(?:form|order|structure|arrangement|play|road ?map)\s*:\s*(.+)$", re.IGNORECASE)
_KEY = re.compile(
    r"(?:^|[\s(–-])(?:key(?: change)?\s*(?:of|:|=|is|to)?|in|tonart\s*:?|tonalité\s*:?|tonalidad\s*:?|ton\s*:)\s*"
    r"(?P<tonic>(?:do|ré|re|mi|fa|sol|la|si)(?=\s)|[A-H](?:is|es|s)(?![a-z])|[A-H][#b♯♭]?(?=m(?![a-z])|min|maj|[\s),.;:-]|$))[\s-]*"
    r"(?P<mode>m\b|min\b|minor\b|maj(?:or)?\b|moll\b|dur\b|majeur\b|mineur\b|mayor\b|menor\b)?(?!\w)",
    re.IGNORECASE,
)
_SWUNG = r"(?:light(?:ly)?\s+)?(?:swung|swing|shuffle)(?:d)?(?:\s+(?:feel|8ths|16ths|eighths|sixteenths))?"
_FEEL = re.compile(rf"\b{_SWUNG}\b", re.IGNORECASE)
_FEEL_ALONE = re.compile(rf"(?:(?:feel|style|groove|rhythm)\s*[:=]\s*.*|(?:(?:slow|medium|fast|easy|hard|up|tempo)\s+)*{_SWUNG})\.?$", re.IGNORECASE)
_TEMPO = re.compile(
    r"(?:tempo|bpm|speed)\s*[:=]?\s*(?:ca\.?\s*|about\s*|~\s*)?(\d{2,3})\b|[♩q]\s*=\s*(\d{2,3})\b|\b(\d{2,3})\s*(?:bpm|beats per minute)\b", re.IGNORECASE
)
_TIME = re.compile(r"^(?:time(?: signature)?|meter|metre|signature|takt|mesure|comp[aá]s)?\s*[:=]?\s*(\d{1,2}\s*/\s*\d{1,2})(?:\s*time)?$", re.IGNORECASE)
_TIME_AMONG = re.compile(r"(?<![\d/])((?:[2-9]|12)/[248])(?![\d/])")
_CAPO = re.compile(r"\bcapo\s*(?:on|:|=|at|fret)*\s*(\d{1,2})", re.IGNORECASE)
_SAYS_KEY = re.compile(r"[\[(]?\s*(?:new |change )?(?:key|ton)", re.IGNORECASE)
_HEADER = re.compile(r"^(?:title|song|name|titre|titel|t[íi]tulo)\s*[:=]\s*(.+)$", re.IGNORECASE)
_LABEL = re.compile(r"^(?P<name>[^\W_][\w .'’/-]{0,23}?)\s*:\s*(?P<rest>.*)$")
_NO_PART = re.compile(
    r"(?:title|titre|titel|song|name|artist|by|key|tonart|tonalit|tempo|bpm|time|meter|metre|takt|mesure|comp|capo|pickup|form|order|structure|chords|accords"
    r"|akkorde|notes?|tuning|style|words|[RLTW])\b",
    re.IGNORECASE,
)
_AGAIN = re.compile(r"^(?:repeat|again|back to|same as|like|wie|comme)\s*:?\s*(?:the\s+)?(?P<name>.+?)(?:\s+again)?\s*[.)]?$", re.IGNORECASE)
_WORD = re.compile(r"[^\W\d_][\w'’-]*")
_LONGEST, _LONGEST_LINE, _MOST_BARS = 200_000, 2_000, 2_000  # letters of a text and of a line: more is no chart that anybody wrote
_IN_A_ROW = 4  # bars of a line, as we write them


@dataclass
class _Part:
    """A part with its bars and, where it stood over words, a cue for some of them."""

    name: str
    items: list[Item] = field(default_factory=list)
    cues: dict[int, str] = field(default_factory=dict)  # by the place of their bar among the items
    times: int = 1
    lines: list[tuple[int, str]] = field(default_factory=list)  # lines of hands, tune or cues, with the number of bars before them

    def write(self) -> list[str]:
        """The part in our notation, its repeats played out; a cue, and what is played under a row, the first time."""
        bars = unfold(self.items) * self.times
        played = [place for place, _ in bars]
        cues = {played.index(place): word for place, word in self.cues.items() if place in played}
        under = [(next((i + 1 for i, place in enumerate(played) if place == n - 1), 0), line) for n, line in self.lines]
        out = [f"[{self.name}]"] if self.name else []
        out += [line for n, line in under if not n]
        edges = sorted({0, len(bars), *range(0, len(bars), _IN_A_ROW), *(n for n, _ in under), *(max(0, n - _IN_A_ROW) for n, _ in under)})
        for a, b in pairwise(edges):
            out.append(f"| {' | '.join(bar for _, bar in bars[a:b])} |")
            if any(a <= i < b for i in cues):
                out.append("W: " + " | ".join(f'1 "{cues[i]}"' if i in cues else "" for i in range(a, b)))
            out += [line for n, line in under if n == b]
        return out


@dataclass
class _Page:
    """What has been read of a page."""

    title: str = ""
    key: str = ""
    tempo: str = ""
    feel: str = ""
    meter: str = "4/4"
    capo: int = 0
    form: list[str] = field(default_factory=list)
    parts: list[_Part] = field(default_factory=list)

    @property
    def part(self) -> _Part:
        if not self.parts:
            self.parts.append(_Part(""))
        return self.parts[-1]


def is_loose(text: str) -> bool:
    """Whether a text holds chords at all, in whatever way."""
    if len(text) > _LONGEST or max(map(len, text.splitlines()), default=0) > _LONGEST_LINE:
        return False
    text = "\n".join(line for _, line in _rows(text))
    tongue = _tongue_of(text)
    lines = [_bare_of(without_remarks(line, tongue)) for line in text.splitlines() if line.strip()]
    return any(is_chord_line(line, tongue) or find_stranger(line, tongue) for line in lines)


def _rows(text: str) -> Iterator[tuple[int, str]]:
    """The lines with their numbers, chords apart from their words and spelled in the ways that are read below."""
    return ((number, respell(line)) for number, line in over_words(text))


def tidy_chart(text: str) -> tuple[str, int]:
    """A chart in our own notation, and by how many half steps it sounds higher than it is written (a capo).

    Raises
    ------
    FormatError
        no line holds chords, or what a line says cannot be
    """
    rows = list(_rows(text))
    tongue = _tongue_of("\n".join(line for _, line in rows))
    page = _Page()
    over: tuple[str, int] | None = None  # the line of chords above, and its first bar
    for number, raw in rows:
        line = raw.rstrip().lstrip("\ufeff").expandtabs(8)
        bare = without_remarks(line, tongue).rstrip()
        if is_chord_line(_bare_of(bare), tongue) or _PART.match(bare.strip()):
            line = bare  # "(softly)", "(8 bars)"; what is said of the song may stand in brackets, too
        if not line.strip() or line.lstrip().startswith("//"):
            over = None
            continue
        if sum(len(p.items) for p in page.parts) > _MOST_BARS:
            raise FormatError(f"line {number}: the chart has more than {_MOST_BARS} bars")
        try:
            over = _read_line(page, line, tongue, over)
        except FormatError as error:
            raise FormatError(f"line {number}: {error}") from error
    parts = _ordered(page)
    if not any(p.items for p in parts):
        raise FormatError("no line holds chords; write them in a row, such as | F | C/E | Dm | Bb |")
    head = [f"title: {page.title}" if page.title else "", f"key: {page.key}" if page.key else "", f"meter: {page.meter}", page.tempo and f"tempo: {page.tempo}"]
    head.append(f"feel: {page.feel}" if page.feel else "")
    return "\n".join([*(h for h in head if h), *(line for p in parts for line in ("", *p.write()))]) + "\n", page.capo


def _tongue_of(text: str) -> Tongue:
    """How a text names its chords: by its roots, and by the key that it says."""
    found = _find_key(text)
    key = _key(found) if found else Key.of("C", "major")
    lines = [_bare_of(line) for line in text.splitlines() if line.strip()]
    for naming in ("letters", "syllables", "german"):
        tongue = Tongue(naming, key)
        if naming == "german" and re.search(r"(?<![\w#♯♭])B[b♭]", text):
            continue
        other = [line for line in lines if is_chord_line(line, tongue)]
        if naming == "letters":
            plain = other
        elif len(other) > len(plain) and (naming == "syllables" or _GERMAN_ROOT.search(text)):
            return tongue
    numbers = Tongue("letters", key, numbers=True)
    return numbers if found and not plain and any(is_chord_line(line, numbers) and len(line.split()) > 2 for line in lines) else Tongue("letters", key)


_GERMAN_ROOT = re.compile(r"(?<![\w#♯♭])(?:H(?![a-ln-z])|[A-H](?:is|es)|[AE]s)(?=m|7|maj|dim|sus|\d|/|\b)")


_ABROAD = ("moll", "dur", "majeur", "mineur", "mayor", "menor")


def _find_key(text: str) -> re.Match[str] | None:
    """Where a text says its key; a small letter is one only before "Moll" and the like, not in "in a hurry"."""
    found = next((m for m in _KEY.finditer(text) if m["tonic"][0].isupper() or (m["mode"] or "").lower() in _ABROAD), None)
    if not found and re.match(r"key\b\s*:", text, re.IGNORECASE):
        raise FormatError(f"{text!r} names no key; write one such as key: F major")
    return found


def _key(match: re.Match[str]) -> Key:
    mode = (match["mode"] or "").lower()
    first = "german" if mode in ("moll", "dur") else "letters"
    tonic = match["tonic"][:1].upper() + match["tonic"][1:]
    name = next(n for naming in (first, "letters", "german", "syllables") if (n := symbol_of(tonic, Tongue(naming))))
    return Key.of(name.removesuffix("m"), "minor" if mode in ("m", "min", "minor", "moll", "mineur", "menor") else "major")


def _bare_of(line: str) -> str:
    """A line without the label that stands before its chords, and without the key that stands behind them."""
    label = _LABEL.match(line.strip())
    rest = _bare(label["rest"] if label and label["rest"] else line)
    return _KEY.sub("", rest)


def _bare(line: str) -> str:
    """A line without the name of a part that stands before its chords."""
    found = _part_of(line)
    return found[1] if found else line


def _part_of(line: str) -> tuple[str, str] | None:
    """The name of the part that a line begins, and what stands behind it; None where it begins none."""
    text = line.strip()
    if (m := _letter(text)) and not is_line(text):
        return m["name"], m["rest"]
    m = _PART.match(text)
    if not m:
        m = _LABEL.match(text)
        return (m["name"], m["rest"]) if m and not _NO_PART.match(text) and not is_line(text) else None
    rest = f"{m['rest']} {m['times'] or ''}".strip()
    marked = bool(m["close"].strip()) or text[0] in "[({<*=#"
    if not marked and (row := _row_behind(m, text)):
        return row
    return (m["name"].strip(), rest) if marked or not rest or read_times(rest)[0] == "" or "|" in rest else None


def _row_behind(match: re.Match[str], text: str) -> tuple[str, str] | None:
    """A part's name with its chords behind it and no sign between, such as "Verse C G Am F" or "Verse,C,G": a letter after the name is a chord
    where so the row is even."""
    whole = re.match(rf"(?:{_NAMES})(?:\s*\d{{1,2}}(?![\dx]))?", text, re.IGNORECASE)
    options = [(text[: whole.end()], text[whole.end() :])] if whole else []
    options.append((match["name"], text[match.end("name") :]))
    rows = [(name.strip(), rest.strip(" ,;\t")) for name, rest in options]
    fit = [(name, rest) for name, rest in dict.fromkeys(rows) if not re.fullmatch(r"[A-Z]?", rest) and is_chord_line(rest, Tongue())]
    return next((row for row in fit if len(re.findall(r"[^\s,;|-]+", row[1])) % 2 == 0), fit[0] if fit else None)


def _letter(text: str) -> re.Match[str] | None:
    """A part called by a letter, such as "[B] Am F": where more brackets follow, the letter is a chord among chords in brackets."""
    m = _LETTER.match(text)
    return None if m and text[0] in "[(" and text[0] in m["rest"] else m


def _read_line(page: _Page, line: str, tongue: Tongue, over: tuple[str, int] | None) -> tuple[str, int] | None:
    """Take a line in; gives the line of chords that the next line may be the words of."""
    text = line.strip()
    if is_line(text):
        page.part.lines.append((len(page.part.items), text))
        return None
    if form := _FORM.match(text):
        page.form = [w for w in re.split(r"[\s,–>-]+", form[1]) if w]
        return None
    if again := _known(page, text) or ((m := _AGAIN.match(text)) and _known(page, m["name"])):
        page.parts.append(_Part(again.name, list(again.items), dict(again.cues)))
        return None
    found = _part_of(line)
    if found and (_PART.match(text) or _letter(text) or _heads(*found, tongue)):
        _open_part(page, *found, tongue)
        return None
    body = _KEY.sub("", line) if is_chord_line(_KEY.sub("", line), tongue) else line
    if is_chord_line(body, tongue) and (page.parts or not _is_title(body)):
        if body != line:
            _read_header(page, text)
            page.title = ""
        first = len(page.part.items)
        page.part.items += read_bars(body, tongue, Meter(page.meter).beats)
        return line, first
    if stranger := find_stranger(body, tongue):
        raise FormatError(f"{stranger!r} is no chord that Valley can read; try a form such as Cm7, F#m7b5/C or Bbadd2")
    if not _read_header(page, text) and over:
        _take_cues(page.part, over, line, tongue)
    return None


def _heads(name: str, rest: str, tongue: Tongue) -> bool:
    """Whether a label that is no usual name of a part is one: chords, "x2" or "same as" follow it, or nothing and it is short; "He said: come" is not."""
    if not rest:
        return re.fullmatch(r"\w[\w/-]{0,9}(?: \d{1,2})?", name) is not None
    return is_chord_line(rest, tongue) or read_times(rest)[0] == "" or _AGAIN.match(rest) is not None or find_stranger(rest, tongue) is not None


def _open_part(page: _Page, name: str, rest: str, tongue: Tongue) -> None:
    """A part begins, perhaps with its chords behind its name, or "as before", or "x2"."""
    page.parts.append(_Part(name[:1].upper() + name[1:].lower() if len(name) > 2 and name.isupper() else name[:1].upper() + name[1:]))
    body, times = read_times(rest)
    if not body.strip():
        page.part.times = times
    elif again := (m := _AGAIN.match(body)) and _known(page, m["name"]):
        page.part.items = list(again.items)
    elif is_chord_line(rest, tongue):
        page.part.items += read_bars(rest, tongue, Meter(page.meter).beats)
    elif stranger := find_stranger(rest, tongue):
        raise FormatError(f"{stranger!r} is no chord that Valley can read; try a form such as Cm7, F#m7b5/C or Bbadd2")


def _known(page: _Page, name: str) -> _Part | None:
    """A part that was written before, by its name."""
    wanted = name.strip(" :.()[]").lower()
    return next((p for p in reversed(page.parts) if p.items and p.name.lower() == wanted), None)


def _is_title(body: str) -> bool:
    return len(body.split()) == 1 and "|" not in body and len(body) > 8


def _read_header(page: _Page, text: str) -> bool:
    """Key, tempo, time, capo and title, where a line says them; none of them once chords have come, but those that say what they are."""
    taken = False
    if time := _TIME.match(text):
        page.meter = time[1].replace(" ", "")
        return True
    if tempo := _TEMPO.search(text):
        page.tempo, taken = next(g for g in tempo.groups() if g), True
    if _read_feel(page, text) and not tempo:
        return True
    if capo := _CAPO.search(text):
        page.capo, taken = int(capo[1]), True
    key = _find_key(text)
    if key and page.parts and _SAYS_KEY.match(text):
        page.part.lines.append((len(page.part.items), f"key: {_key(key)}"))
        return True
    return taken | (_read_title(page, text) if page.parts else _read_top(page, text, key, [m for m in (tempo, capo) if m]))


def _read_title(page: _Page, text: str) -> bool:
    title = _HEADER.match(text)
    page.title = title[1].strip() if title else page.title
    return title is not None


def _read_top(page: _Page, text: str, key: re.Match[str] | None, others: Sequence[re.Match[str]]) -> bool:
    """Key, time and title as they stand above the first chords; the title is what comes before all the rest of its line."""
    if key:
        page.key = str(_key(key))
    if _read_title(page, text):
        return True
    if time := _TIME_AMONG.search(text):
        page.meter = time[1]
    if page.title or _NO_PART.match(text):
        return bool(key or time)
    cut = min((m.start() for m in (key, time, *others) if m), default=len(text))
    page.title = text[:cut].strip(" -–—|,(") or page.title
    return True


def _read_feel(page: _Page, text: str) -> bool:
    """Straight or swung, where a line says so by itself or with the tempo: a song may have such a word in its title."""
    feel = _FEEL.search(text)
    if page.parts or not feel or not (_TEMPO.search(text) or _FEEL_ALONE.match(text)):
        return False
    words = feel[0].lower()
    named = (("shuffle", "shuffle"), ("16", "swung sixteenths"), ("sixteenth", "swung sixteenths"), ("light", "light swing"))
    page.feel = next((name for word, name in named if word in words), "swing")
    return True


def _take_cues(part: _Part, over: tuple[str, int], line: str, tongue: Tongue) -> None:
    """The word under each chord, as a cue of its bar."""
    chords, first = over
    if "|" in chords:
        return
    starts = [m.start() for m in re.finditer(r"\S+", chords) if symbol_of(m[0], tongue)]
    words = list(_WORD.finditer(line))
    for i, column in enumerate(starts):
        end = starts[i + 1] if i + 1 < len(starts) else 10**6
        word = next((w for w in words if w.end() > column and w.start() < end), None)
        if word and first + i < len(part.items):
            part.cues[first + i] = word[0].replace('"', "")


def _ordered(page: _Page) -> list[_Part]:
    """The parts as they are played: those that are only named go as before, and a form puts them in order."""
    known: dict[str, _Part] = {}
    parts = []
    for part in page.parts:
        if not part.items and part.name in known:
            part = known[part.name]
        if part.items:
            known.setdefault(part.name, part)
            parts.append(part)
    if not page.form:
        return parts
    played = []
    for word in page.form:
        name, _, times = re.sub(r"[x×](?=\d{1,2}$)", "\n", word).partition("\n")
        match = [p for p in known.values() if p.name.lower() == name.lower()] or [p for p in known.values() if p.name.lower().startswith(name.lower())]
        if not match:
            raise FormatError(f"the form names {word!r}, but the parts are {', '.join(known)}")
        played += [match[0]] * int(times or 1)
    return played
