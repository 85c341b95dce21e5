"""Captions and transcripts read: what is said in a film, and when, so that a slip in it gets its minute and second.

SubRip and WebVTT by their arrows; a plain transcript by times at the beginning of its lines ("1:24 and now the C minor"); any other text has no times.
"""

from __future__ import annotations

import re
from bisect import bisect_right
from dataclasses import dataclass

from valley.errors import FormatError

_CLOCK = r"(?:(\d+):)?(\d{1,2}):(\d{2})(?:[.,](\d{1,3}))?"
_ARROW = re.compile(rf"^\s*{_CLOCK}\s*-->\s*{_CLOCK}(?:\s.*)?$")
_LINE = re.compile(rf"^\s*[\[(]?{_CLOCK}[\])]?\s*[-–:]?\s+(.*)$")
_TAG = re.compile(r"<[^>]*>|\{\\[^}]*\}")
_NO_CUE = re.compile(r"^(WEBVTT|NOTE|STYLE|REGION)\b")
_PAUSE, _STOPS = 1.0, tuple(".!?,;:…")  # seconds that end a sentence where no stop does
_LEAST_TIMED = 0.5  # of the lines of a transcript: fewer times are numbers of something else


@dataclass(frozen=True)
class Transcript:
    """``text`` as it is said; ``cues``: where each begins in it, and its first and last second. Without cues the times are not known."""

    text: str
    cues: tuple[tuple[int, float, float], ...] = ()

    def seconds(self, place: int) -> float | None:
        """When a place in the text is said: within its cue by the letters.

        >>> Transcript("one two three", ((0, 1.0, 2.0), (4, 5.0, 9.0))).seconds(4)
        5.0
        """
        if not self.cues:
            return None
        i = max(0, bisect_right([start for start, _, _ in self.cues], place) - 1)
        start, first, last = self.cues[i]
        end = self.cues[i + 1][0] if i + 1 < len(self.cues) else len(self.text)
        share = (place - start) / max(1, end - start)
        return round(first + min(1.0, max(0.0, share)) * (last - first), 1)


def read_transcript(text: str) -> Transcript:
    """A transcript out of captions, timed lines or plain words.

    Raises
    ------
    FormatError
        a caption ends before it begins
    """
    lines = text.replace("\r\n", "\n").replace("\r", "\n").split("\n")
    if any(_ARROW.match(line) for line in lines):
        return _join(_captions(lines))
    spoken = [line for line in lines if line.strip()]
    timed = [m for line in spoken if (m := _LINE.match(line))]
    if len(timed) >= 2 and len(timed) >= _LEAST_TIMED * len(spoken):
        return _join(_timed_lines(spoken))
    return Transcript(text)


def _seconds(groups: tuple[str | None, ...]) -> float:
    hours, minutes, seconds, rest = groups
    return int(hours or 0) * 3600 + int(minutes or 0) * 60 + int(seconds or 0) + (float(f"0.{rest}") if rest else 0.0)


def _captions(lines: list[str]) -> list[tuple[float, float, str]]:
    cues: list[tuple[float, float, list[str]]] = []
    inside = False
    for number, line in enumerate(lines, 1):
        arrow = _ARROW.match(line)
        if arrow:
            first, last = _seconds(arrow.groups()[:4]), _seconds(arrow.groups()[4:8])
            if last < first:
                raise FormatError(f"line {number}: the caption ends at {last:g} s, before it begins at {first:g} s")
            cues.append((first, last, []))
            inside = True
        elif not line.strip():
            inside = False
        elif inside and not _NO_CUE.match(line):
            cues[-1][2].append(_TAG.sub("", line).strip())
    return [(first, last, " ".join(rows)) for first, last, rows in _said_once(cues) if any(rows)]


def _said_once(cues: list[tuple[float, float, list[str]]]) -> list[tuple[float, float, list[str]]]:
    """Rolling captions show a line again while the next is said: it counts once."""
    out: list[tuple[float, float, list[str]]] = []
    before: list[str] = []
    for first, last, rows in cues:
        new = rows[1:] if before and rows and rows[0] == before[-1] and len(rows) > 1 else [] if rows == before[-1:] and len(before) > 1 else rows
        out.append((first, last, new))
        before = rows
    return out


def _timed_lines(lines: list[str]) -> list[tuple[float, float, str]]:
    cues: list[tuple[float, str]] = []
    for line in lines:
        found = _LINE.match(line)
        if found:
            cues.append((_seconds(found.groups()[:4]), found[5].strip()))
        elif cues:
            cues[-1] = (cues[-1][0], f"{cues[-1][1]} {line.strip()}")
        else:
            cues.append((0.0, line.strip()))
    ends = [first for first, _ in cues[1:]] + [cues[-1][0] + 4.0]
    return [(first, max(first, end), said) for (first, said), end in zip(cues, ends, strict=True)]


def _join(cues: list[tuple[float, float, str]]) -> Transcript:
    text, places, until = "", [], 0.0
    for first, last, said in cues:
        if text:  # who plays between two sentences says nothing meanwhile
            text = text.rstrip() + ("\n" if first - until >= _PAUSE and text.rstrip()[-1:] not in _STOPS else " ")
        places.append((len(text), first, last))
        text += said
        until = last if said else until
    return Transcript(text, tuple(places))
