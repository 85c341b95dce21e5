"""A seventh chord shared out: its bass below, and above it the triad on its third, which every hand finds at once."""

from collections.abc import Iterator

from valley.arranging.styles import _hands
from valley.arranging.styles._style import EASIER, FULLER, Hold, Limits, Moment, Style, close_shapes
from valley.model.saying import Names, Saying, Sound, say
from valley.theory._chord_table import QUALITIES
from valley.theory.chord import Chord

_TRIADS = {frozenset(q.members): q for q in QUALITIES if len(q.members) == 3 and q.harte in ("maj", "min", "dim", "aug")}


def upper_triad(chord: Chord) -> Chord | None:
    """The triad that stands on the chord's third, or on its fifth, without the root; None for plain triads.

    >>> from valley.theory.chord import parse_harte
    >>> upper_triad(parse_harte("C:maj7")).to_symbol()
    'Em'
    """
    rest = [i for i in chord.quality.members if i != 0]
    for base in rest[:1] if len(rest) == 3 else rest[:2]:
        shape = frozenset(i - base for i in rest if i - base in (0, 4, -3, 1, -6, 8))
        if shape in _TRIADS and len(rest) >= 3:
            return Chord(chord.root.up(base), _TRIADS[shape])
    return None


def says(chord: Chord) -> Saying | None:
    triad = upper_triad(chord)
    return say("seen as", triad=Sound(triad), bass=Names((str(chord.bass),)), chord=Sound(chord)) if triad else None


def left(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    if level != EASIER:
        yield from _hands.octave(moment, limits)
    if level == FULLER:
        yield from _hands.fifth_and_octave(moment, limits)
    for hold in _hands.single_bass(moment, limits):
        yield Hold(hold.notes, cost=0.0 if level == EASIER else 12.0)


def right(moment: Moment, limits: Limits, level: str) -> Iterator[Hold]:
    triad = upper_triad(moment.chord)
    if triad is None:
        yield from _hands.close_chord(moment, limits, 3, double=level == FULLER)
        yield from (Hold(h.notes, cost=1.0) for h in _hands.close_chord(moment, limits, 3))
        return
    for notes in close_shapes([n.pitch_class for n in triad.members()], max(limits.lowest, 52), min(limits.highest, 79)):
        if level == FULLER and notes[0] + 12 <= limits.highest and not _hands.leads_on(moment.chord, notes[0]):
            yield Hold((*notes, notes[0] + 12), optional=(notes[0] + 12,))
        yield Hold(notes, cost=1.0 if level == FULLER else 0.0)


STYLE = Style(
    name="shared-chord",
    title="Shared chord",
    summary="A seventh chord as its bass in the left and the plain triad on its third in the right: easy to find, rich to hear.",
    melody="none",
    left=left,
    right=right,
    says=says,
)
