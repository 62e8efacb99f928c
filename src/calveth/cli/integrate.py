"""``calveth integrate``: menu entry, icon and kind of file for the desktop; undone by --remove."""

from __future__ import annotations

import argparse
import os
import shutil
import sys
from pathlib import Path

from calveth.cli.files import Commands


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("integrate", help="menu entry, icon and kind of file for the desktop")
    p.add_argument("--remove", action="store_true", help="take them away again")
    p.add_argument("--data", metavar="DIR", help="folder of data (default the user's own)")
    p.add_argument(
        "--command", metavar="X", dest="program", help="what opens a project (default this one)"
    )
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Write or remove the files, and name each."""
    from calveth.app.integration import integrate, remove

    home = os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share"
    data = Path(args.data) if args.data else Path(home)
    if args.remove:
        gone = remove(data)
        print("\n".join(f"removed {path}" for path in gone) or "there was nothing to remove")
        return 0
    for path in integrate(data, args.program or this_command()):
        print(f"wrote {path}")
    return 0


def this_command() -> str:
    """Return the path of the program that runs."""
    beside = Path(sys.executable).parent / "calveth"
    if beside.exists():
        return str(beside.absolute())
    return shutil.which("calveth") or "calveth"
