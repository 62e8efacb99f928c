"""``calveth report``: the printed report as PDF, or its tables as a workbook."""

from __future__ import annotations

import argparse

from calveth.catalogue.shipped import shipped_materials
from calveth.cli.files import (
    Commands,
    add_format,
    month_index,
    output_file,
    print_json,
    read_project,
)
from calveth.cli.progress import part
from calveth.core.advice.dossier import make_dossier
from calveth.core.case import estimated_case
from calveth.core.year.draws import REPORT_DRAWS
from calveth.texts.units import INCH, METRIC

# How much of the work is done when every hive is assessed; years and pages follow.
_HIVES = 0.5


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("report", help="the printed report (PDF), or its tables (XLSX)")
    p.add_argument("file", help="a .calveth or .json project")
    p.add_argument("-o", "--output", required=True, metavar="X.pdf", help="a .pdf or .xlsx file")
    p.add_argument("--month", metavar="M", help="1 to 12 (default the coldest)")
    p.add_argument("--tables", action="store_true", help="with an appendix of every table")
    p.add_argument("--inch", action="store_true", help="inch, °F, lb and R-values")
    add_format(p, ("text", "json"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Write the report and say what was written."""
    path = output_file(args.output, ".pdf", ".xlsx")
    project = read_project(args.file)
    month = month_index(args.month, project.place)
    catalogue = {m.id: m for m in shipped_materials()}
    count = len(project.designs)
    wholes = [
        make_dossier(
            estimated_case(project, d),
            catalogue=catalogue,
            report=part(_HIVES * k / count, _HIVES * (k + 1) / count),
        )
        for k, d in enumerate(project.designs)
    ]
    if path.suffix.lower() == ".xlsx":
        from calveth.store.report_tables import report_tables
        from calveth.store.tables import write_workbook

        tables = report_tables(project, wholes, month)
        write_workbook(path, tables)
        summary = {"file": args.output, "sheets": list(tables)}
    else:
        from calveth.app.launch import prepare_offscreen

        app = prepare_offscreen()
        from calveth.app.report.pdf import write_report
        from calveth.core.year.draws import kept_year_bands

        units = INCH if args.inch else METRIC
        years = kept_year_bands([w.monthly.case for w in wholes], REPORT_DRAWS, part(_HIVES, 0.9))
        pages = write_report(
            path, project, wholes, month=month, units=units, years=years, tables=args.tables
        )
        summary = {"file": args.output, "pages": pages}
        del app
    if args.format == "json":
        print_json(summary)
    else:
        print(
            "wrote " + ", ".join(f"{v}" if k == "file" else f"{k} {v}" for k, v in summary.items())
        )
    return 0
