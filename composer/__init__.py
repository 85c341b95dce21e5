"""Makes up songs with known truth: harmony, tune, accompaniment, sound. For measuring and training the listening."""
