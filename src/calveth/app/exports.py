"""What the window writes: report, drawings, tables."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from calveth.catalogue.shipped import shipped_materials
from calveth.core.assess.whole import WholeAssessment, assess_whole
from calveth.core.project import Project
from calveth.core.units import UnitSystem
from calveth.store.errors import FileError
from calveth.store.report_tables import report_tables
from calveth.store.tables import write_csv, write_workbook

_MOST_DESIGNS = 8


def assess_for_report(
    project: Project, report: Callable[[float], None]
) -> tuple[WholeAssessment, ...]:
    """Return everything about the designs of a report; for a worker."""
    catalogue = {m.id: m for m in shipped_materials()}
    designs = project.designs[:_MOST_DESIGNS]
    found = []
    for number, design in enumerate(designs):
        found.append(
            assess_whole(
                design,
                project.place,
                project.colony,
                project.material_table(),
                catalogue=catalogue,
                report=lambda share, n=number: report((n + share) / len(designs)),  # type: ignore[misc]
            )
        )
    return tuple(found)


def write_pdf(
    path: Path, project: Project, wholes: tuple[WholeAssessment, ...], month: int,
    units: UnitSystem,
) -> None:  # fmt: skip
    """Write the report; must run in the interface thread, for it draws."""
    from calveth.app.report.pdf import write_report

    write_report(path, project, wholes, month=month, units=units)


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
