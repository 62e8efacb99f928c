"""What the window writes: report, drawings, tables."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from pathlib import Path

from calveth.catalogue.shipped import shipped_materials
from calveth.core.advice.dossier import Dossier, joints_in, make_dossier
from calveth.core.advice.remedies import remedies
from calveth.core.case import estimated_case
from calveth.core.project import Project
from calveth.store.errors import FileError
from calveth.store.report_tables import report_tables
from calveth.store.tables import write_csv, write_workbook

Known = Mapping[str, Dossier | None]


def assess_for_report(
    project: Project, known: Known, report: Callable[[float], None]
) -> tuple[Dossier, ...]:
    """Return everything about all designs of a project; for a worker.

    ``known`` is what the window has worked out; only what is missing in it is worked out here.
    """
    catalogue = {m.id: m for m in shipped_materials()}
    assessed = []
    for number, design in enumerate(project.designs):

        def part(share: float, done: int = number) -> None:
            report((done + share) / len(project.designs))

        assessment = known.get(design.id)
        if assessment is None:
            case = estimated_case(project, design)
            assessment = make_dossier(case, catalogue=catalogue, report=part)
        elif not assessment.remedies_tried:
            tried = remedies(assessment.monthly, catalogue, part)
            joints = assessment.joints or joints_in(assessment.monthly)
            assessment = replace(
                assessment, remedies=tuple(tried), joints=joints, remedies_tried=True
            )
        assessed.append(assessment)
        part(1.0)
    return tuple(assessed)


def write_tables(
    path: Path, project: Project, wholes: tuple[Dossier, ...], month: int
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
