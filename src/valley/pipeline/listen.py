"""A recording on its way to a Hearing: decode, measure, then one listening task after the other."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import numpy as np
import numpy.typing as npt
from threadpoolctl import threadpool_limits

from valley.audio.decode import MAX_SECONDS, Sound, load_sound
from valley.errors import ListeningError
from valley.listening._calibration import calibrate
from valley.listening._vocabulary import load_vocabulary
from valley.listening.accents import hear_accents, in_beats
from valley.listening.beats import BeatTrack, track_beats
from valley.listening.chords import ChordRun, change_costs, decode_chords, rate_chords_together, weigh_by_key
from valley.listening.chroma import average_between, compute_beat_chroma
from valley.listening.downbeats import Bars, find_bars, measure_triple, rate_beats
from valley.listening.evidence import Evidence, keep_evidence
from valley.listening.harmony import MIDDLE, TREBLE, view_harmony_anew
from valley.listening.keys import KeyRun, find_keys
from valley.listening.lines import BASS, MELODY, follow_line
from valley.listening.notes import PlayedNote, find_notes
from valley.listening.odd_eighths import find_odd_bars, split_into_eighths
from valley.listening.pulse import follow_pulse
from valley.listening.repeats import find_counterparts, pool_repeats
from valley.listening.sections import SectionRun, compare_bars, find_sections
from valley.model.hearing import BassNote, HeardChord, HeardNote, Hearing, KeyRegion, Reading, Section, Tempo
from valley.pipeline.features import Features, Spectra, hear_spectra, measure, take_spectra
from valley.pipeline.progress import Listener, Reporter, ignore_progress
from valley.theory.chord import Chord
from valley.theory.key import Key
from valley.theory.meter import Meter

Floats = npt.NDArray[np.float32]
Doubles = npt.NDArray[np.float64]
_GLANCE = 25.0  # seconds heard ahead of the rest


def listen(path: str | Path, *, max_seconds: float = MAX_SECONDS, listener: Listener = ignore_progress) -> Hearing:
    """Hear a recording.

    Raises
    ------
    AudioDecodeError, ListeningError
        with one sentence that says what is wrong with the file
    """
    report = Reporter(listener)

    def load() -> Sound:
        report.tell("decode")
        sound = load_sound(path, max_seconds=max_seconds, on_progress=lambda share: report.tell("decode", share))
        if sound.warning:
            report.tell("decode", 1.0, sound.warning)
        return sound

    return hear_loaded(load, report)[0]


def hear_sound(sound: Sound, report: Reporter) -> tuple[Hearing, Evidence]:
    """Hear decoded samples; the evidence is for holding charts against the sound later."""
    return hear_loaded(lambda: sound, report)


def hear_loaded(load: Callable[[], Sound], report: Reporter) -> tuple[Hearing, Evidence]:
    """The same for samples that nobody else keeps: they are let go as soon as the spectra are taken, and those once they are heard."""
    with threadpool_limits(1, "blas"):  # the matrices are small: two threads that wait for each other take ten times as long where a core is busy
        features = hear_spectra(_look(load(), report), report)
        return _hear_features(features, report), keep_evidence(features.heard, features.fps)


def _look(sound: Sound, report: Reporter) -> Spectra:
    report.tell("glance")
    report.tell("glance", 1.0, _glance(sound))
    return take_spectra(sound, report)


def _glance(sound: Sound) -> str:
    """What the first half minute of a longer recording says at once: tempo, key and chords, until the whole is heard."""
    if sound.duration < 2 * _GLANCE:
        return ""
    start = Sound(sound.y[: int(_GLANCE * sound.sr)], sound.sr)
    silent = Reporter(ignore_progress)
    try:
        heard = _hear_features(measure(start, silent), silent)
    except ListeningError:  # it may begin with silence; the whole is heard all the same
        return ""
    chords = [chord.to_symbol() for c in heard.chords if (chord := c.chord)]
    return f"at first {heard.bpm:.0f} to the minute, {heard.keys[0].tonic} {heard.keys[0].mode}, {' '.join(chords[:4])} …"


def _hear_features(features: Features, report: Reporter) -> Hearing:
    report.tell("beats")
    pulse = follow_pulse(features.onsets, features.heard)
    begins = np.convolve(features.heard.begins.sum(1).astype(np.float64), (0.5, 1.0, 0.5), mode="same")
    beat_track = track_beats(pulse, features.onsets, begins, features.fps)
    times = _trim(beat_track.times, features, features.duration)
    odd = None
    eighths = split_into_eighths(times * features.fps, beat_track.bpm, pulse[:, 0], begins)
    if eighths is not None and (odd := find_odd_bars(*_rate(eighths / features.fps, features, pulse[:, 1]))):
        times = eighths / features.fps
        beat_track = replace(beat_track, times=times, bpm=60 / float(np.median(np.diff(times))), tempi=())  # there is no other level to count at
    report.tell("beats", 1.0, f"{60 / float(np.median(np.diff(times))):.0f} beats to the minute")
    played = find_notes(features.heard.sounds, features.heard.begins)
    bars, edges, views, level = _find_grid(times, features, pulse[:, 1], beat_track, begins, played, odd, report)
    section_runs, counterparts, bar_edges = _find_parts(bars, times, features, features.duration)
    lead = len(edges) - 1 - len(times)
    views = pool_repeats(views, [*(bars.downbeats + lead).tolist(), len(bars.positions) + lead], counterparts)
    parts = [int(bars.downbeats[run.start]) + lead for run in section_runs[1:]]
    chord_runs, key_runs = _find_harmony(bars, views, level, parts, lead=lead, report=report)
    keys = [_key_region(run, edges) for run in key_runs]
    keys[:1] = [replace(region, start=0.0) for region in keys[:1]]
    key_of = [run.key for run in key_runs for _ in range(run.end - run.start)]
    chords = _heard_chords(chord_runs, edges, key_of, lead=lead)
    melody, low, notes = _find_lines(features, played, report)
    report.tell("sections")
    sections = _name_sections(section_runs, bar_edges)
    report.tell("sections", 1.0, f"{len(sections)} parts, {len({s.label for s in sections})} of them different")
    return Hearing(
        duration=round(features.duration, 4),
        tuning_cents=round(features.tuning_cents, 2),
        bpm=round(60 / float(np.median(np.diff(times))), 3),
        meter=bars.meter,
        beats=tuple(np.round(times, 4).tolist()),
        downbeats=tuple(np.round(times[bars.downbeats], 4).tolist()),
        keys=tuple(keys),
        chords=tuple(chords),
        melody=tuple(melody),
        bass=tuple(low),
        sections=tuple(sections),
        notes=tuple(notes),
        tempi=tuple(Tempo(round(bpm, 3), round(p, 3)) for bpm, p in beat_track.tempi),
        beat_confidence=calibrate("beats", beat_track.confidence),
        meter_confidence=calibrate("meter", bars.confidence),
    )


def _trim(times: Doubles, features: Features, duration: float) -> Doubles:
    """Beats from the first sound to the last: the tracker also counts through silence at the ends."""
    loud = features.activations.sum(1)
    sounding = np.nonzero(loud > 0.05 * np.percentile(loud, 90))[0]
    if not len(sounding):
        raise ListeningError("No notes could be heard; the recording may be silence or noise alone.")
    first, last = sounding[0] / features.fps - 0.12, sounding[-1] / features.fps + 0.12
    kept = times[(times >= max(0.0, first)) & (times <= min(duration, last))]
    if len(kept) < 4:
        raise ListeningError("Fewer than four beats could be found; the recording may be too short or too free.")
    return np.asarray(kept)


def _find_grid(
    times: Doubles, features: Features, downbeat: Floats, track: BeatTrack, begins: Doubles, played: list[PlayedNote], odd: Bars | None, report: Reporter
) -> tuple[Bars, Doubles, Floats, Doubles]:
    """Bars (those of ``odd`` eighths where they were found), and the harmony of every interval between 0, the beats and the end (in seconds)."""
    report.tell("bars")
    edges = np.concatenate([[0.0] if times[0] > 0.05 else [], times, [max(features.duration, times[-1] + 0.1)]])
    _, _, level = compute_beat_chroma(features.activations, edges * features.fps)
    views = view_harmony_anew(features.heard, features.activations, edges * features.fps)
    triple = measure_triple(begins, times * features.fps)
    accents = hear_accents(in_beats([(n.start, n.end, n.midi) for n in played], times * features.fps), len(times))
    bars = odd or find_bars(*_rate(times, features, downbeat), accents, triple, track.bpm)
    report.tell("bars", 1.0, f"{bars.meter}, {len(bars.downbeats)} bars")
    return bars, edges, views, level


def _rate(times: Doubles, features: Features, downbeat: Floats) -> tuple[Doubles, Doubles, Doubles]:
    """What speaks at each beat (s) for a downbeat, what for a backbeat, and what the pulse network hears."""
    treble, bass, _ = compute_beat_chroma(features.activations, np.append(times, max(features.duration, times[-1] + 0.1)) * features.fps)
    frame = np.clip(np.round(times * features.fps).astype(int), 1, len(features.onsets) - 2)
    at_beat = np.max([features.onsets[frame + k] for k in (-1, 0, 1)], axis=0).astype(np.float64)
    at_bar = np.max([downbeat[np.minimum(frame + k, len(downbeat) - 1)] for k in (-2, -1, 0, 1, 2)], axis=0).astype(np.float64)
    return (*rate_beats(treble, bass, at_beat), at_bar)


def _find_harmony(bars: Bars, views: Floats, level: Doubles, parts: list[int], *, lead: int, report: Reporter) -> tuple[list[ChordRun], list[KeyRun]]:
    """Chords without the key, the key from them, then chords again within the key, and the keys anew with the intervals at which ``parts`` begin."""
    report.tell("chords")
    vocabulary = load_vocabulary()
    positions = np.concatenate([np.full(lead, -1), bars.positions]).astype(int)
    change = change_costs(positions, Meter(bars.meter).beats)
    fit = rate_chords_together(views, level)
    treble = views[:, MIDDLE, TREBLE].astype(np.float64)
    treble /= np.maximum(np.linalg.norm(treble, axis=1, keepdims=True), 1e-9)
    first = decode_chords(fit, change)
    key_runs = find_keys(_spread(first, vocabulary.chords), treble)
    key_of = [run.key for run in key_runs for _ in range(run.end - run.start)]
    report.tell("chords", 0.6, ", then ".join(str(run.key) for run in key_runs))
    chord_runs = decode_chords(fit - weigh_by_key(key_of), change)
    key_runs = find_keys(_spread(chord_runs, vocabulary.chords), treble, parts)
    report.tell("chords", 1.0, f"{len(chord_runs)} chord changes")
    return chord_runs, key_runs


def _spread(runs: list[ChordRun], chords: tuple[Chord | None, ...]) -> list[Chord | None]:
    return [chords[run.row] for run in runs for _ in range(run.end - run.start)]


def _key_region(run: KeyRun, edges: Doubles) -> KeyRegion:
    return KeyRegion(round(float(edges[run.start]), 4), round(float(edges[run.end]), 4), str(run.key.tonic), run.key.mode, calibrate("keys", run.confidence))


def _heard_chords(runs: list[ChordRun], edges: Doubles, key_of: list[Key], *, lead: int) -> list[HeardChord]:
    """Chords in seconds. A moment shorter than a beat before the first beat is no chord: nothing has begun."""
    chords = [_heard_chord(run, edges, key_of[run.start]) for run in runs]
    if lead and edges[1] - edges[0] < 0.75 * float(np.median(np.diff(edges[1:-1]))):
        start = round(float(edges[1]), 4)
        silence = HeardChord(0.0, start, "N", 1.0, (Reading("N", 1.0),))
        rest = [replace(c, start=max(c.start, start)) for c in chords if c.end > start]
        return [silence, *rest]
    return [replace(chords[0], start=0.0), *chords[1:]]  # a first beat a moment in belongs to the beginning


def _heard_chord(run: ChordRun, edges: Doubles, key: Key) -> HeardChord:
    chords = load_vocabulary().chords

    def label(row: int) -> str:
        chord = chords[row]
        return chord.respelled(key).to_harte() if chord else "N"

    readings = tuple(Reading(label(row), round(p, 4)) for row, p in run.readings)
    return HeardChord(round(float(edges[run.start]), 4), round(float(edges[run.end]), 4), label(run.row), readings[0].probability, readings)


def _find_lines(features: Features, played: list[PlayedNote], report: Reporter) -> tuple[list[HeardNote], list[BassNote], list[HeardNote]]:
    """The tune, the bass line and all notes played."""
    report.tell("lines")
    heard, fps = features.heard, features.fps
    melody = follow_line(heard.tune, heard.tune_begins, MELODY, fps)
    report.tell("lines", 0.6, f"{len(melody)} melody notes")
    bass = follow_line(heard.bass, heard.bass_begins, BASS, fps)

    def seconds(frame: float) -> float:
        return round(frame / fps, 4)

    return (
        [HeardNote(seconds(n.start), seconds(n.end), n.midi, calibrate("tune", n.strength)) for n in melody],
        [BassNote(seconds(n.start), seconds(n.end), n.midi, calibrate("bass", n.strength)) for n in bass],
        [HeardNote(seconds(n.start), seconds(n.end), n.midi, calibrate("notes", n.strength)) for n in played],
    )


def _find_parts(bars: Bars, times: Doubles, features: Features, duration: float) -> tuple[list[SectionRun], dict[int, list[int]], Doubles]:
    """Sections over the bars, which bars stand for each other in their repeats, and the bars' edges in seconds."""
    beats = Meter(bars.meter).beats
    starts = times[bars.downbeats]
    if not len(starts):
        return [], {}, np.zeros(0)
    length = float(np.median(np.diff(times))) * beats
    ends = np.concatenate([starts[1:], [min(duration, starts[-1] + length)]])
    fine = np.concatenate([np.linspace(a, b, beats, endpoint=False) for a, b in zip(starts, ends, strict=True)])
    treble, bass, _ = compute_beat_chroma(features.activations, np.append(fine, ends[-1]) * features.fps)
    chroma = np.concatenate([treble.reshape(len(starts), -1), 0.5 * bass.reshape(len(starts), -1)], axis=1)
    edges = np.append(starts, ends[-1])
    colour = np.log(1e-4 + average_between(features.colours, edges * features.fps))
    harmony, both = compare_bars(chroma, colour)
    runs = find_sections(harmony, both, [*np.diff(bars.downbeats).tolist(), beats])
    return runs, find_counterparts(runs, harmony), edges


def _name_sections(runs: list[SectionRun], edges: Doubles) -> list[Section]:
    first_of: dict[int, int] = {}
    sections = []
    for i, run in enumerate(runs):
        same_as = first_of.get(run.group)
        first_of.setdefault(run.group, i)
        label = str(list(first_of).index(run.group) + 1)
        a, b = float(edges[run.start]), float(edges[run.end])
        sections.append(Section(round(a, 4), round(b, 4), label, same_as, calibrate("sections", run.confidence)))
    return sections
