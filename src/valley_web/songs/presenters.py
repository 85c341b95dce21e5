"""Songs and charts as the browser shows them."""

from collections.abc import Mapping, Sequence
from functools import lru_cache
from types import MappingProxyType

from valley.charting.doubts import find_doubts
from valley.charting.parts import sound_of
from valley.charting.route import suggest_repeats
from valley.charting.twins import Twin
from valley.charting.vocabulary import list_vocabulary
from valley.edits.levels import offer_levels, rate_tempo
from valley.listening.evidence import Agreement
from valley.model.chart import Chart, ChartChord, Grid, MelodyNote, Part
from valley.model.hearing import Tempo
from valley.model.lesson import Settings
from valley.phrases import Words
from valley.phrases.differences import say_differences, tell_move
from valley.phrases.en import GRAMMAR
from valley.records.way import STAGES, say_next
from valley.theory.chord import Chord, close_pitches, name_inversion, symbol_of
from valley.theory.feel import FEELS
from valley.theory.pitch import spell_midi
from valley_web.songs.api.schemas import (
    AgreementOut,
    BarOut,
    ChartOut,
    ChordOut,
    CueOut,
    JobOut,
    KeyOut,
    LevelOut,
    MelodyOut,
    NeighbourOut,
    PartOut,
    ReadingOut,
    SongOut,
    Standing,
    SuggestionOut,
    SwingOut,
    TwinOut,
    VocabularyOut,
)
from valley_web.songs.models import ListeningJob, Revision, Song
from valley_web.songs.selectors import Versions, get_recording, heard_tempi, latest_job, rate_bars, state_of
from valley_web.songs.shown import Shown, last_shown, remember_shown
from valley_web.songs.way import say_facts

_STANDING: dict[str, Standing] = {"waiting": "waiting", "running": "listening", "failed": "failed", "cancelled": "unheard"}


def show_job(job: ListeningJob) -> JobOut:
    return JobOut(id=job.pk, state=job.state, stage=job.stage, fraction=job.fraction, found=job.found, error=job.error)  # type: ignore[arg-type]  # the model's choices are these words


def show_song(song: Song) -> SongOut:
    """A song as the shelf keeps it: nothing of the chart is opened."""
    job = latest_job(song)
    active = job is not None and job.state in ("waiting", "running")
    recording = get_recording(song)
    standing: Standing
    if job is not None and (active or not song.revision) and job.state in _STANDING:
        standing = _STANDING[job.state]
    elif not song.revision:
        standing = "unheard" if recording else "wanted"
    else:
        standing = "heard" if song.doubts else "charted"
    words = {"waiting": "in line to be heard", "listening": "being listened to", "failed": "could not be heard", "unheard": "not listened to yet"}
    return SongOut(
        id=song.pk,
        title=song.title,
        demo=song.demo is not None,
        standing=standing,
        charted=song.revision > 0,
        next_step=words.get(standing) or say_next(song.stage, doubts=song.doubts, corrections=song.corrections),
        facts=song.facts,
        doubts=song.doubts,
        original_name=recording.original_name if recording else "",
        recording_id=recording.pk if recording else None,
        duration=recording.duration if recording else 0.0,
        warning=recording.warning if recording else "",
        job=show_job(job) if job else None,
        rights=song.rights,
        stage=song.stage,
        stage_name=STAGES[song.stage],
        votes=song.votes,
        wanted=song.wanted,
        promised_for=song.promised_for,
        corrections=song.corrections,
        bars=song.bars,
        bars_to_learn=song.bars_to_learn,
        added_at=song.created_at,
        changed_at=song.changed_at,
    )


def show_song_chart(versions: Versions) -> ChartOut:
    """The current chart of a song with all that the pages show beside it."""
    song, revision = versions.song, versions.current
    state = state_of(revision)
    agreement = rate_bars(song, state.chart)
    shown = show_chart(
        state.chart, revision, versions.redo, versions.offer, settings=state.settings, agreement=agreement, tempi=heard_tempi(song), known=last_shown(song.pk)
    )
    return remember_shown(revision, state.chart, shown)


