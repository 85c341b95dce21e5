"""Chart → Arrangement: the exact notes each hand plays."""
