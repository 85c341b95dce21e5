"""MusicXML before the library reads it: chord symbols by kind, degree, bass and turn; two staves; the pedal; what strangers' programs write."""

import pytest

from valley.errors import FormatError
from valley.formats.score_in import read_musicxml
from valley.formats.score_xml import parse_score, read_feel
from valley.fraction import Fraction as F
from valley.model.arrangement import LEFT, RIGHT
from valley.model.score import Score
from valley.theory.chord import parse_harte

HEAD = "<attributes><divisions>4</divisions><key><fifths>0</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time>{staves}</attributes>"


def note(step: str, octave: int, duration: int, *more: str, staff: int = 0, voice: int = 1, chord: bool = False) -> str:
    place = f"<staff>{staff}</staff>" if staff else ""
    struck_with = "<chord/>" if chord else ""
    pitch = f"<pitch><step>{step}</step><octave>{octave}</octave></pitch>"
    return f"<note>{struck_with}{pitch}<duration>{duration}</duration>{''.join(more)}<voice>{voice}</voice>{place}</note>"


def read(*measures: str, staves: int = 1) -> Score:
    head = HEAD.format(staves=f"<staves>{staves}</staves>" if staves > 1 else "")
    bars = [f'<measure number="{i}">{head if i == 1 else ""}{m}</measure>' for i, m in enumerate(measures, 1)]
    listed = '<part-list><score-part id="P1"><part-name>Piano</part-name></score-part></part-list>'
    return read_musicxml(f'<score-partwise version="4.0">{listed}<part id="P1">{"".join(bars)}</part></score-partwise>'.encode())


def harmony(root: str, kind: str, inside: str = "", text: str = "") -> str:
    said = f' text="{text}"' if text else ""
    step, alter = root[0], {"#": 1, "b": -1}.get(root[1:], 0)
    sign = f"<root-alter>{alter}</root-alter>" if alter else ""
    return f"<harmony><root><root-step>{step}</root-step>{sign}</root><kind{said}>{kind}</kind>{inside}</harmony>"


def degree(number: int, alter: int, how: str) -> str:
    return f"<degree><degree-value>{number}</degree-value><degree-alter>{alter}</degree-alter><degree-type>{how}</degree-type></degree>"


@pytest.mark.parametrize(
    ("written", "label"),
    [
        (harmony("C", "major"), "C:maj"),
        (harmony("F#", "minor-seventh"), "F#:min7"),
        (harmony("Bb", "dominant"), "Bb:7"),
        (harmony("C", "major", "<bass><bass-step>E</bass-step></bass>"), "C:maj/3"),
        (harmony("D", "minor", "<inversion>2</inversion>"), "D:min/5"),
        (harmony("G", "dominant", "<inversion>3</inversion>"), "G:7/b7"),
        (harmony("E", "major", degree(9, 0, "add")), "E:maj(9)"),
        (harmony("A", "dominant", degree(5, -1, "alter")), "A:7(b5,*5)"),
        (harmony("C", "none"), "N"),
        ("<harmony><kind>none</kind></harmony>", "N"),
    ],
)
def test_a_chord_symbol_is_read(written: str, label: str) -> None:
    ((place, found),) = read(written + note("C", 4, 16)).harmonies
    assert place == 0

    assert parse_harte(found) == parse_harte(label)


@pytest.mark.parametrize(
    "written",
    [
        harmony("C", "moonlike"),
        "<harmony><function>IV</function><kind>major</kind></harmony>",
        "<harmony><root><root-step>C</root-step><root-alter>much</root-alter></root><kind>major</kind></harmony>",
        "<harmony><root><root-step>H</root-step></root><kind>major</kind></harmony>",
        "<harmony/>",
    ],
)
def test_a_symbol_that_names_no_chord_is_passed_over(written: str) -> None:
    score = read(written + note("C", 4, 16))
    assert score.harmonies == ()
    assert len(score.notes) == 1


def test_symbols_stand_where_they_are_written() -> None:
    later = harmony("G", "major", "<offset>4</offset>")
    score = read(harmony("C", "major") + note("C", 4, 8) + later + note("D", 4, 8), note("E", 4, 16))
    assert [(p, h[0]) for p, h in score.harmonies] == [(0, "C"), (3, "G")]


def hands(score: Score) -> set[tuple[F, F, int, str]]:
    return {(n.start, n.duration, n.midi, n.hand) for n in score.notes}


