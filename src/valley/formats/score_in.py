"""Scores and played files in: MusicXML (read by music21) and Standard MIDI (read by mido, quantised to the grid, split into hands)."""

from __future__ import annotations

import io
import statistics
import zipfile
from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction
from typing import Any, Final

import mido

from valley.errors import FormatError, ValleyError
from valley.formats.midi import TUNE
from valley.model.arrangement import LEFT, RIGHT
from valley.model.score import Score, ScoreNote
from valley.theory.chord import NO_CHORD, parse_symbol
from valley.theory.metre import SUPPORTED

_FINEST: Final = (Fraction(1, 4), Fraction(1, 3))  # of a quarter: sixteenths, or triplets
_MOST_NOTES: Final = 100_000


def read_musicxml(data: bytes, *, title: str = "Untitled") -> Score:
    """A score from MusicXML, compressed or not. The upper staff, or the first part, is the right hand.

    Raises
    ------
    FormatError
        what is wrong, with the place where the file breaks off or stops making sense
    """
    from music21 import chord, converter, harmony, key, meter, note, tempo

    text = _unpack(data)
    try:
        parsed: Any = converter.parseData(text, format="musicxml")
        if "<repeat " in text or "<segno" in text or "<coda" in text:
            parsed = parsed.expandRepeats()
    except Exception as error:  # music21 raises whatever its parser meets
        raise FormatError(f"the MusicXML cannot be read: {_one_line(error)}") from error
    staves = list(parsed.parts) if hasattr(parsed, "parts") else []
    if not staves:
        raise FormatError("the MusicXML holds no part with notes")
    notes: list[ScoreNote] = []
    harmonies: list[tuple[Fraction, str]] = []
    for index, staff in enumerate(staves):
        hand = RIGHT if index == 0 else LEFT
        for element in staff.flatten().getElementsByClass([note.Note, chord.Chord, harmony.ChordSymbol]):
            start = _fraction(element.offset)
            if isinstance(element, harmony.ChordSymbol):
                if (start, label := _harte(element)) not in harmonies and label:
                    harmonies.append((start, label))
                continue
            grace = bool(element.duration.isGrace)
            members = element.notes if isinstance(element, chord.Chord) else [element]
            for member in members:
                tied = member.tie.type if member.tie is not None else (element.tie.type if element.tie is not None else "")
                notes.append(
                    ScoreNote(
                        start,
                        Fraction(0) if grace else _fraction(element.quarterLength),
                        int(member.pitch.midi),
                        hand + ("~" if tied in ("stop", "continue") else ""),
                        grace,
                    )
                )
    flat = staves[0].flatten()
    meters = [(_fraction(m.offset), m.ratioString) for m in flat.getElementsByClass(meter.TimeSignature)]
    keys = [(_fraction(k.offset), int(k.sharps), getattr(k, "mode", "") or "") for k in flat.getElementsByClass(key.KeySignature)]
    tempi = [(_fraction(t.offset), float(t.getQuarterBPM() or 100.0)) for t in flat.getElementsByClass(tempo.MetronomeMark)]
    marks = _share_marks([(_fraction(r.offset), str(r.content)) for r in flat.getElementsByClass("RehearsalMark")])
    measures = list(staves[0].getElementsByClass("Measure"))
    pickup = _fraction(measures[0].duration.quarterLength) if measures and (measures[0].number == 0 or measures[0].paddingLeft) else Fraction(0)
    given = parsed.metadata.title if parsed.metadata is not None and parsed.metadata.title else title
    return Score(str(given), _join_ties(notes), _known_meters(meters), tuple(keys), tuple(tempi), tuple(sorted(harmonies)), tuple(marks), pickup)


def _share_marks(marks: list[tuple[Fraction, str]]) -> list[tuple[Fraction, str]]:
    """A repeat carries the names of both its times, "1 Verse, 2 Verse again": each time gets its own.

    >>> _share_marks([(Fraction(0), "1 A, 2 B"), (Fraction(8), "1 A, 2 B"), (Fraction(16), "3")])
    [(Fraction(0, 1), '1 A'), (Fraction(8, 1), '2 B'), (Fraction(16, 1), '3')]
    """
    seen: dict[str, int] = {}
    out = []
    for start, text in marks:
        turn = seen[text] = seen.get(text, -1) + 1
        names = text.split(", ")
        doubled = sum(1 for _, other in marks if other == text) == len(names) > 1
        out.append((start, names[turn] if doubled else text))
    return out


