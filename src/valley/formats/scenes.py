"""From what the hands play to what stands on the stage, moment by moment."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable

from valley.arranging.reach import key_range
from valley.arranging.sounding import sounding_end
from valley.formats.keyboard_svg import picture_range
from valley.formats.stage import Lit, Scene
from valley.fraction import Fraction
from valley.model.arrangement import PlayedNote
from valley.model.saying import Sound, say
from valley.phrases import Words
from valley.song.work import Work
from valley.theory.pitch import BLACK_KEYS

AGAIN = 0.07  # seconds that a key is dark before it is struck again, so that the eye sees it
_CUE_BEATS = 4  # a cue word stands for so long, or until the next


def filmed_range(work: Work) -> tuple[int, int]:
    """The white keys at the ends of what the camera sees: as the creator set it, else the octaves that are played.

    Parameters
    ----------
    work : the song
    """
    if work.choices.frame:
        low, high = key_range(work.choices.frame)
        return low - (low % 12 in BLACK_KEYS), high + (high % 12 in BLACK_KEYS)
    return picture_range([g for p in work.arrangement.parts for g in p.grips])


def set_scenes(work: Work, part: int, at: Callable[[Fraction], float], lead: int = 0) -> list[tuple[float, Scene]]:
    """Scenes in order, each with the second at which it begins; the last is empty and tells where the film ends.

    Parameters
    ----------
    part : number of the part, or 0 for the whole song
    at : the second at which a beat comes
    lead : beats that are counted before the first
    """
    chart, grid = work.chart, work.chart.grid
    arranged = [p for p in work.arrangement.parts if part in (0, p.part)]
    spans = {p.number: chart.span(p) for p in chart.parts if part in (0, p.number)}
    start, end = min(a for a, _ in spans.values()), max(b for _, b in spans.values())
    lit = sorted(_light([(n, sounding_end(p, n)) for p in arranged for n in p.notes], at), key=lambda row: (row[0], row[2].midi))
    words = Words(work.song.teaching.schools)
    named = [(c.start, words.say(say("named", chord=Sound(c.chord))) if c.chord else "") for c in chart.chords if c.start < end and c.end > start]
    changes = [row for i, row in enumerate(named) if i == 0 or row[1] != named[i - 1][1]]
    cues = [c for c in chart.cues if start <= c.start < end]
    beats = [Fraction(b) for b in range(-(-start // 1) - lead, -(-end // 1))]
    moments = {round(at(b), 4) for b in beats} | {round(t, 4) for a, b, _ in lit for t in (a, b)} | {round(at(max(s, start)), 4) for s, _ in changes}
    moments |= {round(at(c.start), 4) for c in cues} | {round(at(start - lead), 4)}
    seconds_of_beats = [at(b) for b in beats]
    change_seconds = [at(max(s, start)) for s, _ in changes]
    scenes: list[tuple[float, Scene]] = []
    ordered = sorted({max(0.0, t) for t in moments if t < at(end) - 1e-3})
    active: list[tuple[float, float, Lit]] = []
    following = iter(lit)
    waiting = next(following, None)
    for moment in ordered:
        while waiting and waiting[0] <= moment + 1e-3:
            active.append(waiting)
            waiting = next(following, None)
        active = [row for row in active if row[1] > moment + 1e-3]
        beat = beats[max(0, bisect_right(seconds_of_beats, moment + 1e-3) - 1)]
        counted = beat < start
        i = bisect_right(change_seconds, moment + 1e-3) - 1
        if counted:
            meter, into = grid.meter_at(start), (beat - start) % grid.meter_at(start).beats
            bar = 0
        else:
            meter = grid.meter_at(beat)
            bar, into = grid.place(beat)
        scene = Scene(
            keys=tuple(sorted({k.midi: k for _, _, k in active}.values(), key=lambda k: k.midi)),
            chord="" if counted or i < 0 else changes[i][1],
            then=next((name for _, name in changes[i + 1 : i + 2]), "") if not counted else next((name for _, name in changes if name), ""),
            bar=bar,
            beat=int(into),
            beats=meter.beats,
            part=next((n for n, (a, b) in spans.items() if a <= max(beat, start) < b), 0),
            place=round(float((grid.bar_start(max(bar, 1)) - start) / (end - start)), 4) if not counted else 0.0,
            cue=next((c.text for c in reversed(cues) if c.start <= beat < c.start + _CUE_BEATS), ""),
        )
        if not scenes or scenes[-1][1] != scene:
            scenes.append((moment, scene))
    return [*scenes, (round(at(end), 4), Scene())]


def _light(rows: list[tuple[PlayedNote, Fraction]], at: Callable[[Fraction], float]) -> list[tuple[float, float, Lit]]:
    """When each key is marked: as long as it sounds, but dark for a moment before it is struck again."""
    strikes: dict[int, list[float]] = {}
    for note, _ in rows:
        strikes.setdefault(note.midi, []).append(at(note.start))
    for times in strikes.values():
        times.sort()
    out = []
    for note, until in rows:
        begin, end = at(note.start), at(until)
        later = strikes[note.midi][bisect_right(strikes[note.midi], begin + 1e-6) :]
        if later:
            end = min(end, later[0] - min(AGAIN, 0.4 * (later[0] - begin)))
        out.append((begin, max(end, begin + 0.03), Lit(note.midi, note.hand, note.pitch, note.finger, note.optional)))
    return out


def part_places(work: Work, part: int) -> tuple[tuple[int, float], ...]:
    """Number of each part that is shown, and where it begins, 0 to 1.

    Parameters
    ----------
    part : number of the part, or 0 for the whole song
    """
    spans = [(p.number, *work.chart.span(p)) for p in work.chart.parts if part in (0, p.number)]
    start, end = spans[0][1], spans[-1][2]
    return tuple((number, round(float((a - start) / (end - start)), 4)) for number, a, _ in spans)
