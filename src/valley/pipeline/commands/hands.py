"""``valley arrange``, ``valley styles``, ``valley patterns``, ``valley finger``."""

from __future__ import annotations

import argparse
import json
from collections.abc import Sequence
from dataclasses import fields, replace
from math import isfinite
from pathlib import Path

from valley.arranging.arrange import arrange
from valley.arranging.fingering import finger_grip, finger_line
from valley.arranging.pattern_library import PATTERNS
from valley.arranging.patterns import count_form
from valley.arranging.performance import hold_against
from valley.arranging.reach import hand_named
from valley.arranging.styles import LEVELS, STYLES
from valley.arranging.voicing import USUAL, Weights
from valley.errors import ParameterError
from valley.formats.arrangement_json import dump_arrangement
from valley.formats.hearing_json import load_hearing
from valley.model.arrangement import Arrangement
from valley.model.chart import Chart, MelodyNote
from valley.model.choices import Choices
from valley.pipeline.charts import load_song, place_played, read_any_score
from valley.pipeline.commands._common import Commands, add_longest, check_folder_of, put_json, say, watch_progress
from valley.pipeline.commands.theory import read_notes
from valley.theory.key import Key


def add(commands: Commands[argparse.ArgumentParser]) -> None:
    arranged = commands.add_parser("arrange", help="write what each hand plays in every part of a chart")
    arranged.add_argument("chart", type=Path, metavar="CHART", help="chart.json, hearing.json, a chord chart as text, or a recording")
    add_choices(arranged)
    arranged.add_argument("--weight", action="append", default=[], metavar="NAME=VALUE", help="what counts otherwise, such as kept=3; see docs/hands.md")
    arranged.add_argument("--played", type=Path, metavar="hearing.json", help="the hearing whose struck notes the style as-recorded takes")
    arranged.add_argument("--json", type=Path, nargs="?", const=Path("-"), metavar="OUT", help="write JSON, to OUT or standard output")
    add_longest(arranged)
    arranged.set_defaults(run=run_arrange)

    played = commands.add_parser("played", help="hold a performance (MIDI) against the arrangement; exit status 1 where notes are missing or wrong")
    played.add_argument("performance", type=Path, metavar="PERFORMANCE.mid")
    played.add_argument("--chart", type=Path, required=True, metavar="CHART")
    add_choices(played)
    played.add_argument("--json", type=Path, nargs="?", const=Path("-"), metavar="OUT")
    add_longest(played)
    played.set_defaults(run=run_played)

    styles = commands.add_parser("styles", help="list the voicing styles")
    styles.add_argument("--json", type=Path, nargs="?", const=Path("-"), metavar="OUT")
    styles.set_defaults(run=run_styles)
    patterns = commands.add_parser("patterns", help="list the accompaniment patterns")
    patterns.add_argument("--json", type=Path, nargs="?", const=Path("-"), metavar="OUT")
    patterns.set_defaults(run=run_patterns)

    finger = commands.add_parser("finger", help="finger a line of notes, or notes held together")
    finger.add_argument("notes", nargs="+", metavar="NOTES", help='such as "C4 D4 E4 F4"')
    finger.add_argument("--hand", choices=("left", "right"), required=True)
    finger.add_argument("--size", default="medium", metavar="small|medium|large|MM")
    finger.add_argument("--together", action="store_true", help="the notes are held together")
    finger.add_argument("--json", type=Path, nargs="?", const=Path("-"), metavar="OUT")
    finger.set_defaults(run=run_finger)


def add_choices(command: argparse.ArgumentParser) -> None:
    """The options by which hands are chosen, the same for every command that arranges."""
    command.add_argument("--style", default="block-and-melody", choices=STYLES, metavar="NAME", help="voicing style; valley styles lists them")
    command.add_argument("--level", default="standard", choices=LEVELS)
    command.add_argument("--hand", default="medium", metavar="small|medium|large|MM", help="a hand's span, or thumb to each finger such as 120,150,168,178")
    command.add_argument("--keyboard", default="88", metavar="49|61|73|76|88", help="number of keys, or the lowest and highest key such as E1-G7")
    command.add_argument("--frame", default="", metavar="C2-C6", help="the keys that the camera shows")
    command.add_argument("--pattern", default="held", metavar="NAME", help="accompaniment pattern; valley patterns lists them")
    command.add_argument("--bass", default="slash", choices=("slash", "root"), help="follow slash basses, or keep the root")
    command.add_argument("--links", action="store_true", help="play the walks, fills and other links that fit")


def read_choices(args: argparse.Namespace) -> Choices:
    return Choices(
        style=args.style,
        level=args.level,
        hand=args.hand,
        keyboard=args.keyboard,
        frame=args.frame,
        pattern=args.pattern,
        bass=args.bass,
        links="all" if args.links else "chosen",
    )


