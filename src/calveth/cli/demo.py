"""``calveth demo``: the window with the demo, its pictures, or the demo as a project file."""

from __future__ import annotations

import argparse
from pathlib import Path

from calveth.catalogue.apiary import apiary_project
from calveth.catalogue.examples import workshop_project
from calveth.catalogue.shipped import demo_project
from calveth.cli.files import Commands, new_file
from calveth.store.project_file import ProjectFile


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("demo", help="open the window with the demo project")
    p.add_argument(
        "--screenshots", metavar="DIR", help="render every main view to PNG instead of a window"
    )
    p.add_argument(
        "-o", "--output", metavar="FILE", help="write the demo as a project file instead"
    )
    p.add_argument(
        "--workshop", action="store_true", help="five hives to build, in place of the orchard"
    )
    p.add_argument(
        "--apiary",
        action="store_true",
        help="six hives that stand, with two winters of inspections",
    )
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Open the window, or write the pictures or the file."""
    project = demo_project()
    if args.workshop or args.apiary:
        project = workshop_project() if args.workshop else apiary_project()
    if args.output is not None:
        ProjectFile.create(new_file(args.output), project).close()
        print(f"wrote {args.output}")
        return 0
    from calveth.app import launch

    if args.screenshots is not None:
        return launch.screenshots(Path(args.screenshots))
    return launch.demo(project)
