"""Entry point ``calveth``: finds the sub-command, turns errors into one sentence and an exit code.

Exit codes: 0 fine, 1 a check failed, 2 bad input, 130 stopped with Ctrl-C.
"""

from __future__ import annotations

import argparse
import contextlib
import io
import os
import sys
from collections.abc import Sequence
from importlib import import_module
from typing import TextIO

from calveth import __version__
from calveth.cli.progress import progress
from calveth.core.errors import CalvethError, plain

_COMMANDS = (
    "demo",
    "start",
    "open",
    "new",
    "assess",
    "compare",
    "build",
    "stock",
    "conduct",
    "findings",
    "sweep",
    "sizes",
    "year",
    "pairs",
    "travel",
    "diary",
    "due",
    "log",
    "calibrate",
    "feed-table",
    "propose",
    "room",
    "room-hours",
    "report",
    "places",
    "materials",
    "verify",
    "import-weather",
    "export",
    "section",
    "import",
    "integrate",
)
_MODULES = {"open": "open_project", "import": "import_json"}
"""Modules that could not be named as their command is."""
_WINDOWS = ("start", "open")
STOPPED = 130


def build_parser(only: str = "") -> argparse.ArgumentParser:
    """Return the parser with every sub-command, or with one alone.

    Each command brings what it works with, which takes a second for all of them.
    """
    parser = argparse.ArgumentParser(
        prog="calveth",
        description="Heat, damp and air of an insulated bee hive, worked out before it is built. "
        "Without a command it opens the window where you left off; “calveth FILE” opens a project.",
    )
    parser.add_argument("--version", action="version", version=f"calveth {__version__}")
    commands = parser.add_subparsers(dest="command", required=True, metavar="COMMAND")
    for command in (only,) if only in _COMMANDS else _COMMANDS:
        module = _MODULES.get(command, command.replace("-", "_"))
        import_module(f"calveth.cli.{module}").add_parser(commands)
    return parser


def with_command(arguments: Sequence[str]) -> list[str]:
    """Return the arguments with the command left out put in: none starts, a file opens."""
    given = list(arguments)
    if not given:
        return ["start"]
    first = given[0]
    looks_like_a_file = first.lower().endswith(".calveth") or "/" in first
    if first.startswith("-") or first in _COMMANDS or not looks_like_a_file:
        return given
    return ["open", *given]


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command line and return its exit code."""
    _ready_the_streams()
    given = with_command(sys.argv[1:] if arguments is None else arguments)
    command = plain(given[0], 40)
    try:
        args = build_parser(given[0]).parse_args(given)
        # A window tells of its own work.
        with contextlib.nullcontext() if command in _WINDOWS else progress(command):
            code: int = args.run(args)
            sys.stdout.flush()
        return code
    except CalvethError as error:
        return _refuse(command, str(error))
    except BrokenPipeError:
        # The reader (head, less) has left; point stdout away so that the exit is quiet too.
        _let_go_of(sys.stdout)
        return 0
    except KeyboardInterrupt:
        _let_go_of(sys.stdout)
        print(f"\ncalveth {command}: stopped", file=sys.stderr)
        return STOPPED
    except MemoryError:
        return _refuse(command, "there is not enough memory for it; close other programs")
    except OSError as error:
        return _refuse(command, _of_the_system(error))


def _ready_the_streams() -> None:
    """Have output that cannot be written in the terminal's letters shown as marks, not fail.

    A stream that was closed before the start goes nowhere.
    """
    for name in ("stdout", "stderr"):
        stream: TextIO | None = getattr(sys, name)
        if stream is None:
            setattr(sys, name, io.StringIO())
            continue
        with contextlib.suppress(AttributeError, ValueError, OSError):
            stream.reconfigure(errors="replace")  # type: ignore[attr-defined]


def _refuse(command: str, sentence: str) -> int:
    _let_go_of(sys.stdout, flush=True)
    with contextlib.suppress(OSError, ValueError):
        print(f"calveth {command}: {sentence}", file=sys.stderr, flush=True)
    return 2


def _of_the_system(error: OSError) -> str:
    """Return a sentence for an error of the system nobody expected: output, or a path."""
    where = plain(str(error.filename), 80) + ": " if error.filename else "the output: "
    return f"{where}{error.strerror or error}; make room or choose another place"


def _let_go_of(stream: TextIO, *, flush: bool = False) -> None:
    """Point a stream that cannot be written away, so that the exit does not fail on it."""
    if flush:
        try:
            stream.flush()
            return
        except (OSError, ValueError):
            pass
    with contextlib.suppress(OSError, ValueError, AttributeError):
        os.dup2(os.open(os.devnull, os.O_WRONLY), stream.fileno())
