"""What is made of a song's state: both hands and the lesson, each once, when it is asked for."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from valley.arranging.arrange import arrange
from valley.arranging.pattern_library import PATTERNS
from valley.arranging.styles import EASIER
from valley.errors import ValleyError
from valley.fraction import Fraction
from valley.lesson.overlay import keep_times, lay_over
from valley.lesson.script import build_lesson
from valley.model.arrangement import Arrangement
from valley.model.chart import Chart, Grid, MelodyNote
from valley.model.choices import Choices, PartChoice
from valley.model.hearing import Hearing
from valley.model.lesson import Lesson, Settings
from valley.model.schools import Schools
from valley.song.state import SongState
from valley.values import derived


def follow_schools(choices: Choices, schools: Schools) -> Choices:
    """Choices for the hands under the schools of the lesson: the root is kept, and fingers are hidden, where either says so."""
    bass = "root" if "root" in (choices.bass, schools.bass) else "slash"
    return replace(choices, bass=bass, fingers=choices.fingers and schools.fingering == "shown")


_PLACES = 24  # to the beat: fine enough to tell a triplet from a sixteenth


def place_played(hearing: Hearing, grid: Grid) -> tuple[MelodyNote, ...]:
    """The keys heard struck, set on a chart's grid to the nearest 24th of a beat, in order; none from before its first beat."""
    placed = []
    for note in hearing.notes:
        start = Fraction(round(grid.position(note.start) * _PLACES), _PLACES)
        end = max(Fraction(round(grid.position(note.end) * _PLACES), _PLACES), start + Fraction(1, 4))
        if start >= 0:
            placed.append(MelodyNote(start, end - start, note.midi, note.confidence))
    return tuple(sorted(placed, key=lambda n: (n.start, n.midi)))


@dataclass(frozen=True, eq=False)
class Work:
    """A song with all that is made of it. Two works are never the same: what they keep is costly, comparing them would be as well."""

    song: SongState
    hearing: Hearing | None = None

    @property
    def chart(self) -> Chart:
        return self.song.chart

    @derived
    def choices(self) -> Choices:
        """What was chosen for the hands, as the schools of the lesson have it."""
        return follow_schools(self.song.choices, self.song.teaching.schools)

    @derived
    def played(self) -> tuple[MelodyNote, ...]:
        """The keys that were heard struck, on the chart's grid and at its pitch."""
        heard = place_played(self.hearing, self.chart.grid) if self.hearing else ()
        up = self.chart.transposed
        return tuple(replace(n, midi=n.midi + up) for n in heard if 0 <= n.midi + up <= 127) if up else heard

    def arrange(self, level: str = "", *, with_links: bool = False) -> Arrangement:
        """What both hands play; with ``level`` at another one, where nothing holds that the creator set grip by grip."""
        choices = self.choices
        if level:
            choices = replace(choices, level=level, grips=(), parts=tuple(replace(p, level=None) for p in choices.parts))
        return arrange(self.chart, choices, played=self.played, with_links=with_links)

    @derived
    def plain(self) -> Arrangement | None:
        """What the lesson teaches first, where the song as it is played comes last; None where that is the same, or cannot be played."""
        order = self.song.teaching.schools.order
        choices = replace(self.choices, pattern="held", chord_patterns=(), taken_links=(), links="chosen")
        own: tuple[PartChoice, ...] = tuple(replace(p, pattern=None) for p in choices.parts)
        if order == "plain-first":
            own = tuple(replace(p, level=None, lead_in=False, ending="") for p in own)
            choices = replace(choices, level=EASIER, grips=(), passages=())
        elif order != "pattern-last":
            return None
        try:
            plain = arrange(self.chart, replace(choices, parts=own), played=self.played)
        except ValleyError:
            return None  # these hands have no such version; each part is taught as it is played
        return None if [p.notes for p in plain.parts] == [p.notes for p in self.arrangement.parts] else plain

    @derived
    def arrangement(self) -> Arrangement:
        return self.arrange()

    @derived
    def linked(self) -> Arrangement:
        """What both hands play, with every link that Valley would propose."""
        return self.arrange(with_links=True)

    @derived
    def generated(self) -> Lesson:
        """The lesson before the creator's edits."""
        known = PATTERNS.values() if self.song.teaching.schools.language == "en" else ()  # Valley's own are named in English; their figures say what they are
        patterns = {p.name: (p.title, p.summary) for p in (*known, *self.choices.patterns)}
        others: dict[str, Arrangement | None] = {"easier": None, "fuller": None}
        for level in others if self.song.teaching.schools.length != "short" else ():  # a short lesson does without
            try:
                others[level] = None if self.choices.level == level else self.arrange(level)
            except ValleyError:
                others[level] = None  # no such version fits these hands; the lesson does without
        return build_lesson(
            self.chart,
            self.arrangement,
            order=self.song.settings.order,
            schools=self.song.teaching.schools,
            easier=others["easier"],
            fuller=others["fuller"],
            plain=self.plain,
            patterns=patterns,
            recorded=self.hearing is not None and not self.chart.transposed,
            thanks=self.song.settings.thanks,
        )

    @derived
    def written(self) -> Lesson:
        """The lesson with the creator's edits, its times reckoned."""
        return lay_over(self.generated, self.song.teaching.edits)

    @derived
    def lesson(self) -> Lesson:
        return keep_times(self.written, self.song.teaching.times)


def work_of(chart: Chart, choices: Choices | None = None, *, order: Sequence[int] = ()) -> Work:
    """The work of a chart with nothing chosen but what is given."""
    return Work(SongState(chart, choices or Choices(), settings=Settings(tuple(order))))
