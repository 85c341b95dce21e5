"""A film of what stands beside the hands: keys, chord, next chord, bar and count, rail, cue words, in time with the recording or with a practice track.

With a transparent ground it is laid over a film of the hands (WebM with VP9; MOV with run-length coding, which keeps every
pixel and is a hundred times quicker here than ProRes; both with an alpha channel); the opaque one
(MP4) has the practice track for its sound and is whole in itself. Pictures change only where something happens, so each scene is drawn and
converted once, coded twice and then shown again.
"""

from __future__ import annotations

import io
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any, Final

import av
import numpy as np
import numpy.typing as npt
from av.video.frame import PictureType

from valley.audio.piano import RATE, Floats
from valley.errors import ParameterError
from valley.formats.engraving import dump_pngs
from valley.formats.scenes import filmed_range, part_places, set_scenes
from valley.formats.stage import SHAPES, USUAL, Box, Scene, Stage
from valley.fraction import Fraction
from valley.model._rules import require, require_one_of
from valley.pipeline.practice import Track, lead_of, render_track
from valley.pipeline.still_frames import SETTLES, show_again
from valley.song.work import Work

Pixels = npt.NDArray[np.uint8]
KINDS: Final = {
    "webm": ("libvpx-vp9", "yuva420p", "video/webm", "transparent, to lay over (WebM)"),
    "mov": ("qtrle", "argb", "video/quicktime", "transparent, for editing (MOV)"),
    "mp4": ("libx264", "yuv420p", "video/mp4", "on paper, with sound (MP4)"),
}
_STILL: Final = "bframes=0:rc-lookahead=0:mbtree=0:weightp=0:ref=1:subme=1:me=dia:aq-mode=0"
_OPTIONS: Final = {
    "webm": {"deadline": "realtime", "cpu-used": "8", "row-mt": "1", "crf": "22", "b": "0", "auto-alt-ref": "0", "lag-in-frames": "0"},
    "mov": {},
    # pictures that stand still, of which each is like the one before: no more is looked for, which takes a third of the time
    "mp4": {"preset": "veryfast", "crf": "19", "x264-params": f"{_STILL}:sliced-threads=1"},
}
TIMES: Final = {"recording": "in time with the recording", "track": "in time with a practice track"}
_LONGEST = 600  # seconds
_SEEK = 4  # seconds between pictures that are coded whole
_DRAWN_AT_ONCE = 60  # pictures that the typesetter draws in one go


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


class Painter:
    """Draws scenes: each picture once, in batches, and laid on its ground."""

    def __init__(self, stage: Stage) -> None:
        self._stage = stage
        self._kept: dict[tuple[Box, str], Pixels] = {}
        width, height = stage.size
        self._empty = np.zeros((height, width, 4), np.uint8)
        if ground := stage.ground():
            self._draw([(stage.boxes["ground"], ground)])
            self._put(self._empty, stage.boxes["ground"], ground)

    def prepare(self, scenes: list[Scene], on_progress: Callable[[float], None]) -> None:
        """Draw everything that some scenes need."""
        wanted = list(dict.fromkeys(place for scene in scenes for place in self._stage.pictures(scene) if place not in self._kept))
        for i in range(0, len(wanted), _DRAWN_AT_ONCE):
            self._draw(wanted[i : i + _DRAWN_AT_ONCE])
            on_progress(min(1.0, (i + _DRAWN_AT_ONCE) / len(wanted)))

    def _draw(self, places: list[tuple[Box, str]]) -> None:
        """Draw pictures and lay each over the ground at its place; no two of a scene overlap."""
        for (box, svg), png in zip(places, dump_pngs([svg for _, svg in places], ppi=96.0), strict=True):
            self._kept[box, svg] = _laid(self._empty[box.y : box.y + box.height, box.x : box.x + box.width], read_png(png))

    def _put(self, out: Pixels, box: Box, svg: str) -> None:
        picture = self._kept[box, svg]
        out[box.y : box.y + picture.shape[0], box.x : box.x + picture.shape[1]] = picture

    def paint(self, scene: Scene) -> Pixels:
        """The whole picture: shape (height, width, 4), straight alpha."""
        out = self._empty.copy()
        for box, svg in self._stage.pictures(scene):
            self._put(out, box, svg)
        return out


def read_png(png: bytes) -> Pixels:
    """A PNG as an array of shape (height, width, 4)."""
    with av.open(io.BytesIO(png)) as source:
        pixels: Pixels = next(source.decode(video=0)).to_ndarray(format="rgba")
    return pixels


def _laid(ground: Pixels, picture: Pixels) -> Pixels:
    """A picture over a piece of ground, straight alpha; as large as both are."""
    h, w = min(picture.shape[0], ground.shape[0]), min(picture.shape[1], ground.shape[1])
    laid, over = ground[:h, :w].copy(), picture[:h, :w]
    covers = over[..., 3] == 255
    laid[covers] = over[covers]
    edges = ~covers & (over[..., 3] > 0)  # few: only these are blended
    share, below = over[edges][:, 3:] / 255, laid[edges]
    under = below[:, 3:] / 255 * (1 - share)
    colour = (over[edges][:, :3] * share + below[:, :3] * under) / (share + under)
    laid[edges] = np.round(np.concatenate([colour, 255 * (share + under)], axis=1)).astype(np.uint8)
    return laid


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
    return write_png(painter.paint(scene[0]))


