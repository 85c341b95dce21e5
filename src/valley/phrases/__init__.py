"""The words of lessons: one module a language, and what turns sayings into its sentences."""

from valley.phrases.words import LANGUAGES, WORDS_A_SECOND, Words, say_lesson

__all__ = ["LANGUAGES", "WORDS_A_SECOND", "Words", "say_lesson"]
