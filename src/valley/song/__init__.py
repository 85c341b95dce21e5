"""A song's state as one value, and what is made of it."""

from valley.song.state import SongState
from valley.song.work import Work

__all__ = ["SongState", "Work"]
