"""Accompaniments: what chord instruments, bass and drums play in a bar."""

from __future__ import annotations

from random import Random

from valley.theory.chord import Chord

Hit = tuple[float, float, int, float]  # beat, length in beats, midi, loudness 0 to 1


def close_voicing(chord: Chord, around: int, before: list[int] | None = None) -> list[int]:
    """Close position whose notes lie near those before."""
    pcs = [n.pitch_class for n in chord.members()]
    best: tuple[float, list[int]] | None = None
    for turn in range(len(pcs)):
        row = [around - 6 + (pcs[turn] - (around - 6)) % 12]
        for pc in pcs[turn + 1 :] + pcs[:turn]:
            row.append(row[-1] + (pc - row[-1]) % 12 or row[-1] + 12)
        for octave in (-12, 0):
            moved = [p + octave for p in row]
            target = before or [around]
            cost = sum(min(abs(p - q) for q in target) for p in moved) + 0.3 * abs(sum(moved) / len(moved) - around)
            if best is None or cost < best[0]:
                best = (cost, moved)
    assert best is not None
    return sorted(set(best[1]))


def low_note(chord: Chord, low: int = 31) -> int:
    return low + (chord.bass.pitch_class - low) % 12


def eighths_a_beat(quarters: float) -> int:
    """Two, three in compound time; in odd eighths one."""
    return round(2 * quarters)


COMPS = ("held", "beats", "eighths", "offbeat", "arpeggio", "alberti", "strum", "syncopated", "charleston", "second half", "tremolo")


def comp(rng: Random, style: str, close: list[int], at: float, length: float, quarters: float) -> list[Hit]:
    """Chord instrument over one chord of ``length`` beats."""
    if quarters == 1.5:
        style = IN_THREES.get(style, style)
    return _sixes(style, close, at, length) if style in SIXES else _in_pairs(rng, style, close, at, length, quarters)


