"""``calveth new``: a project file to start from."""

from __future__ import annotations

import argparse

from calveth.catalogue.library import (
    named,
    new_project,
    shipped_frames,
    shipped_make_ups,
    shipped_places,
)
from calveth.cli.files import Commands, new_file
from calveth.core.colony.curves import STRENGTHS
from calveth.core.errors import plain
from calveth.store.project_file import ProjectFile


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("new", help="make a project with one hive and two benchmarks")
    p.add_argument("file", help="name of the new .calveth file")
    p.add_argument("--place", default="lake-velm", help="id of a shipped place (calveth places)")
    p.add_argument(
        "--frames",
        default="deep-10x2",
        help="cavity: " + ", ".join(f.id for f in shipped_frames()),
    )
    p.add_argument(
        "--make-up",
        default="heavy",
        help="construction: " + ", ".join(m.id for m in shipped_make_ups()),
    )
    p.add_argument("--colony", choices=STRENGTHS, default="normal")
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Write the project file; an existing one is never written over."""
    path = new_file(args.file)
    project = new_project(
        plain(path.stem, 100) or "hives",
        named("place", args.place, shipped_places()),
        named("frames", args.frames, shipped_frames()),
        named("make-up", args.make_up, shipped_make_ups()),
        args.colony,
    )
    ProjectFile.create(path, project).close()
    print(f"wrote {args.file}")
    return 0
