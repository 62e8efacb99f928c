"""What the window writes: report, drawings, tables."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from pathlib import Path

from calveth.catalogue.shipped import shipped_materials
from calveth.core.advice.remedies import remedies
from calveth.core.advice.whole import WholeAssessment, assess_whole, joints_in
from calveth.core.case import estimated_case
from calveth.core.project import Project
from calveth.store.errors import FileError
from calveth.store.report_tables import report_tables
from calveth.store.tables import write_csv, write_workbook

Known = Mapping[str, WholeAssessment | None]


def assess_for_report(
    project: Project, known: Known, report: Callable[[float], None]
) -> tuple[WholeAssessment, ...]:
    """Return everything about all designs of a project; for a worker.

    ``known`` is what the window has worked out; only what is missing in it is worked out here.
    """
    catalogue = {m.id: m for m in shipped_materials()}
    found = []
    for number, design in enumerate(project.designs):

        def part(share: float, done: int = number) -> None:
            report((done + share) / len(project.designs))

        whole = known.get(design.id)
        if whole is None:
            case = estimated_case(project, design)
            whole = assess_whole(case, catalogue=catalogue, report=part)
        elif not whole.remedies_tried:
            tried = remedies(whole.monthly, catalogue, part)
            joints = whole.joints or joints_in(whole.monthly)
            whole = replace(whole, remedies=tuple(tried), joints=joints, remedies_tried=True)
        found.append(whole)
        part(1.0)
    return tuple(found)


def write_tables(
    path: Path, project: Project, wholes: tuple[WholeAssessment, ...], month: int
) -> list[Path]:
    """Write all tables into a workbook, or as CSV files beside each other; return their names.

    Raises
    ------
    FileError
        When the ending is another one or a file cannot be written.
    """
    tables = report_tables(project, wholes, month)
    if path.suffix.lower() == ".xlsx":
        write_workbook(path, tables)
        return [path]
    if path.suffix.lower() != ".csv":
        raise FileError(path, "must end in .xlsx or .csv")
    written = []
    for name, rows in tables.items():
        target = path.with_name(f"{path.stem}-{name}.csv")
        write_csv(target, rows)
        written.append(target)
    return written
