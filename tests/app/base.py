"""Base of the window tests: offscreen, own data folder, inline worker, scripted answers.

It fails a test for exceptions in slots (Qt swallows them), for Qt warnings, and for windows or
timers left behind.
"""

from __future__ import annotations

import os
import sys
import tempfile
import unittest
from collections.abc import Callable, Sequence
from dataclasses import replace
from pathlib import Path
from types import TracebackType
from typing import ClassVar
from unittest import mock

from PySide6.QtCore import (
    QCoreApplication,
    QEvent,
    QMessageLogContext,
    QTimer,
    QtMsgType,
    qInstallMessageHandler,
)
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog, QWidget

from calveth.app.launch import use_offscreen

if not os.environ.get("CALVETH_REAL_DISPLAY"):
    os.environ.pop("QT_QPA_PLATFORM", None)
    use_offscreen()

from calveth.app import results as results_module
from calveth.app import season_years
from calveth.app.areas import questions_page, year_panel, year_sweep_panel
from calveth.app.dialogs.weather_dialog import BeesMove, WeatherDialog
from calveth.app.document import Document
from calveth.app.engine import nodes as nodes_module
from calveth.app.engine.nodes import NODES, Asked, Node
from calveth.app.main_window import MainWindow
from calveth.app.pictures import InlineExecutor, settle
from calveth.app.prompts import Prompts, Unsaved
from calveth.app.theme import theme
from calveth.app.theme.palette import LIGHT
from calveth.catalogue.shipped import demo_project
from calveth.core.assess import bands as bands_module
from calveth.core.assess import solved_shells as shells_module
from calveth.core.heat.correction import as_estimated
from calveth.core.kept import keep_with
from calveth.core.project import Project
from calveth.store.project_file import ProjectFile
from calveth.store.shell_cache import ShellCache
from calveth.store.weather import WeatherImport
from calveth.store.working_copy import UnnamedWork
from calveth.texts.units import UnitSystem
from tests.cases import explain_in_short, solve_coarsely

# The offscreen plugin says this of every window; it knows no window manager.
_HARMLESS = ("propagateSizeHints", "does not support raise", "does not support grabbing")


def application() -> QApplication:
    """Return the one application of the test run."""
    existing = QApplication.instance()
    if isinstance(existing, QApplication):
        return existing
    app = QApplication(["calveth-tests"])
    theme.prepare(app, theme.current())
    cache = os.environ.get("XDG_CACHE_HOME", "")
    if "calveth-tests" in cache:  # what one process of the run has solved the others read
        keep_with(ShellCache(Path(cache) / "calveth" / "shells"))
    return app


def some_of_the_demo(hives: Sequence[str]) -> Project:
    """Return the demo with these hives alone; with all of them where none is named."""
    project = demo_project()
    kept = tuple(d for d in project.designs if not hives or d.id in hives)
    return replace(project, designs=kept)


_REMEMBERED: dict[object, object] = {}


def remembering(node: Node) -> Node:
    """Return a node that works the same values out once for all windows of the run.

    Every answer is a function of the case alone; so is a draft that begins from nothing.
    """

    def work(asked: Asked) -> object:
        case = asked.case
        used = tuple(case.materials[m] for m in sorted(case.design.material_ids))
        if node.name == "draft" and case.shells is not as_estimated:
            return node.work(asked)
        if node.name == "remedies":
            return ()  # ten hives more for every hive a test of something else looks at
        solver = shells_module.solved_shells.__name__  # as it is, or coarse
        key = (node.name, case.design, case.place, case.colony, used, solver)
        if key not in _REMEMBERED:
            _REMEMBERED[key] = node.work(asked)
        return _REMEMBERED[key]

    return replace(node, work=work)


REMEMBERING = tuple(remembering(node) for node in NODES)


def what_helps_too() -> tuple[Node, ...]:
    """Return the nodes with what helps, for the tests that ask for it."""
    return (*REMEMBERING[:-1], NODES[-1])


