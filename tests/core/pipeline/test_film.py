"""Films and what stands on the stage, read back by other means: lengths, alpha, a moment against the notes, sound against the score."""

from pathlib import Path

import av
import numpy as np
import pytest

from tests.charts import chart_of, make_work
from valley.arranging.sounding import sounding_end
from valley.errors import ParameterError
from valley.formats.keyboard_svg import COLOURS
from valley.formats.scenes import set_scenes
from valley.formats.stage import LAYERS, SHAPES, Scene, Stage
from valley.fraction import Fraction as F
from valley.model.choices import Choices
from valley.pipeline.film import KINDS, Film, draw_moment, plan_film, save_film
from valley.pipeline.painting import Canvas, Painter, _laid, read_png

CHART = chart_of(["C", "Am", "F", "G"], tune=[(0, 2, 67), (4, 1, 69), (6, 2, 72), (8, 4, 69), (12, 4, 71)], parts=[(1, 2, None), (3, 2, None)], bpm=120)
WORK = make_work(CHART, Choices(style="root-and-chord", pattern="every-beat"))


def rgb(colour: str) -> np.ndarray:
    return np.array([int(colour[i : i + 2], 16) for i in (1, 3, 5)])


@pytest.mark.parametrize("part", [0, 1, 2])
def test_the_keys_that_are_lit_are_those_that_sound(part: int) -> None:
    """At every scene's middle, the marked keys are the notes that the arrangement has sounding there."""
    scenes = set_scenes(WORK, part, lambda beat: float(beat) / 2)
    notes = [(p, n) for p in WORK.arrangement.parts if part in (0, p.part) for n in p.notes]
    assert {k.midi for _, s in scenes for k in s.keys} == {n.midi for _, n in notes}
    for (begins, scene), (ends, _) in zip(scenes, scenes[1:], strict=False):
        middle = F((begins + ends) / 2).limit_denominator(10_000)
        sounding = {n.midi for p, n in notes if n.start / 2 <= middle < sounding_end(p, n) / 2}
        lit = {k.midi for k in scene.keys}
        assert lit <= sounding
        # What sounds and is not lit is dark for a moment, before it is struck again.
        assert all(any(0 < n.start / 2 - middle < 0.09 for _, n in notes if n.midi == midi) for midi in sounding - lit)


def test_scenes_tell_chord_bar_and_part() -> None:
    _, scenes = plan_film(WORK, Film(time="track", speed=0.5, layers=("keys", "chord", "count")))
    counted = [s for _, s in scenes if s.bar == 0 and s.beats]
    assert [s.beat for s in counted[:4]] == [0, 1, 2, 3]
    assert counted[0].then == "C"
    assert not counted[0].keys
    first = next((t, s) for t, s in scenes if s.bar == 1)
    assert first[0] == pytest.approx(4.0)  # four beats at half of 120
    assert (first[1].chord, first[1].then, first[1].part) == ("C", "Am", 1)
    assert [s.chord for _, s in scenes if s.bar == 3 and s.beat == 0][0] == "F"
    assert {s.part for _, s in scenes if s.bar >= 3} == {2}
    assert scenes[-1] == (pytest.approx(4.0 + 16.0), Scene())


@pytest.mark.parametrize("shape", SHAPES)
@pytest.mark.parametrize("whole", [False, True])
def test_everything_stands_inside_the_picture_and_nothing_on_another(shape: str, whole: bool) -> None:
    stage = Stage(shape, 36, 95, tuple(LAYERS), whole=whole, parts=((1, 0.0), (2, 0.5)))
    width, height = stage.size
    placed = [(name, b) for name, b in stage.boxes.items() if name != "ground"]
    for _, box in placed:
        assert 0.04 * width <= box.x and box.x + box.width <= 0.96 * width
        assert 0.04 * height <= box.y and box.y + box.height <= 0.96 * height
    for i, (name, a) in enumerate(placed):
        for other, b in placed[i + 1 :]:
            apart = a.x + a.width <= b.x or b.x + b.width <= a.x or a.y + a.height <= b.y or b.y + b.height <= a.y
            assert apart, (name, other)


