"""The web server's process: ``python -m valley_web.common.web_server ADDRESS:PORT``, as ``serve`` starts it.

A client that sends half a request or does not read its answer keeps a thread for ``PATIENCE`` seconds without a byte, and no longer; connections
that only wait for another request take none.
"""

import gc
import logging
import os
import signal
import sys
from importlib import import_module
from typing import Any

from cheroot.wsgi import Server

from valley_web.common.supervised import end_with_supervisor

PATIENCE = 20  # seconds without a byte, after which a connection is closed
THREADS = 32
_RUBBISH = 20_000  # objects made between two looks for such as refer to each other only: with songs held, a whole look takes as long as a correction
_WAITING_CLIENTS = 400  # connections kept for another request
logger = logging.getLogger(__name__)


class WebServer(Server):
    """The library's own, telling its troubles to the log."""

    keep_alive_conn_limit = _WAITING_CLIENTS

    def error_log(self, msg: str = "", level: int = logging.INFO, traceback: bool = False) -> None:
        """Where the library has something to say."""
        logger.log(level, msg, exc_info=traceback)


def make_server(bind: str, application: Any) -> WebServer:
    """A server for an address and port, such as ``127.0.0.1:8000`` or ``[::]:8000``."""
    host, _, port = bind.rpartition(":")
    return WebServer((host.strip("[]"), int(port)), application, numthreads=THREADS, request_queue_size=256, timeout=PATIENCE, shutdown_timeout=3)


def _stop(signum: int, frame: object) -> None:
    raise SystemExit(0)


def main() -> None:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "valley_web.config.settings")
    from django.conf import settings
    from django.core.wsgi import get_wsgi_application

    application = get_wsgi_application()
    import_module(settings.ROOT_URLCONF)  # else the first to ask would wait for it
    gc.freeze()  # what is loaded now stays
    gc.set_threshold(_RUBBISH, 20, 50)
    server = make_server(sys.argv[1], application)
    for sign in (signal.SIGTERM, signal.SIGINT):
        signal.signal(sign, _stop)
    end_with_supervisor()
    try:
        server.start()
    finally:
        server.stop()


if __name__ == "__main__":
    main()