def run_arrange(args: argparse.Namespace) -> None:
    check_folder_of(args.json)
    choices = read_choices(args)
    hand_named(choices.hand)
    with watch_progress() as listener:
        chart = load_song(args.chart, max_seconds=args.longest * 60, listener=listener)
    arrangement = arrange(chart, choices, played=_load_played(args, chart), weights=read_weights(args.weight))
    if args.json:
        put_json(dump_arrangement(arrangement), args.json)
    else:
        _print(chart, arrangement)


def read_weights(texts: Sequence[str]) -> Weights:
    """The usual weights with some changed.

    >>> read_weights(["kept=3"]).kept
    3.0
    """
    names = [f.name for f in fields(Weights)]
    changed: dict[str, float] = {}
    for text in texts:
        name, _, value = text.partition("=")
        try:
            changed[name] = float(value)
        except ValueError:
            raise ParameterError(f"weight {text!r} must be a name and a number, such as kept=3") from None
        if name not in names or not isfinite(changed[name]):
            raise ParameterError(f"weight {text!r} must be a finite number for one of {', '.join(names)}")
    return replace(USUAL, **changed)


def _load_played(args: argparse.Namespace, chart: Chart) -> Sequence[MelodyNote]:
    """The struck notes: of the hearing named, or of the chart's own file where that is a hearing."""
    if args.played:
        return place_played(load_hearing(args.played), chart.grid)
    if args.chart.suffix == ".json" and json.loads(args.chart.read_text("utf-8-sig")).get("format") == "valley-hearing":
        return place_played(load_hearing(args.chart), chart.grid)
    return ()


def _print(chart: Chart, arrangement: Arrangement) -> None:
    for part in arrangement.parts:
        say(f"Part {part.part}, {STYLES[part.style].title}, {part.level}")
        for grip in part.grips:
            bar, count = chart.grid.place(grip.start)[0], chart.grid.count(grip.start)
            hands = [" ".join(n.pitch + ("*" if n.optional else "") for n in hand) or "–" for hand in (grip.left, grip.right)]
            say(f"  bar {bar} on {count}: {grip.symbol:8} left {hands[0]:16} right {hands[1]:20} {grip.why}")
        for notice in part.notices:
            say(f"  ! {notice}")


def run_played(args: argparse.Namespace) -> int:
    check_folder_of(args.json)
    choices = read_choices(args)
    score = read_any_score(args.performance.read_bytes(), args.performance.name)
    chart = load_song(args.chart, max_seconds=args.longest * 60)
    held = hold_against(chart, arrange(chart, choices), score.notes)
    if args.json:
        put_json(
            {
                "notes": held.notes,
                "found": round(held.found, 4),
                "bars": [{"bar": f.bar, "missing": f.missing, "extra": f.extra, "timing": round(f.timing, 3)} for f in held.faults],
                "struck": [{"start_beat": str(s.start), "midi": s.midi, "hand": s.hand, "right": s.right} for s in held.struck],
            },
            args.json,
        )
    else:
        for fault in held.faults:
            say(f"bar {fault.bar}: {fault.words}")
        say(f"{held.found:.0%} of {held.notes} notes were struck.")
    return 1 if held.faults else 0


def run_styles(args: argparse.Namespace) -> None:
    if args.json:
        put_json([{"name": s.name, "title": s.title, "summary": s.summary, "melody": s.melody, "levels": list(LEVELS)} for s in STYLES.values()], args.json)
        return
    for style in STYLES.values():
        say(f"{style.name:18} {style.title}: {style.summary}")


def run_patterns(args: argparse.Namespace) -> None:
    if args.json:
        rows = []
        for pattern in PATTERNS.values():
            forms = []
            for form in pattern.forms:
                strokes = [{"count": c, "hand": h, "keys": k} for c, h, k in count_form(form)]
                forms.append({"meter": form.meter, "beats": str(form.beats), "shortest": str(form.cell or form.beats), "strokes": strokes})
            rows.append({"name": pattern.name, "title": pattern.title, "summary": pattern.summary, "forms": forms})
        put_json(rows, args.json)
        return
    for pattern in PATTERNS.values():
        say(f"{pattern.name:22} {pattern.title}: {pattern.summary} ({', '.join(f.meter for f in pattern.forms)})")


def run_finger(args: argparse.Namespace) -> None:
    notes = read_notes(args.notes)
    hand = hand_named(args.size)
    fingers = finger_grip(notes, args.hand, hand) if args.together else finger_line(notes, args.hand, hand)
    names = [Key.of("C", "major").spell(m % 12).at(m) for m in notes]
    written = " ".join(args.notes).replace(",", " ").split()
    names = written if len(written) == len(names) else names
    if args.json:
        rows = [{"pitch": n, "midi": m, "finger": f} for n, m, f in zip(names, notes, fingers, strict=True)]
        put_json({"hand": args.hand, "notes": rows, "fingers": list(fingers)}, args.json)
        return
    say("  ".join(f"{n} {f}" for n, f in zip(names, fingers, strict=True)))