def test_two_staves_are_two_hands_whatever_order_they_are_written_in() -> None:
    """Notes of the staves by turns, a chord that reaches over, and a bar in which one staff is left empty."""
    first = (
        note("C", 5, 8, staff=1)
        + note("C", 3, 8, staff=2, voice=5)
        + note("E", 5, 0, staff=1, chord=True).replace("<duration>0", "<duration>8")  # struck with the one before, below
        + "<backup><duration>8</duration></backup>"
        + note("D", 5, 8, staff=1)
    )
    second = note("E", 5, 16, staff=1)
    score = read(first, second, staves=2)
    assert hands(score) == {(F(0), F(2), 72, RIGHT), (F(2), F(2), 48, LEFT), (F(2), F(2), 76, LEFT), (F(2), F(2), 74, RIGHT), (F(4), F(4), 76, RIGHT)}


def test_the_voices_of_a_staff_stay_its_own() -> None:
    bar = (
        note("C", 5, 16, staff=1, voice=1)
        + "<backup><duration>16</duration></backup>"
        + note("A", 4, 8, staff=1, voice=2)
        + note("G", 4, 8, staff=1, voice=2)
        + "<backup><duration>16</duration></backup>"
        + note("C", 3, 16, staff=2, voice=5)
    )
    score = read(bar, staves=2)
    assert hands(score) == {(F(0), F(4), 72, RIGHT), (F(0), F(2), 69, RIGHT), (F(2), F(2), 67, RIGHT), (F(0), F(4), 48, LEFT)}
    assert {n.midi: n.voice for n in score.notes}[67] == 2


@pytest.mark.parametrize("low", ["", note("C", 3, 6, staff=2, voice=5)])
def test_a_staff_that_does_not_fill_its_bar_stays_with_the_other(low: str) -> None:
    bar = note("C", 5, 16, staff=1) + "<backup><duration>16</duration></backup>" + low
    full = note("D", 5, 16, staff=1) + "<backup><duration>16</duration></backup>" + note("D", 3, 16, staff=2)
    score = read(bar, full, staves=2)
    assert {(n.start, n.midi) for n in score.notes if n.start} == {(F(4), 74), (F(4), 50)}


def pedal(kind: str, offset: int = 0) -> str:
    moved = f"<offset>{offset}</offset>" if offset else ""
    return f'<direction><direction-type><pedal type="{kind}"/></direction-type>{moved}</direction>'


def test_the_pedal_stands_where_it_is_written() -> None:
    first = pedal("start") + note("C", 4, 8) + pedal("change") + note("D", 4, 8)
    second = note("E", 4, 8) + pedal("stop", 2) + note("F", 4, 8)
    assert read(first, second).pedals == ((F(0), F(2)), (F(2), F(13, 2)))


def test_a_pedal_below_the_left_hand_is_read_once() -> None:
    bar = note("C", 5, 16, staff=1) + "<backup><duration>16</duration></backup>"
    low = pedal("start").replace("</direction>", "<staff>2</staff></direction>")
    score = read(bar + low + note("C", 3, 16, staff=2) + pedal("stop"), staves=2)
    assert score.pedals == ((F(0), F(4)),)


@pytest.mark.parametrize("broken", ["<score-partwise><part", "<score-partwise></score-timewise>"])
def test_what_breaks_off_is_told(broken: str) -> None:
    with pytest.raises(FormatError, match="breaks off or is damaged"):
        read_musicxml(broken.encode())


def test_what_is_written_bar_by_bar_says_how_to_save_it() -> None:
    with pytest.raises(FormatError, match="part by part"):
        read_musicxml(b"<score-timewise><measure/></score-timewise>")


@pytest.mark.parametrize(
    ("said", "feel"),
    [
        ("<words>Medium Swing</words>", "swing"),
        ("<words>Shuffle, not too fast</words>", "shuffle"),
        ("<words>light swing</words>", "light swing"),
        ("<words>Swing 16ths</words>", "swung sixteenths"),
        ("<words>Straight, no swing</words>", "straight"),
        ("<words>swinging gently on the gate</words>", "straight"),
    ],
)
def test_words_above_the_first_bars_say_that_a_score_swings(said: str, feel: str) -> None:
    root = parse_score(f"<score-partwise><part><measure><direction><direction-type>{said}</direction-type></direction></measure></part></score-partwise>")
    assert read_feel(root) == feel


@pytest.mark.parametrize(
    ("long", "short", "value", "feel"),
    [(2, 1, "eighth", "swing"), (3, 2, "eighth", "light swing"), (1, 1, "eighth", "straight"), (2, 1, "16th", "swung sixteenths")],
)
def test_what_a_score_tells_programs_of_its_swing_is_taken_at_its_word(long: int, short: int, value: str, feel: str) -> None:
    swing = f"<swing><first>{long}</first><second>{short}</second><swing-type>{value}</swing-type></swing>"
    assert read_feel(parse_score(f"<score-partwise><part><measure><sound>{swing}</sound></measure></part></score-partwise>")) == feel
