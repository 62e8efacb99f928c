"""``calveth import``: a JSON document as a project file."""

from __future__ import annotations

import argparse
from pathlib import Path

from calveth.cli.files import Commands, output_file
from calveth.store.errors import FileError
from calveth.store.gate import exists
from calveth.store.json_file import read_json
from calveth.store.project_file import ProjectFile


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("import", help="make a project file from JSON")
    p.add_argument("file", help="a JSON document as docs/file-format.md describes it")
    p.add_argument("-o", "--output", required=True, metavar="FILE")
    p.add_argument("--replace", action="store_true", help="write over an existing file")
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Write the project file."""
    output = output_file(args.output, ".calveth")
    if exists(output) and not args.replace:
        raise FileError(output, "exists already; choose another name or add --replace")
    ProjectFile.create(output, read_json(Path(args.file))).close()
    print(f"wrote {args.output}")
    return 0
