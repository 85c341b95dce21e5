"""The board of grips and the page for the music stand, as PDF: what hangs beside the camera, and what lies before the player."""

from __future__ import annotations

from valley.formats.engraving import escape, head, typeset
from valley.formats.keyboard_svg import COLOURS, pretty
from valley.lesson.board import DOWN, STAY, UP, BoardPart, BoardRow, make_board
from valley.model.arrangement import LEFT, RIGHT, Arrangement, Grip, HandNote
from valley.model.chart import Chart, Part
from valley.model.saying import Numbers, Pitches, Sound, Times, say
from valley.model.schools import Schools
from valley.phrases import Words

_ARROWS = {UP: "↑", DOWN: "↓", STAY: "=", "": ""}
_BARS_A_LINE = 4
_MOST_IN_TWO_COLUMNS = 16  # lines; more grips stand in three


def dump_board_pdf(chart: Chart, arrangement: Arrangement, schools: Schools) -> bytes:
    """A row a chord, left and right in their columns, arrows for the way the hands go, hints."""
    words = Words(schools)
    body = [head(chart.title), f"#align(center)[= {escape(chart.title)}]", f"#align(center)[{escape(_brackets(words, arrangement))}]"]
    board = make_board(chart, arrangement)
    size = 13 if sum(len(p.rows) + 2 for p in board) <= 34 else 10
    body.append(f"#set text(size: {size}pt)")
    for part in board:
        body += _part(words, part)
    pdf: bytes = typeset("\n".join(body))
    return pdf


def _brackets(words: Words, arrangement: Arrangement) -> str:
    optional = any(n.optional for p in arrangement.parts for g in p.grips for n in g.notes)
    return words.say(say("board brackets")) if optional else ""


def _part(words: Words, part: BoardPart) -> list[str]:
    title = f"== {escape(_named(words, part.part))}"
    if not part.rows:
        if part.part.same_as:
            return [f"{title} #text(weight: 400, size: 0.8em)[· {escape(words.say(say('board same', model=part.part.same_as)))}]"]
        return []
    if part.part.same_as:
        title += f" #text(weight: 400, size: 0.8em)[· {escape(words.say(say('board but', model=part.part.same_as)))}]"
    if part.times > 1:
        title += f" #text(weight: 400, size: 0.8em)[· {escape(words.say(say('board times', times=Times(part.times))))}]"
    cells = [cell for row in part.rows for cell in _cells(words, row)]
    left, right = (f'rgb("{COLOURS[hand]}")' for hand in (LEFT, RIGHT))
    columns = "columns: (8mm, 24mm, 6mm, 1fr, 6mm, 1.3fr, 1.4fr)"
    style = (
        "stroke: none, inset: (x: 2pt, y: 3.2pt), fill: (x, y) => if calc.odd(y) { luma(245) }, align: (x, y) => if x == 2 or x == 4 { center } else { left }"
    )
    head_left, head_right = (escape(words.say(say(f"{hand} heading")).rstrip(" :")) for hand in (LEFT, RIGHT))
    header = f"table.header([], [], [], text(fill: {left})[*{head_left}*], [], text(fill: {right})[*{head_right}*], [])"
    return [title, f"#table({columns}, {style}, {header}, {', '.join(cells)})"]


def _cells(words: Words, row: BoardRow) -> list[str]:
    grip = row.grip
    hints = "; ".join(words.say(h).rstrip(".") for h in row.hints)
    texts = [
        f"#text(fill: luma(110), size: 0.8em)[{row.bar}]",
        f"*{escape(pretty(words.say(say('named', chord=Sound(grip.chord)))))}*",
        _ARROWS[row.left_goes],
        escape(pretty(_keys(words, grip.left))),
        _ARROWS[row.right_goes],
        escape(pretty(_keys(words, grip.right))),
        f"#text(size: 0.8em)[{escape(pretty(hints))}]",
    ]
    return [f"[{text}]" for text in texts]


def _keys(words: Words, notes: tuple[HandNote, ...]) -> str:
    said = [(words.say(say("named", chord=Pitches((n.pitch,)))), n.optional) for n in notes]
    return "  ".join(f"({text})" if optional else text for text, optional in said)


def _named(words: Words, part: Part) -> str:
    return words.say(say("title named part", number=part.number, name=part.name) if part.name else say("title part", number=part.number))


def dump_stand_pdf(chart: Chart, arrangement: Arrangement, schools: Schools) -> bytes:
    """One page for the music stand: the order of play, each part's chords in bars, each grip once."""
    words = Words(schools)
    keys = ", ".join(str(a.key) for a in chart.keys)
    body = [head(chart.title), f"#align(center)[= {escape(chart.title)}]", f"#align(center)[{escape(pretty(keys))} · {chart.grid.meter} · {round(chart.bpm)}]"]
    route = Numbers(tuple(p.same_as if p.same_as and p.kinship == "same" else p.number for p in chart.parts), in_order=True)
    body.append(f"#align(center)[{escape(words.say(say('board route', route=route)))}]")
    for part in chart.parts:
        if part.same_as and part.kinship == "same":
            continue
        body += [f"== {escape(_named(words, part))}", _bars(words, chart, part)]
    body += _grips(words, arrangement)
    pdf: bytes = typeset("\n".join(body))
    return pdf


def _bars(words: Words, chart: Chart, part: Part) -> str:
    cells = []
    for bar in range(part.start_bar, min(part.end_bar, chart.grid.bars) + 1):
        start = chart.grid.bar_start(bar)
        here = [words.say(say("named", chord=Sound(c.chord))) if c.start >= start else "–" for c in chart.sounding_in(bar)]
        cells.append(f"[#text(size: 0.7em, fill: luma(120))[{bar}] *{escape(pretty('  '.join(here)))}*]")
    return f"#table(columns: (1fr,) * {_BARS_A_LINE}, inset: 5pt, stroke: 0.4pt + luma(190), {', '.join(cells)})"


def _grips(words: Words, arrangement: Arrangement) -> list[str]:
    """Each grip once: its chord, and the keys of both hands in their colours."""
    seen: dict[tuple[str, tuple[int, ...]], Grip] = {}
    for grip in (g for part in arrangement.parts for g in part.grips if g.notes):
        seen.setdefault((grip.label, tuple(n.midi for n in grip.notes)), grip)
    if not seen:
        return []
    cells = []
    for grip in seen.values():
        name = escape(pretty(words.say(say("named", chord=Sound(grip.chord)))))
        hands = [f'#text(fill: rgb("{COLOURS[h]}"))[{escape(pretty(_keys(words, notes)))}]' for h, notes in ((LEFT, grip.left), (RIGHT, grip.right)) if notes]
        cells.append(f"[*{name}* #h(3pt) {' #h(5pt) '.join(hands)}]")
    columns = 2 if len(cells) <= 2 * _MOST_IN_TWO_COLUMNS else 3
    return ["#v(3mm)", escape(_brackets(words, arrangement)), f"#grid(columns: (1fr,) * {columns}, gutter: 3mm, {', '.join(cells)})"]