def _unpack(data: bytes) -> str:
    if data[:2] == b"PK":
        try:
            with zipfile.ZipFile(io.BytesIO(data)) as archive:
                names = [n for n in archive.namelist() if n.endswith((".xml", ".musicxml")) and not n.startswith("META-INF")]
                if not names or archive.getinfo(names[0]).file_size > 50_000_000:
                    raise FormatError("the compressed MusicXML holds no score, or one of more than 50 MB")
                data = archive.read(names[0])
        except zipfile.BadZipFile as error:
            raise FormatError(f"the compressed MusicXML is damaged: {error}") from error
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise FormatError(f"the MusicXML is not text in UTF-8 (byte {error.start})") from error
    if "<!ENTITY" in text:
        raise FormatError("the MusicXML defines entities of its own, which is not read; save it again without them")
    if "<score-partwise" not in text and "<score-timewise" not in text:
        raise FormatError("the file is no MusicXML: it holds neither score-partwise nor score-timewise")
    return text


def _one_line(error: Exception) -> str:
    return " ".join(str(error).split())[:200] or type(error).__name__


def _fraction(value: Any) -> Fraction:
    return Fraction(value).limit_denominator(48)


def _harte(symbol: Any) -> str:
    """Harte's label of a music21 chord symbol, by its printed text."""
    if type(symbol).__name__ == "NoChord":
        return NO_CHORD
    root = str(symbol.root().name).replace("-", "b")
    bass = str(symbol.bass().name).replace("-", "b")
    suffix = symbol.chordKindStr or ""
    for text in (f"{root}{suffix}", f"{root}{_KIND_SUFFIX.get(symbol.chordKind, '')}"):
        try:
            chord = parse_symbol(text + (f"/{bass}" if bass != root else ""))
        except ValleyError:
            continue
        return chord.to_harte() if chord else NO_CHORD
    return ""


_KIND_SUFFIX = {
    "minor": "m",
    "dominant-seventh": "7",
    "dominant": "7",
    "major-seventh": "maj7",
    "minor-seventh": "m7",
    "suspended-fourth": "sus4",
    "suspended-second": "sus2",
    "diminished": "dim",
    "augmented": "aug",
    "half-diminished-seventh": "m7b5",
    "half-diminished": "m7b5",
    "diminished-seventh": "dim7",
    "minor-major-seventh": "m(maj7)",
    "major-minor": "m(maj7)",
    "major-sixth": "6",
    "minor-sixth": "m6",
    "dominant-ninth": "9",
    "major-ninth": "maj9",
    "minor-ninth": "m9",
    "power": "5",
}


def _join_ties(notes: Sequence[ScoreNote]) -> tuple[ScoreNote, ...]:
    """Tied notes as one; a note that continues carries a mark behind its hand until here."""
    out: list[ScoreNote] = []
    open_notes: dict[tuple[str, int], int] = {}
    for n in sorted(notes, key=lambda n: (n.start, n.hand.endswith("~"), n.midi)):
        hand = n.hand.rstrip("~")
        at = open_notes.get((hand, n.midi))
        if n.hand.endswith("~") and at is not None and out[at].start + out[at].duration == n.start:
            out[at] = replace(out[at], duration=out[at].duration + n.duration)
            continue
        open_notes[hand, n.midi] = len(out)
        out.append(replace(n, hand=hand))
    return tuple(sorted(out, key=lambda n: (n.start, n.midi)))


def _known_meters(meters: Sequence[tuple[Fraction, str]]) -> tuple[tuple[Fraction, str], ...]:
    unknown = [m for _, m in meters if m not in SUPPORTED]
    if unknown:
        raise FormatError(f"the metre {unknown[0]} is not one of {', '.join(SUPPORTED)}, which is all that can be charted")
    return tuple(meters) or ((Fraction(0), "4/4"),)


