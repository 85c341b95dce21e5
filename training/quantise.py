"""Write the ear in whole numbers: the same network, heard alike, in less than half the time.

    python training/quantise.py EAR.onnx DATA OUT.onnx

DATA are prepared songs (``prepare.py``), of which the range of each layer is measured. Convolutions, sums and rectifiers are kept in eight bits, weights
in seven, so that no processor's narrow sums run over and every machine hears the same; the last layer stays as it is, since the ends of notes are
read from small differences in it. Needs onnx beside onnxruntime.
"""

from __future__ import annotations

import sys
import tempfile
from pathlib import Path

import numpy as np
import onnx
from onnxruntime.quantization import CalibrationDataReader, CalibrationMethod, QuantFormat, QuantType, quantize_static
from onnxruntime.quantization.shape_inference import quant_pre_process

SONGS, FRAMES = 30, 500  # looked at, in each


class Excerpts(CalibrationDataReader):
    """Ten seconds from the middle of songs spread over the folder."""

    def __init__(self, folder: Path) -> None:
        paths = sorted(folder.glob("*.npz"))
        self.rows = iter([self._cut(path) for path in paths[:: max(1, len(paths) // SONGS)]])

    def _cut(self, path: Path) -> dict[str, np.ndarray]:
        with np.load(path) as song:
            at = max(0, (len(song["long"]) - FRAMES) // 2)
            return {name: song[name][None, at : at + FRAMES].astype(np.float32) for name in ("long", "short")}

    def get_next(self) -> dict[str, np.ndarray] | None:
        return next(self.rows, None)


def main() -> None:
    source, data, out = map(Path, sys.argv[1:])
    with tempfile.TemporaryDirectory() as folder:
        ready = Path(folder) / "ready.onnx"
        quant_pre_process(str(source), str(ready))
        last = [node.name for node in onnx.load(str(ready)).graph.node if node.op_type == "Conv"][-1]
        quantize_static(
            str(ready),
            str(out),
            Excerpts(data),
            quant_format=QuantFormat.QDQ,
            per_channel=True,
            reduce_range=True,
            activation_type=QuantType.QUInt8,
            weight_type=QuantType.QInt8,
            calibrate_method=CalibrationMethod.MinMax,
            nodes_to_exclude=[last],
            op_types_to_quantize=["Conv", "Add", "Relu"],
        )


if __name__ == "__main__":
    main()
