"""A made-up song becomes a recording: FluidSynth for instruments, our voice for singing, a room, a desk, a codec.

Needs Debian's fluidsynth and at least one soundfont. Every choice is drawn from the song's seed.
"""

from __future__ import annotations

import json
import subprocess
import tempfile
from dataclasses import replace
from pathlib import Path
from random import Random
from typing import Any

import av
import mido
import numpy as np
import numpy.typing as npt
from scipy.ndimage import uniform_filter1d
from scipy.signal import butter, fftconvolve, resample_poly, sosfilt

from composer.song import Note, Song
from composer.voice import SR, sing
from valley.audio import piano
from valley.audio.piano import Stroke

Floats = npt.NDArray[np.float32]
FONTS = {
    "FluidR3": "/usr/share/sounds/sf2/FluidR3_GM.sf2",
    "TimGM6mb": "/usr/share/sounds/sf2/TimGM6mb.sf2",
    "OPL3": "/usr/share/sounds/sf2/OPL-3_FM_128M.sf2",
    "GMbank": "/usr/share/sounds/sf2/sf_GMbank.sf2",
}
CODECS = {"mp3": "libmp3lame", "opus": "libopus", "m4a": "aac", "flac": "flac"}
_CHANNELS = {"melody": 0, "chords": 1, "bass": 2, "pad": 3, "second": 4, "alto": 5, "tenor": 6, "left": 7, "right": 8, "drums": 9}
_TICKS = 1000  # a second: the file's tempo is one quarter a second


def write_midi(song: Song, path: Path, rng: Random, *, without: str = "") -> None:
    """The song's notes at their own times."""
    file, track = mido.MidiFile(type=0, ticks_per_beat=_TICKS), mido.MidiTrack()
    track.append(mido.MetaMessage("set_tempo", tempo=1_000_000))
    events: list[tuple[int, int, mido.Message]] = []
    for part, channel in _CHANNELS.items():
        program = song.programs.get({"second": "melody", "alto": "chords", "tenor": "chords", "left": "chords", "right": "chords"}.get(part, part), 0)
        level = song.levels.get({"alto": "chords", "tenor": "chords", "left": "chords", "right": "chords"}.get(part, part), 0.8)
        if song.genre in ("piano", "hymn"):
            level = 0.9
        events.append((0, 0, mido.Message("program_change", program=program, channel=channel)))
        events.append((0, 0, mido.Message("control_change", control=7, value=max(1, min(127, round(110 * level))), channel=channel)))
        events.append((0, 0, mido.Message("control_change", control=10, value=64 if part in ("melody", "bass") else rng.randint(30, 98), channel=channel)))
    for note in song.notes:
        if note.part == without:
            continue
        channel = _CHANNELS[note.part]
        a, b = int(note.start * _TICKS), int(note.end * _TICKS)
        velocity = max(8, min(127, round(127 * note.loud)))
        events.append((max(a, 1), 2, mido.Message("note_on", note=note.midi, velocity=velocity, channel=channel)))
        events.append((max(b, a + 1, 2), 1, mido.Message("note_off", note=note.midi, velocity=0, channel=channel)))
    if song.genre in ("piano", "artsong") and rng.random() < 0.6:  # pedal, changed with each chord
        for row in song.chords:
            if row["label"] not in ("N", "X"):
                for channel in set(_CHANNELS.values()) - {0, 9}:
                    events.append((int(row["start"] * _TICKS) + 40, 3, mido.Message("control_change", control=64, value=127, channel=channel)))
                    events.append((max(0, int(row["end"] * _TICKS) - 20), 0, mido.Message("control_change", control=64, value=0, channel=channel)))
    now = 0
    for tick, _, message in sorted(events, key=lambda e: e[:2]):
        track.append(message.copy(time=tick - now))
        now = tick
    file.tracks.append(track)
    file.save(str(path))


