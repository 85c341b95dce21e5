"""The proof-reader: known slips in every naming school, and how well it does on planted ones."""

import re
from pathlib import Path

import pytest
from bench.proof import measure
from hypothesis import given
from hypothesis import strategies as st

from tests.charts import C_MAJOR, chart_of
from valley.arranging.arrange import arrange
from valley.errors import ParameterError
from valley.formats.chord_chart import parse_chord_chart
from valley.fraction import Fraction as F
from valley.lesson.proof import Claim, read_proof
from valley.lesson.proof._heard import as_written
from valley.model.choices import Choices, ChosenNote, GripChoice
from valley.theory.chord import QUALITIES, Quality

CHART = parse_chord_chart("key: F major\n[Verse]\n| F | C/E | Dm | Bb |\n| Gm7 | C7 | F:3 Bb:1 | F |")
HANDS = arrange(CHART, Choices(style="root-and-chord"))


def read(text: str, naming: str = "letters", octaves: str = "c4") -> list[Claim]:
    claims = read_proof(text, CHART, HANDS, naming=naming, octaves=octaves)
    assert all(text[c.start : c.end] == c.text for c in claims)
    return list(claims)


def only(text: str, naming: str = "letters") -> Claim:
    found = [c for c in read(text, naming) if c.verdict != "agrees"]
    assert len(found) == 1, found
    return found[0]


def grip(bar: int) -> tuple[list[str], list[str]]:
    found = next(g for g in HANDS.parts[0].grips if CHART.grid.place(g.start)[0] == bar)
    return [n.pitch for n in found.left], [n.pitch for n in found.right]


@pytest.mark.parametrize(
    ("text", "wrong", "kind", "verdict", "expected"),
    [
        ("In bar 1 we play F minor.", "F minor", "chord", "contradicts", "F"),
        ("Bar 3 is D major.", "D major", "chord", "contradicts", "Dm"),
        ("Bar 4: F sharp minor.", "F sharp minor", "chord", "contradicts", "Bb"),
        ("Bar 4: A# major.", "A# major", "chord", "partly", "Bb"),
        ("Bar 6 is a C chord.", "C chord", "chord", "partly", "C7"),
        ("Bar 6 is Cmaj7.", "Cmaj7", "chord", "contradicts", "C7"),
        ("Bar 2 is C/G.", "C/G", "chord", "contradicts", "C/E"),
        ("Bar 2 is C over E, second inversion.", "second inversion", "chord", "contradicts", "first inversion"),
        ("C major with E in the bass, second inversion.", "second inversion", "chord", "contradicts", "first inversion"),
        ("Bar 2 is a C chord with G in the bass.", "C chord with G in the bass", "chord", "contradicts", "C/E"),
        ("Bar 1, F major: hold it for three beats.", "three beats", "count", "contradicts", "4 beats"),
        ("Bar 7: B flat major comes on 3.", "3", "count", "contradicts", "4"),
        ("Bar 1: count 1 2 3.", "1 2 3", "count", "contradicts", "to 4"),
        ("Four eighths twice make 3 beats.", "Four eighths twice make 3 beats", "count", "contradicts", "4 beats"),
    ],
)
def test_slips_are_found_with_the_right_words(text: str, wrong: str, kind: str, verdict: str, expected: str) -> None:
    claim = only(text)
    assert (claim.text, claim.kind, claim.verdict, claim.expected) == (wrong, kind, verdict, expected)
    assert claim.message


@pytest.mark.parametrize("quality", [q for q in QUALITIES if q.suffix], ids=lambda q: q.suffix)
@pytest.mark.parametrize("signs", [False, True], ids=["typed", "with signs"])
def test_every_typed_chord_is_read_whole(quality: Quality, signs: bool) -> None:
    """The 7 of D7#5 was taken for an octave, and D7 for the chord."""
    chart = parse_chord_chart(f"key: C major\n[Verse]\n| D{quality.suffix} | F |")
    symbol = f"D{quality.suffix}"
    text = f"Bar 1 is {symbol.replace('#', '♯').replace('b', '♭') if signs else symbol}: hold it."
    (claim,) = read_proof(text, chart, arrange(chart, Choices(style="big-finish")))
    assert (claim.text, claim.kind, claim.verdict) == (text[9:-10], "chord", "agrees")


