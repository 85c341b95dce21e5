"""How far something was moved, in words."""

from __future__ import annotations


def say_half_steps(by: int, up: str = "up", down: str = "down") -> str:
    """
    >>> say_half_steps(1), say_half_steps(-2, "higher", "lower"), say_half_steps(-24)
    ('1 half step up', '2 half steps lower', '2 octaves down')
    """
    octaves, rest = divmod(abs(by), 12)
    count, unit = (octaves, "octave") if octaves and not rest else (abs(by), "half step")
    return f"{count} {unit}{'' if count == 1 else 's'} {up if by > 0 else down}"