def play(midi: Path, font: str, rng: Random) -> Floats:
    """Stereo samples at 44.1 kHz from FluidSynth."""
    with tempfile.TemporaryDirectory() as folder:
        wav = Path(folder) / "out.wav"
        room = ["-R", "1" if rng.random() < 0.5 else "0", "-C", "1" if rng.random() < 0.3 else "0"]
        subprocess.run(["fluidsynth", "-ni", "-r", "44100", "-g", "0.5", *room, "-F", str(wav), FONTS[font], str(midi)], check=True, capture_output=True)
        with av.open(str(wav)) as source:
            frames = [f.to_ndarray() for f in source.decode(audio=0)]
    return np.concatenate([f.reshape(-1, 2) for f in frames]).astype(np.float32) / np.float32(32768)


def play_samples(song: Song, rng: Random) -> Floats:
    """A piece for piano alone, by the sampled piano that ships with Valley: another instrument than the soundfonts'."""
    pedal = [(r["start"], r["end"]) for r in song.chords if r["label"] not in ("N", "X")] if rng.random() < 0.6 else []
    edges = np.array([a for a, _ in pedal])
    strokes = []
    for n in song.notes:
        i = int(np.searchsorted(edges, n.end, side="right")) - 1
        end = max(n.end, pedal[i][1] - 0.02) if i >= 0 and pedal[i][0] + 0.04 <= n.end < pedal[i][1] else n.end
        strokes.append(Stroke(n.start, end, n.midi, min(1.0, max(0.05, n.loud)), (n.midi - 64) / 80))
    return np.ascontiguousarray(piano.play(strokes, song.end + 1.5).T)


def _room(rng: Random) -> Floats:
    """Impulse response of an invented room, stereo."""
    rt60 = rng.uniform(0.3, 2.2)
    n = int(44100 * min(rt60, 1.6))
    noise = np.random.default_rng(rng.randrange(2**31)).standard_normal((n, 2))
    decay = np.exp(-6.9 * np.arange(n) / 44100 / rt60)[:, None]
    return np.asarray(noise * decay * (np.arange(n) > rng.uniform(100, 900))[:, None] / np.sqrt(n) * 3, dtype=np.float32)


def finish(y: Floats, rng: Random) -> tuple[Floats, dict[str, Any]]:
    """Room, tilt, compression, drive, noise: what a recording goes through."""
    notes: dict[str, Any] = {}
    if rng.random() < 0.55:
        wet = rng.uniform(0.05, 0.4)
        tail = np.stack([fftconvolve(y[:, c], ir)[: len(y)] for c, ir in enumerate(_room(rng).T)], axis=1)
        y = y + wet * tail.astype(np.float32)
        notes["reverb"] = round(wet, 2)
    for kind, edge in (("low", rng.uniform(120, 400)), ("high", rng.uniform(2000, 6000))):
        gain = 10 ** (rng.uniform(-5, 5) / 20) - 1
        sos = butter(1, edge, "lowpass" if kind == "low" else "highpass", fs=44100, output="sos")
        y = y + gain * sosfilt(sos, y, axis=0).astype(np.float32)
    if rng.random() < 0.12:  # a telephone or an old machine
        y = sosfilt(butter(2, [rng.uniform(80, 200), rng.uniform(3000, 6000)], "bandpass", fs=44100, output="sos"), y, axis=0).astype(np.float32)
        notes["narrow"] = True
    y = y / (np.abs(y).max() + 1e-9)
    if rng.random() < 0.6:
        level = np.sqrt(uniform_filter1d((y**2).mean(1), 2048) + 1e-8)
        y = y * ((level / level.max()) ** -rng.uniform(0.1, 0.5))[:, None].astype(np.float32)
        y = y / (np.abs(y).max() + 1e-9)
    drive = rng.uniform(1.0, 2.2)
    y = np.tanh(drive * y) / np.tanh(drive)
    noise = 10 ** (rng.uniform(-85, -42) / 20)
    hiss = np.random.default_rng(rng.randrange(2**31)).standard_normal(y.shape)
    y = y + (noise * hiss).astype(np.float32)
    notes["noise_db"] = round(20 * np.log10(noise), 1)
    return (0.9 * y / (np.abs(y).max() + 1e-9)).astype(np.float32), notes


