"""Sound to a file in memory: MP3, FLAC or Opus, with tags."""

from __future__ import annotations

import io
from collections.abc import Mapping
from concurrent.futures import ThreadPoolExecutor
from typing import Any, Final

import av
import numpy as np
import numpy.typing as npt

from valley.fraction import Fraction

Floats = npt.NDArray[np.float32]
KINDS: Final = {"mp3": ("libmp3lame", "mp3", "audio/mpeg"), "flac": ("flac", "flac", "audio/flac"), "opus": ("libopus", "ogg", "audio/ogg")}
# Less time than the usual search for the best packing, and nothing to be heard at these rates. Without a reservoir an MP3's frames stand each by
# themselves, so that two halves can be packed side by side.
_QUICKLY: Final = {"mp3": {"compression_level": "7", "reservoir": "0"}, "opus": {"compression_level": "5"}}
MP3_FRAME: Final = 1152  # samples
_MORE = 8  # frames on the other side of the seam that are packed along and thrown away: they tell the packer what sounds on
_LAYOUTS = {1: "mono", 2: "stereo"}


def pack_sound(sound: Floats, rate: int, kind: str, tags: Mapping[str, str], *, bit_rate: int = 160_000) -> bytes:
    """A sound as a file.

    Parameters
    ----------
    sound : shape (1 or 2, samples), full scale is 1
    rate : samples a second
    kind : one of ``KINDS``
    bit_rate : of MP3, bits a second for both channels
    """
    _, container, _ = KINDS[kind]
    buffer = io.BytesIO()
    with av.open(buffer, "w", format=container) as out:
        out.metadata.update(tags)
        if kind == "mp3":
            _pack_in_halves(out, sound, rate, bit_rate * len(sound) // 2)
        else:
            _pack_whole(out, sound, rate, kind)
    return buffer.getvalue()


def _pack_whole(out: Any, sound: Floats, rate: int, kind: str) -> None:
    layout = _LAYOUTS[len(sound)]
    file_rate = 48_000 if kind == "opus" else rate
    stream = out.add_stream(KINDS[kind][0], rate=file_rate, options=_QUICKLY.get(kind))
    stream.layout = layout
    frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(sound), format="fltp", layout=layout)
    frame.sample_rate = rate
    resampler, fifo = av.AudioResampler(format=stream.format.name, layout=layout, rate=file_rate), av.AudioFifo()
    for piece in [*resampler.resample(frame), *resampler.resample(None)]:
        fifo.write(piece)
    while (chunk := fifo.read(stream.frame_size or 4096, partial=True)) is not None:
        out.mux(stream.encode(chunk))
    out.mux(stream.encode(None))


def _pack_in_halves(out: Any, sound: Floats, rate: int, bit_rate: int) -> None:
    """An MP3, its two halves at the same time on two threads."""
    stream = out.add_stream(KINDS["mp3"][0], rate=rate, options=_QUICKLY["mp3"])
    stream.layout, stream.bit_rate = _LAYOUTS[len(sound)], bit_rate
    out.start_encoding()
    frames = -(-sound.shape[1] // MP3_FRAME)
    seam = frames // 2
    stretches = [(0, min(frames, seam + _MORE)), (max(0, seam - _MORE), frames)]
    with ThreadPoolExecutor(len(stretches)) as threads:
        first, second = threads.map(lambda stretch: _mp3_packets(sound, rate, bit_rate, *stretch), stretches)
    begins = second[0].pts + (seam - stretches[1][0]) * MP3_FRAME
    for packet in [*(p for p in first if p.pts < begins), *(p for p in second if p.pts >= begins)]:
        packet.stream = stream
        out.mux(packet)


def _mp3_packets(sound: Floats, rate: int, bit_rate: int, first: int, last: int) -> list[av.Packet]:
    """The frames from the ``first`` up to, not with, the ``last``, and what the packer still holds."""
    packer: Any = av.CodecContext.create(KINDS["mp3"][0], "w")
    packer.sample_rate, packer.layout, packer.format = rate, _LAYOUTS[len(sound)], "fltp"
    packer.bit_rate, packer.options, packer.time_base = bit_rate, _QUICKLY["mp3"], Fraction(1, rate)
    packets = []
    for at in range(first * MP3_FRAME, last * MP3_FRAME, MP3_FRAME):
        frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(sound[:, at : at + MP3_FRAME]), format="fltp", layout=_LAYOUTS[len(sound)])
        frame.sample_rate, frame.pts, frame.time_base = rate, at, packer.time_base
        packets += packer.encode(frame)
    return [*packets, *packer.encode(None)]