def _away(chart: Chart) -> str:
    """How far the recording lies from what is taught, where the song was moved to another key."""
    steps = abs(chart.transposed)
    return f" · the recording sounds {steps} half step{'' if steps == 1 else 's'} {'lower' if chart.transposed > 0 else 'higher'}" if steps else ""


def show_chart(
    chart: Chart,
    revision: Revision,
    redo: int,
    offer: Sequence[Twin] = (),
    *,
    settings: Settings,
    agreement: Mapping[int, Agreement] = MappingProxyType({}),
    tempi: Sequence[Tempo] = (),
    known: Shown | None = None,
) -> ChartOut:
    """``tempi`` are those that were heard; ``known`` is the chart that was shown last: what stands in both is not made again."""
    doubts = find_doubts(chart)
    doubtful = frozenset(doubts)
    kept = _Kept(chart, known)
    side = "sharp" if chart.tuning_cents > 0 else "flat"
    tuning = "in tune" if abs(chart.tuning_cents) < 2.5 else f"{abs(chart.tuning_cents):.0f} cents {side}"
    return ChartOut(
        title=chart.title,
        revision=revision.number,
        can_undo=revision.parent > 0,
        can_redo=redo > 0,
        last_change=revision.what,
        offer=show_offer(offer),
        meter=chart.grid.meter,
        feel=chart.grid.feel,
        swing=[SwingOut(start_beats=a, end_beats=b, pair=float(pair), long=float(FEELS[chart.grid.feel].long)) for a, b, pair in chart.grid.swung],
        beats_per_bar=chart.grid.main_meter.beats,
        bpm=chart.bpm,
        odds=rate_tempo(chart.bpm, tempi),
        levels=[LevelOut(kind=level.edit.kind, bpm=level.bpm, meter=level.meter, odds=level.odds) for level in offer_levels(chart, tempi)],
        tuning=tuning,
        headline=f"{say_facts(chart)} · {tuning}" + _away(chart),
        transposed=chart.transposed,
        beats=list(chart.grid.beats),
        bars=_bars(chart, agreement),
        keys=[_key(chart, i) for i in range(len(chart.keys))],
        chords=[kept.chord(c, doubtful=i in doubtful) or _chord(chart, c, i in doubtful) for i, c in enumerate(chart.chords)],
        melody=kept.melody or [kept.note(n) or _note(chart, n) for n in chart.melody],
        cues=kept.cues or [CueOut(start=str(c.start), start_beats=float(c.start), text=c.text) for c in chart.cues],
        parts=[kept.part(p) or _part(chart, p) for p in chart.parts],
        doubts=list(doubts),
        vocabulary=_vocabulary(chart),
        bars_to_learn=sum(p.new_bars for p in chart.parts),
        suggestions=[SuggestionOut(number=s.number, model=s.model, why=s.why) for s in suggest_repeats(chart)],
        lesson_order=list(settings.order) or [p.number for p in chart.parts],
        lesson_minutes=settings.minutes,
        thanks=settings.thanks,
    )


class _Kept:
    """What was shown of a chart's chords, notes and parts, for those that are the very same in another one on the same grid and in the same keys."""

    def __init__(self, chart: Chart, known: Shown | None) -> None:
        same = known is not None and known.chart.grid == chart.grid and known.chart.keys == chart.keys
        self._known = known if same else None  # held, so that no other object can take the place of one of its
        self._chords = {id(c): out for c, out in zip(known.chart.chords, known.out.chords, strict=True)} if known and same else {}
        self._notes = {id(n): out for n, out in zip(known.chart.melody, known.out.melody, strict=True)} if known and same else {}

        self._chart, self._parts = chart, {p.number: (p, out) for p, out in zip(known.chart.parts, known.out.parts, strict=True)} if known and same else {}

        self.melody = list(known.out.melody) if known and same and known.chart.melody is chart.melody else []
        self.cues = list(known.out.cues) if known and same and known.chart.cues is chart.cues else []

    def part(self, part: Part) -> PartOut | None:
        before, out = self._parts.get(part.number, (None, None))
        alike = self._known and part == before and self._chart.holds(part)[0] == self._known.chart.holds(part)[0]
        return out if alike else None

    def chord(self, chord: ChartChord, *, doubtful: bool) -> ChordOut | None:
        found = self._chords.get(id(chord))
        return found if found is not None and found.doubtful == doubtful else None

    def note(self, note: MelodyNote) -> MelodyOut | None:
        return self._notes.get(id(note))


