"""What the creator changes in a lesson, laid over the steps that are generated anew each time.

A text written over a step stays; where the generated words under it have changed since, or the step is made no more, it says that the music has moved on.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from valley.errors import ParameterError
from valley.model.lesson import Lesson, Line, Step, StepEdit, StepTime, own_line
from valley.model.saying import own_words, say
from valley.model.schools import Schools
from valley.phrases import WORDS_A_SECOND, Words

_SPOKEN = 0.25  # of a step's time at least


def lay_over(lesson: Lesson, edits: Sequence[StepEdit]) -> Lesson:
    """The lesson with the creator's edits: other words, steps left out, moved and added."""
    by_key = {e.key: e for e in edits}
    steps: list[Step] = []
    for step in lesson.steps:
        edit = by_key.get(step.key)
        if edit is None:
            steps.append(step)
        elif not edit.left_out:
            steps.append(_write_over(step, edit, lesson.schools))
    for edit in edits:
        if edit.added and not edit.left_out:
            steps.append(_added(edit))
        elif edit.lines is not None and not edit.left_out and edit.key not in {s.key for s in lesson.steps}:
            steps.insert(_place_of(edit.key, steps), replace(_added(edit), stale=True))
    return replace(lesson, steps=tuple(_move(steps, edits)))


def keep_times(lesson: Lesson, times: Sequence[StepTime]) -> Lesson:
    """The lesson with the times of a rehearsal in place of the reckoned ones; where a step's words or bars have changed since, they change as much.

    Playing stays as long as the bars last, and the rest is speaking; who took less has spoken over the playing.
    """
    by_key = {t.key: t for t in times}
    return replace(lesson, steps=tuple(_take_time(s, by_key[s.key]) if s.key in by_key else s for s in lesson.steps)) if times else lesson


def _take_time(step: Step, time: StepTime) -> Step:
    seconds = time.seconds * (step.seconds / time.reckoned if time.reckoned and step.seconds else 1.0)
    playing = min(step.playing_seconds, (1 - _SPOKEN) * seconds)
    return replace(step, speaking_seconds=round(seconds - playing, 1), playing_seconds=round(playing, 1), rehearsed=True)


def _added(edit: StepEdit) -> Step:
    lines = edit.lines or ()
    title = own_words(edit.title) if edit.title else say("title added")
    return Step(title, tuple(own_line(text) for text in lines), key=edit.key, kind="own", edited=True, speaking_seconds=_time(lines))


def _place_of(key: str, steps: Sequence[Step]) -> int:
    """Where words stand whose step is no longer made: after the last step of the same part, or at the end."""
    part = key.partition("/")[0]
    return next((i + 1 for i, s in reversed(list(enumerate(steps))) if s.key.partition("/")[0] == part), len(steps))


def _time(lines: Sequence[str]) -> float:
    return round(sum(len(text.split()) for text in lines) / WORDS_A_SECOND, 1)


def _write_over(step: Step, edit: StepEdit, schools: Schools) -> Step:
    title = own_words(edit.title) if edit.title else step.title
    if edit.lines is None:
        return replace(step, title=title)
    stale = _plain(edit.over) != _plain(said_of(step, schools))
    made = dict(zip(_plain(said_of(step, schools)), step.lines, strict=True))
    lines = tuple(_keep(made.get(plain), text) for text, plain in zip(edit.lines, _plain(edit.lines), strict=True))
    notes = tuple(dict.fromkeys(note for line in step.lines for note in line.notes))
    return replace(step, title=title, lines=lines, edited=True, stale=stale, speaking_seconds=_time(edit.lines), notes=notes)


def _keep(made: Line | None, text: str) -> Line:
    """A line of the creator's; what he left as Valley says it still speaks of the same notes."""
    return replace(made, said=(own_words(text),)) if made else own_line(text)


def said_of(step: Step, schools: Schools) -> tuple[str, ...]:
    """The lines of a step in words: what the creator sees and writes over."""
    return Words(schools).lines(step)


def _plain(texts: Sequence[str]) -> list[str]:
    return [" ".join(text.split()) for text in texts]


def _move(steps: list[Step], edits: Sequence[StepEdit]) -> list[Step]:
    """Steps after the ones they were put behind; "" is the beginning. What they stood behind may be gone: then they stay where they are."""
    for edit in edits:
        if edit.after is None:
            continue
        index = next((i for i, s in enumerate(steps) if s.key == edit.key), None)
        if index is None:
            continue
        step = steps.pop(index)
        to = 0 if edit.after == "" else next((i + 1 for i, s in enumerate(steps) if s.key == edit.after), index)
        steps.insert(to, step)
    return steps


def change_step(edits: Sequence[StepEdit], lesson: Lesson, change: StepEdit) -> tuple[StepEdit, ...]:
    """The edits with one more: fields that are set win over what was there; an added step needs words.

    ``lesson`` is the generated one, so that what is written over is remembered.

    Raises
    ------
    ParameterError
        there is no such step, or nothing is left to say
    """
    generated = {s.key: s for s in lesson.steps}
    before = next((e for e in edits if e.key == change.key), None)
    if change.key not in generated and not change.added and not (before and before.added):
        raise ParameterError(f"step {change.key!r} is not in this lesson; it has {', '.join(generated)}")
    lines = change.lines
    if lines is not None:
        lines = tuple(line for line in lines if line.strip())
    old = before or StepEdit(change.key)
    over = said_of(generated[change.key], lesson.schools) if lines is not None and change.key in generated else old.over
    merged = replace(
        old,
        title=change.title or old.title,
        lines=lines if lines is not None else old.lines,
        over=over,
        left_out=change.left_out,
        after=change.after if change.after is not None else old.after,
        added=old.added or change.added,
    )
    return (*(e for e in edits if e.key != change.key), merged)


def forget_edit(edits: Sequence[StepEdit], key: str) -> tuple[StepEdit, ...]:
    """The edits without those of one step: it says again what Valley says."""
    return tuple(e for e in edits if e.key != key)


def split_steps(lesson: Lesson, minutes: float) -> tuple[tuple[Step, ...], ...]:
    """The steps cut into lessons of about so many minutes, before a part's first step where that can be."""
    if minutes <= 0:
        return (lesson.steps,)
    if minutes < 2:
        raise ParameterError(f"minutes={minutes} is too short for a lesson; give at least 2")
    groups: list[list[Step]] = [[]]
    spent = 0.0
    for step in lesson.steps:
        begins = step.kind in ("right", "both", "repeat", "closing")
        over = spent + step.seconds > minutes * 60
        if groups[-1] and over and (begins or spent + step.seconds > 1.3 * minutes * 60):
            groups.append([])
            spent = 0.0
        groups[-1].append(step)
        spent += step.seconds
    return tuple(tuple(g) for g in groups)
