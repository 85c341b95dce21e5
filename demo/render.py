"""Render the demo songs: data in songs/*.json → MIDI → FluidSynth → compressed audio in audio/.

Run once when a song changes: ``python demo/render.py``. Needs Debian's fluidsynth and fluid-soundfont-gm
(FluidR3 GM by Frank Wen, MIT licence); neither is needed to use or test Valley. The same seed gives the same
performance: velocities and small time differences are drawn from it.
"""

from __future__ import annotations

import json
import random
import subprocess
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

import av
import mido
import numpy as np

from valley.fraction import Fraction

sys.path.insert(0, str(Path(__file__).parent.parent / "src"))

from valley.theory.chord import Chord, parse_symbol
from valley.theory.meter import Meter
from valley.theory.pitch import parse_pitch

HERE = Path(__file__).parent
SOUNDFONT = "/usr/share/sounds/sf2/FluidR3_GM.sf2"
FORMATS = {"paper_harbour": "mp3", "the_millwheel": "opus", "copper_weather": "m4a", "last_tram_waltz": "mp3"}
CODECS = {"mp3": ("libmp3lame", 44100), "opus": ("libopus", 48000), "m4a": ("aac", 44100)}
TICKS = 960
KICK, SNARE, HAT, SHAKER, STICK = 36, 38, 42, 70, 37
LEAD, CHORDS, BASS, PAD, DRUMS = 0, 1, 2, 3, 9
LEAD_IN = 0.3  # beats of silence before the first

Note = tuple[float, float, int, int, int]  # beat, length, midi, velocity, channel


def read_chords(text: str) -> list[list[Chord | None]]:
    """Bars of beats; a dot holds the chord before."""
    bars, now = [], None
    for bar in text.split("|"):
        row = []
        for word in bar.split():
            now = now if word == "." else parse_symbol(word)
            row.append(now)
        bars.append(row)
    return bars


def read_melody(text: str) -> list[tuple[Fraction, Fraction, int]]:
    """(beat, length, midi) from "Eb5 1.5 r .5 | …"."""
    out, beat = [], Fraction(0)
    words = text.replace("|", " ").split()
    for name, length in zip(words[::2], words[1::2], strict=True):
        duration = Fraction(length if length[0] != "." else "0" + length)
        if name != "r":
            out.append((beat, duration, parse_pitch(name)[1]))
        beat += duration
    return out


def voicing(chord: Chord, around: int) -> list[int]:
    """Close position near a pitch."""
    return sorted(around - 6 + (n.pitch_class - (around - 6)) % 12 for n in chord.members())


def bass_note(chord: Chord, low: int = 31) -> int:
    return low + (chord.bass.pitch_class - low) % 12


def play_bar(song: dict[str, Any], row: list[Chord | None], start: float, rng: random.Random, strong: bool) -> list[Note]:
    """Bass, accompaniment, pad and drums of one bar in the song's style."""
    beats, style = len(row), song["style"]
    notes: list[Note] = []
    changes = [i for i in range(beats) if i == 0 or row[i] is not row[i - 1]] + [beats]
    for a, b in zip(changes, changes[1:], strict=False):
        chord = row[a]
        if chord is None:
            continue
        close, low = voicing(chord, 60), bass_note(chord)
        notes += [(start + a, b - a, n, 44, PAD) for n in voicing(chord, 66)] if strong else []
        for k in range(a, b):
            at = start + k
            if style == "ballad":
                notes += [(at, 0.95, n, 62 if k == a else 52, CHORDS) for n in close]
                notes += [(at + 0.5, 0.45, close[-1], 46, CHORDS)]
            elif style == "folk":
                order = [close[0], close[1], close[2 % len(close)]]
                notes += [(at + i / 3, 0.6, n, 66 if i == 0 else 54, CHORDS) for i, n in enumerate(order)]
            elif style == "soul":
                if k % 2 == 1:
                    notes += [(at, 0.4, n, 66, CHORDS) for n in close]
                notes += [(at + 0.5, 0.3, n, 50, CHORDS) for n in close]
            elif k > 0:
                notes += [(at, 0.8, n, 56, CHORDS) for n in close]
        length = b - a
        if style == "soul":
            fifth = low + 7 if low + 7 < 46 else low - 5
            pattern = [(0, 1.4, low), (1.5, 0.4, low), (2, 0.9, fifth), (3, 0.9, low)]
            notes += [(start + a + t, d, n, 84, BASS) for t, d, n in pattern if t < length]
        else:
            notes.append((start + a, length * 0.95, low, 82, BASS))
    notes += drums(style, beats, start, strong)
    return [(t + rng.uniform(-0.012, 0.012), d, n, max(1, min(127, v + rng.randint(-5, 5))), c) for t, d, n, v, c in notes]


