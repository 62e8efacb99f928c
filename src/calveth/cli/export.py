"""``calveth export``: a project as one JSON document."""

from __future__ import annotations

import argparse

from calveth.cli.files import Commands, output_file, read_project
from calveth.store.json_file import write_json


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("export", help="write a project as JSON")
    p.add_argument("file", help="a .calveth project")
    p.add_argument("-o", "--output", required=True, metavar="X.json")
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Write the JSON file."""
    path = output_file(args.output, ".json")
    write_json(path, read_project(args.file))
    print(f"wrote {args.output}")
    return 0