def with_work(name: str, work: Callable[[Asked], object]) -> tuple[Node, ...]:
    """Return the nodes, one of which does other work."""
    return tuple(replace(n, work=work) if n.name == name else n for n in REMEMBERING)


class ScriptedPrompts(Prompts):
    """Answers from a list; what the window tells is kept."""

    def __init__(self) -> None:
        self.paths: list[Path | None] = []
        self.names: list[str | None] = []
        self.told: list[str] = []
        self.projects: list[Project | None] = []
        self.weather_is_wanted = True
        self.dialogs: list[Callable[[QDialog], object]] = []
        self.unsaved_answers: list[Unsaved] = []
        self.confirmed: list[bool] = []
        self.unnamed_choice: list[Path | None] = []

    def save_path(self, parent: QWidget, suggestion: str) -> Path | None:
        return self.paths.pop(0)

    def open_path(self, parent: QWidget, folder: str = "") -> Path | None:
        return self.paths.pop(0)

    def name(self, parent: QWidget, old: str) -> str | None:
        return self.names.pop(0)

    def weather_path(self, parent: QWidget) -> Path | None:
        return self.paths.pop(0)

    def log_path(self, parent: QWidget) -> Path | None:
        return self.paths.pop(0)

    def photo_path(self, parent: QWidget) -> Path | None:
        return self.paths.pop(0)

    def json_path(self, parent: QWidget, suggestion: str) -> Path | None:
        return self.paths.pop(0)

    def materials_path(self, parent: QWidget) -> Path | None:
        return self.paths.pop(0)

    def stock_path(self, parent: QWidget) -> Path | None:
        return self.paths.pop(0)

    def export_path(self, parent: QWidget, suggestion: str, kind: str, suffix: str) -> Path | None:
        return self.paths.pop(0)

    def new_project(self, parent: QWidget) -> Project | None:
        return self.projects.pop(0)

    def accept_weather(
        self, parent: QWidget, imported: WeatherImport, units: UnitSystem
    ) -> BeesMove | None:
        dialog = WeatherDialog(imported, units, parent)
        self.told.append("\n".join([dialog.head.text(), dialog.notes.text()]))
        dialog.deleteLater()
        return dialog.bees if self.weather_is_wanted else None

    def show_dialog(self, dialog: QDialog) -> None:
        """Show a dialog, let the script at it, and close it."""
        dialog.show()
        QApplication.processEvents()
        try:
            self.dialogs.pop(0)(dialog)
        finally:
            dialog.close()
            dialog.deleteLater()

    def unsaved(self, parent: QWidget, problem: str) -> Unsaved:
        """Answer from the script; without one the edits are given up, and that is kept."""
        self.told.append(f"unsaved: {problem}")
        return self.unsaved_answers.pop(0) if self.unsaved_answers else "lose"

    def confirm(self, parent: QWidget, title: str, text: str, act: str) -> bool:
        assert isinstance(parent, QWidget)
        self.told.append(text)
        return self.confirmed.pop(0)

    def unnamed(self, parent: QWidget | None, work: Sequence[UnnamedWork]) -> Path | None:
        self.told.extend(one.project.name for one in work)
        return self.unnamed_choice.pop(0)

    def tell(self, parent: QWidget, title: str, text: str) -> None:
        self.told.append(f"{title}\n{text}")


_FEW_DRAWS: tuple[tuple[object, str, object], ...] = (
    (nodes_module, "YEAR_DRAWS", 2),
    (year_panel, "STAGES", (0, 2)),
    (year_sweep_panel, "STAGES", (0, 2)),
    (questions_page, "DRAWS", 2),
    (season_years, "DRAWS", 4),
    (bands_module, "DRAWS", 8),
)


