"""A film of what stands beside the hands: keys, chord, next chord, bar and count, rail, cue words, in time with the recording or with a practice track.

With a transparent ground it is laid over a film of the hands (WebM with VP9; MOV with run-length coding, which keeps every
pixel and is a hundred times quicker here than ProRes; both with an alpha channel); the opaque one
(MP4) has the practice track for its sound and is whole in itself. Pictures change only where something happens, so each scene is drawn and
converted once, coded twice and then shown again.
"""

from __future__ import annotations

import contextlib
import tempfile
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Final

from valley.errors import ParameterError
from valley.formats.scenes import filmed_range, part_places, set_scenes
from valley.formats.stage import SHAPES, USUAL, Scene, Stage
from valley.fraction import Fraction
from valley.model._rules import require, require_one_of
from valley.pipeline.coding import Coding, code_stretches, count_pictures, join_stretches
from valley.pipeline.painting import Canvas, Painter, write_png
from valley.pipeline.practice import Track, lead_of, render_track
from valley.song.work import Work

KINDS: Final = {
    "webm": ("libvpx-vp9", "yuva420p", "video/webm", "transparent, to lay over (WebM)"),
    "mov": ("qtrle", "argb", "video/quicktime", "transparent, for editing (MOV)"),
    "mp4": ("libx264", "yuv420p", "video/mp4", "on paper, with sound (MP4)"),
}
TIMES: Final = {"recording": "in time with the recording", "track": "in time with a practice track"}
_LONGEST = 600  # seconds
_CODES = 0.95  # of the work; the rest joins it, and lays the sound beside it


@dataclass(frozen=True)
class Film:
    """What is to be filmed. ``part`` 0 is the whole song; ``speed`` a share of the song's own, for films in time with a practice track."""

    kind: str = "webm"
    shape: str = "1080p"
    part: int = 0
    rate: int = 30
    time: str = "recording"
    speed: float = 1.0
    count_in: bool = True
    metronome: bool = False
    mirrored: bool = False
    layers: tuple[str, ...] = USUAL

    def __post_init__(self) -> None:
        require_one_of("kind", self.kind, tuple(KINDS))
        require_one_of("shape", self.shape, tuple(SHAPES))
        require_one_of("time", self.time, tuple(TIMES))
        require(self.rate in (30, 60), "rate", self.rate, "be 30 or 60 pictures a second")
        Stage(self.shape, layers=self.layers)  # says what is wrong with the layers
        if self.kind == "mp4" and self.time == "recording":
            object.__setattr__(self, "time", "track")  # its sound is the piano's: the recording is not Valley's to publish
        Track(part=self.part, speed=self.speed)

    @property
    def track(self) -> Track:
        return Track("both", self.part, self.speed, self.count_in, self.metronome)

    @property
    def name(self) -> str:
        """Of its file, such as "film-part2-1080p-70.webm"."""
        where = f"part{self.part}" if self.part else "song"
        pace = "recording" if self.time == "recording" else f"{round(100 * self.speed)}"
        return f"film-{where}-{self.shape}-{pace}.{self.kind}"


def plan_film(work: Work, film: Film) -> tuple[Stage, list[tuple[float, Scene]]]:
    """The stage, and the scenes with their seconds.

    Parameters
    ----------
    work : the song
    film : what is wanted

    Raises
    ------
    ParameterError
        there is no such part, or it would be longer than ten minutes
    """
    chart, grid = work.chart, work.chart.grid
    spans = [chart.span(p) for p in chart.parts if film.part in (0, p.number)]
    if not spans:
        raise ParameterError(f"part={film.part} is not one of the song's parts {[p.number for p in chart.parts]}")
    start = spans[0][0]
    lead = 0
    if film.time == "track":
        lead = grid.meter_at(start).beats if film.count_in else 0
        before = lead_of(chart, start) if film.count_in else 0.0

        def at(beat: Fraction) -> float:
            return (before + grid.seconds(beat) - grid.seconds(start)) / film.speed
    else:
        zero = 0.0 if film.part == 0 else grid.seconds(start)

        def at(beat: Fraction) -> float:
            return grid.seconds(beat) - zero

    scenes = set_scenes(work, film.part, at, lead)
    if scenes[-1][0] > _LONGEST:
        raise ParameterError(f"the film would last {scenes[-1][0] / 60:.0f} minutes; {_LONGEST // 60} is the most: choose one part")
    low, high = filmed_range(work)
    whole = film.kind == "mp4"
    return Stage(film.shape, low, high, film.layers, whole=whole, mirrored=film.mirrored, parts=part_places(work, film.part)), scenes


def draw_moment(work: Work, film: Film, share: float) -> bytes:
    """One picture of a film as PNG: the last scene that has begun when this share of it has passed.

    Parameters
    ----------
    share : 0 to 1
    """
    stage, scenes = plan_film(work, film)
    scene = [s for t, s in scenes[:-1] if t <= share * scenes[-1][0]][-1:] or [scenes[0][1]]
    painter = Painter(stage)
    painter.prepare(scene, lambda share: None)
    return write_png(Canvas(painter).paint(scene[0]).to_ndarray(format="rgba"))


def save_film(
    work: Work, film: Film, path: Path, on_progress: Callable[[str, float], None] = lambda words, share: None, *, stretches: Path | None = None
) -> float:
    """Write a film, whole or not at all; gives its length in seconds.

    Parameters
    ----------
    on_progress : told what is being done, and the share of it
    stretches : a folder where what is done stays if the work breaks off, so that the same film goes on from there
    """
    with contextlib.ExitStack() as stack:
        folder = stretches or Path(stack.enter_context(tempfile.TemporaryDirectory()))
        folder.mkdir(parents=True, exist_ok=True)
        stage, scenes = plan_film(work, film)
        codec, pixels, _, _ = KINDS[film.kind]
        coding = Coding(film.kind, codec, pixels, SHAPES[film.shape], film.rate)
        done = code_stretches(coding, Painter(stage, pixels), scenes, folder, lambda words, share: on_progress(words, _CODES * share))
        on_progress("Joining", _CODES)
        unfinished = path.with_name(f"{path.name}.part")
        try:
            sound = render_track(work.chart, work.arrangement, film.track) if film.kind == "mp4" else None
            join_stretches(done, coding, sound, f"{work.chart.title} – {film.name}", unfinished)
            unfinished.replace(path)
        finally:
            unfinished.unlink(missing_ok=True)
    return count_pictures(scenes, film.rate) / film.rate
