"""What the proof-reader claims of the last sentence of a talk, read with all that comes before it."""

from valley.lesson.proof import Claim, read_proof
from valley.song import Work


def claims_at_the_end(work: Work, *talk: str) -> list[Claim]:
    """Every claim of the last sentence."""
    text = " ".join(talk)
    last = len(text) - len(talk[-1])
    return [c for c in read_proof(text, work.chart, work.arrangement) if c.start >= last]


def slips_at_the_end(work: Work, *talk: str) -> list[tuple[str, str]]:
    """What is wrong in it, each with the right words."""
    return [(c.text, c.expected) for c in claims_at_the_end(work, *talk) if c.verdict in ("contradicts", "partly")]