def drums(style: str, beats: int, start: float, strong: bool) -> list[Note]:
    hits: list[tuple[float, int, int]] = []
    if style == "folk":
        hits = [(b + i / 3, SHAKER, 60 if i == 0 else 38) for b in range(beats) for i in range(3)]
    elif style == "waltz":
        hits = [(0, KICK, 70), *[(b, STICK, 46) for b in range(1, beats)]] if strong else []
    else:
        hits = [(b + h, HAT, 52 if h == 0 else 38) for b in range(beats) for h in (0, 0.5)]
        hits += [(0, KICK, 88), (2, KICK, 80)] + ([(2.5, KICK, 66)] if style == "soul" else [])
        hits += [(1, SNARE, 78), (3, SNARE, 80)] if strong or style == "soul" else [(1, STICK, 50), (3, STICK, 52)]
    return [(start + t, 0.2, n, v, DRUMS) for t, n, v in hits]


def perform(song: dict[str, Any], seed: int) -> tuple[list[Note], float]:
    """All notes of a song in beats, and its length in beats."""
    rng = random.Random(seed)
    notes: list[Note] = []
    start = 0.0
    for i, name in enumerate(song["route"]):
        section = song["sections"][name]
        bars = read_chords(section["chords"])
        strong = i >= 2 and name not in ("ending", "close", "out")
        for beat, length, midi in read_melody(section["melody"]):
            notes.append((start + float(beat) + rng.uniform(-0.01, 0.01), float(length) * 0.93, midi, 96, LEAD))
        for row in bars:
            notes += play_bar(song, row, start, rng, strong)
            start += len(row)
    return notes, start


def tempo_map(song: dict[str, Any], beats: float, seed: int) -> list[int]:
    """Microseconds a quarter at each beat: the song's tempo, wandering slowly."""
    rng = random.Random(seed + 1)
    drift, out = 0.0, []
    for _ in range(int(beats) + 2):
        drift = 0.9 * drift + rng.gauss(0, song["drift"] / 2)
        bpm = song["bpm"] * float(Meter(song["meter"]).quarters_per_beat) * (1 + max(-0.04, min(0.04, drift)))
        out.append(mido.bpm2tempo(bpm))
    return out


def truth_of(stem: str) -> dict[str, Any]:
    """What a perfect listener would hear in a rendered song, in the fields of hearing.json."""
    song = json.loads((HERE / "songs" / f"{stem}.json").read_text("utf-8"))
    seed = sum(map(ord, stem))
    notes, beats = perform(song, seed)
    quarters = float(Meter(song["meter"]).quarters_per_beat)
    lengths = [tempo * quarters / 1e6 for tempo in tempo_map(song, beats, seed)]
    times = np.concatenate([[0.0], np.cumsum(lengths)])

    def seconds(beat: float) -> float:
        return float(np.interp(beat + LEAD_IN, np.arange(len(times)), times))

    return {
        "title": song["title"],
        "group": "demo",
        "bpm": song["bpm"],
        "meter": song["meter"],
        "tuning_cents": 0.0,
        "end": seconds(beats),
        "beats": [seconds(b) for b in range(int(beats))],
        "downbeats": [seconds(b) for b in range(0, int(beats), Meter(song["meter"]).beats)],
        "melody": [{"start": seconds(t), "end": seconds(t + d), "midi": m} for t, d, m, _, c in notes if c == LEAD],
        "bass": [{"start": seconds(t), "end": seconds(t + d), "midi": m} for t, d, m, _, c in notes if c == BASS],
    } | _walk(song, seconds)