def _in_pairs(rng: Random, style: str, close: list[int], at: float, length: float, quarters: float) -> list[Hit]:
    """Eighths go two by two, but for long and slow figures, which fit any metre."""
    eighth = 0.5 / quarters
    if style == "held":
        return [(at, length * 0.97, n, 0.6) for n in close]
    if style == "beats":
        return [(at + k, 0.92, n, 0.62 if k == 0 else 0.5) for k in range(int(length)) for n in close]
    if style == "eighths":
        steps = int(round(length / eighth))
        return [(at + k * eighth, eighth * 0.85, n, 0.6 if k % 2 == 0 else 0.42) for k in range(steps) for n in close]
    if style == "offbeat":
        return [(at + k + 0.5, 0.4, n, 0.55) for k in range(int(length)) for n in close]
    if style in ("arpeggio", "alberti"):
        order = close + close[-2:0:-1] if style == "arpeggio" else [close[0], close[-1], close[len(close) // 2], close[-1]]
        steps = int(round(length / eighth))
        return [(at + k * eighth, eighth * rng.choice([1.0, 1.9]), order[k % len(order)], 0.62 if k == 0 else 0.5) for k in range(steps)]
    if style == "strum":
        return _strum(rng, close, at, length, eighth)
    if style == "syncopated":
        return [(at + t, 0.6, n, 0.6) for t in (0, 1.5, 3) if t < length for n in close]
    if style == "charleston":
        return [(at + t, 0.35, n, 0.58) for t in (0, 1.5, 2.5) if t < length for n in close]
    if style == "tremolo":
        return _tremolo(close, at, length, eighth / 2)
    return [(at + k, 0.9, n, 0.55) for k in range(1, int(length)) for n in close] or [(at, length, n, 0.5) for n in close]


def _strum(rng: Random, close: list[int], at: float, length: float, eighth: float) -> list[Hit]:
    """Down on the beat, up between."""
    out: list[Hit] = []
    for k in range(int(round(length / eighth))):
        if k % 2 == 0 or rng.random() < 0.6:
            row = close if k % 2 == 0 else close[::-1]
            out += [(at + k * eighth + i * 0.012, eighth * 1.6, n, (0.6 if k % 2 == 0 else 0.38)) for i, n in enumerate(row)]
    return out


SIXES = ("thirds", "rolled", "lilt", "upbeats")  # how chords go in compound time, three to a beat
IN_THREES = {  # what goes in pairs of eighths elsewhere
    "eighths": "thirds",
    "strum": "thirds",
    "arpeggio": "rolled",
    "alberti": "rolled",
    "syncopated": "lilt",
    "charleston": "lilt",
    "offbeat": "upbeats",
}


def _sixes(style: str, close: list[int], at: float, length: float) -> list[Hit]:
    """On every third of a beat, the beat the strongest; spread up and down over two beats; long and short; before each beat."""
    third, steps = 1 / 3, round(3 * length)
    if style == "thirds":
        return [(at + k * third, 0.85 * third, n, 0.4 if k % 3 else 0.62) for k in range(steps) for n in close]
    if style == "rolled":
        way = [close[0], close[min(1, len(close) - 1)], close[-1], close[0] + 12, close[-1], close[min(1, len(close) - 1)]]
        return [(at + k * third, 1.6 * third, way[k % 6], 0.44 if k % 3 else 0.6) for k in range(steps)]
    if style == "upbeats":
        return [(at + k * third, 0.8 * third, n, 0.5) for k in range(2, steps, 3) for n in close]
    return [(at + k * third, (1 if k % 3 else 2) * 0.9 * third, n, 0.45 if k % 3 else 0.6) for k in range(steps) if k % 3 != 1 for n in close]


def _tremolo(close: list[int], at: float, length: float, step: float) -> list[Hit]:
    half = max(1, len(close) // 2)
    return [(at + k * step, step * 1.1, n, 0.42) for k in range(int(round(length / step))) for n in (close[:half] if k % 2 else close[half:])]


BASSES = ("held", "beats", "eighths", "root and fifth", "octaves", "dotted", "walking", "pushed")


def bass(rng: Random, style: str, chord: Chord, after: Chord | None, at: float, length: float, quarters: float, low: int) -> list[Hit]:
    """The bass over one chord."""
    note, eighth = low_note(chord, low), 0.5 / quarters
    a_beat = eighths_a_beat(quarters)
    last = 1 / 3 if a_beat == 3 else 0.5  # of a beat: what leads into the next
    fifth = note + 7 if any(m == 1 for m in chord.quality.members) and not chord.bass_interval else note
    if style == "beats":
        return [(at + k, 0.9, note, 0.75) for k in range(int(length))] or [(at, length, note, 0.7)]
    if style == "eighths":
        return [(at + k * eighth, eighth * 0.9, note, 0.65 if k % a_beat else 0.75) for k in range(int(round(length / eighth)))]
    if style == "root and fifth" and length >= 2:
        return [(at + k, 0.9, note if k % 2 == 0 else fifth, 0.75) for k in range(int(length))]
    if style == "octaves":
        return [(at + k * eighth, eighth * 0.8, note + (12 if k % a_beat else 0), 0.72) for k in range(int(round(length / eighth)))]
    if style == "dotted" and length >= 2:
        return [(at, 1.9 - last, note, 0.78), (at + 2 - last, 0.9 * last, note, 0.66), *([(at + 2, length - 2.1, fifth, 0.74)] if length > 2 else [])]
    if style == "walking" and length >= 2:
        goal = low_note(after, low) if after else note
        members = [p for p in range(note - 5, note + 13) if p % 12 in chord.pitch_classes() and low <= p <= low + 20]
        steps = [note, *[rng.choice(members) for _ in range(max(0, int(length) - 2))], goal + rng.choice([-1, 1, 2, -2])]
        return [(at + k, 0.9, n, 0.75) for k, n in enumerate(steps[: int(length)])]
    if style == "pushed" and length >= 2:
        return [(at, length - last - 0.1, note, 0.78), (at + length - last, 0.9 * last, note, 0.68)]
    return [(at, length * 0.95, note, 0.76)]


KICK, SNARE, STICK, HAT, OPEN, RIDE, SHAKER, CLAP, CRASH = 36, 38, 37, 42, 46, 51, 70, 39, 49
DRUMS = ("none", "backbeat", "four", "half time", "brush", "shaker", "busy")


def drums(rng: Random, style: str, beats: int, quarters: float, *, first: bool, groups: tuple[int, ...] = ()) -> list[Hit]:
    """One bar of drums; ``groups`` are the beats that fall together in odd eighths."""
    if style == "none":
        return []
    if groups:
        return _in_groups(rng, style, groups)
    third = quarters == 1.5
    split = (0, 1 / 3, 2 / 3) if third else (0, 0.5)
    out = [(0.0, 0.2, CRASH, 0.6)] if first and rng.random() < 0.5 else []
    if style == "shaker":
        return [(b + h, 0.1, SHAKER, 0.5 if h == 0 else 0.32) for b in range(beats) for h in split]
    if style == "brush" or beats == 3:
        out += [(b + h, 0.2, RIDE if style == "brush" else HAT, 0.45 if h == 0 else 0.3) for b in range(beats) for h in split if h == 0 or rng.random() < 0.5]
        out.append((0.0, 0.2, KICK, 0.62))
        return out + [(float(b), 0.2, STICK if style == "brush" else SNARE, 0.42) for b in range(1, beats) if beats == 3 or b % 2]
    out += [(b + h, 0.1, HAT, 0.5 if h == 0 else 0.36) for b in range(beats) for h in split]
    if style == "four":
        out += [(float(b), 0.2, KICK, 0.8) for b in range(beats)] + [(float(b), 0.2, CLAP, 0.55) for b in range(1, beats, 2)]
    elif style == "half time" and beats == 4:
        out += [(0.0, 0.2, KICK, 0.8), (2.0, 0.2, SNARE, 0.75)] + ([(2.75, 0.2, KICK, 0.6)] if rng.random() < 0.5 else [])
    else:
        kicks = {5: (0, 3), 7: (0, 4)}.get(beats, range(0, beats, 2))
        snares = {5: (2, 4), 7: (2, 6)}.get(beats, range(1, beats, 2))
        out += [(float(b), 0.2, KICK, 0.78) for b in kicks] + [(float(b), 0.2, SNARE, 0.72) for b in snares]
        if style == "busy":
            out += [(b + 0.5, 0.2, KICK, 0.55) for b in range(beats) if rng.random() < 0.4]
    return out


def _in_groups(rng: Random, style: str, groups: tuple[int, ...]) -> list[Hit]:
    """A bar of odd eighths: every eighth on the hat, the bass drum on one, the snare where other groups begin."""
    starts = [sum(groups[:k]) for k in range(len(groups))]
    low, high = (SHAKER, SHAKER) if style == "shaker" else (HAT, RIDE if style == "brush" else HAT)
    out = [
        (float(b), 0.1, low if b in starts else high, 0.5 if b in starts else 0.34)
        for b in range(sum(groups))
        if style != "brush" or b in starts or rng.random() < 0.6
    ]
    if style == "shaker":
        return out
    out += [(0.0, 0.2, KICK, 0.78)] + [(float(b), 0.2, SNARE, 0.7) for b in starts[1 if len(starts) == 2 or style == "busy" else 2 :]]
    if style == "busy":
        out += [(float(b), 0.2, KICK, 0.55) for b in range(1, sum(groups)) if b not in starts and rng.random() < 0.3]
    return out
