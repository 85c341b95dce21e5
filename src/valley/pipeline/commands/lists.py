"""``valley styles``, ``valley patterns``, ``valley finger``: what there is to choose from, and fingers for any notes."""

from __future__ import annotations

import argparse

from valley.arranging.fingering import finger_grip, finger_line
from valley.arranging.pattern_library import PATTERNS
from valley.arranging.patterns import count_form
from valley.arranging.reach import hand_named
from valley.arranging.styles import LEVELS, STYLES
from valley.pipeline.commands._common import add_json, put_json, say
from valley.pipeline.commands.theory import read_notes, split_notes
from valley.theory.key import Key


def add_styles(styles: argparse.ArgumentParser) -> None:
    add_json(styles)
    styles.set_defaults(run=run_styles)


def add_patterns(patterns: argparse.ArgumentParser) -> None:
    add_json(patterns)
    patterns.set_defaults(run=run_patterns)


def add_finger(finger: argparse.ArgumentParser) -> None:
    finger.add_argument("notes", nargs="+", metavar="NOTES", help='such as "C4 D4 E4 F4"')
    finger.add_argument("--hand", choices=("left", "right"), required=True)
    finger.add_argument("--size", default="medium", metavar="small|medium|large|MM")
    finger.add_argument("--together", action="store_true", help="the notes are held together")
    add_json(finger)
    finger.set_defaults(run=run_finger)


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
    notes, _ = read_notes(args.notes)
    hand = hand_named(args.size)
    fingers = finger_grip(notes, args.hand, hand) if args.together else finger_line(notes, args.hand, hand)
    names = [Key.of("C", "major").spell(m % 12).at(m) for m in notes]
    written = split_notes(args.notes)
    names = written if len(written) == len(names) else names
    if args.json:
        rows = [{"pitch": n, "midi": m, "finger": f} for n, m, f in zip(names, notes, fingers, strict=True)]
        put_json({"hand": args.hand, "notes": rows, "fingers": list(fingers)}, args.json)
        return
    say("  ".join(f"{n} {f}" for n, f in zip(names, fingers, strict=True)))