def test_a_picture_shows_both_hands_in_their_colours_and_mirrors() -> None:
    film = Film(shape="720p", layers=("keys",))
    plain = read_png(draw_moment(WORK, film, 0.01))
    other = read_png(draw_moment(WORK, Film(shape="720p", layers=("keys",), mirrored=True), 0.01))
    centres = []
    for picture in (plain, other):
        for hand in ("left", "right"):
            found = np.argwhere(np.abs(picture[..., :3].astype(int) - rgb(COLOURS[hand])).max(2) < 6)
            assert len(found) > 100
            centres.append(found[:, 1].mean())
    assert centres[0] < centres[1]
    assert centres[2] > centres[3]
    assert plain[10, 10, 3] == 0  # transparent where nothing stands


@pytest.mark.parametrize("kind", KINDS)
def test_a_film_is_read_back(kind: str, tmp_path: Path) -> None:
    film = Film(kind, "720p", part=2, time="track", speed=1.0, count_in=False)
    path = tmp_path / film.name
    told: list[float] = []
    seconds = save_film(WORK, film, path, lambda words, share: told.append(share))
    assert seconds == pytest.approx(4.0, abs=0.05)
    assert told == sorted(told)
    assert list(tmp_path.iterdir()) == [path]
    with av.open(str(path)) as source:
        stream = source.streams.video[0]
        assert (stream.width, stream.height, stream.average_rate) == (1280, 720, 30)
        reader = av.CodecContext.create("libvpx-vp9", "r") if kind == "webm" else None  # the other decoder leaves the alpha out
        frames = [f for p in source.demux(stream) for f in (reader.decode(p) if reader else p.decode())]
    assert len(frames) == round(30 * seconds)
    stage, scenes = plan_film(WORK, film)
    painter = Painter(stage)
    painter.prepare([scene for _, scene in scenes], lambda share: None)
    for number in (*range(12), 15, 16, 30, 61, 90, 117, 118):  # every frame: those that only repeat the one before, too
        shown = frames[number].to_ndarray(format="rgba").astype(int)
        scene = [s for t, s in scenes if t <= (number + 0.5) / 30][-1]
        drawn = Canvas(painter).paint(scene).to_ndarray(format="rgba").astype(int)
        seen = drawn[..., 3] > 250
        assert np.abs(shown[seen] - drawn[seen])[:, :3].mean() < 6
        if kind != "mp4":
            assert np.abs(shown[..., 3] - drawn[..., 3]).mean() < 3


def test_a_picture_is_laid_over_the_ground_as_paint_is() -> None:
    """Straight alpha, after T. Porter and T. Duff, "Compositing digital images" (1984): what covers, what is clear, and every edge between."""
    rng = np.random.default_rng(3)
    ground, over = (rng.integers(0, 256, (40, 50, 4)).astype(np.uint8) for _ in range(2))
    over[:10, :, 3], over[10:20, :, 3], ground[:, :10, 3], ground[:, 10:20, 3] = 0, 255, 0, 255
    laid = _laid(ground, over).astype(float)
    a, b = over[..., 3:] / 255, ground[..., 3:] / 255
    alpha = a + b * (1 - a)
    colour = (over[..., :3] * a + ground[..., :3] * b * (1 - a)) / np.maximum(alpha, 1e-9)
    assert np.abs(laid[..., 3:] - 255 * alpha).max() <= 0.51
    seen = alpha[..., 0] > 0
    assert np.abs(laid[seen][:, :3] - colour[seen]).max() <= 0.51


def test_the_published_film_has_the_pianos_sound(tmp_path: Path) -> None:
    film = Film("mp4", "720p", part=1, count_in=True)
    assert film.time == "track"  # the recording is not Valley's to publish
    save_film(WORK, film, tmp_path / "a.mp4")
    with av.open(str(tmp_path / "a.mp4")) as source:
        sound = np.concatenate([f.to_ndarray() for f in source.decode(audio=0)], axis=1)
    level = np.abs(sound).max(0)
    loud = np.flatnonzero(level > 0.25 * level.max())
    for at in (0.0, 0.5, 1.0, 1.5, 2.0):  # four clicks and the first note
        assert np.abs(loud / 44100 - at).min() < 0.05


