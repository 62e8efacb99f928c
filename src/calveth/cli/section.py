"""``calveth section``: a hive cut open, true to scale, as SVG in millimetres."""

from __future__ import annotations

import argparse

from calveth.cli.files import Commands, find_design, finite, month_index, output_file, read_project
from calveth.core.errors import require_between
from calveth.core.hive.by_month import in_month
from calveth.drawing.document import write_section

_LEAST, _MOST = 1.0, 50.0


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("section", help="a hive cut open, true to scale, as SVG in mm")
    p.add_argument("file", help="a .calveth or .json project")
    p.add_argument("--design", required=True, help="id or name of the design")
    p.add_argument("--scale", metavar="N", default="5", help="1 to N, such as 1 or 5 (default)")
    p.add_argument("--month", metavar="M", help="1 to 12, as its plan sets it (the coldest)")
    p.add_argument("-o", "--output", required=True, metavar="X.svg")
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Write the section."""
    path = output_file(args.output, ".svg")
    project = read_project(args.file)
    design = find_design(project, args.design)
    scale = finite("--scale", args.scale)
    require_between("--scale", scale, _LEAST, _MOST)
    month = month_index(args.month, project.place)
    write_section(path, in_month(design, month), project.material_table(), scale)
    print(f"wrote {args.output}, 1:{scale:g}")
    return 0
