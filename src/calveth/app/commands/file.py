"""What can be done with files: new, open, save, weather, reports and tables."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from calveth.app.areas.place_area import UNSURE_FIELDS
from calveth.app.areas.year_model import BEES_ROWS
from calveth.app.commands.context import Context
from calveth.app.cutaway.view import scene
from calveth.app.document import Document
from calveth.catalogue.shipped import demo_project
from calveth.core.edits import set_weather
from calveth.core.errors import CalvethError
from calveth.core.hive.by_month import in_month
from calveth.core.project import Project
from calveth.store.atomic_write import try_to_write
from calveth.store.json_file import write_json
from calveth.store.project_file import ProjectFile
from calveth.store.working_copy import claim, unnamed_work, working_copy

if TYPE_CHECKING:
    from collections.abc import Callable

    from calveth.core.advice.dossier import Dossier
    from calveth.store.weather import WeatherImport

# Of sections to scale: five millimetres of the hive are one of the page.
_SCALE = 5.0


def new(c: Context) -> None:
    """Begin a project in three steps."""
    project = c.prompts.new_project(c.parent)
    if project is not None:
        begin(c, project)


def open_demo(c: Context) -> None:
    """Begin with the demo."""
    begin(c, demo_project())


def open_workshop(c: Context) -> None:
    """Begin with five hives to build: sleeve, block trough, trapezoid, stingless stack, cast."""
    from calveth.catalogue.examples import workshop_project

    begin(c, workshop_project())


def open_apiary(c: Context) -> None:
    """Begin with six hives that stand by the lake, and two winters of inspections."""
    from calveth.catalogue.apiary import apiary_project

    begin(c, apiary_project())


def begin(c: Context, project: Project) -> None:
    """Go on with a project that has no name yet, kept in a working copy."""
    if not may_leave(c):
        return
    made: list[ProjectFile] = []
    if c.attempt(lambda: made.append(working_copy(project))):
        c.frame.adopt(Document(project, made[0]))


def may_leave(c: Context) -> bool:
    """Return whether the project may be put away: all of it is in a file, or is given up."""
    while c.document.would_lose:
        answer = c.prompts.unsaved(c.parent, c.document.write_problem)
        if answer == "lose":
            return True
        if answer == "stay" or not save_as(c):
            return False
    return True


def save(c: Context) -> bool:
    """Save; asks for a name the first time. Later edits are written as they are made."""
    if c.document.path is None:
        return save_as(c)
    if not c.attempt(c.document.save):
        return False
    c.frame.say(f"saved in {c.document.path.name}")
    return True


def save_as(c: Context) -> bool:
    """Save under a name the user gives."""
    path = c.prompts.save_path(c.parent, f"{c.document.project.name}.calveth")
    if path is None or not c.attempt(lambda: c.document.save_as(path)):
        return False
    c.preferences.remember(path)
    c.frame.say(f"saved in {path.name}")
    return True


def open(c: Context, path: Path | None = None) -> None:
    """Open a project in place of this one."""
    chosen = path or c.prompts.open_path(c.parent)
    if chosen is None or not may_leave(c):
        return
    open_in(c, chosen, named=True)


def open_in(c: Context, path_asked: Path, *, named: bool) -> bool:
    """Open a file in this window; one without a name stays a working copy."""
    opened: list[Document] = []

    def read() -> None:
        file = ProjectFile.open(path_asked if named else claim(path_asked))
        try:
            opened.append(Document(file.read(), file, named=named, disposable=False))
        except CalvethError:
            file.close()
            raise

    if not c.attempt(read):
        return False
    c.frame.adopt(opened[0])
    if named:
        c.preferences.remember(path_asked)
    return True


def open_working_copy(c: Context) -> None:
    """Offer what was changed in an earlier session and never given a name."""
    work = unnamed_work()
    if not work:
        c.frame.say("there is no work without a name")
        return
    path = c.prompts.unnamed(c.parent, work)
    if path is not None and may_leave(c):
        open_in(c, path, named=False)


def import_weather(c: Context) -> None:
    """Read a weather file, show what it brings, and make it the place."""
    path = c.prompts.weather_path(c.parent)
    if path is None:
        return
    document, view = c.document, c.view

    def work() -> object:
        from calveth.store.weather import import_weather  # pulls in a second's worth of pvlib

        return import_weather(path)

    def done(answer: object) -> None:
        imported: WeatherImport = answer  # type: ignore[assignment]
        c.frame.say("")
        bees = c.prompts.accept_weather(c.parent, imported, view.units)
        if bees is not None:
            move = bees == "move"
            if document.attempt(
                "import weather", lambda p: set_weather(p, imported.place, move_bees=move)
            ):
                view.set_unsure(BEES_ROWS | UNSURE_FIELDS)

    c.frame.say(f"reading {path.name} … Esc stops it")
    c.jobs.run(work, done)


def edit_materials(c: Context) -> None:
    """Add, edit, import and export the project's materials."""
    from calveth.app.dialogs.materials_dialog import MaterialsDialog

    c.prompts.show_dialog(
        MaterialsDialog(
            c.document,
            c.view,
            lambda: c.prompts.materials_path(c.parent),
            lambda: c.prompts.json_path(c.parent, "materials.json"),
            c.parent,
        )
    )


