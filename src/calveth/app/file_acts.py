"""The window's acts on files: new, open, save, weather, reports and tables."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QMenu

from calveth.app.cutaway.view import scene
from calveth.app.document import Document
from calveth.catalogue.shipped import demo_project
from calveth.core.edits import set_place
from calveth.core.errors import CalvethError
from calveth.core.project import Project
from calveth.store.atomic_write import try_to_write
from calveth.store.json_file import write_json
from calveth.store.project_file import ProjectFile
from calveth.store.working_copy import claim, unnamed_work, working_copy

if TYPE_CHECKING:
    from collections.abc import Callable

    from calveth.app.main_window import MainWindow
    from calveth.core.assess.whole import WholeAssessment
    from calveth.store.weather import WeatherImport


class FileActs:
    """Mixed into the window; every method is an entry of the menu File."""

    def new(self: MainWindow) -> None:  # type: ignore[misc]
        """Begin a project in three steps."""
        project = self.prompts.new_project(self)
        if project is not None:
            self.begin(project)

    def open_demo(self: MainWindow) -> None:  # type: ignore[misc]
        """Begin with the demo."""
        self.begin(demo_project())

    def begin(self: MainWindow, project: Project) -> None:  # type: ignore[misc]
        """Go on with a project that has no name yet, kept in a working copy."""
        if not self.may_leave():
            return
        made: list[ProjectFile] = []
        if self.attempt(lambda: made.append(working_copy(project))):
            self.adopt(Document(project, made[0]))

    def may_leave(self: MainWindow) -> bool:  # type: ignore[misc]
        """Return whether the project may be put away: all of it is in a file, or is given up."""
        while self.document.would_lose:
            answer = self.prompts.unsaved(self, self.document.write_problem)
            if answer == "lose":
                return True
            if answer == "stay" or not self.save_as():
                return False
        return True

    def save(self: MainWindow) -> bool:  # type: ignore[misc]
        """Save; asks for a name the first time. Later edits are written as they are made."""
        if self.document.path is None:
            return self.save_as()
        if not self.attempt(self.document.save):
            return False
        self.say(f"saved in {self.document.path.name}")
        return True

    def save_as(self: MainWindow) -> bool:  # type: ignore[misc]
        """Save under a name the user gives."""
        path = self.prompts.save_path(self, f"{self.document.project.name}.calveth")
        if path is None or not self.attempt(lambda: self.document.save_as(path)):
            return False
        self.remember(path)
        self.say(f"saved in {path.name}")
        return True

    def open(self: MainWindow, path: Path | None = None) -> None:  # type: ignore[misc]
        """Open a project in place of this one."""
        wanted = path or self.prompts.open_path(self)
        if wanted is None or not self.may_leave():
            return
        self.open_in(wanted, named=True)

    def open_in(self: MainWindow, wanted: Path, *, named: bool) -> bool:  # type: ignore[misc]
        """Open a file in this window; one without a name stays a working copy."""
        opened: list[Document] = []

        def read() -> None:
            file = ProjectFile.open(wanted if named else claim(wanted))
            try:
                opened.append(Document(file.read(), file, named=named, disposable=False))
            except CalvethError:
                file.close()
                raise

        if not self.attempt(read):
            return False
        self.adopt(opened[0])
        if named:
            self.remember(wanted)
        return True

    def fill_recent(self: MainWindow) -> None:  # type: ignore[misc]
        """Fill the menu of recent files with those that are still there."""
        menu = self.actions_by_name["recent"].menu()
        assert isinstance(menu, QMenu)
        menu.clear()
        paths = [Path(p) for p in self.likes.recent if Path(p).exists()]
        for path in paths:
            menu.addAction(path.name).triggered.connect(partial(self.open, path))
        if not paths:
            menu.addAction("no recent projects").setEnabled(False)

    def open_working_copy(self: MainWindow) -> None:  # type: ignore[misc]
        """Offer what was changed in an earlier session and never given a name."""
        work = unnamed_work()
        if not work:
            self.say("there is no work without a name")
            return
        path = self.prompts.unnamed(self, work)
        if path is not None and self.may_leave():
            self.open_in(path, named=False)

    def import_weather(self: MainWindow) -> None:  # type: ignore[misc]
        """Read a weather file, show what it brings, and make it the place."""
        path = self.prompts.weather_path(self)
        if path is None:
            return
        document, view = self.document, self.view

        def work() -> object:
            from calveth.store.weather import import_weather  # pulls in a second's worth of pvlib

            return import_weather(path)

        def done(answer: object) -> None:
            found: WeatherImport = answer  # type: ignore[assignment]
            self.say("")
            if self.prompts.accept_weather(self, found, view.units):
                document.edit("import weather", lambda p: set_place(p, found.place))

        self.say(f"reading {path.name} … Esc stops it")
        self.jobs.run(work, done)

    def edit_materials(self: MainWindow) -> None:  # type: ignore[misc]
        """Add, edit, import and export the project's materials."""
        from calveth.app.dialogs.materials_dialog import MaterialsDialog

        self.prompts.show_dialog(
            MaterialsDialog(
                self.document,
                self.view,
                lambda: self.prompts.materials_path(self),
                lambda: self.prompts.json_path(self, "materials.json"),
                self,
            )
        )

    def export_report(self: MainWindow) -> None:  # type: ignore[misc]
        """Write the printed report: worked out in the background, drawn page by page."""
        path = self._export_path(".pdf", "PDF")
        if path is None:
            return
        from calveth.app.report.pdf import report_steps

        project, month, units = self.document.project, self.view.month, self.view.units

        def draw(wholes: tuple[WholeAssessment, ...]) -> None:
            steps = report_steps(path, project, wholes, month=month, units=units)
            self.jobs.steps(steps, lambda: self.say(f"wrote {path.name}"))

        self._assess_all(path, draw)

    def export_tables(self: MainWindow) -> None:  # type: ignore[misc]
        """Write every table into a workbook or CSV files."""
        path = self._export_path(".xlsx .csv", "Workbook or CSV")
        if path is None:
            return
        from calveth.app.exports import write_tables

        project, month = self.document.project, self.view.month

        def done(answer: object) -> None:
            names = ", ".join(p.name for p in answer)  # type: ignore[attr-defined]
            self.say(f"wrote {names}")

        def write(wholes: tuple[WholeAssessment, ...]) -> None:
            self.jobs.run(lambda: write_tables(path, project, wholes, month), done)

        self._assess_all(path, write)

    def _export_path(self: MainWindow, endings: str, kind: str) -> Path | None:  # type: ignore[misc]
        """Ask where to write, and try it before any work is done for it."""
        name = f"{self.document.project.name}{endings.partition(' ')[0]}"
        path = self.prompts.export_path(self, name, kind, endings)
        if path is None or not self.attempt(lambda: try_to_write(path)):
            return None
        return path

    def _assess_all(  # type: ignore[misc]
        self: MainWindow, path: Path, then: Callable[[tuple[WholeAssessment, ...]], object]
    ) -> None:
        """Have what is missing of all designs worked out, keep it, and go on with it."""
        from calveth.app.exports import assess_for_report

        project, report = self.document.project, self.jobs.reporter()
        known = {d.id: self.results.whole(d.id) for d in project.designs}

        def done(answer: object) -> None:
            wholes: tuple[WholeAssessment, ...] = answer  # type: ignore[assignment]
            self.results.keep(wholes)
            then(wholes)

        self.say(f"working out {path.name} as the hives stand now … Esc stops it")
        self.jobs.run(lambda: assess_for_report(project, known, report), done)

    def export_drawing(self: MainWindow) -> None:  # type: ignore[misc]
        """Write the cutaway as it is looked at, as SVG or PNG."""
        from calveth.app.report.drawing import write_drawing

        project, view = self.document.project, self.view
        design = project.design(view.design_id)
        name = f"{design.name} {view.lens}.svg"
        path = self.prompts.export_path(self, name, "Drawing", ".svg .png")
        if path is None:
            return
        picture = scene(
            design, project.material_table(), project.colony, self.results.monthly(design.id),
            view.month, view.lens, units=view.units,
            solved=self.results.conduction(design.id, view.month), cut=view.cut,
        )  # fmt: skip
        if self.attempt(lambda: write_drawing(path, picture)):
            self.say(f"wrote {path.name}")

    def export_json(self: MainWindow) -> None:  # type: ignore[misc]
        """Write the project as JSON."""
        path = self.prompts.json_path(self, f"{self.document.project.name}.json")
        if path is not None and self.attempt(lambda: write_json(path, self.document.project)):
            self.say(f"wrote {path.name}")
