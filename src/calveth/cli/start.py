"""``calveth start``: the window where the user left off; what ``calveth`` alone does."""

from __future__ import annotations

import argparse

from calveth.cli.files import Commands


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("start", help="open the window where you left off")
    p.set_defaults(run=run)


def run(_: argparse.Namespace) -> int:
    """Open the window."""
    from calveth.app import launch

    return launch.start()