def encode(y: Floats, path: Path, kbps: int) -> None:
    """Stereo samples at 44.1 kHz to a compressed file."""
    ending = path.suffix[1:]
    rate = 48000 if ending == "opus" else 44100
    with av.open(str(path), "w") as out:
        stream = out.add_stream(CODECS[ending], rate=rate)
        if ending != "flac":
            stream.bit_rate = kbps * 1000
        if ending == "m4a":
            stream.options = {"aac_coder": "fast"}
        fifo, resampler = av.AudioFifo(), av.AudioResampler(format=stream.format.name, layout="stereo", rate=rate)
        frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(y.T), format="fltp", layout="stereo")
        frame.sample_rate = 44100
        for piece in resampler.resample(frame):
            fifo.write(piece)
        while (chunk := fifo.read(stream.frame_size or 1024, partial=True)) is not None:
            for packet in stream.encode(chunk):
                out.mux(packet)
        for packet in stream.encode(None):
            out.mux(packet)


def record(song: Song, folder: Path, stem: str, fonts: tuple[str, ...], *, kbps: int | None = None, samples: float = 0.0) -> None:
    """Write ``audio/<stem>.<codec>`` and ``truth/<stem>.json``; ``samples`` is the share of piano pieces that Valley's own samples play."""
    rng = Random(song.seed * 7 + 1)
    font = rng.choice(fonts)
    cents = rng.choice([0.0, 0.0, rng.uniform(-40, 40), rng.uniform(-15, 15)])
    if set(song.programs.values()) == {0} and not song.sung and all(21 <= n.midi <= 108 for n in song.notes) and rng.random() < samples:
        font, y = "samples", play_samples(song, rng)
    else:
        with tempfile.TemporaryDirectory() as tmp:
            midi = Path(tmp) / "song.mid"
            write_midi(song, midi, rng, without="melody" if song.sung else "")
            y = play(midi, font, rng)
    length = int((song.end + 1.5) * 44100)
    y = np.pad(y, ((0, max(0, length - len(y))), (0, 0)))[:length]
    if song.sung:
        y = y / (np.abs(y).max() + 1e-9)
        tune = [(n.start, n.end, n.midi) for n in song.notes if n.part == "melody"]
        voice = resample_poly(sing(tune, length / 44100 + 0.01, rng), 44100 // SR, 1)[:length]
        voice = np.pad(voice, (0, length - len(voice)))
        loudness = np.sqrt((y**2).mean()) / (np.sqrt((voice[np.abs(voice) > 0.02] ** 2).mean()) + 1e-9)
        y = y + (voice * loudness * 10 ** (rng.uniform(-1, 7) / 20))[:, None].astype(np.float32)
    factor = 2 ** (cents / 1200)
    if cents:  # played faster: sharper, and all times shrink
        up = np.interp(np.arange(int(len(y) / factor)) * factor, np.arange(len(y)), np.arange(len(y)))
        y = np.stack([np.interp(up, np.arange(len(y)), y[:, c]) for c in (0, 1)], axis=1).astype(np.float32)
        song = faster(song, factor)
    y, effects = finish(y, rng)
    ending = rng.choice(["mp3", "opus", "m4a", "mp3", "flac"] if kbps is None else ["mp3", "opus", "m4a"])
    rate = kbps or rng.choice([64, 96, 128, 160])
    (folder / "audio").mkdir(parents=True, exist_ok=True)
    (folder / "truth").mkdir(parents=True, exist_ok=True)
    encode(y, folder / "audio" / f"{stem}.{ending}", rate)
    truth = song.truth() | {"tuning_cents": round(cents, 2), "render": {"soundfont": font, "kbps": rate, "effects": effects}}
    (folder / "truth" / f"{stem}.json").write_text(json.dumps(truth))


def faster(song: Song, factor: float) -> Song:
    """The song with every time divided by a factor."""

    def rows(items: list[dict[str, Any]]) -> list[dict[str, Any]]:
        return [r | {"start": round(r["start"] / factor, 4), "end": round(r["end"] / factor, 4)} for r in items]

    return replace(
        song,
        bpm=song.bpm * factor,
        beats=[b / factor for b in song.beats],
        downbeats=[b / factor for b in song.downbeats],
        end=song.end / factor,
        keys=rows(song.keys),
        chords=rows(song.chords),
        sections=rows(song.sections),
        notes=[Note(n.start / factor, n.end / factor, n.midi, n.loud, n.part) for n in song.notes],
    )
