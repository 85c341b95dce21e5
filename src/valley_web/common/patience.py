"""The web server's worker, which does not wait for ever on clients that send half a request or do not read their answer."""

import socket
import struct
from typing import Any

from gunicorn.workers.gthread import ThreadWorker  # type: ignore[import-untyped]

PATIENCE = 20  # seconds without a byte, after which a connection is closed


class PatientWorker(ThreadWorker):
    """A thread is kept by a client for as long as bytes go to and fro, and no longer."""

    def handle(self, conn: Any) -> Any:
        """As gunicorn does it, with the kernel's own time limit on every read and write."""
        limit = struct.pack("ll", PATIENCE, 0)
        for option in (socket.SO_RCVTIMEO, socket.SO_SNDTIMEO):
            conn.sock.setsockopt(socket.SOL_SOCKET, option, limit)
        try:
            return super().handle(conn)
        except BlockingIOError:  # nothing came, or nothing was taken, for so long
            return False
