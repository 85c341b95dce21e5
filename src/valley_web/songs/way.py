"""How far a song is on its way: waymarks set by Valley where it can see them reached, and by hand."""

from django.utils import timezone

from valley.charting.doubts import is_doubtful
from valley.model.chart import Chart
from valley.records.titles import make_plain
from valley.records.way import CHARTED, CHOSEN, LISTENED
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
    return f"{keys} · {chart.grid.meter} · {round(chart.bpm)} to the minute"[:200]


def note_chart(song: Song, chart: Chart) -> None:
    """Keep what the shelf shows of a chart beside the song, and the waymarks that a chart reaches."""
    song.facts, song.doubts = say_facts(chart), sum(map(is_doubtful, chart.chords))
    song.bars, song.bars_to_learn = chart.grid.bars, sum(p.new_bars for p in chart.parts)
    Song.objects.filter(pk=song.pk).update(facts=song.facts, doubts=song.doubts, bars=song.bars, bars_to_learn=song.bars_to_learn)
    marks = set(StageMark.objects.filter(song=song).values_list("stage", flat=True))
    wanted = {CHOSEN, LISTENED} | ({CHARTED} if not song.doubts else set())
    for stage in sorted(wanted - marks):
        mark_stage(song, stage, actor="Valley")
    index_song(song)


def index_song(song: Song, more: str = "") -> None:
    """Words by which the song is found; ``more`` are those of its askers, where they have changed."""
    kept = more or (song.sought.split("\n", 1)[1] if "\n" in song.sought else "")
    song.sought = f"{make_plain(f'{song.title} {song.facts} {song.wanted}')}\n{kept}"
    Song.objects.filter(pk=song.pk).update(sought=song.sought)
