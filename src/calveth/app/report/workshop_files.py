"""A build plan as a file, by the ending of its name; for the window and the command line."""

from __future__ import annotations

import json
from pathlib import Path

from calveth.core.project import Project
from calveth.core.workshop.plan import BuildPlan
from calveth.store.build_records import piece_rows, plan_record, plan_tables
from calveth.store.json_file import write_text
from calveth.texts.units import UnitSystem

ENDINGS = (".pdf", ".svg", ".dxf", ".3mf", ".stl", ".csv", ".xlsx", ".ods", ".json")


def write_plan(path: Path, plan: BuildPlan, project: Project, units: UnitSystem) -> list[str]:
    """Write a plan in the form the ending of a file says; return the names of what was written.

    Sheets (PDF) want an application of Qt.

    Raises
    ------
    FileError
        When it cannot be written.
    """
    table, ending = project.material_table(), path.suffix.lower()
    if ending == ".json":
        record = plan_record(plan, table, project.workshop.currency)
        write_text(path, json.dumps(record, ensure_ascii=False, indent=1, allow_nan=False) + "\n")
    elif ending == ".csv":
        from calveth.store.tables import write_csv

        write_csv(path, piece_rows(plan, table))
    elif ending == ".xlsx":
        from calveth.store.tables import write_workbook

        write_workbook(path, plan_tables(plan, table))
    elif ending == ".ods":
        from calveth.store.ods import write_ods

        write_ods(path, plan_tables(plan, table))
    elif ending == ".pdf":
        from calveth.app.report.workshop import write_workshop_pdf

        write_workshop_pdf(path, plan, project, units)
    else:
        from calveth.drawing import sheets_out

        return [Path(name).name for name in sheets_out.write(path, plan, table, units)]
    return [path.name]
