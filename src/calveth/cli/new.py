"""``calveth new``: a project file to start from."""

from __future__ import annotations

import argparse
from pathlib import Path

from calveth.catalogue.shipped import starter_project
from calveth.cli.files import Commands
from calveth.store.errors import FileError
from calveth.store.project_file import ProjectFile


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("new", help="make a project with one timber box and two benchmarks")
    p.add_argument("file", help="name of the new .calveth file")
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Write the project file; an existing one is never written over."""
    path = Path(args.file)
    if path.exists():
        raise FileError(path, "exists already; choose another name")
    ProjectFile.create(path, starter_project(path.stem)).close()
    print(f"wrote {args.file}")
    return 0
