"""Decode any recording that FFmpeg reads to mono samples."""

from __future__ import annotations

import logging
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

import av
import numpy as np
import numpy.typing as npt

from valley.errors import AudioDecodeError

SAMPLE_RATE = 22050
MIN_SECONDS = 5.0
MAX_SECONDS = 30 * 60.0
# Containers that recordings come in. FFmpeg also takes plain text for speech codecs that have no header.
_CONTAINERS = frozenset(
    (
        "aac",
        "ac3",
        "aiff",
        "ape",
        "asf",
        "avi",
        "caf",
        "flac",
        "flv",
        "m4a",
        "matroska",
        "mov",
        "mp2",
        "mp3",
        "mp4",
        "mpeg",
        "mpegts",
        "ogg",
        "opus",
        "tta",
        "voc",
        "w64",
        "wav",
        "webm",
        "wv",
        "3gp",
    )
)
_MOST_BAD = 200  # packets that may be bad before the rest is given up
_SILENCE = 1e-4  # -80 dB of full scale

Samples = npt.NDArray[np.float32]
av.logging.set_level(av.logging.FATAL)
logging.getLogger("libav").setLevel(logging.CRITICAL)


@dataclass(frozen=True)
class Sound:
    """Mono samples, and a sentence where the file gave less than it promised."""

    y: Samples
    sr: int
    warning: str = ""

    @property
    def duration(self) -> float:
        return len(self.y) / self.sr


def load_sound(
    path: str | Path,
    *,
    sr: int = SAMPLE_RATE,
    max_seconds: float = MAX_SECONDS,
    shown_name: str = "",
    on_progress: Callable[[float], None] = lambda fraction: None,
) -> Sound:
    """Decode a file's first sound track to mono.

    Parameters
    ----------
    path : local file; never a URL
    sr : target sample rate in hertz
    max_seconds : longer recordings are refused before they are decoded where the file says its length
    shown_name : what messages call the file, where its path is a name of our own
    on_progress : called with the fraction decoded, 0 to 1

    Returns
    -------
    Sound
        ``y`` has shape (n,), values within -1 to 1. ``warning`` is set when the file broke off early
        or held damaged stretches.

    Raises
    ------
    AudioDecodeError
        no such file, empty, no sound in it, silent, too short, too long
    """
    file = Path(path)
    name = shown_name or file.name
    if not file.is_file():
        raise AudioDecodeError(f"There is no file {name!r}; check the name.")
    if file.stat().st_size == 0:
        raise AudioDecodeError(f"{name!r} is empty (0 bytes); the copy or download may have broken off.")
    y, promised, bad = _decode(file, name, sr, max_seconds, on_progress)
    got = len(y) / sr
    if got < 0.05:
        raise AudioDecodeError(f"{name!r} holds no sound that can be decoded; it may be damaged or not a recording.")
    if float(max(y.max(), -y.min())) < _SILENCE:
        raise AudioDecodeError(f"{name!r} is silent from start to end; check that the right track was exported.")
    if got < MIN_SECONDS:
        raise AudioDecodeError(f"{name!r} lasts {got:.1f} s; at least {MIN_SECONDS:.0f} s are needed to hear bars and chords.")
    warning = ""
    if promised and got < 0.97 * promised - 0.5:
        warning = f"The file breaks off: {got:.0f} s of {promised:.0f} s could be read. What was read was heard."
    elif bad:
        warning = f"{bad} damaged stretch{'es' if bad > 1 else ''} of the file could not be read and were left out."
    return Sound(y, sr, warning)


