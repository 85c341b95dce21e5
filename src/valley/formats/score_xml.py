"""MusicXML made ready for the library that reads it.

What is only drawn is left out, chord symbols become words, staves of a part become parts of their own, and the pedal is read here.

The library builds every chord symbol as a chord of notes, and parts of two staves by copying them whole: both took two thirds of reading a score.
Elements and what they mean: the MusicXML 4.0 specification.
"""

from __future__ import annotations

import copy
import re
from collections.abc import Iterator
from xml.etree import ElementTree as ET

from valley.errors import FormatError, ValleyError
from valley.formats.harmony import Step, read_kind
from valley.fraction import Fraction
from valley.theory.chord import NO_CHORD, Chord, bass_interval
from valley.theory.feel import STRAIGHT
from valley.theory.pitch import parse_name

CHORD_MARK = "\u2063chord "
"""How words begin that stand for a chord symbol, Harte's label behind it; a sign that nobody types."""
Presses = list[tuple[Fraction, bool]]
"""The pedal in a bar: quarters into it, and whether it goes down there or comes up."""


def parse_score(text: str) -> ET.Element:
    """The score's root element.

    Raises
    ------
    FormatError
        it breaks off, or is not what it says
    """
    try:
        return ET.fromstring(text)  # noqa: S314 – entities were refused before
    except ET.ParseError as error:
        raise FormatError(f"it breaks off or is damaged: {error}") from error


def require_partwise(root: ET.Element) -> None:
    """A score is read part by part; FormatError for one that is written bar by bar."""
    if root.tag != "score-partwise":
        raise FormatError(f"it is written as {root.tag}, bar by bar; save it again part by part (score-partwise)")


_UNREAD = frozenset({"stem", "beam", "lyric", "notehead", "notehead-text", "accidental", "listen", "play"})
_READ_NOTATIONS = frozenset({"articulations", "technical"})


def drop_unread(root: ET.Element) -> None:
    """Of every note what only says how it is drawn: nothing of it is read, and the library builds an object of each."""
    for note in root.iter("note"):
        for element in list(note):
            if element.tag in _UNREAD:
                note.remove(element)
            elif element.tag == "notations":
                for mark in [m for m in element if m.tag not in _READ_NOTATIONS]:
                    element.remove(mark)
                if not len(element):
                    note.remove(element)


def name_chords(root: ET.Element) -> None:
    """Chord symbols become words that hold Harte's label; one that names no known chord goes."""
    for measure in root.iter("measure"):
        for place, element in enumerate(measure):
            if element.tag == "harmony":
                label = _harte(element)
                words = ET.Element("direction")
                if label:
                    ET.SubElement(ET.SubElement(words, "direction-type"), "words").text = CHORD_MARK + label
                    words.extend([child for child in element if child.tag in ("offset", "staff")])
                measure[place] = words


def _harte(harmony: ET.Element) -> str:
    kind, text = (harmony.findtext("kind") or "").strip(), _attribute(harmony, "kind", "text")
    if kind == "none":
        return NO_CHORD
    try:
        root, bass = _name(harmony, "root"), _name(harmony, "bass")
        steps = [Step((d.findtext("degree-type") or "").strip(), _whole(d, "degree-value"), _whole(d, "degree-alter")) for d in harmony.findall("degree")]
        turned = _whole(harmony, "inversion")
        above, below = (parse_name(name) if name else None for name in (root, bass))
    except (ValueError, ValleyError):
        return ""
    quality = read_kind(kind, text, steps)
    if quality is None or above is None:
        return ""
    under = below or above.up(quality.members[turned % len(quality.members)])
    return Chord(above, quality, bass_interval(above, under, quality)).to_harte()


def _attribute(element: ET.Element, child: str, name: str) -> str:
    found = element.find(child)
    return found.get(name, "") if found is not None else ""


def _name(harmony: ET.Element, which: str) -> str | None:
    """A root or bass as a name; ValueError for a sign that is none."""
    step = (harmony.findtext(f"{which}/{which}-step") or _attribute(harmony, f"{which}/{which}-step", "text")).strip()
    alter = round(float(harmony.findtext(f"{which}/{which}-alter") or 0))
    if step and not -2 <= alter <= 2:
        raise ValueError(alter)
    return step.upper() + ("#" * alter if alter > 0 else "b" * -alter) if step else None


def _whole(element: ET.Element, child: str) -> int:
    return round(float(element.findtext(child) or 0))


def read_feel(root: ET.Element) -> str:
    """How the halves of a beat are played, by what the score says to programs or in words above its first notes; straight where it says nothing."""
    swing = root.find(".//sound/swing")
    if swing is not None:
        long, short = _whole(swing, "first"), _whole(swing, "second")
        if swing.findtext("swing-type") == "16th":
            return STRAIGHT if long == short else "swung sixteenths"
        return STRAIGHT if long == short else "light swing" if long < 1.75 * short else _named_feel(root) or "swing"
    return _named_feel(root) or STRAIGHT


def _named_feel(root: ET.Element) -> str:
    words = " ".join(w.text or "" for part in root.iter("part") for measure in [*part.iter("measure")][:2] for w in measure.iter("words")).lower()
    if "straight" in words or "no swing" in words or not _SWUNG.search(words):
        return ""
    return (
        "shuffle" if "shuffle" in words else "swung sixteenths" if "sixteenth" in words or "16th" in words else "light swing" if "light" in words else "swing"
    )


_SWUNG = re.compile(r"\b(?:swing|swung|shuffle)\b")