class WindowTest(unittest.TestCase):
    """Gives each test a folder and, on demand, a window on some hives of the demo.

    Every hive of a window is worked out anew with each change of the place, so a test has those
    it names; ``hives`` without any is the whole demo. Two thirds of the time a window takes to
    come up go into its style sheet, so only what is about looks or sizes wears it (``dressed``).
    """

    hives: ClassVar[tuple[str, ...]] = ("polystyrene", "timber", "composite")
    dressed: ClassVar[bool] = False
    coarse: ClassVar[bool] = True

    def setUp(self) -> None:
        self.app = application()
        if theme.current() is not LIGHT:  # a test before this one went dark
            theme.choose(self.app, dark=False)
        if self.dressed != bool(self.app.styleSheet()):
            if self.dressed:
                theme.dress(self.app)
            else:
                self.app.setStyleSheet("")
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        data = mock.patch.dict(os.environ, {"XDG_DATA_HOME": folder.name})
        data.start()
        self.addCleanup(data.stop)
        self._errors: list[BaseException] = []
        self._warnings: list[str] = []
        kept = sys.excepthook
        sys.excepthook = self._caught
        self.addCleanup(setattr, sys, "excepthook", kept)
        previous = qInstallMessageHandler(self._message)
        self.addCleanup(qInstallMessageHandler, previous)
        if self.coarse:
            solve_coarsely(self)
        rest = mock.patch.object(results_module, "_REST_MS", 0)
        rest.start()
        self.addCleanup(rest.stop)
        explain_in_short(self)
        # How many draws there are is the core's to test: here two show that there are ranges.
        for where, name, few in _FEW_DRAWS:
            patch = mock.patch.object(where, name, few)
            patch.start()
            self.addCleanup(patch.stop)
        self.prompts = ScriptedPrompts()
        self.windows: list[MainWindow] = []
        self.addCleanup(self._close_all)

    def window(
        self,
        project: Project | None = None,
        *,
        on_disk: bool = False,
        nodes: tuple[Node, ...] = REMEMBERING,
    ) -> MainWindow:
        """Return a shown, settled window on a project: by default on some hives of the demo."""
        project = project or some_of_the_demo(self.hives)
        file = None
        if on_disk:
            file = ProjectFile.create(self.folder / "working.calveth", project)
        window = MainWindow(
            Document(project, file), prompts=self.prompts, executor=InlineExecutor(), nodes=nodes
        )
        self.windows.append(window)
        window.show()
        window.activateWindow()
        self.settle(window)
        return window

    def settle(self, window: MainWindow) -> None:
        """Let everything that was begun finish; what comes in between is not painted each time."""
        window.setUpdatesEnabled(False)
        settle(self.app, window)
        window.setUpdatesEnabled(True)
        settle(self.app, window)
        self.assertEqual(window.under_way(), [])

    def type_into(self, field: QWidget, text: str) -> None:
        """Replace the text of a field by typing, and leave it with Return."""
        from PySide6.QtCore import Qt

        field.setFocus()
        QTest.keyClick(field, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
        QTest.keyClicks(field, text)
        QTest.keyClick(field, Qt.Key.Key_Return)

    def _caught(
        self, kind: type[BaseException], error: BaseException, trace: TracebackType | None
    ) -> None:
        self._errors.append(error)

    def _message(self, kind: QtMsgType, _: QMessageLogContext, text: str) -> None:
        serious = kind in (QtMsgType.QtWarningMsg, QtMsgType.QtCriticalMsg, QtMsgType.QtFatalMsg)
        if serious and not any(part in text for part in _HARMLESS):
            self._warnings.append(text)

    def _close_all(self) -> None:
        for window in self.windows:
            window.close()
            window.deleteLater()
        self.app.processEvents()
        # No event loop runs here to delete them; left alive they would make every window slower.
        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
        self.windows.clear()
        left = [w for w in self.app.topLevelWidgets() if w.isVisible()]
        self.assertEqual(left, [], "windows left open")
        ticking = [t for t in self.app.findChildren(QTimer) if t.isActive()]
        self.assertEqual(ticking, [], "timers left behind")
        self.assertEqual(self._errors, [], "exceptions in slots")
        self.assertEqual(self._warnings, [], "Qt warnings")
