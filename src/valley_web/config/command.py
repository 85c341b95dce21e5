"""The command ``valley``: what the core does with files, and what keeps the web application."""

import os
import sys
from collections.abc import Sequence

from valley.pipeline.cli import main as core_main

OURS = {
    "serve": "start Valley in the browser: the server and the worker",
    "listen": "listen to recordings for a Valley on another machine",
    "backup": "make a copy of everything: songs with their history, recordings, records",
    "restore": "put a copy in the place of what is there now",
}


def main(argv: Sequence[str] | None = None) -> int:
    """Run one command; gives its exit status."""
    words = list(sys.argv[1:] if argv is None else argv)
    if words[:1] and words[0] in OURS:
        return _run_ours(words)
    if words[:1] in (["--help"], ["-h"]):
        try:
            return core_main(words)
        finally:
            rows = "".join(f"  {name:12s}{what}\n" for name, what in OURS.items())
            sys.stdout.write(f"\nthe web application:\n{rows}")
    return core_main(words)


def _run_ours(words: list[str]) -> int:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "valley_web.config.settings")
    from django.core.management import call_command, execute_from_command_line

    if words[0] == "serve" and not {"--help", "-h"} & set(words):
        import django

        django.setup()
        call_command("migrate", verbosity=0)
    execute_from_command_line(["valley", *words])
    return 0


if __name__ == "__main__":
    sys.exit(main())
