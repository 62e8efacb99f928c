"""``calveth demo``: the window with the demo, or its pictures where there is no display."""

from __future__ import annotations

import argparse
from pathlib import Path

from calveth.cli.files import Commands


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("demo", help="open the window with the demo project")
    p.add_argument(
        "--screenshots", metavar="DIR", help="render every main view to PNG instead of a window"
    )
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Open the window or write the pictures."""
    from calveth.app import launch

    if args.screenshots:
        return launch.screenshots(Path(args.screenshots))
    return launch.demo()
