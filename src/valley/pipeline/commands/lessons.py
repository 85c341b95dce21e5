"""``valley lesson``, ``valley check``, ``valley proof``, ``valley export``, ``valley import``."""

from __future__ import annotations

import argparse
from dataclasses import replace
from pathlib import Path
from typing import Any

from valley.arranging.reach import hand_named
from valley.checking import Finding, check_all, check_song, room_of
from valley.errors import ValleyError
from valley.formats._codec import load_json, save_bytes
from valley.formats.captions_in import read_transcript
from valley.formats.chart_json import dump_chart
from valley.formats.lesson_json import FORMAT as LESSON_FORMAT
from valley.formats.lesson_json import read_lesson
from valley.lesson.proof import read_proof
from valley.model.choices import Choices
from valley.model.schools import read_schools
from valley.pipeline.charts import load_song, load_work
from valley.pipeline.commands._common import add_json, add_longest, check_folder_of, put_json, say, watch_progress
from valley.pipeline.commands.hands import add_choices, read_choices
from valley.pipeline.handouts import HANDOUTS, handout_named, save_all, stream_zip
from valley.pipeline.readers import holds_notes
from valley.song.work import Work

FOUND_ERRORS = 1


def add_lesson(lesson: argparse.ArgumentParser) -> None:
    lesson.add_argument("file", type=Path, metavar="FILE|CHART", help="a recording, chart.json, a chord chart as text, MusicXML, MIDI …")
    lesson.add_argument("--to", type=Path, required=True, metavar="DIR", help="folder for the files; made if it is not there")
    add_choices(lesson)
    _add_schools(lesson)
    lesson.add_argument("--title", help="the song's name; the file's name without it")
    add_longest(lesson)
    lesson.set_defaults(run=run_lesson)


def add_check(check: argparse.ArgumentParser) -> None:
    check.add_argument("file", type=Path, metavar="chart.json|lesson.json")
    add_json(check)
    add_choices(check)
    check.set_defaults(run=run_check)


def add_proof(proof: argparse.ArgumentParser) -> None:
    proof.add_argument("words", type=Path, metavar="WORDS", help="words as text, captions (SRT, WebVTT), or a transcript with times")
    proof.add_argument("--chart", type=Path, required=True, metavar="CHART", help="chart.json, lesson.json or a chord chart as text")
    proof.add_argument("--naming", default="letters", choices=("letters", "syllables", "german"))
    proof.add_argument("--language", default="en", choices=("en", "fr", "de", "es"), help="of the words")
    proof.add_argument("--octaves", default="c4", choices=("c4", "c3"), help="the name of middle C")
    add_json(proof)
    add_choices(proof)
    proof.set_defaults(run=run_proof)


def add_export(export: argparse.ArgumentParser) -> None:
    export.add_argument("chart", type=Path, metavar="CHART")
    export.add_argument("--format", required=True, metavar="NAME", help=f"{', '.join(h.name for h in HANDOUTS)}, or zip")
    export.add_argument("--out", type=Path, required=True, metavar="FILE")
    add_choices(export)
    _add_schools(export)
    export.set_defaults(run=run_export)


def add_import(taken: argparse.ArgumentParser) -> None:
    taken.add_argument("file", type=Path, metavar="FILE")
    taken.add_argument("--out", type=Path, metavar="chart.json", help="where to write; standard output without it")
    taken.set_defaults(run=run_import)


def _add_schools(command: argparse.ArgumentParser) -> None:
    command.add_argument("--school", default="", metavar="MATTER=SCHOOL,…", help="such as naming=german,octaves=c3,order=pattern-first")


def _work(args: argparse.Namespace, file: Path) -> Work:
    """The song of a file with the choices on the command line; a lesson.json brings its own, which hold."""
    work = load_work(file)
    return work if work.song.choices != Choices() else _with(work, choices=read_choices(args))


def _with(work: Work, *, choices: Choices | None = None, school: str = "", title: str = "") -> Work:
    """The work with what was named on the command line."""
    song = work.song
    song = replace(song, choices=choices) if choices else song
    song = replace(song, teaching=replace(song.teaching, schools=read_schools(school))) if school else song
    song = replace(song, chart=replace(song.chart, title=title)) if title else song
    return Work(song, work.hearing)


