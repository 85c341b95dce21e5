"""Scenes of a film as pixels: each picture is drawn once, in batches, and laid on its ground."""

from __future__ import annotations

import io
from collections.abc import Callable
from typing import Final

import av
import numpy as np
import numpy.typing as npt

from valley.formats.engraving import dump_pngs
from valley.formats.stage import Box, Scene, Stage

Pixels = npt.NDArray[np.uint8]
_DRAWN_AT_ONCE: Final = 60  # pictures that the typesetter draws in one go


class Painter:
    """Draws scenes: each picture once, in batches, and laid on its ground."""

    def __init__(self, stage: Stage) -> None:
        self._stage = stage
        self._kept: dict[tuple[Box, str], Pixels] = {}
        width, height = stage.size
        self._empty = np.zeros((height, width, 4), np.uint8)
        if ground := stage.ground():
            self._draw([(stage.boxes["ground"], ground)])
            self._put(self._empty, stage.boxes["ground"], ground)

    def prepare(self, scenes: list[Scene], on_progress: Callable[[float], None]) -> None:
        """Draw everything that some scenes need."""
        wanted = list(dict.fromkeys(place for scene in scenes for place in self._stage.pictures(scene) if place not in self._kept))
        for i in range(0, len(wanted), _DRAWN_AT_ONCE):
            self._draw(wanted[i : i + _DRAWN_AT_ONCE])
            on_progress(min(1.0, (i + _DRAWN_AT_ONCE) / len(wanted)))

    def _draw(self, places: list[tuple[Box, str]]) -> None:
        """Draw pictures and lay each over the ground at its place; no two of a scene overlap."""
        for (box, svg), png in zip(places, dump_pngs([svg for _, svg in places], ppi=96.0), strict=True):
            self._kept[box, svg] = _laid(self._empty[box.y : box.y + box.height, box.x : box.x + box.width], read_png(png))

    def _put(self, out: Pixels, box: Box, svg: str) -> None:
        picture = self._kept[box, svg]
        out[box.y : box.y + picture.shape[0], box.x : box.x + picture.shape[1]] = picture

    def paint(self, scene: Scene) -> Pixels:
        """The whole picture: shape (height, width, 4), straight alpha."""
        out = self._empty.copy()
        for box, svg in self._stage.pictures(scene):
            self._put(out, box, svg)
        return out


def read_png(png: bytes) -> Pixels:
    """A PNG as an array of shape (height, width, 4)."""
    with av.open(io.BytesIO(png)) as source:
        pixels: Pixels = next(source.decode(video=0)).to_ndarray(format="rgba")
    return pixels


def _laid(ground: Pixels, picture: Pixels) -> Pixels:
    """A picture over a piece of ground, straight alpha; as large as both are."""
    h, w = min(picture.shape[0], ground.shape[0]), min(picture.shape[1], ground.shape[1])
    laid, over = ground[:h, :w].copy(), picture[:h, :w]
    covers = over[..., 3] == 255
    laid[covers] = over[covers]
    edges = ~covers & (over[..., 3] > 0)  # few: only these are blended
    share, below = over[edges][:, 3:] / 255, laid[edges]
    under = below[:, 3:] / 255 * (1 - share)
    colour = (over[edges][:, :3] * share + below[:, :3] * under) / (share + under)
    laid[edges] = np.round(np.concatenate([colour, 255 * (share + under)], axis=1)).astype(np.uint8)
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
