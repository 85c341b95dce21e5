"""A page for viewers: one HTML file with the keys that light up, the piano's sound, hands apart, slower, parts repeated, and the sheet music.

It needs no network and asks for nothing: fonts, sound and notes are in it, and a policy in its head forbids everything else. The recording is
not in it. The sound has the left hand in the left ear and the right hand in the right; the page brings them together, or leaves one out.
"""

from __future__ import annotations

import base64
import html
import json
from pathlib import Path
from typing import Final

from valley.formats.engraving import FONTS, engrave
from valley.formats.keyboard_svg import draw_keys, find_mark, measure_keys, pretty
from valley.formats.musicxml import dump_musicxml
from valley.formats.scenes import filmed_range, set_scenes
from valley.fraction import Fraction
from valley.model.arrangement import HandNote
from valley.model.saying import KeyName, Pitches, Sound, say
from valley.phrases import Words
from valley.pipeline.practice import Track, dump_track
from valley.song.work import Work

_PAGES: Final = Path(__file__).parent.parent / "formats" / "pages"
_FACES: Final = (
    ("Alegreya", 700, "Alegreya-Bold"),
    ("Alegreya Sans", 400, "AlegreyaSans-Regular"),
    ("Alegreya Sans", 700, "AlegreyaSans-Bold"),
    ("Signs", 400, "Signs"),
)
_BITS = 96_000  # a second of sound: a piano's two hands, at half the size of a practice track


def dump_viewers_page(work: Work) -> bytes:
    """The whole page as one file of UTF-8.

    Parameters
    ----------
    work : the song

    Raises
    ------
    ParameterError
        it lasts longer than a practice track may
    """
    chart, grid, arrangement = work.chart, work.chart.grid, work.arrangement
    words = Words(work.song.teaching.schools)
    start = chart.span(chart.parts[0])[0]

    def at(beat: Fraction) -> float:
        return grid.seconds(beat) - grid.seconds(start)

    played = any(p.notes for p in arrangement.parts)  # a song of silence has a page as well
    sound = dump_track(chart, arrangement, Track("ears", count_in=False), bit_rate=_BITS) if played else b""
    scenes = set_scenes(work, 0, at)
    low, high = filmed_range(work)
    said = {
        "play": words.say(say("viewer play")),
        "stop": words.say(say("viewer stop")),
        "bar": words.say(say("viewer bar")),
        "place": words.say(say("viewer place")),
        "hands": words.say(say("viewer hands")),
        "both": words.say(say("viewer both")),
        "left": words.say(say("viewer left")),
        "right": words.say(say("viewer right")),
        "speed": words.say(say("viewer speed")),
        "loop": words.say(say("viewer loop")),
        "every": words.say(say("viewer every")),
        "chord": words.say(say("viewer chord")),
        "sheet": words.say(say("viewer sheet")),
        "print": words.say(say("viewer print")),
        "caution": words.say(say("caution")),
    }
    data = {
        "end": round(at(chart.span(chart.parts[-1])[1]), 3),
        "words": {"play": said["play"], "stop": said["stop"]},
        "parts": [{"number": p.number, "start": round(at(chart.span(p)[0]), 3), "end": round(at(chart.span(p)[1]), 3)} for p in chart.parts],
        "bars": [round(max(0.0, at(grid.bar_start(b))), 3) for b in range(1, grid.bars + 1)],
        "places": {m: [round(v, 2) for v in find_mark(m, low)] for m in range(low, high + 1)},
        "scenes": [
            {
                "t": t,
                "keys": [{"m": k.midi, "h": k.hand, "f": k.finger or "", "o": int(k.optional)} for k in s.keys],
                "chord": pretty(s.chord),
                "then": pretty(s.then),
                "bar": s.bar,
                "beat": s.beat,
                "beats": s.beats if s.bar else 0,
            }
            for t, s in scenes
        ],
    }
    keys = ", ".join(words.say(say("named", chord=KeyName(str(k.tonic), k.mode))) for k in dict.fromkeys(a.key for a in chart.keys))
    filled = {name: html.escape(text) for name, text in said.items()} | {
        "language": work.song.teaching.schools.language,
        "title": html.escape(chart.title),
        "facts": html.escape(pretty(f"{keys} · {grid.meter} · {round(chart.bpm)}")),
        "fonts": "\n".join(_face(*face) for face in _FACES),
        "css": (_PAGES / "viewers.css").read_text("utf-8"),
        "js": (_PAGES / "viewers.js").read_text("utf-8"),
        "rail": "".join(f'<li><button type="button" data-part="{p.number}">{html.escape(_named(words, p.number, p.name))}</button></li>' for p in chart.parts),
        "keyboard": _keyboard(low, high, words.say(say("viewer keys"))),
        "end": f"{data['end']}",
        "table": _table(work, words),
        "pages": "".join(f'<div class="page">{svg}</div>' for svg in engrave(dump_musicxml(chart, arrangement, to_print=True))),
        "sound": base64.b64encode(sound).decode("ascii"),
        # "<" could end the script that holds the data.
        "data": json.dumps(data, ensure_ascii=False, separators=(",", ":")).replace("<", "\\u003c"),
    }
    return (_PAGES / "viewers.html").read_text("utf-8").format(**filled).encode()


def _face(family: str, weight: int, file: str) -> str:
    content = base64.b64encode((FONTS / f"{file}.ttf").read_bytes()).decode("ascii")
    return f'@font-face {{ font-family: "{family}"; font-weight: {weight}; src: url(data:font/ttf;base64,{content}) format("truetype"); }}'


def _keyboard(low: int, high: int, label: str) -> str:
    """The keys without marks, and a place for those that sound."""
    width, height = measure_keys(low, high)
    keys = "".join(draw_keys(low, high, {}))
    return f'<svg id="keys" viewBox="-1 -1 {width + 2:g} {height + 2:g}" role="img" aria-label="{html.escape(label)}">{keys}<g id="marks"></g></svg>'


def _named(words: Words, number: int, name: str) -> str:
    return words.say(say("title named part", number=number, name=name) if name else say("title part", number=number))


def _table(work: Work, words: Words) -> str:
    """Every grip in words: where it comes, its chord, and what each hand holds."""
    rows: list[tuple[int, str, str, str]] = []
    for part in work.arrangement.parts:
        for grip in part.grips:
            chord = words.say(say("named", chord=Sound(grip.chord)))
            rows.append((max(1, work.chart.grid.place(grip.start)[0]), pretty(chord), _keys(words, grip.left), _keys(words, grip.right)))
    return "".join(
        f'<tr><td>{bar}</td><td>{html.escape(chord)}</td><td class="left">{html.escape(left)}</td><td class="right">{html.escape(right)}</td></tr>'
        for bar, chord, left, right in rows
    )


def _keys(words: Words, notes: tuple[HandNote, ...]) -> str:
    said = [(pretty(words.say(say("named", chord=Pitches((n.pitch,))))), n.optional) for n in notes]
    return " ".join(f"({text})" if optional else text for text, optional in said)