def run_lesson(args: argparse.Namespace) -> None:
    choices = read_choices(args)
    read_schools(args.school)
    hand_named(choices.hand)
    if args.to.exists() and not args.to.is_dir():
        raise ValleyError(f"{str(args.to)!r} is a file, not a folder; choose another place for the lesson.")
    if holds_notes(args.file):
        work = _work(args, args.file)
    else:
        with watch_progress() as listener:
            work = _with(load_work(args.file, max_minutes=args.longest, listener=listener), choices=choices)
    work = _with(work, school=args.school, title=args.title or "")
    args.to.mkdir(parents=True, exist_ok=True)
    for path in save_all(work, args.to):
        say(str(path))


def run_check(args: argparse.Namespace) -> int:
    data = load_json(args.file) if args.file.suffix == ".json" else None
    if isinstance(data, dict) and data.get("format") == LESSON_FORMAT:
        document = read_lesson(data)  # what was handed out is checked as it stands in the file
        found = check_all(document.song.chart, document.arrangement, document.lesson, room_of(document.song.choices))
    else:
        found = check_song(_work(args, args.file))
    if args.json:
        put_json({"findings": [show_finding(f) for f in found], "errors": sum(f.severity == "error" for f in found)}, args.json)
    else:
        for finding in found:
            mend = f" ({finding.mend.words})" if finding.mend else ""
            say(f"{finding.severity:8} {finding.sentence}{mend}")
        if not found:
            say("Nothing to find fault with.")
    return FOUND_ERRORS if any(f.severity == "error" for f in found) else 0


def show_finding(finding: Finding) -> dict[str, Any]:
    return {
        "check": finding.check,
        "severity": finding.severity,
        "sentence": finding.sentence,
        "part": finding.part,
        "bar": finding.bar,
        "start_beat": None if finding.start is None else str(finding.start),
        "step": finding.step or None,
        "about": finding.about,
        "mend": finding.mend.words if finding.mend else None,
    }


def run_proof(args: argparse.Namespace) -> int:
    try:
        words = args.words.read_text("utf-8-sig")
    except UnicodeDecodeError as error:
        raise ValleyError(f"{args.words.name!r} is not text in UTF-8 (byte {error.start})") from error
    work = _work(args, args.chart)
    said = read_transcript(words)
    claims = read_proof(said.text, work.chart, work.arrangement, naming=args.naming, octaves=args.octaves, language=args.language)
    rows = [
        {
            "text": c.text,
            "start": c.start,
            "end": c.end,
            "kind": c.kind,
            "verdict": c.verdict,
            "expected": c.expected,
            "message": c.message,
            "sure": c.sure,
            "seconds": said.seconds(c.start),
        }
        for c in claims
    ]
    if args.json:
        put_json({"claims": rows}, args.json)
    else:
        for c in claims:
            if c.verdict != "agrees":
                at = said.seconds(c.start)
                place = f"line {words.count(chr(10), 0, c.start) + 1}" if at is None else f"{int(at) // 60}:{int(at) % 60:02d}"
                right = f" → {c.expected}" if c.expected else ""
                perhaps = "perhaps " if c.verdict == "contradicts" and not c.sure else ""
                say(f"{place}: “{c.text}” {perhaps}{c.verdict}{right}: {c.message}")
        agree = sum(c.verdict == "agrees" for c in claims)
        say(f"{len(claims)} claims understood, {agree} agree.")
    return FOUND_ERRORS if any(c.verdict == "contradicts" for c in claims) else 0


def run_export(args: argparse.Namespace) -> None:
    check_folder_of(args.out)
    read_schools(args.school)
    make = None if args.format == "zip" else handout_named(args.format).make
    work = _with(_work(args, args.chart), school=args.school)
    save_bytes(make(work) if make else b"".join(stream_zip(work)), args.out)


def run_import(args: argparse.Namespace) -> None:
    check_folder_of(args.out)
    put_json(dump_chart(load_song(args.file).chart), args.out)
