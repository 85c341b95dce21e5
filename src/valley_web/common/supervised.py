"""A process that never outlives the one that started it, however that one ends: its standard input is a pipe, which the system closes then."""

import _thread
import os
import signal
import threading

SIGN = "VALLEY_SUPERVISED"


def end_with_supervisor() -> None:
    """End, as after an ordinary stop, when the supervisor has ended. Nothing where this process was started by hand."""
    if os.environ.get(SIGN) == "1":
        threading.Thread(target=_wait, daemon=True).start()


def _wait() -> None:
    while os.read(0, 4096):  # not by sys.stdin, whose lock would be held when this process ends by itself
        pass
    _thread.interrupt_main(signal.SIGTERM)