def read_midi(data: bytes, *, title: str = "Untitled") -> Score:
    """A performance or a sequenced file: notes on the nearest sixteenth or triplet of the file's own tempo, hands by track, else by where they lie.

    Raises
    ------
    FormatError
        the file is damaged, holds no notes or a metre that cannot be charted
    """
    try:
        file = mido.MidiFile(file=io.BytesIO(data))
    except (OSError, EOFError, ValueError, KeyError, IndexError) as error:
        raise FormatError(f"the MIDI file cannot be read: {_one_line(error) or 'it breaks off'}") from error
    per_quarter = file.ticks_per_beat or 480
    raw: list[tuple[int, int, int, int]] = []  # track, start, end, midi
    meters: list[tuple[Fraction, str]] = []
    keys: list[tuple[Fraction, int, str]] = []
    tempi: list[tuple[Fraction, float]] = []
    marks: list[tuple[Fraction, str]] = []
    names: dict[int, str] = {}
    for index, track in enumerate(file.tracks):
        now = 0
        down: dict[tuple[int, int], int] = {}
        for message in track:
            now += message.time
            place = Fraction(now, per_quarter)
            if message.type == "note_on" and message.velocity and message.channel != 9:
                down.setdefault((message.channel, message.note), now)
            elif message.type in ("note_off", "note_on") and (start := down.pop((message.channel, message.note), None)) is not None:
                raw.append((index, start, max(now, start + 1), message.note))
            elif message.type == "time_signature":
                meters.append((place, f"{message.numerator}/{message.denominator}"))
            elif message.type == "set_tempo":
                tempi.append((place, round(mido.tempo2bpm(message.tempo), 3)))
            elif message.type == "key_signature":
                keys.append((place, *_read_key(message.key)))
            elif message.type == "marker":
                marks.append((place, message.text))
            elif message.type == "track_name":
                names[index] = message.name
    if not raw:
        raise FormatError("the MIDI file holds no notes")
    if len(raw) > _MOST_NOTES:
        raise FormatError(f"the MIDI file holds {len(raw)} notes; at most {_MOST_NOTES} are read")
    raw = _without_tune(raw, names)
    step = _choose_step([Fraction(start, per_quarter) for _, start, _, _ in raw])
    hands = _hands_by_track(raw, names)
    notes = []
    for track_index, start, end, midi in raw:
        a = _snap(Fraction(start, per_quarter), step)
        b = max(_snap(Fraction(end, per_quarter), step), a + step)
        notes.append(ScoreNote(a, b - a, midi, hands.get(track_index, "")))
    if not hands:
        notes = split_hands(notes)
    heading = next((n for i, n in sorted(names.items()) if n.strip() and hands.get(i) is None), title)
    ordered = tuple(sorted(set(notes), key=lambda n: (n.start, n.midi)))
    return Score(heading if heading.strip() else title, ordered, _known_meters(meters), tuple(keys), tuple(tempi), (), tuple(marks))


def _read_key(text: str) -> tuple[int, str]:
    """Fifths and mode of a MIDI key such as "F#m"."""
    from valley.theory.key import Key

    key = Key.of(text.removesuffix("m"), "minor" if text.endswith("m") else "major")
    return key.signature, key.mode


def _snap(position: Fraction, step: Fraction) -> Fraction:
    return round(position / step) * step


def _choose_step(starts: Sequence[Fraction]) -> Fraction:
    """Sixteenths or triplets: whichever the beginnings lie nearer to."""
    return min(_FINEST, key=lambda step: (statistics.mean(float(abs(s - _snap(s, step)) / step) for s in starts), -step))


def _without_tune(raw: list[tuple[int, int, int, int]], names: dict[int, str]) -> list[tuple[int, int, int, int]]:
    """Beside tracks for both hands, a track of the tune says the same again."""
    hands = {t for t, *_ in raw if LEFT in names.get(t, "").lower() or RIGHT in names.get(t, "").lower()}
    tunes = {t for t, *_ in raw if names.get(t, "") == TUNE}
    return [row for row in raw if row[0] not in tunes] if len(hands) == 2 else raw


def _hands_by_track(raw: Sequence[tuple[int, int, int, int]], names: dict[int, str]) -> dict[int, str]:
    """Two tracks with notes are two hands, by their names or the higher one is the right."""
    tracks = sorted({t for t, *_ in raw})
    said = {t: hand for t in tracks for hand in (LEFT, RIGHT) if hand in names.get(t, "").lower()}
    if len(said) == len(tracks):
        return said
    if len(tracks) != 2:
        return {}
    middle = {t: statistics.mean(m for u, _, _, m in raw if u == t) for t in tracks}
    low, high = sorted(tracks, key=lambda t: middle[t])
    return {low: LEFT, high: RIGHT}


def split_hands(notes: Sequence[ScoreNote], *, span: int = 14) -> list[ScoreNote]:
    """Share notes between two hands: at every beginning the cut that keeps each hand within its span, near to where the hands were, at the widest gap.

    Chosen from the start on, one beginning after the other: where the hands were tells more than where they will be.
    """
    times = sorted({n.start for n in notes})
    groups = [sorted((n for n in notes if n.start == t), key=lambda n: n.midi) for t in times]
    places = {LEFT: 48.0, RIGHT: 67.0}
    out: list[ScoreNote] = []
    for group in groups:
        keys = [n.midi for n in group]

        def cost(cut: int, keys: list[int] = keys) -> float:
            low, high = keys[:cut], keys[cut:]
            total = 0.0
            for hand, side in ((low, LEFT), (high, RIGHT)):
                if hand:
                    total += 4.0 * max(0, hand[-1] - hand[0] - span) + 0.25 * abs(sum(hand) / len(hand) - places[side])
            if low and high:
                total -= 0.15 * min(12, high[0] - low[-1])
            return total

        cut = min(range(len(keys) + 1), key=cost)
        for i, note in enumerate(group):
            side = LEFT if i < cut else RIGHT
            out.append(replace(note, hand=side))
        for side, hand in ((LEFT, keys[:cut]), (RIGHT, keys[cut:])):
            if hand:
                places[side] = 0.7 * places[side] + 0.3 * sum(hand) / len(hand)
    return out
