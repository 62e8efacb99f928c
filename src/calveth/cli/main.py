"""Entry point ``calveth``: finds the sub-command, turns errors into one sentence and an exit code.

Exit codes: 0 fine, 1 a check failed, 2 bad input.
"""

from __future__ import annotations

import argparse
import os
import sys
from collections.abc import Sequence

from calveth import __version__
from calveth.cli import (
    assess,
    compare,
    conduct,
    demo,
    export,
    findings,
    import_json,
    import_weather,
    materials,
    new,
    open_project,
    places,
    report,
    room,
    sweep,
    verify,
)
from calveth.core.errors import CalvethError

_COMMANDS = (
    demo,
    open_project,
    new,
    assess,
    compare,
    conduct,
    findings,
    sweep,
    room,
    report,
    places,
    materials,
    verify,
    import_weather,
    export,
    import_json,
)


def build_parser() -> argparse.ArgumentParser:
    """Return the parser with every sub-command."""
    parser = argparse.ArgumentParser(
        prog="calveth",
        description="Heat, damp and air of an insulated bee hive, worked out before it is built.",
    )
    parser.add_argument("--version", action="version", version=f"calveth {__version__}")
    commands = parser.add_subparsers(dest="command", required=True, metavar="COMMAND")
    for command in _COMMANDS:
        command.add_parser(commands)
    return parser


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command line and return its exit code."""
    args = build_parser().parse_args(arguments)
    try:
        code: int = args.run(args)
        sys.stdout.flush()
        return code
    except CalvethError as error:
        print(f"calveth {args.command}: {error}", file=sys.stderr)
        return 2
    except BrokenPipeError:
        # The reader (head, less) has left; point stdout away so that the exit is quiet too.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0


if __name__ == "__main__":
    sys.exit(main())