def test_where_one_finger_arrives_and_the_next_leaves_is_no_list() -> None:
    """The G4 that leaves was held against the left hand of the grip that comes."""
    chart = chart_of(["C", "Em/B"])
    first = GripChoice(F(0), C_MAJOR, (ChosenNote(60), ChosenNote(67)), (ChosenNote(72),))
    then = GripChoice(F(4), chart.chords[1].chord, (ChosenNote(59), ChosenNote(64)), (ChosenNote(67),))  # type: ignore[arg-type]  # it has one
    hands = arrange(chart, Choices(style="root-and-chord", grips=(first, then)))
    text = "Bar 2: Em/B. Left hand: C4 goes down a semitone to B3, G4 goes down a minor third to E4."
    assert [c for c in read_proof(text, chart, hands) if c.verdict == "contradicts"] == []
    wrong = text.replace("to B3", "to Bb3")
    assert [c.text for c in read_proof(wrong, chart, hands) if c.verdict == "contradicts"] == ["Bb3"]


def test_notes_octaves_and_hands() -> None:
    left, right = grip(1)
    assert all(c.verdict == "agrees" for c in read(f"Bar 1. Left hand {' '.join(left)}, right hand {' '.join(right)}."))
    octave = right[1][:-1] + str(int(right[1][-1]) + 1)
    claims = [c for c in read(f"In bar 1 the right hand plays {right[0]}, {octave} and {right[2]}.") if c.verdict != "agrees"]
    assert claims and claims[0].kind == "octave" and claims[0].expected == right[1]
    mixed = only(f"In bar 1 the left hand plays {right[0]}.")
    assert (mixed.kind, mixed.expected) == ("hand", "the right hand")
    missing = only(f"In bar 1 the right hand plays {right[0]} and {right[2]}.")
    assert missing.verdict == "partly" and f"{right[1]} is missing" in missing.message
    extra = only(f"In bar 1 the right hand plays {right[0]}, {right[1]}, B4 and {right[2]}.")
    assert (extra.text, extra.kind, extra.verdict) == ("B4", "note", "contradicts")


def test_flats_and_sharps_are_not_mixed() -> None:
    _, right = grip(4)
    sharp = " ".join(p.replace("Bb", "A#") for p in right)
    claim = only(f"Bar 4, right hand: {sharp}.")
    assert claim.text.startswith("A#") and claim.verdict == "partly" and claim.expected.startswith("Bb")


def test_other_schools_of_naming() -> None:
    assert only("Bar 4: H major.", "german").expected == "B"
    assert [c.verdict for c in read("Bar 4: B major. Bar 1: F major.", "german")] == ["agrees", "agrees"]
    assert only("Bar 3: re major.", "syllables").expected == "re m"
    assert [c.verdict for c in read("Bar 1: fa major. The right hand plays fa, la and do.", "syllables")] == ["agrees"] * 4
    low = grip(1)[0][0]
    below = low[:-1] + str(int(low[-1]) - 1)
    assert read(f"In bar 1 the left hand plays {below} and {grip(1)[0][1][:-1]}{int(grip(1)[0][1][-1]) - 1}.", octaves="c3")[0].verdict == "agrees"
    with pytest.raises(ParameterError, match="naming='solfa'"):
        read("x", "solfa")


def test_everyday_words_are_no_claims() -> None:
    assert read("A nice song. As you see, do it again and be calm. Add a little pedal; go on.") == []
    assert read("Do it again. La la la.", "syllables") == []
    assert read("As we go on, B is easy.", "german")[0].text == "B"


def test_precision_and_recall_on_planted_errors() -> None:
    for naming, rows in measure(3, seed=77).items():
        found = sum(good for kind, (good, _) in rows.items() if kind != "right")
        planted = sum(count for kind, (_, count) in rows.items() if kind != "right")
        quiet, right = rows["right"]
        assert found / planted >= 0.95, (naming, rows)
        assert found / (found + right - quiet) >= 0.97, (naming, rows)


