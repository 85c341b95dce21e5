"""The proof-reader reads French, German and Spanish: sentences of two voices over two songs, written before the tables had seen them."""

from __future__ import annotations

from pathlib import Path

import pytest
from bench.lessons import work_of

from valley.checking.lesson import check_words
from valley.errors import ParameterError
from valley.formats.chord_chart import parse_chord_chart
from valley.lesson.proof import Claim, read_proof
from valley.lesson.proof.gloss import TABLES, gloss
from valley.model.choices import Choices
from valley.model.lesson import StepEdit, Teaching
from valley.model.schools import Schools
from valley.song import SongState, Work
from valley.theory.naming import AGREES

HERE = Path(__file__).parent / "tongues"
CHARTS = Path(__file__).parents[3] / "demo" / "charts"
NAMING = {"fr": "syllables", "de": "german", "es": "syllables"}
FILES = sorted(p.name for p in HERE.glob("*.txt"))
STANDS_OPEN = 1  # right sentences that are marked, a file: what is said of two bars in the order of another language


def work_on(song: str) -> Work:
    return work_of(parse_chord_chart((CHARTS / f"{song}.txt").read_text("utf-8")), "root-and-chord", "standard", "held", Schools(), links=False)


def wrong_in(text: str, work: Work, language: str) -> list[Claim]:
    return [c for c in read_proof(text, work.chart, work.arrangement, naming=NAMING[language], language=language) if c.verdict not in (AGREES, "unknown")]


@pytest.mark.parametrize("name", FILES)
def test_slips_are_found_and_right_words_left_alone(name: str) -> None:
    song, language, _ = name.split(".")
    work = work_on(song)
    marked = []
    for row in (HERE / name).read_text("utf-8").splitlines()[1:]:
        said, _, slip = row[2:].partition(" | ")
        wrong = wrong_in(said, work, language)
        if row.startswith("+"):
            marked += [said] if wrong else []
            continue
        assert any(slip.lower() in c.text.lower() or c.text.lower() in slip.lower() for c in wrong), (said, gloss(said, language, NAMING[language]).text)
        assert all(said[c.start : c.end] == c.text for c in wrong)
    assert len(marked) <= STANDS_OPEN, marked


@pytest.mark.parametrize(
    ("text", "language", "naming", "english"),
    [
        ("La main gauche tient la3.", "fr", "syllables", "the left hand holds A3."),
        ("Joue si bémol mineur, puis si tu veux la.", "fr", "syllables", "plays Bb minor, then _si you _veux A."),
        ("mesures 3 à 6", "fr", "letters", "bars 3 to 6"),
        ("Bei es-Moll mit Ges spielt sie As, es klingt.", "de", "german", "at Eb minor with Gb plays you Ab, _es _klingt."),
        ("B-Dur, dann H7", "de", "german", "Bb major, then B7"),
        ("C# y luego Bb en el bajo", "es", "letters", "C# and then Bb in the bass"),
        ("un acorde de sol menor", "es", "syllables", "a G minor"),
        ("Am7 et C/E", "fr", "letters", "Am7 and C/E"),
    ],
)
def test_words_are_said_in_english(text: str, language: str, naming: str, english: str) -> None:
    told = gloss(text, language, naming)
    assert told.text == english
    for start, end, a, b in told.places:
        assert 0 <= a < b <= len(text) and start <= end
    assert told.source(0, len(told.text)) == (0, len(text))


@pytest.mark.parametrize("language", sorted(TABLES))
def test_tables_say_each_word_once(language: str) -> None:
    rows = [row.partition(":") for row in TABLES[language].strip().splitlines()]
    words = [w.strip().lower() for _, _, those in rows for w in those.split("|")]
    assert all(english.strip() and those.strip() for english, _, those in rows)
    assert sorted(words) == sorted(set(words)), {w for w in words if words.count(w) > 1}


def test_a_language_that_has_no_table_is_told() -> None:
    work = work_on("oats_and_iron")
    with pytest.raises(ParameterError, match="language='it' must be one of en, fr, de, es"):
        read_proof("La mano destra.", work.chart, work.arrangement, language="it")


def test_own_words_are_checked_in_the_language_of_the_lesson() -> None:
    chart = work_on("oats_and_iron").chart
    schools = Schools(language="fr", naming="syllables")
    key = "part-1/right"
    for words, wrong in (("À la mesure 1, joue fa dièse, la et ré.", False), ("À la mesure 1, joue fa, la et ré.", True)):
        edit = StepEdit(key, lines=(words,))
        work = Work(SongState(chart, Choices(style="root-and-chord"), Teaching(schools, (edit,))))
        found = list(check_words(chart, work.arrangement, work.lesson))
        assert bool(found) is wrong
