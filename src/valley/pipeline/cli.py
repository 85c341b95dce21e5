"""The command line of ``valley``. It only parses and prints; the commands stand in ``commands/``."""

from __future__ import annotations

import argparse
import os
import sys
from collections.abc import Callable, Sequence
from importlib import import_module

from valley import __version__
from valley.errors import ValleyError
from valley.pipeline.commands import COMMANDS

BAD_INPUT = 2


def build_parser(wanted: str = "") -> argparse.ArgumentParser:
    """The parser with every command named, and the options of the one that is wanted: the others are never loaded."""
    parser = argparse.ArgumentParser(prog="valley", description="From a recorded song to a two-handed piano lesson.")
    parser.add_argument("--version", action="version", version=f"valley {__version__}")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    for command in COMMANDS:
        options = commands.add_parser(command.name, help=command.help)
        if command.name == wanted:
            module = import_module(f"valley.pipeline.commands.{command.module}")
            getattr(module, f"add_{command.name}")(options)
    return parser


def main(argv: Sequence[str] | None = None) -> int:
    """Run one command; the exit status is 2 for bad input, with one sentence on standard error."""
    words = sys.argv[1:] if argv is None else list(argv)
    args = build_parser(next((w for w in words if not w.startswith("-")), "")).parse_args(words)
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