# Sentences of free speech, as many as each set holds; the figures at first sight stand in docs/lesson.md.
SPEECH = {
    "free_speech.txt": 50,
    "free_speech_unseen.txt": 36,
    "free_speech_third.txt": 26,
    "talk/fields.open.txt": 33,
    "talk/larch.open.txt": 82,
    "talk/slate.open.txt": 77,
    "talk/larch.shut.txt": 25,
    "talk/slate.shut.txt": 23,
    "talk/tarn.shut.txt": 67,
    "talk/heath.shut.txt": 61,
    "talk/brook.open.txt": 55,
    "talk/moor.open.txt": 78,
    "talk/cairn.open.txt": 72,
    "talk/pike.shut.txt": 53,
}
# Where not every slip is marked yet, or a slip by another name that it makes wrong as well, or with other words than were in mind.
RECALL = {"talk/moor.open.txt": 0.88, "talk/pike.shut.txt": 0.92}
PRECISION, MENDED = {"talk/pike.shut.txt": 0.92}, {"talk/pike.shut.txt": 0.83}
TALKS = {
    "talk/fen.flow.txt": (36, 21, 21),
    "talk/gorse.flow.txt": (33, 20, 18),
    "talk/loch.flow.txt": (25, 18, 17),
    "talk/beck.flow.txt": (29, 17, 15),
    "talk/rill.flow.txt": (47, 39, 37),
    "talk/wold.flow.txt": (45, 40, 34),
    "talk/mere.flow.txt": (40, 33, 30),
    "talk/glen.flow.txt": (38, 32, 30),
    "talk/dune.shut.flow.txt": (45, 37, 29),
    "talk/ford.flow.txt": (34, 32, 29),
    "talk/haze.shut.flow.txt": (38, 31, 25),
    "talk/quay.flow.txt": (42, 35, 30),
    "talk/weir.flow.txt": (38, 34, 26),
    "talk/shaw.shut.flow.txt": (39, 38, 33),
    "talk/lea.shut.flow.txt": (33, 34, 26),
    "talk/tor.shut.flow.txt": (40, 33, 29),
    "talk/nab.shut.flow.txt": (32, 34, 22),
    "talk/sike.shut.flow.txt": (34, 35, 25),
}  # right lines, slips, slips that are caught


@pytest.mark.parametrize("name", SPEECH)
def test_free_speech_is_read(name: str) -> None:
    from bench.free_speech import judge, load, summarise

    path = Path(__file__).parent / name
    lines = load(path)
    assert len(lines) == SPEECH[name], "the set was not found whole"
    precision, recall, mended = summarise(judge(lines, path))
    assert precision >= PRECISION.get(name, 1.0) and recall >= RECALL.get(name, 1.0)
    assert mended >= MENDED.get(name, 0.9)


@pytest.mark.parametrize("name", TALKS)
def test_a_whole_talk_is_read_as_it_goes_on(name: str) -> None:
    from bench.free_speech import judge_talk, load

    path = Path(__file__).parent / name
    results = judge_talk(load(path), path)
    right, slips = [r for r in results if not r.line.wrong], [r for r in results if r.line.wrong]
    assert [r.line.text for r in right if r.marked] == []
    assert (len(right), len(slips)) == TALKS[name][:2]
    assert sum(r.found for r in slips) >= TALKS[name][2], [r.line.text for r in slips if not r.found]


# The same talks as a machine writes them down, without capitals; the second time without any stops.
SAID = [*"aaabdeg", "flat", "sharp", "minor", "and", "then", "so", "in", "on", "to", "the", "right", "hand", "plays", "bar", "two", "it's", "okay", "we"]
HEARD = {
    ("talk/fen.flow.txt", True): (0, 21),
    ("talk/gorse.flow.txt", True): (0, 18),
    ("talk/loch.flow.txt", True): (0, 17),
    ("talk/fen.flow.txt", False): (0, 19),
    ("talk/gorse.flow.txt", False): (0, 17),
    ("talk/loch.flow.txt", False): (2, 14),
}


@pytest.mark.parametrize(("name", "stops"), HEARD)
def test_what_a_machine_wrote_down_is_read(name: str, stops: bool) -> None:
    from bench.free_speech import Line, judge_talk, load

    def heard(text: str) -> str:
        return text.lower() if stops else re.sub(r"[.,:;?!]", "", text).lower()

    path = Path(__file__).parent / name
    results = judge_talk([Line(heard(line.text), heard(line.wrong), line.right) for line in load(path)], path)
    marked, caught = HEARD[name, stops]
    assert sum(bool(r.marked) for r in results if not r.line.wrong) <= marked
    assert sum(r.found for r in results if r.line.wrong) >= caught