class _ToMono:
    """Frames to one row of samples at one rate. A file may go from mono to stereo, or to another rate, on its way: each stretch is brought over
    by itself."""

    def __init__(self, sr: int) -> None:
        self._sr = sr
        self._kind: tuple[str, str, int] | None = None
        self._resampler: av.AudioResampler | None = None
        self._samples = bytearray()  # grows in its place, where a list of pieces would need twice the room at the end
        self.total = 0

    def take(self, frame: av.AudioFrame) -> None:
        kind = (frame.format.name, frame.layout.name, frame.sample_rate)
        if kind != self._kind or self._resampler is None:
            self._flush()
            self._kind, self._resampler = kind, av.AudioResampler(format="flt", layout="mono", rate=self._sr)
        self._keep(self._resampler.resample(frame))

    def finish(self) -> Samples:
        self._flush()
        return np.frombuffer(self._samples, np.float32)

    def _flush(self) -> None:
        if self._resampler is not None:
            self._keep(self._resampler.resample(None))

    def _keep(self, frames: list[av.AudioFrame]) -> None:
        for frame in frames:
            chunk = np.clip(np.nan_to_num(frame.to_ndarray().reshape(-1)), -1.0, 1.0)
            self._samples += chunk.tobytes()
            self.total += len(chunk)


def _frames(container: av.container.InputContainer, stream: av.AudioStream) -> Iterator[list[av.AudioFrame] | None]:
    """The frames of each packet; None for a packet that is bad."""
    packets = container.demux(stream)
    while True:
        try:
            packet = next(packets, None)
            if packet is None:
                return
            frames = packet.decode()
        except (av.FFmpegError, ValueError):
            yield None
            continue
        yield frames


def _find_sound(container: av.container.InputContainer, name: str) -> av.AudioStream:
    if not _CONTAINERS & set(container.format.name.split(",")):
        raise AudioDecodeError(_no_recording(name))
    if not container.streams.audio:
        kind = "is a video without sound" if container.streams.video else "holds no sound track"
        raise AudioDecodeError(f"{name!r} {kind}; choose a file that has one.")
    return container.streams.audio[0]


def _decode(file: Path, name: str, sr: int, max_seconds: float, on_progress: Callable[[float], None]) -> tuple[Samples, float, int]:
    """Samples, the seconds the container promised (0 when it does not say), and how many packets were bad."""
    try:
        container = av.open(str(file.absolute()), metadata_errors="replace")
    except (av.FFmpegError, ValueError, OSError) as error:
        raise AudioDecodeError(_no_recording(name)) from error
    with container:
        stream = _find_sound(container, name)
        promised = _promised_seconds(container, stream) * _share_promised(file)
        if promised > max_seconds:
            raise AudioDecodeError(_too_long(name, promised, max_seconds))
        mono = _ToMono(sr)
        bad = 0
        for frames in _frames(container, stream):
            if frames is None:
                bad += 1
                if bad > _MOST_BAD:
                    break
                continue
            for frame in frames:
                mono.take(frame)
            if mono.total > max_seconds * sr:
                raise AudioDecodeError(_too_long(name, mono.total / sr, max_seconds))
            if promised:
                on_progress(min(1.0, mono.total / sr / promised))
    return mono.finish(), promised, bad


def _promised_seconds(container: av.container.InputContainer, stream: av.AudioStream) -> float:
    if stream.duration and stream.time_base:
        return float(stream.duration * stream.time_base)
    return container.duration / 1e6 if container.duration else 0.0


def _share_promised(file: Path) -> float:
    """How many times its bytes a RIFF file (wav) says it has; FFmpeg goes by the bytes that are there."""
    with file.open("rb") as source:
        head = source.read(12)
    if head[:4] != b"RIFF" or head[8:] != b"WAVE":
        return 1.0
    said, there = int.from_bytes(head[4:8], "little") + 8, file.stat().st_size
    return said / there if there < said < 0xFFFFFF00 else 1.0  # a streamed file says the most it can


def _no_recording(name: str) -> str:
    return f"{name!r} is no recording that can be read; use mp3, m4a, ogg, opus, flac, wav or a video."


def _too_long(name: str, seconds: float, limit: float) -> str:
    return (
        f"{name!r} lasts {'at least ' if seconds < limit * 1.01 else ''}{seconds / 60:.0f} minutes; "
        f"the limit is {limit / 60:.0f} minutes. Cut out the song, or raise the limit in the settings."
    )
