"""Files that were made to hurt, or were hurt: each is answered with a sentence, at once and in little room."""

import io
import json
import zipfile

import mido
import pytest

from valley.errors import FormatError
from valley.formats.chart_json import dump_chart
from valley.formats.chord_chart import parse_chord_chart
from valley.pipeline.readers import read_any_song
from valley.theory.amounts import read_amount

NOTE = "<note><pitch><step>C</step><octave>{octave}</octave></pitch><duration>{duration}</duration></note>"
SCORE = (
    '<?xml version="1.0"?><score-partwise version="4.0"><part-list><score-part id="P1"><part-name>P</part-name></score-part></part-list><part id="P1">'
    '<measure number="1"><attributes><divisions>{divisions}</divisions><time><beats>{beats}</beats><beat-type>4</beat-type></time></attributes>'
    "{before}" + NOTE + "{after}</measure></part></score-partwise>"
)


def score(**values: object) -> bytes:
    usual: dict[str, object] = {"divisions": 1, "beats": 4, "octave": 4, "duration": 4, "before": "", "after": ""}
    return SCORE.format(**(usual | values)).encode()


def midi(*, tempo: int = 500_000, wait: int = 0, notes: int = 8) -> bytes:
    file, track = mido.MidiFile(), mido.MidiTrack()
    file.tracks.append(track)
    track.append(mido.MetaMessage("set_tempo", tempo=tempo))
    for i in range(notes):
        track.append(mido.Message("note_on", note=60 + i % 12, time=wait if i == notes - 1 else 0))
        track.append(mido.Message("note_off", note=60 + i % 12, time=240))
    out = io.BytesIO()
    file.save(file=out)
    return out.getvalue()


def zipped(name: str, data: str) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(name, data)
    return out.getvalue()


CHART = dump_chart(parse_chord_chart("| C | F | G | C |"))
REPEAT = '<barline location="{}"><repeat direction="{}"{}/></barline>'

REFUSED: dict[str, bytes] = {
    "key.mid": midi().replace(b"\xff\x51\x03", b"\xff\x59\x02\x6d\x00\x00\xff\x51\x03"),
    "power.csv": b"bar,beat,chord,beats\n1,1,C,1e9999999\n",
    "nan.csv": b"bar,beat,chord,beats\n1,1,C,nan\n",
    "long.lab": b"0.0 1e9 C:maj\n",
    "nan.lab": b"0 nan C:maj\n",
    "nothing.txt": b"| C:1/0 |",
    "digits.txt": b"| C:99999999999999999999 |",
    "pickup.txt": b"pickup: 99999999999999999999\n| C |",
    "tempo.txt": b"tempo: nan\n| C |",
    "crowd.txt": b"| " + b"C " * 5000 + b"|",
    "endless.txt": b"| C |\n" * 2500,
    "tune.txt": b"| C |\nT: | 1 C5=1/0 |",
    "hands.txt": b"| C |\nL: | 1 C5=99999999999999999999/3 |",
    "late.mid": midi(wait=10**9),
    "cut.mid": midi()[:40],
    "long.musicxml": score(duration=10**12),
    "wide.musicxml": score(beats=10**9),
    "high.musicxml": score(octave=400),
    "damaged.mxl": b"PK\x03\x04" + b"\0" * 40,
    "swollen.mxl": zipped("score.xml", "<a>" + "x" * 60_000_000 + "</a>"),
    "deep.json": b"[" * 100_000,
    "half.json": b'{"format": "valley-chart", "title": "\\ud800"}',
    "huge.json": json.dumps(CHART | {"bpm": 10**30}).encode(),
    "power.json": json.dumps(CHART).replace('"start": "4"', '"start": "1e9999999"').encode(),
    "bars.json": json.dumps(CHART | {"parts": [{**CHART["parts"][0], "bars": 10**9}]}).encode(),
}


@pytest.mark.parametrize("name", REFUSED)
def test_what_no_song_can_hold_is_refused_in_a_sentence(name: str) -> None:
    with pytest.raises(FormatError, match="cannot be read: ") as caught:
        read_any_song(REFUSED[name], name)
    assert len(str(caught.value)) < 400


@pytest.mark.parametrize(
    ("name", "data"),
    [
        ("still.mid", midi(tempo=0)),
        ("often.musicxml", score(before=REPEAT.format("left", "forward", ""), after=REPEAT.format("right", "backward", ' times="1000000"'))),
    ],
)
def test_what_can_be_made_sense_of_is_read(name: str, data: bytes) -> None:
    assert read_any_song(data, name).chart.grid.bars <= 40


def test_reading_grows_in_step_with_the_file() -> None:
    """Counted, not timed: four times the notes are about four times the work."""
    from sys import setprofile

    def calls(notes: int) -> int:
        count = 0

        def on_call(*_: object) -> None:
            nonlocal count
            count += 1

        data = midi(notes=notes)
        setprofile(on_call)
        try:
            read_any_song(data, "a.mid")
        finally:
            setprofile(None)
        return count

    calls(10)  # what is imported and kept the first time
    assert calls(400) < 6 * calls(100)


@pytest.mark.parametrize("text", ["1e9999999", "nan", "inf", "", "1/0", "12345678901", "1.5.2", "--1", "1/1234567890", "½"])
def test_amounts_are_plain_numbers(text: str) -> None:
    with pytest.raises(FormatError):
        read_amount(text)
