"""How far a song is on its way: waymarks set by Valley where it can see them reached, and by hand."""

from django.utils import timezone

from valley.charting.doubts import is_doubtful
from valley.model.chart import Chart
from valley.records.titles import make_plain
from valley.records.way import CHARTED, CHOSEN, LISTENED
from valley.theory.feel import STRAIGHT
from valley_web.songs.models import Song, StageMark


def mark_stage(song: Song, stage: int, *, reached: bool = True, actor: str) -> None:
    """Set a waymark, or take it back. The song stands at the furthest one it has."""
    if reached:
        StageMark.objects.get_or_create(song=song, stage=stage, defaults={"actor": actor})
    else:
        StageMark.objects.filter(song=song, stage__gte=stage).delete()
    furthest = StageMark.objects.filter(song=song).order_by("-stage").values_list("stage", flat=True).first() or 0
    song.stage = furthest
    Song.objects.filter(pk=song.pk).update(stage=furthest, changed_at=timezone.now())


def say_facts(chart: Chart) -> str:
    """ "Eb major · 4/4 · 74 to the minute"."""
    keys = ", then ".join(str(area.key) for area in chart.keys[:3])
    feel = f" · {chart.grid.feel}" if chart.grid.feel != STRAIGHT else ""
    return f"{keys} · {chart.grid.meter} · {round(chart.bpm)} to the minute{feel}"[:200]


def note_chart(song: Song, chart: Chart, *also: str) -> None:
    """Keep what the shelf shows of a chart beside the song, and the waymarks that a chart reaches; in one write with the fields in ``also``."""
    song.facts, song.doubts = say_facts(chart), sum(map(is_doubtful, chart.chords))
    song.bars, song.bars_to_learn = chart.grid.bars, sum(p.new_bars for p in chart.parts)
    song.sought = _words_of(song)
    song.save(update_fields=["facts", "doubts", "bars", "bars_to_learn", "sought", *also])
    marks = set(StageMark.objects.filter(song=song).values_list("stage", flat=True))
    wanted = {CHOSEN, LISTENED} | ({CHARTED} if not song.doubts else set())
    for stage in sorted(wanted - marks):
        mark_stage(song, stage, actor="Valley")


def index_song(song: Song, more: str = "") -> None:
    """Words by which the song is found; ``more`` are those of its askers, where they have changed."""
    song.sought = _words_of(song, more)
    Song.objects.filter(pk=song.pk).update(sought=song.sought)


def _words_of(song: Song, more: str = "") -> str:
    kept = more or (song.sought.split("\n", 1)[1] if "\n" in song.sought else "")
    return f"{make_plain(f'{song.title} {song.facts} {song.wanted}')}\n{kept}"
