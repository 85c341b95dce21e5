"""The pedal and held keys are real: in the MIDI file, on paper, and where no pedal is pressed in the fingers."""

import io

import mido

from tests.charts import chart_of
from valley.arranging.arrange import arrange
from valley.arranging.sounding import sounding_end
from valley.formats.midi import dump_midi
from valley.formats.musicxml import dump_musicxml
from valley.fraction import Fraction as F
from valley.model.choices import Choices

CHART = chart_of(["C", "F"])


def test_the_pedal_changes_with_every_chord_in_the_midi_file() -> None:
    file = mido.MidiFile(file=io.BytesIO(dump_midi(CHART, arrange(CHART, Choices(pattern="wide-arpeggio", style="root-and-chord")))))
    for track in file.tracks[1:3]:
        now, moves = 0, []
        for message in track:
            now += message.time
            if message.type == "control_change" and message.control == 64:
                moves.append((now, message.value))
        assert moves == [(60, 127), (1920, 0), (1980, 127), (3840, 0)]
    dry = mido.MidiFile(file=io.BytesIO(dump_midi(CHART, arrange(CHART, Choices(pedal=False)))))
    assert not [m for t in dry.tracks for m in t if m.type == "control_change"]


def test_the_score_marks_the_pedal_and_leaves_it_out() -> None:
    wet, dry = (dump_musicxml(CHART, arrange(CHART, Choices(pedal=p)), fold=False).decode() for p in (True, False))
    assert wet.count("<pedal ") == 4 and wet.count('type="start"') >= 2
    assert "<pedal " not in dry


def test_without_a_pedal_fingers_hold_what_rings_on() -> None:
    wet, dry = (arrange(CHART, Choices(pattern="broken", style="block-and-melody", pedal=p)).parts[0] for p in (True, False))
    low = next(n for n in wet.notes if n.start == 0 and n.hand == "left")
    held = next(n for n in dry.notes if n.start == 0 and n.hand == "left")
    assert low.rings and low.duration == F(1, 2) and sounding_end(wet, low) == 4
    assert held.duration == 2, "until its key is struck again"
    assert sounding_end(dry, held) == 2
