"""Sound to a file in memory: MP3, FLAC or Opus, with tags."""

from __future__ import annotations

import io
from collections.abc import Mapping
from typing import Final

import av
import numpy as np
import numpy.typing as npt

Floats = npt.NDArray[np.float32]
KINDS: Final = {"mp3": ("libmp3lame", "mp3", "audio/mpeg"), "flac": ("flac", "flac", "audio/flac"), "opus": ("libopus", "ogg", "audio/ogg")}
# Less time than the usual search for the best packing, and nothing to be heard at these rates.
_QUICKLY: Final = {"mp3": {"compression_level": "7"}, "opus": {"compression_level": "5"}}


def pack_sound(sound: Floats, rate: int, kind: str, tags: Mapping[str, str], *, bit_rate: int = 160_000) -> bytes:
    """A sound as a file.

    Parameters
    ----------
    sound : shape (1 or 2, samples), full scale is 1
    rate : samples a second
    kind : one of ``KINDS``
    bit_rate : of MP3, bits a second for both channels
    """
    codec, container, _ = KINDS[kind]
    layout = "stereo" if len(sound) == 2 else "mono"
    buffer = io.BytesIO()
    with av.open(buffer, "w", format=container) as out:
        out.metadata.update(tags)
        file_rate = 48_000 if kind == "opus" else rate
        stream = out.add_stream(codec, rate=file_rate, options=_QUICKLY.get(kind))
        stream.layout = layout
        if kind == "mp3":
            stream.bit_rate = bit_rate if layout == "stereo" else bit_rate // 2
        frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(sound), format="fltp", layout=layout)
        frame.sample_rate = rate
        resampler, fifo = av.AudioResampler(format=stream.format.name, layout=layout, rate=file_rate), av.AudioFifo()
        for piece in [*resampler.resample(frame), *resampler.resample(None)]:
            fifo.write(piece)
        while (chunk := fifo.read(stream.frame_size or 4096, partial=True)) is not None:
            out.mux(stream.encode(chunk))
        out.mux(stream.encode(None))
    return buffer.getvalue()
