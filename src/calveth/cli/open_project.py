"""``calveth open``: the window with a project."""

from __future__ import annotations

import argparse
from pathlib import Path

from calveth.cli.files import Commands


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("open", help="open the window with a project")
    p.add_argument("file", help="a .calveth project")
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Open the window."""
    from calveth.app import launch

    return launch.open_file(Path(args.file))
