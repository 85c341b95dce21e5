"""Words at another pitch: every note, chord and key that is named in a text, said as the song in another key has it."""

from __future__ import annotations

import re

from valley.lesson.proof._names import NameFinder
from valley.lesson.proof._scope import Scope
from valley.model.arrangement import Arrangement
from valley.model.chart import Chart
from valley.theory.names import name_note
from valley.theory.pitch import PitchName

_OCTAVE = re.compile(r"\s?\d")


def rename_notes(text: str, chart: Chart, arrangement: Arrangement, fifths: int, half_steps: int, *, naming: str = "letters", octaves: str = "c4") -> str:
    """The text with its names moved; everything else stays as it was written.

    Parameters
    ----------
    chart, arrangement : what the text speaks of, before the move
    fifths : how far names go on the line of fifths
    half_steps : how far keys go; for names with an octave
    """
    spoken = naming != "german" and re.search(r"[A-Za-z] (?:flat|sharp)\b", text, re.IGNORECASE) is not None
    out, at = "", 0
    for row in NameFinder(Scope(chart, arrangement), naming, octaves).find(text):
        new = _moved(row.name, fifths)
        out += text[at : row.start] + _say(new, text[row.start : row.root_end], naming, spoken=spoken)
        at = row.root_end
        if row.octave is not None and (number := _OCTAVE.match(text, at)):
            low = 12 * (row.octave + 1) + PitchName(row.name.fifths - 7 * row.name.alter).pitch_class + row.name.alter
            pitch = new.at(low + half_steps)
            gap = " " if out.endswith((" flat", " sharp")) else ""
            out += f"{gap}{int(pitch.removeprefix(str(new))) - (octaves == 'c3')}"
            at = number.end()
        if row.bass is not None and row.bass_at is not None:
            start, end = row.bass_at
            out += text[at:start] + _say(_moved(row.bass, fifths), text[start:end], naming, spoken=spoken)
            at = end
    return out + text[at:]


def _moved(name: PitchName, fifths: int) -> PitchName:
    """Never with two signs, as nobody says them."""
    there = name.up(fifths)
    return there.up(-12) if there.alter > 1 else there.up(12) if there.alter < -1 else there


def _say(name: PitchName, like: str, naming: str, *, spoken: bool) -> str:
    """A name in the way that others are written in the text: "B flat" or "Bb", small or capital."""
    said = name_note(name, naming=naming, flats="spoken" if spoken else "written")
    if "♭" in like or "♯" in like:
        said = said.replace("b", "♭").replace("#", "♯")
    return said.lower() if like.islower() else said