@pytest.mark.parametrize(
    ("heard", "written"),
    [
        ("we are in be flat major", "we are in  B flat major"),
        ("then a see sharp and an ay", "then a   C sharp and an ay"),
        ("play d and a then g", "play D and A then G"),
        ("a d minor chord and a minor one", "a D minor chord and a minor one"),
        ("a minor is a, c and e", "A minor is A, C and E"),
        ("it's an e and then a g", "it's an E and then a G"),
        ("i'd say it's a long a", "i'd say it's a long A"),
        ("Then A minor. the c is next", "Then A minor. the c is next"),
        ("a4 and c5", "A4 and C5"),
        ("your hand should be flat on the c", "your hand should be flat on the C"),
        ("then it has to be flat but we move to be flat", "then it has to be flat but we move to  B flat"),
    ],
)
def test_names_get_their_capitals_where_they_stood(heard: str, written: str) -> None:
    assert as_written(heard) == written
    assert len(written) == len(heard)


def test_breaks_stand_where_a_new_thing_begins_and_move_nothing() -> None:
    talk = "so we're in g major the left hand plays g and d and then the right hand has b d g "
    talk += "on the c you play e in bar two we have a minor and the tune starts on e so that's the verse "
    text = as_written(talk)
    assert len(text) == len(talk)
    assert text.lower().replace(";", " ") == talk
    assert [s.strip() for s in text.split(";")][:4] == [
        "so we're in G major",
        "the left hand plays G and D",
        "and then the right hand has B D G",
        "on the C you play E",
    ]


@given(st.lists(st.sampled_from(SAID), min_size=1, max_size=60))
def test_nothing_moves_when_capitals_and_breaks_are_put_in(words: list[str]) -> None:
    said = " ".join(words)
    text = as_written(said)
    assert len(text) == len(said)
    assert all(a == b or (a == " " and b == ";") or b == a.upper() for a, b in zip(said, text, strict=True))
    assert as_written(text) == text or ";" not in text


def test_an_a_is_the_note_where_the_words_beside_it_say_so() -> None:
    talk = "the left hand has a c e and the chord is a over c sharp but there's a c on top and a d below "
    talk += "then it goes down to a and stays on a for two beats then a"
    assert re.findall(r"\bA\b(?: (?!and)\w+)?", as_written(talk)) == ["A C", "A over", "A", "A for", "A"]


def test_right_sentences_stay_right_when_they_are_told_in_a_row() -> None:
    from bench.free_speech import Line, judge_talk, load

    marked: list[str] = []
    count = 0
    for name in SPEECH:
        if name.startswith("talk/"):
            path = Path(__file__).parent / name
            results = judge_talk([Line(line.text, "", "") for line in load(path) if not line.wrong], path)
            marked += [r.line.text for r in results if r.marked]
            count += len(results)
    assert count > 300
    assert len(marked) <= 0.01 * count, marked


def test_a_place_holds_until_the_words_fit_better_elsewhere() -> None:
    """A bar that was named is meant by what follows; a whole chord of another bar, told without its number, means that the talk has gone on."""
    assert not wrong("Bar 1: G. Then comes D over F sharp, and E minor after it.")
    assert wrong("Bar 1: the left hand plays G. The right hand plays F natural.") == ["F natural"]
    assert not wrong("In bar 4 we have a C. The song starts with G.")
    assert wrong("In bar 4 we have a C. The song starts with A minor seven.") == ["A minor seven"]


def wrong(words: str) -> list[str]:
    chart = parse_chord_chart(TALK)
    return [c.text for c in read_proof(words, chart, arrange(chart, Choices(style="root-and-chord"))) if c.verdict in ("contradicts", "partly")]


TALK = "key: G major\ntempo: 100\n[Verse]\n| G | D/F# | Em | C |\n[Refrain]\n| C | G/B | Am7 | D7 |\n| C | G | D7 | G |"


