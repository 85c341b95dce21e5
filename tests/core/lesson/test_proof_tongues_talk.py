"""What a talk says beside names, in French, German and Spanish: the same facts as in English, told as teachers there tell them."""

from __future__ import annotations

import pytest

from tests.core.lesson.test_proof_talk import WORK
from valley.lesson.proof import read_proof

# Language, how notes are named, what is said, the right words in it and wrong ones in their place.
SAID = [
    ("fr", "syllables", "À la mesure 4 la main gauche joue la.", "la", "sol"),
    ("fr", "syllables", "Mesure 3 : la main droite joue si bémol, ré et fa.", "fa", "sol"),
    ("fr", "syllables", "La mesure 1 est un ré mineur.", "ré mineur", "ré majeur"),
    ("fr", "syllables", "À la mesure 2 on a ré mineur sur do.", "sur do", "sur la"),
    ("fr", "syllables", "Il y a un bémol dans cette tonalité.", "un bémol", "trois bémols"),
    ("fr", "letters", "Mesure 7 : C7, que l'on tient quatre temps.", "quatre temps", "trois temps"),
    ("fr", "letters", "Mesure 5 : D3 et A3 à la main gauche.", "A3", "B3"),
    ("fr", "syllables", "La partie 2 a quatre mesures.", "quatre mesures", "six mesures"),
    ("fr", "syllables", "Le morceau est en ré mineur.", "ré mineur", "sol mineur"),
    ("fr", "syllables", "Mesure 8 : un fa majeur, la basse est fa.", "fa majeur", "fa mineur"),
    ("de", "german", "In Takt 4 spielt die linke Hand A.", "A", "G"),
    ("de", "german", "Takt 3: rechte Hand B, D und F.", "F", "G"),
    ("de", "german", "Takt 1 ist d-Moll.", "d-Moll", "D-Dur"),
    ("de", "german", "In Takt 3 haben wir B-Dur.", "B-Dur", "H-Dur"),
    ("de", "german", "Das Stück steht in d-Moll.", "d-Moll", "g-Moll"),
    ("de", "german", "In Takt 8 spielt die linke Hand F2 und F3.", "F3", "A3"),
    ("de", "german", "Teil 2 hat vier Takte.", "vier Takte", "sechs Takte"),
    ("de", "german", "Takt 7: C7, vier Schläge lang gehalten.", "vier Schläge", "drei Schläge"),
    ("de", "letters", "In Takt 6 spielt die linke Hand G2 und D3.", "D3", "E3"),
    ("de", "german", "Takt 4 ist A7, rechts A, Cis und E.", "Cis", "C"),
    ("es", "syllables", "En el compás 4 la mano izquierda toca la.", "la", "sol"),
    ("es", "syllables", "Compás 3: la mano derecha toca si bemol, re y fa.", "fa", "sol"),
    ("es", "syllables", "El compás 1 es re menor.", "re menor", "re mayor"),
    ("es", "syllables", "En el compás 2 hay re menor sobre do.", "sobre do", "sobre la"),
    ("es", "syllables", "La canción está en re menor.", "re menor", "sol menor"),
    ("es", "letters", "Compás 7: C7, durante cuatro tiempos.", "cuatro tiempos", "tres tiempos"),
    ("es", "letters", "En el compás 5 la mano izquierda toca D3 y A3.", "A3", "B3"),
    ("es", "syllables", "La parte 2 tiene cuatro compases.", "cuatro compases", "seis compases"),
    ("es", "syllables", "El compás 8 es fa mayor.", "fa mayor", "fa menor"),
    ("es", "syllables", "En el compás 6 la mano izquierda toca sol y re.", "re", "mi"),
]


def slips(text: str, language: str, naming: str) -> list[str]:
    return [c.text for c in read_proof(text, WORK.chart, WORK.arrangement, naming=naming, language=language) if c.verdict in ("contradicts", "partly")]


@pytest.mark.parametrize(("language", "naming", "text", "right", "wrong"), SAID, ids=[f"{row[0]} {row[2]}" for row in SAID])
def test_what_is_right_is_left_alone_and_a_slip_is_found(language: str, naming: str, text: str, right: str, wrong: str) -> None:
    assert slips(text, language, naming) == []
    head, found, tail = text.rpartition(right)
    marked = slips(f"{head}{wrong}{tail}", language, naming)
    assert found and any(part in wrong or wrong in part for part in marked), marked


@pytest.mark.parametrize(
    ("language", "naming", "talk", "slip"),
    [
        ("fr", "syllables", "Mesure 3. La main gauche tient si bémol. Ensuite, la main droite joue la, do dièse et mi.", "do dièse"),
        ("de", "german", "Takt 3. Die linke Hand hält B. Dann spielt die rechte Hand A, Cis und E.", "Cis"),
        ("es", "syllables", "Compás 3. La mano izquierda mantiene si bemol. Luego la mano derecha toca la, do sostenido y mi.", "do sostenido"),
    ],
)
def test_a_talk_goes_on_to_the_next_bar_without_saying_so(language: str, naming: str, talk: str, slip: str) -> None:
    assert slips(talk, language, naming) == []
    other = {"fr": "do", "de": "C", "es": "do"}[language]
    assert slips(talk.replace(slip, other), language, naming) != []


@pytest.mark.parametrize(
    ("language", "sentence"),
    [
        ("fr", "Le do central s'appelle C4, c'est le do le plus proche du milieu du clavier."),
        ("de", "Das mittlere C ist C4, das C der Tastenmitte am nächsten."),
        ("es", "El do central se llama C4, el más cercano al centro del teclado."),
        ("fr", "Repose-toi si une main se fatigue ou fait mal."),
        ("de", "Ruh dich aus, wenn eine Hand müde wird oder weh tut."),
        ("es", "Descansa si una mano se cansa o duele."),
    ],
)
def test_landmarks_and_cautions_claim_nothing_of_the_song(language: str, sentence: str) -> None:
    for naming in ("letters", "syllables", "german"):
        assert slips(f"Partie 1. {sentence}", language, naming) == []
