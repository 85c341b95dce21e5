"""The lesson's steps from an arrangement: block first, right hand, left hand, together, joined to what came before."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

from valley.lesson.moves import describe_move, join_names
from valley.model.arrangement import Arrangement, Grip, PartArrangement, PlayedNote
from valley.model.chart import Chart, Part
from valley.model.lesson import Lesson, Step
from valley.theory.chord import name_inversion, parse_harte


def build_lesson(chart: Chart, arrangement: Arrangement, *, order: Sequence[int] = ()) -> Lesson:
    """Opening, chords of the song, every part (repeats by their differences only), how they join.

    ``order`` names the parts to teach, in that order; all in the song's order if empty. A repeat whose model is not
    taught before it is taught as new.
    """
    steps = [_opening(chart), _vocabulary(chart, arrangement)]
    learned: list[int] = []
    by_number = {p.number: p for p in chart.parts}
    for part in [by_number[n] for n in order] or chart.parts:
        if part.same_as and not {part.same_as, *_family(chart, part.same_as)} & set(learned):
            part = replace(part, same_as=None, kinship="new", differences=())
        if part.same_as and part.kinship == "same":
            steps.append(Step(f"Part {part.number}", (f"Part {part.number} is part {part.same_as} again, note for note. Nothing new to learn.",), part.number))
            continue
        if part.same_as:
            steps.append(_repeat(chart, arrangement, part))
        else:
            steps.append(_part(chart, arrangement.of_part(part.number), part))
        learned.append(part.number)
        if len(learned) > 1:
            steps.append(_join(learned))
    steps.append(_closing(chart))
    return Lesson(chart.title, tuple(steps))


def _family(chart: Chart, number: int) -> set[int]:
    return {p.number for p in chart.parts if p.same_as == number and p.kinship == "same"}


def _count_bars(n: int) -> str:
    return "1 bar" if n == 1 else f"{n} bars"


def _opening(chart: Chart) -> Step:
    lines = []
    to_learn = sum(p.new_bars for p in chart.parts)
    lines.append(f"We learn {chart.title}: {_count_bars(chart.grid.bars)}, {to_learn} of them to learn, in {len(chart.parts)} parts.")
    for i, area in enumerate(chart.keys):
        names = " ".join(str(n) for n in area.key.scale())
        bar = chart.grid.place(area.start)[0]
        where = "The key is" if i == 0 else f"From bar {max(bar, 1)} the key is"
        lines.append(f"{where} {area.key}. Its notes: {names}.")
    changes = [f"{c.meter} from bar {chart.grid.place(Fraction(c.beat))[0]}" for c in chart.grid.changes]
    lines.append(f"The metre is {join_names([chart.grid.meter, *changes])}, about {round(chart.bpm)} beats to the minute.")
    lines.append("Middle C is C4, the C nearest the middle of the keyboard.")
    if abs(chart.tuning_cents) >= 8:
        side = "above" if chart.tuning_cents > 0 else "below"
        lines.append(f"The recording stands {abs(chart.tuning_cents):.0f} cents {side} a tuned piano, so playing along will sound a little off.")
    lines.append("Stop and rest if a hand tires or hurts, and take the smaller grip; for pain ask a teacher or a clinician.")
    return Step("What you will learn", tuple(lines))


def _vocabulary(chart: Chart, arrangement: Arrangement) -> Step:
    """Each chord once, with the notes of both hands where it first occurs."""
    seen: dict[str, Grip] = {}
    for part in arrangement.parts:
        for grip in part.grips:
            seen.setdefault(grip.label, grip)
    tune_alone = all(len(g.right) <= 1 for g in seen.values())  # then the right hand's note is the tune's, not the chord's
    lines = [_say_grip(grip, with_right=not tune_alone) for grip in seen.values()]
    return Step("The chords", tuple(lines) or ("There are no chords in this chart yet.",))


def _say_grip(grip: Grip, *, with_right: bool = True) -> str:
    chord = parse_harte(grip.label)
    place = f" ({name_inversion(chord)})" if chord and chord.bass_interval else ""
    hands = []
    if grip.left:
        hands.append(f"left {join_names([n.pitch for n in grip.left])}")
    if grip.right and with_right:
        hands.append(f"right {join_names([n.pitch for n in grip.right])}")
    without = f", without its {join_names(grip.omits)}" if grip.omits and with_right else ""
    return f"{grip.symbol}{place}{without}: {'; '.join(hands)}."


def _part(chart: Chart, arranged: PartArrangement, part: Part) -> Step:
    title = f"Part {part.number}" + (f", {part.name}" if part.name else "")
    lines = [f"{title}: bars {part.start_bar} to {part.end_bar}."]
    lines += _right_hand(chart, arranged)
    lines += _left_hand(chart, arranged)
    lines.append("Both hands, slowly, counting aloud:")
    for before, grip in zip((None, *arranged.grips), arranged.grips, strict=False):
        bar, count = chart.grid.place(grip.start)[0], chart.grid.count(grip.start)
        move = f" {describe_move(before, grip)}" if before else ""
        lines.append(f"  Bar {bar}, on {count}: {_say_grip(grip)} Hold {_say_beats(grip.duration)}.{move}")
    return Step(title, tuple(lines), part.number)


def _right_hand(chart: Chart, arranged: PartArrangement) -> list[str]:
    """The tune bar by bar with its counts, or the chords where no tune is played."""
    tune = [n for n in arranged.notes if n.melody]
    if not tune:
        return ["Right hand alone: the chords as blocks, one after the other."] if any(g.right for g in arranged.grips) else []
    bars: dict[int, list[PlayedNote]] = {}
    for note in tune:
        bars.setdefault(chart.grid.place(note.start)[0], []).append(note)
    lines = ["Right hand alone, the tune (counts in brackets):"]
    for bar, notes in bars.items():
        said = ", ".join(f"{n.pitch} ({chart.grid.count(n.start)})" for n in notes)
        lines.append(f"  Bar {bar}: {said}.")
    return lines


def _left_hand(chart: Chart, arranged: PartArrangement) -> list[str]:
    said = []
    for grip in arranged.grips:
        if grip.left:
            said.append(f"bar {chart.grid.place(grip.start)[0]} on {chart.grid.count(grip.start)} {join_names([n.pitch for n in grip.left])}")
    return [f"Left hand alone: {'; '.join(said)}."] if said else []


def _say_beats(beats: Fraction) -> str:
    if beats.denominator == 1:
        return "1 beat" if beats == 1 else f"{beats} beats"
    return f"{float(beats):g} beats"


def _repeat(chart: Chart, arrangement: Arrangement, part: Part) -> Step:
    lines = [f"Part {part.number} goes like part {part.same_as}, with this difference:" if len(part.differences) == 1
             else f"Part {part.number} goes like part {part.same_as}, with these differences:"]
    lines += [f"  {d}." for d in part.differences]
    arranged = arrangement.of_part(part.number)
    changed = sorted({int(d.split()[1].rstrip(":")) for d in part.differences if d.startswith("bar ")})
    for grip in arranged.grips:
        bar = chart.grid.place(grip.start)[0]
        if bar in changed:
            lines.append(f"  Bar {bar}, on {chart.grid.count(grip.start)}: {_say_grip(grip)}")
    return Step(f"Part {part.number}, a repeat", tuple(lines), part.number)


def _join(learned: list[int]) -> Step:
    return Step("Join the parts", (f"Play parts {join_names([str(n) for n in learned])} one after the other without stopping.",))


def _closing(chart: Chart) -> Step:
    bpm = round(chart.bpm)
    ladder = ", ".join(str(round(bpm * share)) for share in (0.5, 0.7, 0.85, 1.0))
    route = ", ".join(str(p.number) for p in chart.parts)
    return Step("All of it", (
        f"The whole song: parts {route}.",
        f"Practise at {ladder} beats to the minute; go on when a speed is easy three times running.",
    ))