def _note(chart: Chart, note: MelodyNote) -> MelodyOut:
    bar, into = chart.grid.place(note.start)
    count = GRAMMAR.count(chart.grid.meter_of(bar).count(into))
    return MelodyOut(
        place=f"{f'bar {bar}' if bar else 'the pickup'}, on {count}",
        lasts=GRAMMAR.amount(note.duration, "beat"),
        start=str(note.start),
        duration=str(note.duration),
        start_beats=float(note.start),
        duration_beats=float(note.duration),
        midi=note.midi,
        pitch=spell_midi(note.midi, chart.key_at(note.start).tonic),
        grace=note.grace,
        locked=note.locked,
    )


def show_offer(twins: Sequence[Twin]) -> list[TwinOut]:
    return [TwinOut(part=t.part, bar=t.bar, same=t.same, now=t.now) for t in twins]


_WELL, _FAIRLY = 0.75, 0.5


def _agreement(found: Agreement | None) -> AgreementOut | None:
    if found is None:
        return None
    words = [
        f"{name} {'fits well' if value >= _WELL else 'fits fairly' if value >= _FAIRLY else 'fits badly'}"
        for name, value in (("harmony", found.chords), ("bass", found.bass), ("tune", found.tune))
        if value is not None
    ]
    return AgreementOut(whole=found.whole, chords=found.chords, bass=found.bass, tune=found.tune, words=", ".join(words))


@lru_cache(maxsize=16)
def _bar_rows(grid: Grid) -> tuple[tuple[int, float, int, str, float, float], ...]:
    """Number, first beat, beats, metre, first and last second of every bar: the same until the grid is corrected."""
    rows = []
    for number in range(0 if grid.pickup else 1, grid.bars + 1):
        start = grid.bar_start(number)
        end = min(grid.bar_start(number + 1), type(start)(len(grid.beats)))
        rows.append((number, float(start), int(end - start), grid.meter_of(number).name, grid.seconds(start), grid.seconds(end)))
    return tuple(rows)


def _bars(chart: Chart, agreement: Mapping[int, Agreement]) -> list[BarOut]:
    part_of = {bar: p.number for p in chart.parts for bar in range(p.start_bar, p.end_bar + 1)}
    return [
        BarOut(
            number=number,
            start_beats=start,
            beats=beats,
            meter=meter,
            start_sec=start_sec,
            end_sec=end_sec,
            part=part_of.get(number, 1),
            agreement=_agreement(agreement.get(number)),
        )
        for number, start, beats, meter, start_sec, end_sec in _bar_rows(chart.grid)
    ]


def _key(chart: Chart, index: int) -> KeyOut:
    area = chart.keys[index]
    count = area.key.signature
    accidentals = "no sharps or flats" if not count else f"{abs(count)} {'sharp' if count > 0 else 'flat'}{'s' if abs(count) > 1 else ''}"
    return KeyOut(
        start=str(area.start),
        start_beats=float(area.start),
        tonic=area.tonic,
        mode=area.mode,
        bar=max(1, chart.grid.place(area.start)[0]),
        name=str(area.key),
        signature=accidentals,
        scale=[str(n) for n in area.key.scale()],
    )


@lru_cache(maxsize=2048)
def _notes(chord: Chord | None) -> tuple[str, ...]:
    if chord is None:
        return ()
    names = tuple(str(n) for n in chord.members())
    bass = str(chord.bass)
    return names if not chord.bass_interval else (bass, *[n for n in names if n != bass])


