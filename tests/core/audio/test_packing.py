"""What is packed comes out again: as long as it was, every moment in its place, and nothing to be heard where two halves meet."""

import io

import av
import numpy as np
import pytest

from valley.audio.packing import KINDS, MP3_FRAME, pack_sound

RATE = 44_100


def unpack(data: bytes) -> np.ndarray:
    with av.open(io.BytesIO(data)) as source:
        resampler = av.AudioResampler(format="fltp", rate=RATE)
        pieces = [p.to_ndarray() for f in source.decode(audio=0) for p in resampler.resample(f)]
    return np.concatenate(pieces, axis=1)


def sung(seconds: float, channels: int = 2) -> np.ndarray:
    """A tone that slides, and a quieter one: whatever is cut or shifted shows."""
    t = np.arange(round(seconds * RATE)) / RATE
    both = [0.4 * np.sin(2 * np.pi * (300 + 40 * t) * t), 0.3 * np.sin(2 * np.pi * 500 * t)]
    return np.stack(both[:channels]).astype(np.float32)


@pytest.mark.parametrize("kind", KINDS)
@pytest.mark.parametrize("channels", [1, 2])
def test_what_is_packed_comes_out_in_its_place(kind: str, channels: int) -> None:
    sound = sung(3.0, channels)
    out = unpack(pack_sound(sound, RATE, kind, {}, bit_rate=192_000))
    assert out.shape[0] == channels
    assert abs(out.shape[1] - sound.shape[1]) <= MP3_FRAME
    shared = min(out.shape[1], sound.shape[1])
    assert np.corrcoef(out[0, :shared], sound[0, :shared])[0, 1] > 0.98


@pytest.mark.parametrize("seconds", [0.01, 0.1, 0.3, 2.0, 7.77])
def test_the_halves_of_an_mp3_meet_without_a_seam(seconds: float) -> None:
    sound = sung(seconds)
    out = unpack(pack_sound(sound, RATE, "mp3", {}, bit_rate=192_000))
    assert abs(out.shape[1] - sound.shape[1]) <= MP3_FRAME
    shared = min(out.shape[1], sound.shape[1])
    off = np.abs(out[:, :shared] - sound[:, :shared])
    if seconds >= 2:
        middle = slice(shared // 2 - 4 * MP3_FRAME, shared // 2 + 4 * MP3_FRAME)
        usual = np.sqrt((off[:, RATE // 4 : shared // 3] ** 2).mean())
        assert np.sqrt((off[:, middle] ** 2).mean()) < 2 * usual + 1e-3