@pytest.mark.parametrize(
    ("words", "wrong", "expected"),
    [
        ("It is in G major, so two sharps.", "two sharps", "one sharp"),
        ("C minor has two flats.", "two flats", "three flats"),
        ("The scale is G, A, B, C, D, E, F, G.", "F", "F#"),
        ("We are in six eight.", "six eight", "4/4"),
        ("It goes at a hundred and forty beats a minute.", "a hundred and forty", "100"),
        ("The song has four parts.", "four parts", "two parts"),
        ("The refrain is six bars long.", "six bars", "eight bars"),
        ("In the verse the bass goes G, F sharp, E, D.", "D", "C"),
        ("Bars 1 to 4 are G, D over F sharp, E minor, C minor.", "C minor", "C"),
        ("The very first chord is E minor.", "E minor", "G"),
        ("The song ends on D seven.", "D seven", "G"),
        ("Bar five and bar six are G minor and G over B.", "G minor", "C"),
        ("Bars 5 and 6 are the same.", "the same", "bar 5 differs"),
        ("The relative minor of G is D minor.", "D", "E minor"),
        ("There is an F7 in it.", "F7", ""),
        ("The refrain starts in bar 6.", "bar 6", "bar 5"),
        ("The verse ends at bar 3.", "bar 3", "bar 4"),
        ("Each chord lasts two beats.", "two beats", "4 beats"),
        ("In the fifth bar we go to C, and in bar 6 to A major.", "A major", ""),
    ],
)
def test_facts_and_lists_that_are_wrong_are_marked_where_they_stand(words: str, wrong: str, expected: str) -> None:
    chart = parse_chord_chart(TALK)
    marked = [c for c in read_proof(words, chart, arrange(chart, Choices())) if c.verdict not in ("agrees", "unknown")]
    assert [(c.text, c.expected) for c in marked if wrong in c.text and expected in c.expected], marked
    assert len(marked) == 1


@pytest.mark.parametrize(
    "words",
    [
        "It is in G major with one sharp, F sharp.",
        "Start at 60 beats a minute.",
        "C minor has three flats.",
        "Most people play a G7 here.",
        "The song has two parts, four bars and eight bars.",
        "Bars 1 to 4 are just G, D, E minor, C.",
        "The refrain starts with C, and the song ends on G.",
        "The relative minor of G is E minor.",
        "Play both parts twice.",
        "A D seventh chord is D, F sharp, A, C.",
        "The refrain begins at bar 5.",
        "The verse ends in bar 4.",
        "Every chord gets four beats.",
        "In the fifth bar we go to C major and in bar 6 to G over B.",
    ],
)
def test_facts_and_lists_that_are_right_are_left_alone(words: str) -> None:
    chart = parse_chord_chart(TALK)
    assert [c for c in read_proof(words, chart, arrange(chart, Choices())) if c.verdict not in ("agrees", "unknown")] == []


@pytest.mark.parametrize(
    ("words", "right"),
    [
        ("In bar two the bass is C.", "E"),
        ("Bar four is a B flat chord with B natural in it.", "Bb"),
        ("The fourth chord is B flat with F, B flat and E on top.", "D"),
        ("Now the refrain. The second chord is F minor.", "F/A"),
        ("The last chord is F, held for three beats.", "4 beats"),
        ("C7 has an E flat.", "E"),
    ],
)
def test_places_in_words_are_found(words: str, right: str) -> None:
    from bench.free_speech import Line, judge

    (result,) = judge([Line(words, words[:-1].split()[-1], right)])
    assert any(right in c.expected for c in result.marked), result.marked


@pytest.mark.parametrize(
    "words",
    [
        "In bar 2 it is not C.",
        "Every B is flat.",
        "Each chord lasts four beats, except in bar 7.",
        "Move the C up to D for the D minor.",
        "A good start.",
        "The C7 comes twice.",
    ],
)
def test_what_is_right_or_no_claim_is_not_marked(words: str) -> None:
    from bench.free_speech import Line, judge

    (result,) = judge([Line(words, "", "")])
    assert result.marked == ()


@pytest.mark.parametrize(
    ("words", "marked"),
    [
        ("The verse has three chords altogether.", []),
        ("Altogether there are four chords.", []),
        ("Altogether there are nine chords.", ["nine chords"]),
        ("There's an intro, two bars, and then the verse.", []),
        ("There's an intro, five bars, and then the verse.", ["five bars"]),
        ("In the verse, three bars in, it gets louder.", []),
        ("After the verse, one bar later, we stop.", []),
    ],
)
def test_counts_are_those_of_what_is_named(words: str, marked: list[str]) -> None:
    chart = parse_chord_chart("key: C major\n[Intro]\n| C | Am |\n[Verse]\n| C | F | G | C |\n")
    claims = read_proof(words, chart, arrange(chart))
    assert [words[c.start : c.end] for c in claims if c.verdict == "contradicts"] == marked