@lru_cache(maxsize=4096)
def explain_reading(chord: Chord | None, best: Chord | None) -> str:
    """What sets a reading apart from the best one, in notes."""
    if chord == best:
        return "bass and notes fit best"
    notes, others = set(_notes(chord)), set(_notes(best))
    if chord is None or not notes:
        return "nothing but noise or silence"
    if notes == others:
        if best and chord.root.pitch_class == best.root.pitch_class:
            return f"the same chord with {chord.bass} in the bass"
        return "the same notes, named from another root"
    extra, missing = [n for n in _notes(chord) if n not in others], [n for n in _notes(best) if n not in notes]
    clauses = ([f"with {' and '.join(extra)}"] if extra else []) + ([f"without {' and '.join(missing)}"] if missing else [])
    return " ".join(clauses)


def _heard_otherwise(chord: ChartChord) -> str:
    """What the listening hears where the creator set something that sounds different; else nothing."""
    heard = chord.readings[0].chord if chord.readings else None
    if not chord.locked or heard is None or sound_of(heard) == sound_of(chord.chord):
        return ""
    return symbol_of(heard)


def _chord(chart: Chart, chord: ChartChord, doubtful: bool) -> ChordOut:
    bar, beat = chart.grid.place(chord.start)
    parsed = chord.chord
    spoken = f"{parsed.root} {parsed.quality.words}, {name_inversion(parsed)}" if parsed else "no chord"
    best = chord.readings[0].chord if chord.readings else chord.chord
    return ChordOut(
        start=str(chord.start),
        duration=str(chord.duration),
        start_beats=float(chord.start),
        duration_beats=float(chord.duration),
        bar=max(bar, 0),
        beat=float(beat) + 1,
        label=chord.label,
        symbol=chord.symbol,
        spoken=spoken,
        notes=list(_notes(chord.chord)),
        midi=list(close_pitches(parsed)) if parsed else [],
        confidence=chord.confidence,
        locked=chord.locked,
        doubtful=doubtful,
        heard_otherwise=_heard_otherwise(chord),
        readings=[
            ReadingOut(label=r.label, symbol=symbol_of(r.chord), probability=r.probability, notes=list(_notes(r.chord)), why=explain_reading(r.chord, best))
            for r in chord.readings
        ],
    )


def _part(chart: Chart, part: Part) -> PartOut:
    start, end = chart.span(part)
    pattern: list[str] = []
    for chord in chart.chords_of(part):
        symbol = chord.symbol
        if not pattern or pattern[-1] != symbol:
            pattern.append(symbol)
    words = {
        "new": "new",
        "same": f"part {part.same_as} again, note for note",
        "moved": f"part {part.same_as} again, {Words().say(tell_move(part.moved))}" if part.moved else "",
        "chords": f"the chords of part {part.same_as} under another tune",
        "varied": f"part {part.same_as} again, with changes",
    }[part.kinship]
    return PartOut(
        number=part.number,
        name=part.name,
        start_bar=part.start_bar,
        end_bar=part.end_bar,
        bars=part.bars,
        start_beats=float(start),
        end_beats=float(end),
        same_as=part.same_as,
        kinship=part.kinship,
        differences=list(say_differences(part.differences)),
        pattern=pattern,
        words=words,
        must=part.new_bars > 0,
    )


def _vocabulary(chart: Chart) -> list[VocabularyOut]:
    return [
        VocabularyOut(
            key=e.key,
            symbol=symbol_of(e.chord),
            times=e.times,
            bars=list(e.bars),
            notes=list(_notes(e.chord)),
            function=e.function,
            roman=e.roman,
            unusual=e.unusual,
            after=[NeighbourOut(symbol=symbol_of(n.chord), times=n.times, common=list(n.common)) for n in e.after],
        )
        for e in list_vocabulary(chart)
    ]
