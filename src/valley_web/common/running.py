"""Whether Valley runs on a data folder: who serves it holds a lock on a file in it, which the system lets go when the process ends, however it ends."""

from pathlib import Path
from typing import IO

import portalocker
from portalocker import LockFlags

_NAME = "running"


def hold(data: Path) -> IO[str]:
    """Say that Valley runs on this folder, as long as what is given back stays open. Several may."""
    file = (data / _NAME).open("a")
    portalocker.lock(file, LockFlags.SHARED)
    return file


def is_running(data: Path) -> bool:
    """Whether anybody holds it."""
    path = data / _NAME
    if not path.exists():
        return False
    with path.open("a") as file:
        try:
            portalocker.lock(file, LockFlags.EXCLUSIVE | LockFlags.NON_BLOCKING)
        except portalocker.LockException:
            return True
    return False
