"""A learner who plays what the words of a lesson say, and nothing else: written apart from what makes the words, so that each is a test of the other."""

from valley.lesson.student.compare import Untold, compare_hands
from valley.lesson.student.learner import Heard, read_lesson, understands

__all__ = ["Heard", "Untold", "compare_hands", "read_lesson", "understands"]