def _walk(song: dict[str, Any], seconds: Callable[[float], float]) -> dict[str, Any]:
    """Chords, keys and sections along the route."""
    chords: list[dict[str, Any]] = []
    sections: list[dict[str, Any]] = []
    keys: list[dict[str, Any]] = []
    start = 0
    for name in song["route"]:
        section = song["sections"][name]
        row = [chord for bar in read_chords(section["chords"]) for chord in bar]
        for i, chord in enumerate(row):
            label = chord.to_harte() if chord else "N"
            if chords and chords[-1]["label"] == label and chords[-1]["end"] == seconds(start + i):
                chords[-1]["end"] = seconds(start + i + 1)
            else:
                chords.append({"start": seconds(start + i), "end": seconds(start + i + 1), "label": label})
        tonic, mode = section.get("key", song["key"]).split()
        if keys and (keys[-1]["tonic"], keys[-1]["mode"]) == (tonic, mode):
            keys[-1]["end"] = seconds(start + len(row))
        else:
            keys.append({"start": seconds(start), "end": seconds(start + len(row)), "tonic": tonic, "mode": mode})
        sections.append({"start": seconds(start), "end": seconds(start + len(row)), "label": name, "same_as": None})
        start += len(row)
    return {"chords": [{"start": 0.0, "end": seconds(0), "label": "N"}, *chords], "sections": sections, "keys": keys}


def write_midi(song: dict[str, Any], notes: list[Note], beats: float, path: Path, seed: int) -> None:
    per_beat = int(TICKS * Meter(song["meter"]).quarters_per_beat)
    file = mido.MidiFile(type=1, ticks_per_beat=TICKS)
    tempo_track = mido.MidiTrack()
    now = 0
    for beat, tempo in enumerate(tempo_map(song, beats, seed)):
        tempo_track.append(mido.MetaMessage("set_tempo", tempo=tempo, time=beat * per_beat - now))
        now = beat * per_beat
    file.tracks.append(tempo_track)
    events: list[tuple[int, int, mido.Message]] = []
    for channel, program, volume in ((LEAD, song["lead"], 118), (CHORDS, song["chords"], 96), (BASS, song["bass"], 110), (PAD, song["pad"], 58)):
        events.append((0, 0, mido.Message("program_change", program=program, channel=channel)))
        events.append((0, 0, mido.Message("control_change", control=7, value=volume, channel=channel)))
    lead_in = int(LEAD_IN * per_beat)
    for start, length, midi, velocity, channel in notes:
        a, b = int(start * per_beat) + lead_in, int((start + length) * per_beat) + lead_in
        events.append((max(a, 1), 2, mido.Message("note_on", note=midi, velocity=velocity, channel=channel)))
        events.append((max(b, 2), 1, mido.Message("note_off", note=midi, velocity=0, channel=channel)))
    track, now = mido.MidiTrack(), 0
    for tick, _, message in sorted(events, key=lambda e: e[:2]):
        track.append(message.copy(time=tick - now))
        now = tick
    file.tracks.append(track)
    file.save(str(path))


def encode(samples: np.ndarray, rate: int, path: Path) -> None:
    """Stereo float samples (n, 2) to a compressed file."""
    codec, target = CODECS[path.suffix[1:]]
    with av.open(str(path), "w") as out:
        stream = out.add_stream(codec, rate=target)
        stream.bit_rate = 96_000
        fifo, resampler = av.AudioFifo(), av.AudioResampler(format=stream.format.name, layout="stereo", rate=target)
        frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(samples.T.astype(np.float32)), format="fltp", layout="stereo")
        frame.sample_rate = rate
        for piece in resampler.resample(frame):
            fifo.write(piece)
        while (chunk := fifo.read(stream.frame_size or 1024, partial=True)) is not None:
            for packet in stream.encode(chunk):
                out.mux(packet)
        for packet in stream.encode(None):
            out.mux(packet)


def render(stem: str) -> None:
    song = json.loads((HERE / "songs" / f"{stem}.json").read_text("utf-8"))
    seed = sum(map(ord, stem))
    notes, beats = perform(song, seed)
    with tempfile.TemporaryDirectory() as folder:
        midi, wav = Path(folder) / "song.mid", Path(folder) / "song.wav"
        write_midi(song, notes, beats, midi, seed)
        subprocess.run(["fluidsynth", "-ni", "-r", "44100", "-g", "0.6", "-F", str(wav), SOUNDFONT, str(midi)], check=True, capture_output=True)
        with av.open(str(wav)) as source:
            frames = [f.to_ndarray() for f in source.decode(audio=0)]
        raw = np.concatenate([f.reshape(-1, 2) for f in frames]).astype(np.float32) / 32768
    raw *= 0.89 / max(1e-6, float(np.abs(raw).max()))
    fade = np.minimum(1.0, np.arange(len(raw))[::-1] / 44100 / 0.8)[:, None]
    encode(raw * fade, 44100, HERE / "audio" / f"{stem}.{FORMATS[stem]}")


if __name__ == "__main__":
    for name in FORMATS:
        render(name)