@pytest.mark.parametrize(
    ("wrong", "words"),
    [({"kind": "gif"}, "kind"), ({"rate": 25}, "rate"), ({"layers": ("moon",)}, "layers"), ({"layers": ("ground",)}, "nothing"), ({"shape": "4k"}, "shape")],
)
def test_what_cannot_be_filmed_is_said(wrong: dict[str, object], words: str) -> None:
    with pytest.raises(ParameterError, match=words):
        Film(**wrong)  # type: ignore[arg-type]


def test_a_part_that_is_not_there_is_said() -> None:
    with pytest.raises(ParameterError, match="part=9"):
        plan_film(WORK, Film(part=9))


@pytest.mark.parametrize("pixels", ["rgba", "argb", "yuv420p", "yuva420p"])
@pytest.mark.parametrize("whole", [False, True])
def test_a_canvas_shows_each_scene_as_if_it_were_the_first(pixels: str, whole: bool) -> None:
    """What is left from the scene before, and what has gone with it, is nowhere to be seen."""
    stage, scenes = plan_film(WORK, Film("mp4" if whole else "webm", "720p", time="track"))
    painter = Painter(stage, pixels)
    painter.prepare([s for _, s in scenes], lambda share: None)
    order = np.random.default_rng(1).permutation(len(scenes))[:12]
    canvas = Canvas(painter)
    for i in order:
        kept, new = canvas.paint(scenes[i][1]), Canvas(painter).paint(scenes[i][1])
        assert [bytes(p) for p in kept.planes] == [bytes(p) for p in new.planes]


def test_a_film_that_breaks_off_leaves_no_file(tmp_path: Path) -> None:
    def stop(words: str, share: float) -> None:
        if words == "Filming":
            raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        save_film(WORK, Film(shape="720p", part=1), tmp_path / "f.webm", stop)
    assert not list(tmp_path.iterdir())


@pytest.mark.parametrize("kind", KINDS)
def test_a_film_coded_by_stretches_is_one_film(kind: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    film = Film(kind, "720p", part=1, time="track", speed=1.5, count_in=False, layers=("keys", "chord"))
    length = save_film(WORK, film, tmp_path / f"whole.{kind}")
    monkeypatch.setattr("valley.pipeline.coding._STRETCH", 1)
    assert save_film(WORK, film, tmp_path / f"by-stretches.{kind}") == length
    whole, joined = (read_all(tmp_path / f"{name}.{kind}") for name in ("whole", "by-stretches"))
    assert [t for t, _ in whole] == [t for t, _ in joined]
    assert len(whole) == round(length * 30)
    for (_, a), (_, b) in zip(whole, joined, strict=True):
        assert np.abs(a.astype(int) - b.astype(int)).mean() < 1.5


def read_all(path: Path) -> list[tuple[float, np.ndarray]]:
    """The pictures of a film with their seconds; VP9 by the coder that reads its alpha channel."""
    with av.open(str(path)) as source:
        stream = source.streams.video[0]
        reader = av.CodecContext.create("libvpx-vp9", "r") if path.suffix == ".webm" else stream.codec_context
        frames = [f for packet in source.demux(stream) for f in reader.decode(packet)]
        return [(round(float(f.pts * stream.time_base), 2), f.to_ndarray(format="rgba")) for f in frames]


@pytest.mark.parametrize("kind", KINDS)
def test_a_film_goes_on_after_what_is_done(kind: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("valley.pipeline.coding._STRETCH", 1)
    film, kept = Film(kind, "720p", part=1, time="track", count_in=False, layers=("keys",)), tmp_path / "kept"
    told: list[float] = []

    def stop(words: str, share: float) -> None:
        if words == "Filming" and share > 0.6:
            raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        save_film(WORK, film, tmp_path / "film", stop, stretches=kept)
    done = {p.name: p.stat().st_mtime_ns for p in kept.iterdir() if p.suffix == f".{kind}"}
    assert done and not (tmp_path / "film").exists()
    save_film(WORK, film, tmp_path / "film", lambda words, share: told.append(share), stretches=kept)
    assert {name: (kept / name).stat().st_mtime_ns for name in done} == done  # not made again
    assert told[0] > 0.3 and told == sorted(told)
    assert read_all((tmp_path / "film").rename(tmp_path / f"film.{kind}"))
