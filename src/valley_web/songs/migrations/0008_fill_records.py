"""Songs that were here before the way was kept: their waymarks, and what the shelf shows of their charts."""

from django.db import migrations


def fill(apps, schema_editor):
    from valley.charting.doubts import find_doubts
    from valley.formats.chart_json import read_chart
    from valley.records.titles import make_plain
    from valley.records.way import CHARTED, CHOSEN, LISTENED, SCRIPTED

    songs, revisions, marks = (apps.get_model("songs", name) for name in ("Song", "ChartRevision", "StageMark"))
    for song in songs.objects.all():
        reached = {CHOSEN}
        revision = revisions.objects.filter(song=song, number=song.revision).first()
        if revision:
            chart = read_chart(revision.document)
            song.facts = f"{', then '.join(str(a.key) for a in chart.keys[:3])} · {chart.grid.meter} · {round(chart.bpm)} to the minute"[:200]
            song.doubts, song.bars = len(find_doubts(chart)), chart.grid.bars
            song.bars_to_learn = sum(p.new_bars for p in chart.parts)
            reached |= {LISTENED} | ({CHARTED} if not song.doubts else set())
        if song.ready_at:
            reached.add(SCRIPTED)
        song.stage = max(reached)
        song.sought = f"{make_plain(f'{song.title} {song.facts}')}\n"
        song.save()
        for stage in reached:
            marks.objects.get_or_create(song=song, stage=stage, defaults={"at": song.ready_at or song.changed_at, "actor": "Valley"})


class Migration(migrations.Migration):
    dependencies = [("songs", "0007_records")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
