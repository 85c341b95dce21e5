"""Scenes of a film as pixels: each picture is drawn once, in batches, laid on its ground and turned into the film's own kind of pixels."""

from __future__ import annotations

import io
import threading
from collections.abc import Callable
from typing import Any, Final

import av
import numpy as np
import numpy.typing as npt

from valley.formats.engraving import dump_pngs
from valley.formats.stage import Box, Scene, Stage

Pixels = npt.NDArray[np.uint8]
_DRAWN_AT_ONCE: Final = 60  # pictures that the typesetter draws in one go
_BRIGHTNESS, _COLOUR, _PACKED = (1, 1), (2, 1), (1, 4)
# The planes of each kind of pixels: by how much it is coarser than the picture, and bytes a pixel.
_PLANES: Final = {
    "rgba": (_PACKED,),
    "argb": (_PACKED,),
    "yuv420p": (_BRIGHTNESS, _COLOUR, _COLOUR),
    "yuva420p": (_BRIGHTNESS, _COLOUR, _COLOUR, _BRIGHTNESS),
}


class Painter:
    """Draws pictures of scenes, once each, for canvases of one kind of pixels; several threads may ask."""

    def __init__(self, stage: Stage, pixels: str = "rgba") -> None:
        self.stage, self.pixels = stage, pixels
        self._lock = threading.Lock()
        self._kept: dict[tuple[Box, str], list[Pixels]] = {}
        width, height = stage.size
        self._paper = np.zeros((height, width, 4), np.uint8)
        if ground := stage.ground():
            box = stage.boxes["ground"]
            picture = _laid(self._paper[box.y : box.y + box.height, box.x : box.x + box.width], read_png(dump_pngs([ground], ppi=96.0)[0]))
            self._paper[box.y : box.y + picture.shape[0], box.x : box.x + picture.shape[1]] = picture
        self.empty = _turn(self._paper, pixels)

    def prepare(self, scenes: list[Scene], on_progress: Callable[[float], None]) -> None:
        """Draw everything that some scenes need."""
        with self._lock:
            wanted = list(dict.fromkeys(place for scene in scenes for place in self.stage.pictures(scene) if place not in self._kept))
            for i in range(0, len(wanted), _DRAWN_AT_ONCE):
                self._draw(wanted[i : i + _DRAWN_AT_ONCE])
                on_progress(min(1.0, (i + _DRAWN_AT_ONCE) / len(wanted)))

    def _draw(self, places: list[tuple[Box, str]]) -> None:
        """Draw pictures and lay each over the ground at its place; no two of a scene overlap."""
        for (box, svg), png in zip(places, dump_pngs([svg for _, svg in places], ppi=96.0), strict=True):
            place = self._paper[box.y : box.y + box.height, box.x : box.x + box.width].copy()
            picture = _laid(place, read_png(png))
            place[: picture.shape[0], : picture.shape[1]] = picture
            self._kept[box, svg] = _turn(place, self.pixels)

    def picture(self, box: Box, svg: str) -> list[Pixels]:
        """The planes of a picture that was prepared."""
        return self._kept[box, svg]


class Canvas:
    """One scene after the other: what stands as it stood is not laid again."""

    def __init__(self, painter: Painter) -> None:
        self._painter = painter
        self._planes = [plane.copy() for plane in painter.empty]
        self._shown: dict[Box, str] = {}

    def paint(self, scene: Scene) -> av.VideoFrame:
        """The whole picture of a scene that was prepared; with a transparent ground, its alpha is straight."""
        wanted = dict(self._painter.stage.pictures(scene))
        for box in self._shown.keys() - wanted.keys():
            self._lay(box, [_cut(plane, box, look) for plane, look in zip(self._painter.empty, _PLANES[self._painter.pixels], strict=True)])
        for box, svg in wanted.items():
            if self._shown.get(box) != svg:
                self._lay(box, self._painter.picture(box, svg))
        self._shown = wanted
        return self._copy()

    def _lay(self, box: Box, planes: list[Pixels]) -> None:
        for whole, piece, look in zip(self._planes, planes, _PLANES[self._painter.pixels], strict=True):
            _cut(whole, box, look)[:] = piece

    def _copy(self) -> av.VideoFrame:
        """A frame of its own: some coders still look at the one before."""
        width, height = self._painter.stage.size
        frame = av.VideoFrame(width, height, self._painter.pixels)
        for plane, filled in zip(frame.planes, self._planes, strict=True):
            _rows(plane)[:, : filled.shape[1]] = filled
        return frame


def _cut(plane: Pixels, box: Box, look: tuple[int, int]) -> Pixels:
    coarser, size = look
    x, width = box.x // coarser * size, box.width // coarser * size
    return plane[box.y // coarser : (box.y + box.height) // coarser, x : x + width]


def _turn(pixels: Pixels, kind: str) -> list[Pixels]:
    """Pixels of shape (height, width, 4), both even, as the planes of another kind: rows of bytes."""
    height, width, _ = pixels.shape
    frame = av.VideoFrame.from_ndarray(np.ascontiguousarray(pixels), format="rgba").reformat(format=kind, dst_colorspace="ITU709")
    return [_rows(plane)[:, : width // coarser * size].copy() for plane, (coarser, size) in zip(frame.planes, _PLANES[kind], strict=True)]


def _rows(plane: Any) -> Pixels:
    """The bytes of a frame's plane, to read and to write: shape (rows, bytes of a row with its padding)."""
    return np.frombuffer(plane, np.uint8).reshape(-1, plane.line_size)


def read_png(png: bytes) -> Pixels:
    """A PNG as an array of shape (height, width, 4)."""
    with av.open(io.BytesIO(png)) as source:
        pixels: Pixels = next(source.decode(video=0)).to_ndarray(format="rgba")
    return pixels


def _laid(ground: Pixels, picture: Pixels) -> Pixels:
    """A picture over a piece of ground, straight alpha; as large as both are."""
    h, w = min(picture.shape[0], ground.shape[0]), min(picture.shape[1], ground.shape[1])
    laid, over = ground[:h, :w].copy(), picture[:h, :w]
    alpha = over[..., 3]
    np.copyto(laid, over, where=(alpha == 255)[..., None])
    rows, columns = np.nonzero((alpha > 0) & (alpha < 255))  # few: only these are blended
    edge, below = over[rows, columns], laid[rows, columns]
    share = edge[:, 3:] / 255
    under = below[:, 3:] / 255 * (1 - share)
    colour = (edge[:, :3] * share + below[:, :3] * under) / (share + under)
    laid[rows, columns] = np.round(np.concatenate([colour, 255 * (share + under)], axis=1)).astype(np.uint8)
    return laid


def write_png(pixels: Pixels) -> bytes:
    """An array of shape (height, width, 4) as a PNG."""
    buffer = io.BytesIO()
    with av.open(buffer, "w", format="image2pipe") as out:
        stream = out.add_stream("png", rate=1)
        stream.height, stream.width, stream.pix_fmt = pixels.shape[0], pixels.shape[1], "rgba"
        out.mux(stream.encode(av.VideoFrame.from_ndarray(np.ascontiguousarray(pixels), format="rgba")))
        out.mux(stream.encode(None))
    return buffer.getvalue()