def write_png(pixels: Pixels) -> bytes:
    """An array of shape (height, width, 4) as a PNG."""
    buffer = io.BytesIO()
    with av.open(buffer, "w", format="image2pipe") as out:
        stream = out.add_stream("png", rate=1)
        stream.height, stream.width, stream.pix_fmt = pixels.shape[0], pixels.shape[1], "rgba"
        out.mux(stream.encode(av.VideoFrame.from_ndarray(np.ascontiguousarray(pixels), format="rgba")))
        out.mux(stream.encode(None))
    return buffer.getvalue()


def save_film(work: Work, film: Film, path: Path, on_progress: Callable[[str, float], None] = lambda words, share: None) -> float:
    """Write a film, whole or not at all; gives its length in seconds.

    Parameters
    ----------
    on_progress : told what is being done, and the share of it
    """
    stage, scenes = plan_film(work, film)
    painter = Painter(stage)
    painter.prepare([scene for _, scene in scenes], lambda share: on_progress("Drawing", 0.35 * share))
    unfinished = path.with_name(f"{path.name}.part")
    try:
        length = _encode(work, film, painter, scenes, unfinished, on_progress)
        unfinished.replace(path)
    finally:
        unfinished.unlink(missing_ok=True)
    return length


def _encode(work: Work, film: Film, painter: Painter, scenes: list[tuple[float, Scene]], path: Path, on_progress: Callable[[str, float], None]) -> float:
    codec, pixels, _, _ = KINDS[film.kind]
    width, height = SHAPES[film.shape]
    last = max(1, round(scenes[-1][0] * film.rate))
    options = {"movflags": "+faststart"} if film.kind == "mp4" else {}
    with av.open(str(path), "w", format={"webm": "webm", "mov": "mov", "mp4": "mp4"}[film.kind], container_options=options) as out:
        out.metadata.update({"title": f"{work.chart.title} – {film.name}", "comment": "made with Valley"})
        picture: Any = out.add_stream(codec, rate=film.rate, options=_OPTIONS[film.kind])
        picture.width, picture.height, picture.pix_fmt = width, height, pixels
        picture.thread_count = 2
        picture.time_base = Fraction(1, film.rate)
        sound = _Sound(out, render_track(work.chart, work.arrangement, film.track)) if film.kind == "mp4" else None
        shown = 0
        for number, (frame, fresh) in enumerate(_frames(painter, scenes, film.rate, last, pixels)):
            whole = number % (_SEEK * film.rate) == 0  # from here a player can begin
            shown = 1 if fresh else shown + 1
            if film.kind == "webm" and shown > SETTLES and not whole:
                out.mux(show_again(picture, number, film.rate))
            else:
                frame.pts, frame.time_base = number, Fraction(1, film.rate)
                frame.pict_type = PictureType.I if whole else PictureType.NONE
                out.mux(picture.encode(frame))
            if sound:
                sound.fill(number / film.rate)
            if number % film.rate == 0:
                on_progress("Filming", 0.35 + 0.65 * number / last)
        out.mux(picture.encode(None))
        if sound:
            sound.fill(1e9)
    return last / film.rate


def _frames(painter: Painter, scenes: list[tuple[float, Scene]], rate: int, last: int, pixels: str) -> Iterator[tuple[av.VideoFrame, bool]]:
    """One frame after the other, and whether it shows something new; a scene's own is converted once and given again."""
    shown, frame, at = -1, av.VideoFrame(16, 16, "rgba"), 0
    for number in range(last):
        while at + 1 < len(scenes) and scenes[at + 1][0] <= (number + 0.5) / rate:
            at += 1
        here = at if scenes[at][0] <= (number + 0.5) / rate else -2
        fresh = here != shown
        if fresh:
            scene = scenes[at][1] if here >= 0 else replace(scenes[at][1], keys=(), chord="", cue="")
            if here < 0:
                painter.prepare([scene], lambda share: None)
            frame = av.VideoFrame.from_ndarray(painter.paint(scene), format="rgba").reformat(format=pixels, dst_colorspace="ITU709")
            shown = here
        yield frame, fresh


class _Sound:
    """The practice track, muxed a little ahead of the pictures."""

    def __init__(self, out: Any, sound: Floats) -> None:
        self._out, self._sound, self._sent = out, sound, 0
        self._stream = out.add_stream("aac", rate=RATE, options={"aac_coder": "fast"})
        self._stream.layout, self._stream.bit_rate = "stereo", 192_000

    def fill(self, seconds: float) -> None:
        until = min(self._sound.shape[1], int((seconds + 0.5) * RATE))
        while self._sent < until:
            chunk = self._sound[:, self._sent : self._sent + 1024]
            frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(chunk), format="fltp", layout="stereo")
            frame.sample_rate, frame.pts, frame.time_base = RATE, self._sent, Fraction(1, RATE)
            self._out.mux(self._stream.encode(frame))
            self._sent += chunk.shape[1]
        if seconds > 1e8:
            self._out.mux(self._stream.encode(None))
