"""Chart → Arrangement in a style: moments from chords and tune, shapes chosen, notes spelled and set in time."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from valley.arranging.reach import HANDS, Hand, keyboard_range, span_mm
from valley.arranging.reasons import explain_grip
from valley.arranging.styles import Limits, Moment, Shape, Style, style_named
from valley.arranging.voicing import choose_shapes
from valley.model.arrangement import LEFT, RIGHT, Arrangement, Grip, HandNote, PartArrangement, PlayedNote
from valley.model.chart import Chart, ChartChord, MelodyNote, Part
from valley.theory.chord import Chord, parse_harte
from valley.theory.key import Key


def arrange(chart: Chart, *, style: str = "root-and-chord", hand: Hand = HANDS["medium"], keyboard: int = 88) -> Arrangement:
    """What both hands play in every part of a chart.

    Parameters
    ----------
    style : name of a voicing style
    hand : widest span asked of either hand
    keyboard : number of keys, 49 to 88
    """
    chosen = style_named(style)
    lowest, highest = keyboard_range(keyboard)
    limits = Limits(hand, lowest, highest)
    parts = tuple(_arrange_part(chart, part, chosen, limits) for part in chart.parts)
    return Arrangement(style, hand.name, keyboard, parts)


def _arrange_part(chart: Chart, part: Part, style: Style, limits: Limits) -> PartArrangement:
    melody = _playable_melody(chart.melody_of(part), limits) if style.melody != "none" else ()
    sounding = [(c, chord) for c in chart.chords_of(part) if (chord := parse_harte(c.label)) is not None]
    moments = [_moment(c, chord, melody) for c, chord in sounding]
    shapes = choose_shapes(moments, style, limits)
    grips: list[Grip] = []
    for (place, chord), shape in zip(sounding, shapes, strict=True):
        before = grips[-1] if grips else None
        grips.append(_spell_grip(place, chord, shape, chart.key_at(place.start), before, style))
    return PartArrangement(part.number, style.name, tuple(grips), _set_in_time(chart, grips, melody, style))


def _playable_melody(melody: Sequence[MelodyNote], limits: Limits) -> tuple[MelodyNote, ...]:
    """The tune by octaves into the right hand's room, all of it alike so that its shape stays."""
    if not melody:
        return ()
    low, high = min(n.midi for n in melody), max(n.midi for n in melody)
    shift = 0
    while low + shift < max(limits.lowest, 55) and high + shift + 12 <= limits.highest:
        shift += 12
    while high + shift > limits.highest:
        shift -= 12
    return tuple(MelodyNote(n.start, n.duration, n.midi + shift, n.confidence, n.locked) for n in melody)


def _moment(place: ChartChord, chord: Chord, melody: Sequence[MelodyNote]) -> Moment:
    """The tune at a chord: a note that starts with it or is held into it, and the lowest it touches meanwhile."""
    during = [n for n in melody if n.start < place.end and n.end > place.start]
    at_start = [n for n in during if n.start <= place.start]
    return Moment(chord, at_start[0].midi if at_start else None, min((n.midi for n in during), default=None))


def _spell_grip(place: ChartChord, chord: Chord, shape: Shape, key: Key, before: Grip | None, style: Style) -> Grip:
    def spell(notes: tuple[int, ...]) -> tuple[HandNote, ...]:
        return tuple(HandNote(chord.name_of(n % 12, key).at(n), n, chord.member_word(n % 12)) for n in notes)

    left, right = spell(shape.left), spell(shape.right)
    sounding = {n % 12 for n in (*shape.left, *shape.right)}
    omits = tuple(chord.member_word(n.pitch_class) for n in chord.members() if n.pitch_class not in sounding)
    return Grip(
        start=place.start,
        duration=place.duration,
        label=place.label,
        symbol=chord.to_symbol(),
        left=left,
        right=right,
        reach_left_mm=span_mm(shape.left),
        reach_right_mm=span_mm(shape.right),
        omits=omits,
        why=explain_grip(chord, left, right, before, melody_on_top=style.melody == "top"),
    )


def _set_in_time(chart: Chart, grips: Sequence[Grip], melody: Sequence[MelodyNote], style: Style) -> tuple[PlayedNote, ...]:
    """Held grips, and the tune with the chord notes that stand under it."""
    notes: list[PlayedNote] = []
    for grip in grips:
        notes += [PlayedNote(LEFT, grip.start, grip.duration, n.midi, n.pitch) for n in grip.left]
        if style.melody == "none":
            notes += [PlayedNote(RIGHT, grip.start, grip.duration, n.midi, n.pitch) for n in grip.right]
    if style.melody != "none":
        notes += _right_hand_line(chart, grips, melody, style)
    return tuple(sorted(notes, key=lambda n: (n.start, n.hand, n.midi)))


def _right_hand_line(chart: Chart, grips: Sequence[Grip], melody: Sequence[MelodyNote], style: Style) -> list[PlayedNote]:
    """One voice: where a chord changes, the tune's note takes the grip's lower notes with it.

    A tune's note that is held over the change is struck again with them, so that the chord is heard.
    """
    notes: list[PlayedNote] = []
    under = {g.start: g for g in grips if style.melody == "top"}
    cuts = sorted(under)
    for tune in melody:
        edges = [tune.start, *[c for c in cuts if tune.start < c < tune.end and len(under[c].right) > 1], tune.end]
        for a, b in zip(edges, edges[1:], strict=False):
            grip = _grip_at(grips, a)
            lower = under[a].right[:-1] if a in under else ()
            notes += [PlayedNote(RIGHT, a, b - a, n.midi, n.pitch) for n in lower if n.midi < tune.midi]
            notes.append(PlayedNote(RIGHT, a, b - a, tune.midi, _spell(chart, grip, tune.midi, a), melody=True))
    for start, grip in under.items():
        if any(n.start <= start < n.end for n in melody):
            continue
        following = [n.start for n in melody if start < n.start < grip.end]
        length = min(following, default=grip.end) - start
        notes += [PlayedNote(RIGHT, start, length, n.midi, n.pitch) for n in grip.right]
    return notes


def _grip_at(grips: Sequence[Grip], beat: Fraction) -> Grip | None:
    return next((g for g in grips if g.start <= beat < g.end), None)


def _spell(chart: Chart, grip: Grip | None, midi: int, beat: Fraction) -> str:
    key = chart.key_at(beat)
    chord = parse_harte(grip.label) if grip else None
    return (chord.name_of(midi % 12, key) if chord else key.spell(midi % 12)).at(midi)
