"""What every edit keeps to, whichever it is: it gives a valid song and leaves the old one alone, goes to JSON and back, moves to a repeat, and is
told in words. An edit that has no example here makes the first test fail."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any, get_args

import pytest
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

from tests.songs import random_songs, written_notes
from valley.edits import (
    AddNote,
    ChangeGrip,
    ChangeNote,
    ChangePlayed,
    CopyBars,
    DeclareRepeats,
    DeleteChord,
    DeleteNote,
    DoubleTempo,
    Edit,
    ForgetPassage,
    ForgetStep,
    HalveTempo,
    InsertChord,
    JoinChord,
    JoinNote,
    MarkRepeat,
    MeanThis,
    MergePart,
    MoveChange,
    MovePart,
    NudgeBeat,
    OneAsThree,
    PlanLessons,
    PlayedGrip,
    PlayedKey,
    RemoveKey,
    RenamePart,
    RenameSong,
    SetBarOne,
    SetBass,
    SetChord,
    SetChordPattern,
    SetCue,
    SetFeel,
    SetHands,
    SetKey,
    SetMeter,
    SetSchool,
    SnapNotes,
    SplitChord,
    SplitNote,
    SplitPart,
    TakeLink,
    TakePass,
    TakePlayed,
    TapTempo,
    ThreeAsOne,
    TimeSteps,
    TookTime,
    TransposeNotes,
    TransposeSong,
    VaryPart,
    WriteBars,
    WritePassage,
    WritePattern,
    WriteStep,
    WriteTune,
    apply_edit,
)
from valley.errors import ParameterError, ValleyError
from valley.formats.edit_json import dump_edit, read_edit
from valley.formats.song_json import dump_song, read_song, write_song
from valley.fraction import Fraction as F
from valley.song import SongState, Work
from valley.theory.feel import FEELS
from valley.theory.meter import SUPPORTED

Example = Callable[[st.DrawFn, SongState], Any]


def beat(draw: st.DrawFn, song: SongState) -> F:
    return F(draw(st.integers(0, 2 * len(song.chart.grid.beats) - 1)), 2)


def chord_start(draw: st.DrawFn, song: SongState) -> F:
    return draw(st.sampled_from([c.start for c in song.chart.chords]))


def note_start(draw: st.DrawFn, song: SongState) -> F:
    assume(song.chart.melody)
    return draw(st.sampled_from([n.start for n in song.chart.melody]))


def bar(draw: st.DrawFn, song: SongState) -> int:
    return draw(st.integers(1, song.chart.grid.bars))


def bar_start(draw: st.DrawFn, song: SongState) -> F:
    """Of a bar that has two more behind it where the song is long enough."""
    return song.chart.grid.bar_start(draw(st.integers(1, max(1, song.chart.grid.bars - 2))))


def copied_bars(draw: st.DrawFn, song: SongState) -> CopyBars:
    grid = song.chart.grid
    first, there = bar(draw, song), bar(draw, song)
    most = max(1, min(grid.bars - first, grid.bars - there) // 2)
    start, end = grid.bar_start(first), min(grid.bar_start(first + draw(st.integers(1, most))), F(len(grid.beats)))
    return CopyBars(start, end, grid.bar_start(there), draw(st.integers(1, 2)), draw(st.integers(-3, 3)), draw(st.booleans()))


def part(draw: st.DrawFn, song: SongState) -> int:
    return draw(st.integers(1, len(song.chart.parts)))


def later_part(draw: st.DrawFn, song: SongState) -> int:
    """A part with another before it."""
    assume(len(song.chart.parts) > 1)
    return draw(st.integers(2, len(song.chart.parts)))


def moved_part(draw: st.DrawFn, song: SongState) -> MovePart:
    number = later_part(draw, song)
    before, here = song.chart.parts[number - 2], song.chart.parts[number - 1]
    assume(here.end_bar > before.start_bar)
    return MovePart(number, draw(st.integers(before.start_bar + 1, here.end_bar)))


def joined_note(draw: st.DrawFn, song: SongState) -> JoinNote:
    assume(len(song.chart.melody) > 1)
    return JoinNote(draw(st.sampled_from([n.start for n in song.chart.melody[:-1]])))


def moved_change(draw: st.DrawFn, song: SongState) -> MoveChange:
    """A change moved to the middle of what lies between its neighbours."""
    chords = song.chart.chords
    assume(len(chords) > 1)
    i = draw(st.integers(1, len(chords) - 1))
    return MoveChange(chords[i].start, draw(st.sampled_from([(chords[i - 1].start + chords[i].start) / 2, (chords[i].start + chords[i].end) / 2])))


def removed_key(draw: st.DrawFn, song: SongState) -> RemoveKey:
    """A key that the song changes to."""
    assume(len(song.chart.keys) > 1)
    return RemoveKey(draw(st.sampled_from([a.start for a in song.chart.keys[1:]])))


def hand_of(draw: st.DrawFn) -> Any:
    return draw(st.sampled_from(["left", "right"]))


def written_passage(draw: st.DrawFn, song: SongState) -> WritePassage:
    """A bar or two for one hand, here or in repeats as well."""
    first = draw(st.integers(0, len(song.chart.grid.beats) - 1))
    lasting = draw(st.integers(1, len(song.chart.grid.beats) - first))
    times = draw(st.sampled_from([(), None, (1,)]))
    return WritePassage(F(first), hand_of(draw), F(lasting), draw(written_notes(F(lasting))), times=times, source=draw(st.sampled_from(["written", "played"])))


def played_pass(draw: st.DrawFn, song: SongState) -> TakePass:
    """A few keys over a stretch, anywhere near the counts."""
    first = draw(st.integers(0, len(song.chart.grid.beats) - 1))
    lasting = draw(st.integers(1, min(8, len(song.chart.grid.beats) - first)))
    key = st.builds(
        PlayedKey, st.fractions(first, F(2 * (first + lasting) - 1, 2), max_denominator=97), st.fractions(F(1, 20), 2, max_denominator=97), st.integers(36, 84)
    )
    return TakePass(F(first), F(lasting), tuple(draw(st.lists(key, min_size=1, max_size=6))), strength=draw(st.sampled_from([0.5, 1.0])))


def changed_played(draw: st.DrawFn, song: SongState) -> ChangePlayed:
    notes = [n for p in Work(song).arrangement.parts for n in p.notes if not n.grace]
    assume(notes)
    note = draw(st.sampled_from(notes))
    change = draw(st.sampled_from([{"key": 61}, {"finger": 4}, {"star": True}, {"other_hand": True}, {"remove": True}, {"lasting": F(1, 2)}]))
    return ChangePlayed(note.start, note.hand, note.midi, **change)


def forgotten_passage(draw: st.DrawFn, song: SongState) -> ForgetPassage:
    assume(song.choices.passages)
    passage = draw(st.sampled_from(song.choices.passages))
    return ForgetPassage(passage.start, passage.hand, F(1))


symbols = st.sampled_from(["Cm7", "F#m7b5/C", "Bbadd9", "N", "G/B", "Ab"])
midi, modes = st.integers(48, 84), st.sampled_from(["major", "minor"])
lengths = st.sampled_from([F(1, 4), F(1, 2), F(1), F(3, 2)])


def changed_grip(draw: st.DrawFn, song: SongState) -> ChangeGrip:
    grips = [g for p in Work(song).arrangement.parts for g in p.grips if g.right]
    assume(grips)
    grip = draw(st.sampled_from(grips))
    key = draw(st.sampled_from([n.midi for n in grip.right]))
    action = draw(st.sampled_from(["move", "other-hand", "drop", "star", "release", "take"]))
    everywhere = draw(st.sampled_from(["here", "chord", "repeats"]))
    return ChangeGrip(grip.start, action, hand="right", midi=key, by=1, left=(40,), right=(60, 64), everywhere=everywhere, reason="mine")


def played(draw: st.DrawFn, song: SongState) -> TakePlayed:
    return TakePlayed(tuple(PlayedGrip(c.start, c.label, (40,), (60, 67)) for c in song.chart.chords))


def taps(draw: st.DrawFn, song: SongState) -> TapTempo:
    gap = draw(st.floats(0.4, 0.9))
    return TapTempo(tuple(0.3 + gap * i for i in range(6)))


EXAMPLES: dict[type, Example] = {
    SetChord: lambda d, s: SetChord(chord_start(d, s), d(symbols)),
    SetBass: lambda d, s: SetBass(chord_start(d, s), d(st.sampled_from(["", "E", "Bb"]))),
    InsertChord: lambda d, s: InsertChord(beat(d, s), d(symbols)),
    SplitChord: lambda d, s: SplitChord(beat(d, s)),
    WriteBars: lambda d, s: WriteBars(bar_start(d, s), d(st.sampled_from(["C | Am _ F:2 | %", "Dm7", "| _ | N |", "F G"]))),
    CopyBars: copied_bars,
    WriteTune: lambda d, s: WriteTune(bar_start(d, s), d(st.sampled_from(["E D C | G _ - A", "C5", "| _ | - |", "Bb F#5 %"]))),
    JoinChord: lambda d, s: JoinChord(d(st.sampled_from([c.start for c in s.chart.chords][::-1]))),
    DeleteChord: lambda d, s: DeleteChord(chord_start(d, s)),
    MoveChange: moved_change,
    AddNote: lambda d, s: AddNote(beat(d, s), d(lengths), d(midi)),
    ChangeNote: lambda d, s: ChangeNote(note_start(d, s), to=d(st.none() | st.just(beat(d, s))), midi=d(st.none() | midi), grace=d(st.none() | st.booleans())),
    DeleteNote: lambda d, s: DeleteNote(note_start(d, s)),
    SplitNote: lambda d, s: SplitNote((at := note_start(d, s)), at + F(1, 4)),
    JoinNote: joined_note,
    TransposeNotes: lambda d, s: TransposeNotes(F(0), beat(d, s) + 1, d(st.integers(-12, 12).filter(bool))),
    SnapNotes: lambda d, s: SnapNotes(F(0), beat(d, s) + 1, d(st.sampled_from([F(1, 2), F(1, 3), F(1)]))),
    DoubleTempo: lambda d, s: DoubleTempo(),
    HalveTempo: lambda d, s: HalveTempo(),
    ThreeAsOne: lambda d, s: ThreeAsOne(),
    OneAsThree: lambda d, s: OneAsThree(),
    SetFeel: lambda d, s: SetFeel(d(st.sampled_from(tuple(FEELS)))),
    SetMeter: lambda d, s: SetMeter(bar(d, s), d(st.sampled_from(SUPPORTED))),
    SetBarOne: lambda d, s: SetBarOne(d(st.integers(0, len(s.chart.grid.beats) - 1))),
    NudgeBeat: lambda d, s: NudgeBeat(d(st.integers(0, len(s.chart.grid.beats) - 1)), 0.1, d(st.booleans())),
    TapTempo: taps,
    SetKey: lambda d, s: SetKey(
        F(d(st.integers(0, len(s.chart.grid.beats) - 1))), d(st.sampled_from(["C", "Ab", "F#"])), d(st.sampled_from(["major", "minor"]))
    ),
    RemoveKey: removed_key,
    SetCue: lambda d, s: SetCue(beat(d, s), d(st.sampled_from(["", "river"]))),
    SplitPart: lambda d, s: SplitPart(d(st.integers(min(2, s.chart.grid.bars), s.chart.grid.bars))),
    MergePart: lambda d, s: MergePart(later_part(d, s)),
    MovePart: moved_part,
    RenamePart: lambda d, s: RenamePart(part(d, s), d(st.sampled_from(["", "bridge"]))),
    MarkRepeat: lambda d, s: MarkRepeat(part(d, s), d(st.none() | st.just(1))),
    DeclareRepeats: lambda d, s: DeclareRepeats(),
    SetHands: lambda d, s: SetHands(
        part=d(st.none() | st.just(1)), style=d(st.sampled_from(["shell", "octaves"])), level=d(st.sampled_from(["easier", "fuller"]))
    ),
    VaryPart: lambda d, s: VaryPart(part(d, s), drop_last=d(st.booleans()), lead_in=d(st.booleans()), ending=d(st.sampled_from(["", "rolled"]))),
    ChangeGrip: changed_grip,
    TakePlayed: played,
    WritePassage: written_passage,
    ForgetPassage: forgotten_passage,
    ChangePlayed: changed_played,
    MeanThis: lambda d, s: MeanThis(beat(d, s), "bass", "Bar 2, F: C3 sounds lowest.", d(st.sampled_from(["", "on purpose"]))),
    TakePass: played_pass,
    TakeLink: lambda d, s: TakeLink(beat(d, s), d(st.sampled_from(["walk", "fill"])), form=d(st.sampled_from(["", "full", "easier"]))),
    SetChordPattern: lambda d, s: SetChordPattern(chord_start(d, s), d(st.sampled_from(["", "broken", "every-beat"]))),
    WritePattern: lambda d, s: WritePattern("mine", left="low@2 upper@2"),
    SetSchool: lambda d, s: SetSchool("naming", d(st.sampled_from(["letters", "german"]))),
    WriteStep: lambda d, s: WriteStep("opening", title="Hello", lines=("We begin.",), after=d(st.sampled_from([None, "", "chords"]))),
    ForgetStep: lambda d, s: ForgetStep("part-1/both"),
    TimeSteps: lambda d, s: TimeSteps((TookTime("opening", d(st.integers(5, 90)) + 0.5),)),
    RenameSong: lambda d, s: RenameSong("Evening"),
    TransposeSong: lambda d, s: TransposeSong(d(st.integers(-6, 6).filter(bool)), hands=d(st.sampled_from(["anew", "carried"]))),
    PlanLessons: lambda d, s: PlanLessons(d(st.none() | st.just((1,))), d(st.sampled_from([None, 0.0, 8.0])), d(st.sampled_from([None, "", "@fern"]))),
}
# Fewer where every example arranges the whole song.
COSTLY = {TransposeSong: 12, ChangeGrip: 12, WriteStep: 12, ChangePlayed: 12}


def test_every_edit_has_an_example() -> None:
    assert set(EXAMPLES) == set(get_args(Edit))


@pytest.mark.parametrize("kind", EXAMPLES, ids=lambda k: k.__name__)
def test_an_edit_keeps_to_the_contract(kind: type) -> None:
    done = []

    @settings(max_examples=COSTLY.get(kind, 30), suppress_health_check=list(HealthCheck))
    @given(st.data(), random_songs())
    def check(data: st.DataObject, song: SongState) -> None:
        try:
            edit = EXAMPLES[kind](data.draw, song)
        except ValleyError:  # songs that no hand can play have no grips to change
            assume(False)
        assert read_edit(json.loads(json.dumps(dump_edit(edit)))) == edit
        before = dump_song(song)
        try:
            after, said = apply_edit(song, edit)
        except ValleyError as error:
            assert str(error)
            assert dump_song(song) == before
            return
        done.append(edit)
        assert dump_song(song) == before
        assert said == said.strip() and said
        assert read_song(json.loads(json.dumps(dump_song(after)))) == after
        assert json.loads(write_song(after)) == json.loads(json.dumps(dump_song(after)))

    for _ in range(10):  # edits that few songs have room for are tried on more of them
        check()
        if done:
            break
    assert done, "no example fitted any song: the contract was never tested"


@pytest.mark.parametrize("kind", EXAMPLES, ids=lambda k: k.__name__)
def test_an_edit_moves_with_its_place(kind: type) -> None:
    @settings(max_examples=8, suppress_health_check=list(HealthCheck))
    @given(st.data(), random_songs())
    def check(data: st.DataObject, song: SongState) -> None:
        try:
            edit = EXAMPLES[kind](data.draw, song)
        except ValleyError:
            assume(False)
        if edit.place is None:
            with pytest.raises(ParameterError, match="has no place"):
                edit.moved(F(4))
            return
        there = edit.moved(F(4), 0)
        assert there.place == edit.place + 4
        assert there.moved(F(-4), 0) == edit
        higher = edit.moved(F(4), 2)
        assert higher.place == edit.place + 4 and higher.kind == edit.kind

    check()


def test_edits_are_told_apart_by_their_kind() -> None:
    kinds = [kind.__dataclass_fields__["kind"].default for kind in get_args(Edit)]
    assert len(set(kinds)) == len(kinds)
    assert all(k.replace("_", "").isalpha() for k in kinds)
