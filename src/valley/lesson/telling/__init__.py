"""From what a hand plays to the fewest lines that say exactly it: bars like earlier ones, chords under one figure, and what is left bar by bar."""
