"""The command line of ``valley``. It only parses and prints; the commands stand in ``commands/``."""

from __future__ import annotations

import argparse
import os
import sys
from collections.abc import Callable, Sequence

from valley import __version__
from valley.errors import ValleyError
from valley.pipeline.commands import MODULES

BAD_INPUT = 2


def build_parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="valley", description="From a recorded song to a two-handed piano lesson.")
    parser.add_argument("--version", action="version", version=f"valley {__version__}")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    for module in MODULES:
        module.add(commands)
    return parser


def main(argv: Sequence[str] | None = None) -> int:
    """Run one command; the exit status is 2 for bad input, with one sentence on standard error."""
    args = build_parser().parse_args(argv)
    run: Callable[[argparse.Namespace], int | None] = args.run
    try:
        return run(args) or 0
    except ValleyError as error:
        sys.stderr.write(f"valley: {error}\n")
        return BAD_INPUT
    except FileNotFoundError as error:
        sys.stderr.write(f"valley: There is no file {error.filename!r}; check the name and the folder.\n")
        return BAD_INPUT
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())  # whoever read has gone; nothing more to say
        return 0
    except OSError as error:
        sys.stderr.write(f"valley: {error.strerror or error}: {error.filename or 'the output'}; nothing was left half written.\n")
        return 1
    except KeyboardInterrupt:
        sys.stderr.write("valley: stopped; nothing was written.\n")
        return 130


if __name__ == "__main__":
    sys.exit(main())