def export_report_with_tables(c: Context) -> None:
    """Write the printed report with an appendix of every table."""
    export_report(c, tables=True)


def export_report(c: Context, *, tables: bool = False) -> None:
    """Write the printed report: worked out in the background, drawn page by page."""
    path = _export_path(c, ".pdf", "PDF")
    if path is None:
        return
    from calveth.app.report.pdf import report_steps
    from calveth.core.year.draws import REPORT_DRAWS, YearBands, kept_year_bands

    project, month, units = c.document.project, c.view.month, c.view.units

    def draw(wholes: tuple[Dossier, ...], answer: object) -> None:
        years: list[YearBands] = answer  # type: ignore[assignment]
        steps = report_steps(
            path, project, wholes, month=month, units=units, years=years, tables=tables
        )
        c.jobs.steps(steps, lambda: c.frame.say(f"wrote {path.name}"))

    def through_the_year(wholes: tuple[Dossier, ...]) -> None:
        cases, report = [w.monthly.case for w in wholes], c.jobs.reporter()
        c.jobs.run(lambda: kept_year_bands(cases, REPORT_DRAWS, report), partial(draw, wholes))

    _assess_all(c, path, through_the_year)


def export_tables(c: Context) -> None:
    """Write every table into a workbook or CSV files."""
    path = _export_path(c, ".xlsx .csv", "Workbook or CSV")
    if path is None:
        return
    from calveth.app.exports import write_tables

    project, month = c.document.project, c.view.month

    def done(answer: object) -> None:
        names = ", ".join(p.name for p in answer)  # type: ignore[attr-defined]
        c.frame.say(f"wrote {names}")

    def write(wholes: tuple[Dossier, ...]) -> None:
        c.jobs.run(lambda: write_tables(path, project, wholes, month), done)

    _assess_all(c, path, write)


def _export_path(c: Context, endings: str, kind: str) -> Path | None:
    """Ask where to write, and try it before any work is done for it."""
    name = f"{c.document.project.name}{endings.partition(' ')[0]}"
    path = c.prompts.export_path(c.parent, name, kind, endings)
    if path is None or not c.attempt(lambda: try_to_write(path)):
        return None
    return path


def _assess_all(c: Context, path: Path, then: Callable[[tuple[Dossier, ...]], object]) -> None:
    """Have what is missing of all designs worked out, keep it, and go on with it."""
    from calveth.app.exports import assess_for_report

    project, report = c.document.project, c.jobs.reporter()
    known = {d.id: c.results.dossier(d.id) for d in project.designs}

    def done(answer: object) -> None:
        wholes: tuple[Dossier, ...] = answer  # type: ignore[assignment]
        c.results.keep(wholes)
        then(wholes)

    c.frame.say(f"working out {path.name} as the hives stand now … Esc stops it")
    c.jobs.run(lambda: assess_for_report(project, known, report), done)


def export_drawing(c: Context) -> None:
    """Write the cutaway as it is looked at, as SVG or PNG."""
    from calveth.app.report.drawing import write_drawing

    project, view = c.document.project, c.view
    design = project.design(view.design_id)
    name = f"{design.name} {view.lens}.svg"
    path = c.prompts.export_path(c.parent, name, "Drawing", ".svg .png")
    if path is None:
        return
    picture = scene(
        design,
        project.material_table(),
        project.colony,
        c.results.monthly(design.id),
        view.month,
        view.lens,
        units=view.units,
        solved=c.results.conduction(design.id, view.month),
        cut=view.cut,
    )
    if c.attempt(lambda: write_drawing(path, picture)):
        c.frame.say(f"wrote {path.name}")


def export_section(c: Context) -> None:
    """Write the hive cut open, true to scale, as SVG in millimetres."""
    from calveth.drawing.document import write_section

    project, view = c.document.project, c.view
    design = in_month(project.design(view.design_id), view.month)
    name = f"{design.name} 1 to {_SCALE:g}.svg"
    path = c.prompts.export_path(c.parent, name, "Drawing", ".svg")
    if path is None:
        return
    if c.attempt(lambda: write_section(path, design, project.material_table(), _SCALE)):
        c.frame.say(f"wrote {path.name}")


def export_json(c: Context) -> None:
    """Write the project as JSON."""
    path = c.prompts.json_path(c.parent, f"{c.document.project.name}.json")
    if path is not None and c.attempt(lambda: write_json(path, c.document.project)):
        c.frame.say(f"wrote {path.name}")
