"""The commands of ``valley``: one row each, and one module a stage, which is loaded only when one of its commands is called.

A new command is a row here, and in the module of its stage a function ``add_<name>`` that gives a parser its options and ``run``.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Command:
    name: str
    module: str
    help: str


COMMANDS = (
    Command("hear", "hearing", "listen to a recording and write what was heard"),
    Command("chart", "charts", "make a chart of a recording, a hearing or a chord chart as text"),
    Command("parts", "charts", "list the parts of a chart, what repeats and how repeats differ"),
    Command("name", "theory", "name a set of notes, ranked, with the reason"),
    Command("arrange", "hands", "write what each hand plays in every part of a chart"),
    Command("played", "hands", "hold a performance (MIDI) against the arrangement; exit status 1 where notes are missing or wrong"),
    Command("styles", "lists", "list the voicing styles"),
    Command("patterns", "lists", "list the accompaniment patterns"),
    Command("finger", "lists", "finger a line of notes, or notes held together"),
    Command("lesson", "lessons", "write every hand-out of a song with a manifest"),
    Command("check", "lessons", "list what is wrong in a chart or a lesson; exit status 1 where something is"),
    Command("proof", "lessons", "hold the words of a lesson against what is played; exit status 1 where they contradict"),
    Command("export", "lessons", "write one hand-out"),
    Command("track", "tracks", "write a practice track: what the hands play, as sound"),
    Command("film", "films", "write a film of what stands beside the hands: keys, chord, bar and count"),
    Command("import", "lessons", "read MusicXML, MIDI, a chord chart, CSV, .lab or our JSON into chart.json"),
)
