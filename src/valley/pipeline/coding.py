"""Pictures and sound into a film's file, by stretches: what is coded stays when the work breaks off, and the next try goes on after it.

A stretch begins with a picture that is coded whole and refers to none before it, so that stretches coded by themselves are one film when their
packets are written one after the other.
"""

from __future__ import annotations

import os
import threading
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from functools import partial
from pathlib import Path
from typing import Any, Final

import av
import numpy as np
from av.video.frame import PictureType

from valley.audio.piano import RATE, Floats
from valley.formats.stage import Scene
from valley.fraction import Fraction
from valley.pipeline.painting import Canvas, Painter
from valley.pipeline.still_frames import SETTLES, show_again

_STILL: Final = "bframes=0:rc-lookahead=0:mbtree=0:weightp=0:ref=1:subme=1:me=dia:aq-mode=0"
_OPTIONS: Final = {
    "webm": {
        "deadline": "realtime",
        "cpu-used": "8",
        "crf": "18",
        "tune-content": "screen",
        "b": "0",
        "auto-alt-ref": "0",
        "lag-in-frames": "0",
    },
    "mov": {},
    # pictures that stand still, of which each is like the one before: no more is looked for, which takes a third of the time
    "mp4": {"preset": "veryfast", "crf": "19", "x264-params": _STILL},
}
_SEEK: Final = 4  # seconds between pictures that are coded whole: there a player can begin
_STRETCH: Final = 2 * _SEEK  # seconds
_AT_ONCE: Final = 2  # stretches, each on a core: two cores on one stretch are a tenth quicker than one
_DRAWS: Final = 0.35  # of the work on a stretch


@dataclass(frozen=True)
class Coding:
    """How pictures are coded: container and codec, its pixels, the picture's (width, height), pictures a second."""

    kind: str
    codec: str
    pixels: str
    size: tuple[int, int]
    rate: int

    @property
    def stretch(self) -> int:
        """Pictures of a stretch."""
        return _STRETCH * self.rate


def code_stretches(coding: Coding, painter: Painter, scenes: list[tuple[float, Scene]], folder: Path, on_progress: Callable[[str, float], None]) -> list[Path]:
    """The stretches of a film in a folder, two at a time; those that lie there are kept as they are.

    Parameters
    ----------
    scenes : with their seconds; the last one ends the film
    on_progress : told what is being done, and the share of it; what it raises ends the work
    """
    last = count_pictures(scenes, coding.rate)
    spans = [(first, min(last, first + coding.stretch)) for first in range(0, last, coding.stretch)]
    paths = [folder / f"{number}.{coding.kind}" for number in range(len(spans))]
    progress = _Progress([(end - first) / last for first, end in spans], on_progress)
    for number, path in enumerate(paths):
        if path.exists():
            progress.share[number] = 1.0

    def code(number: int) -> None:
        tell = partial(progress.tell, number)
        shown = _shown_within(scenes, coding.rate, *spans[number])
        painter.prepare([s for _, s in shown], lambda share: tell("Drawing", _DRAWS * share))
        unfinished = paths[number].with_suffix(".part")
        _code(coding, painter, shown, spans[number], unfinished, tell)
        with unfinished.open("rb") as file:
            os.fsync(file.fileno())
        unfinished.replace(paths[number])
        tell("Filming", 1.0)

    with ThreadPoolExecutor(_AT_ONCE) as threads:
        for future in [threads.submit(code, n) for n, path in enumerate(paths) if not path.exists()]:
            future.result()
    return paths


class _Progress:
    """What several threads have done, told by one at a time; once telling has failed, each of them ends at its next word."""

    def __init__(self, sizes: list[float], told: Callable[[str, float], None]) -> None:
        self.share = [0.0] * len(sizes)
        self._sizes, self._told, self._lock = sizes, told, threading.Lock()
        self._failed: BaseException | None = None

    def tell(self, number: int, words: str, share: float) -> None:
        with self._lock:
            if self._failed:
                raise self._failed
            self.share[number] = share
            try:
                self._told(words, sum(a * b for a, b in zip(self._sizes, self.share, strict=True)))
            except BaseException as error:
                self._failed = error
                raise


