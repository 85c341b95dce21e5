"""A part that repeats another, taught by its differences."""

from __future__ import annotations

from valley.lesson._teacher import Teacher, grip_notes, line, tell_grip
from valley.lesson.part_steps import name_part
from valley.model.chart import Part
from valley.model.lesson import Line, Step
from valley.model.saying import Several, say
from valley.phrases.differences import tell_differences


def teach_repeat(t: Teacher, part: Part) -> list[Step]:
    """One step: that it is a repeat, how it differs, and the grips of the bars that differ."""
    start, end = t.chart.span(part)
    key = f"part-{part.number}/repeat"
    assert part.same_as is not None
    if part.kinship == "same":
        same = line(say("same", number=part.number, model=part.same_as), kind="repeat", beat=start)
        return [Step(name_part(part), (same,), part.number, key=key, kind="repeat", start=start, end=end)]
    lines = [*_differences(part), *_changed_grips(t, part)]
    title = say("title repeat", part=Several((name_part(part),)))
    return [Step(title, tuple(lines), part.number, key=key, kind="repeat", start=start, end=end, speed=0.7)]


def _differences(part: Part) -> list[Line]:
    assert part.same_as is not None
    told = tell_differences(part.differences)
    if part.kinship == "moved":
        return [line(say("moved", number=part.number, model=part.same_as, how=Several(told, "rows")), kind="repeat")]
    head = say("one difference" if len(told) == 1 else "differences", number=part.number, model=part.same_as)
    return [line(head, kind="repeat"), *[line(say("difference", difference=Several((d,))), kind="difference", item=True) for d in told]]


def _changed_grips(t: Teacher, part: Part) -> list[Line]:
    changed = {bar for d in part.differences for bar in d.bars}
    lines = []
    for grip in t.arrangement.of_part(part.number).grips:
        if t.place(grip.start)[0] in changed or part.kinship == "moved":
            said = t.at("at", grip.start, said=Several((tell_grip(t, grip),)))
            lines.append(line(said, kind="grip", beat=grip.start, hands="both", notes=grip_notes(grip), item=True))
    return lines