def take_presses(root: ET.Element) -> list[Presses]:
    """The pedal of each bar, of all parts together; its marks are taken out."""
    bars: list[Presses] = []
    for part in root.iter("part"):
        divisions = 1
        for number, measure in enumerate(part.iter("measure")):
            if number == len(bars):
                bars.append([])
            at = Fraction(0)
            for element in list(measure):
                divisions = _whole(element, "divisions") or divisions if element.tag == "attributes" else divisions
                for pedal in element.iter("pedal") if element.tag == "direction" else ():
                    place = (at + Fraction(_number(element, "offset"))) / divisions
                    bars[number] += [(place, down) for down in _PEDALS.get(pedal.get("type", ""), ())]
                at += Fraction(_advance(element))
            _drop_pedals(measure)
    return [sorted(set(bar)) for bar in bars]


_PEDALS = {"start": (True,), "stop": (False,), "change": (False, True), "resume": (True,), "discontinue": (False,)}


def _drop_pedals(measure: ET.Element) -> None:
    for direction in [d for d in measure if d.tag == "direction" and d.find("direction-type/pedal") is not None]:
        for kind in direction.findall("direction-type"):
            if kind.find("pedal") is not None:
                direction.remove(kind)
        if direction.find("direction-type") is None:
            measure.remove(direction)


def _advance(element: ET.Element) -> float:
    """By how many divisions an element moves the place at which the next one stands."""
    if element.tag == "note":
        return 0 if element.find("chord") is not None or element.find("grace") is not None else _number(element, "duration")
    return {"forward": 1, "backup": -1}.get(element.tag, 0) * _number(element, "duration")


def _number(element: ET.Element, child: str) -> float:
    """A number, whole wherever it is: divisions are rarely written with a point."""
    value = float(element.findtext(child) or 0)
    return int(value) if value.is_integer() else value


def split_staves(root: ET.Element) -> None:
    """A part of several staves becomes as many parts, the upper staff first."""
    listed = root.find("part-list")
    for part in [p for p in root if p.tag == "part"]:
        staves = max((_whole(a, "staves") for a in part.iter("attributes")), default=1)
        entry = next((e for e in listed if e.get("id") == part.get("id")), None) if listed is not None else None
        if not 1 < staves <= _MOST_STAVES or entry is None or listed is None:
            continue
        place, line = list(root).index(part), list(listed).index(entry)
        root.remove(part)
        listed.remove(entry)
        for staff in range(1, staves + 1):
            own = ET.Element("part", {"id": f"{part.get('id')}-{staff}"})
            own.extend(_measures_of(part, staff))
            root.insert(place + staff - 1, own)
            named = copy.deepcopy(entry)
            named.set("id", own.get("id", ""))
            listed.insert(line + staff - 1, named)


_MOST_STAVES = 8


def _measures_of(part: ET.Element, staff: int) -> Iterator[ET.Element]:
    for measure in part.iter("measure"):
        own = ET.Element("measure", measure.attrib)
        at = longest = filled = 0.0  # divisions: where we are, how long the bar is, and how far this staff fills it
        here = True  # the last note with which others may be struck is on this staff
        for element in measure:
            duration = _advance(element)
            at += duration
            longest = max(longest, at)
            if element.tag != "note":
                _add_other(own, element, staff)
                continue
            if element.find("chord") is None:
                here = (_staff_of(element) or 1) == staff
            if here:
                own.append(_without(element, "staff"))
                filled = max(filled, at)
            elif duration:
                _add_forward(own, duration)
        if filled < longest:
            _fill(own, at, longest)
        yield own


def _fill(measure: ET.Element, at: float, longest: float) -> None:
    """A rest unseen through the bar, so that it is as long on this staff as on the others."""
    if at > 0:
        ET.SubElement(ET.SubElement(measure, "backup"), "duration").text = str(at)
    rest = ET.SubElement(measure, "note", {"print-object": "no"})
    ET.SubElement(rest, "rest")
    ET.SubElement(rest, "duration").text = str(longest)
    ET.SubElement(rest, "voice").text = "unseen"


def _add_other(measure: ET.Element, element: ET.Element, staff: int) -> None:
    """What is no note, where it is said of this staff."""
    if element.tag == "attributes":
        measure.append(_attributes_of(element, staff))
    elif element.tag not in ("direction", "sound") or (_staff_of(element) or 1) == staff:
        measure.append(_without(element, "staff"))


def _staff_of(element: ET.Element) -> int:
    text = (element.findtext("staff") or "").strip()
    return int(text) if text.isdigit() else 0


def _without(element: ET.Element, child: str) -> ET.Element:
    """The element without a child, or itself where it has none."""
    if element.find(child) is None:
        return element
    own = ET.Element(element.tag, element.attrib)
    own.extend([e for e in element if e.tag != child])
    return own


def _attributes_of(attributes: ET.Element, staff: int) -> ET.Element:
    """What is said of all staves and of this one, as of the only one."""
    own = ET.Element("attributes", attributes.attrib)
    for element in attributes:
        number = element.get("number")
        if element.tag in ("staves", "part-symbol", "instruments") or number not in (None, str(staff)):
            continue
        if number is not None:
            element = copy.copy(element)
            element.attrib = {k: v for k, v in element.attrib.items() if k != "number"}
        own.append(element)
    return own


def _add_forward(measure: ET.Element, duration: float) -> None:
    """Time that passes on another staff; joined to time that passed there just before."""
    last = measure[-1] if len(measure) else None
    if last is not None and last.tag == "forward" and last.get("id") == "elsewhere":
        found = last.find("duration")
        if found is not None:
            found.text = str(float(found.text or 0) + duration)
        return
    forward = ET.SubElement(measure, "forward", {"id": "elsewhere"})
    ET.SubElement(forward, "duration").text = str(duration)
