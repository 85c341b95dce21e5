"""Words at another pitch: every note, chord and key that is named in a text, said as the song in another key has it."""

from __future__ import annotations

from valley.lesson.proof._names import NameFinder
from valley.lesson.proof._scope import Scope
from valley.model.arrangement import Arrangement
from valley.model.chart import Chart
from valley.theory.names import name_note
from valley.theory.pitch import PitchName


def rename_notes(text: str, chart: Chart, arrangement: Arrangement, fifths: int, half_steps: int, *, naming: str = "letters", octaves: str = "c4") -> str:
    """The text with its names moved; everything else stays as it was written.

    Parameters
    ----------
    chart, arrangement : what the text speaks of, before the move
    fifths : how far names go on the line of fifths
    half_steps : how far keys go; for names with an octave
    """
    out, at = "", 0
    for row in NameFinder(Scope(chart, arrangement), naming, octaves).find(text):
        new = _moved(row.name, fifths)
        out += text[at : row.start] + _say(new, text[row.start : row.root_end], naming)
        at = row.root_end
        if row.octave is not None and text[at : at + 1].strip().isdigit():
            low = 12 * (row.octave + 1) + PitchName(row.name.fifths - 7 * row.name.alter).pitch_class + row.name.alter
            pitch = new.at(low + half_steps)
            out += str(int(pitch.removeprefix(str(new))) - (octaves == "c3"))
            at += 1
        if row.bass is not None and row.bass_at is not None:
            start, end = row.bass_at
            out += text[at:start] + _say(_moved(row.bass, fifths), text[start:end], naming)
            at = end
    return out + text[at:]


def _moved(name: PitchName, fifths: int) -> PitchName:
    """Never with two signs, as nobody says them."""
    there = name.up(fifths)
    return there.up(-12) if there.alter > 1 else there.up(12) if there.alter < -1 else there


def _say(name: PitchName, like: str, naming: str) -> str:
    """A name in the way that another is written: "B flat" or "Bb", small or capital."""
    spoken = " flat" in like.lower() or " sharp" in like.lower() or (naming == "letters" and like.isalpha() and len(like) == 1)
    said = name_note(name, naming=naming, flats="spoken" if spoken and naming != "german" else "written")
    if "♭" in like or "♯" in like:
        said = said.replace("b", "♭").replace("#", "♯")
    return said.lower() if like.islower() else said
