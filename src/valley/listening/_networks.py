"""The trained networks that ship with Valley, run by ONNX Runtime on the processor.

The number of threads is fixed, so that the same input gives the same output whatever else runs.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from importlib.resources import files

import numpy as np
import numpy.typing as npt

Floats = npt.NDArray[np.float32]
_THREADS = 2


@cache
def load_network(name: str) -> Callable[..., Floats]:
    """A network by its name; called with its inputs by name, it gives its one output.

    Parameters
    ----------
    name : of a file in ``networks/``, without its ending
    """
    import onnxruntime as ort  # a tenth of a second, and only who listens needs it

    options = ort.SessionOptions()
    options.intra_op_num_threads = _THREADS
    options.inter_op_num_threads = 1
    options.log_severity_level = 3
    options.enable_cpu_mem_arena = False  # it would keep all the room that its largest step needed
    model = (files("valley.listening") / "networks" / f"{name}.onnx").read_bytes()
    session = ort.InferenceSession(model, options, providers=["CPUExecutionProvider"])

    def run(**inputs: Floats) -> Floats:
        return np.asarray(session.run(None, inputs)[0], np.float32)

    return run