def count_pictures(scenes: list[tuple[float, Scene]], rate: int) -> int:
    """Of a whole film."""
    return max(1, round(scenes[-1][0] * rate))


def _middle(number: int, rate: int) -> float:
    return (number + 0.5) / rate


def _shown_within(scenes: list[tuple[float, Scene]], rate: int, first: int, end: int) -> list[tuple[float, Scene]]:
    """The scenes that are seen in some pictures; what stands before the first one has begun is that scene with nothing sounding."""
    begun = [i for i, (seconds, _) in enumerate(scenes) if seconds <= _middle(first, rate)]
    shown = [scenes[begun[-1]] if begun else (float("-inf"), replace(scenes[0][1], keys=(), chord="", cue=""))]
    return shown + [(t, s) for t, s in scenes[len(begun) :] if t <= _middle(end - 1, rate)]


def _code(
    coding: Coding, painter: Painter, scenes: list[tuple[float, Scene]], pictures: tuple[int, int], path: Path, tell: Callable[[str, float], None]
) -> None:
    first, end = pictures
    with av.open(str(path), "w", format=coding.kind) as out:
        stream: Any = out.add_stream(coding.codec, rate=coding.rate, options=_OPTIONS[coding.kind])
        stream.width, stream.height, stream.pix_fmt = *coding.size, coding.pixels
        stream.thread_count = 1
        stream.time_base = Fraction(1, coding.rate)
        shown = 0
        for number, (frame, fresh) in enumerate(_frames(coding, painter, scenes, first, end)):
            whole = number % (_SEEK * coding.rate) == 0
            shown = 1 if fresh else shown + 1
            if coding.kind == "webm" and shown > SETTLES and not whole:
                out.mux(show_again(stream, number, coding.rate))
            else:
                frame.pts, frame.time_base = number, Fraction(1, coding.rate)
                frame.pict_type = PictureType.I if whole else PictureType.NONE
                out.mux(stream.encode(frame))
            if number % coding.rate == 0:
                tell("Filming", _DRAWS + (1 - _DRAWS) * number / (end - first))
        out.mux(stream.encode(None))


def _frames(coding: Coding, painter: Painter, scenes: list[tuple[float, Scene]], first: int, end: int) -> Iterator[tuple[av.VideoFrame, bool]]:
    """One frame after the other, and whether it shows something new; a scene's own is converted once and given again."""
    canvas, shown, frame, at = Canvas(painter), -1, av.VideoFrame(16, 16, "rgba"), 0
    for number in range(first, end):
        while at + 1 < len(scenes) and scenes[at + 1][0] <= _middle(number, coding.rate):
            at += 1
        fresh = at != shown
        if fresh:
            frame, shown = canvas.paint(scenes[at][1]), at
        yield frame, fresh


def join_stretches(paths: list[Path], coding: Coding, sound: Floats | None, title: str, path: Path) -> None:
    """One film of its stretches, with its sound beside the pictures.

    Parameters
    ----------
    sound : shape (2, samples) at ``RATE``, or None
    """
    options = {"movflags": "+faststart"} if coding.kind == "mp4" else {}
    with av.open(str(path), "w", format=coding.kind, container_options=options) as out:
        out.metadata.update({"title": title, "comment": "made with Valley"})
        with av.open(str(paths[0])) as model:
            stream: Any = out.add_stream_from_template(model.streams.video[0])
        track = _Sound(out, sound) if sound is not None else None
        for number, packet in enumerate(_packets(paths)):
            packet.stream, packet.time_base = stream, Fraction(1, coding.rate)
            packet.pts = packet.dts = number  # none is shown before one that was coded earlier
            packet.duration = 1
            out.mux(packet)
            if track:
                track.fill(number / coding.rate)
        if track:
            track.fill(1e9)


def _packets(paths: list[Path]) -> Iterator[Any]:
    for path in paths:
        with av.open(str(path)) as stretch:
            yield from (p for p in stretch.demux(video=0) if p.size)


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
