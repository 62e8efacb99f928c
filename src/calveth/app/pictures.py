"""Renders the main views of the demo to PNG files, the same by the same command everywhere."""

from __future__ import annotations

import sys
import time
from collections.abc import Callable
from concurrent.futures import Executor, Future
from pathlib import Path
from typing import Any

from PySide6.QtCore import QEventLoop
from PySide6.QtWidgets import QApplication

from calveth.app.document import Document
from calveth.app.main_window import MainWindow
from calveth.app.theme import theme
from calveth.catalogue.shipped import demo_project
from calveth.store.errors import FileError

_LONGEST_WAIT_S = 30.0


class InlineExecutor(Executor):
    """Runs work at once in the calling thread; for pictures and tests."""

    def submit(self, fn: Callable[..., Any], /, *args: Any, **kwargs: Any) -> Future[Any]:
        """Run ``fn`` now and return its finished future."""
        future: Future[Any] = Future()
        try:
            future.set_result(fn(*args, **kwargs))
        except BaseException as error:
            future.set_exception(error)
        return future


def settle(app: QApplication, window: MainWindow) -> None:
    """Let the window finish what it has begun."""
    end = time.monotonic() + _LONGEST_WAIT_S
    while not window.idle() and time.monotonic() < end:
        app.processEvents(QEventLoop.ProcessEventsFlag.AllEvents, 20)
    app.processEvents()


def _shell(window: MainWindow) -> None:
    window.go_to("shell")
    window.choose("composite")
    window.view.set_month(0)


def _wet(window: MainWindow) -> None:
    _shell(window)
    window.choose("timber")
    window.view.set_lens("wet")
    window.shell.show_tab("lid")


def _make_up(window: MainWindow) -> None:
    _shell(window)
    window.view.set_lens("make-up")
    window.shell.show_tab("walls")


def _openings(window: MainWindow) -> None:
    _shell(window)
    window.view.set_lens("make-up")
    window.shell.show_tab("openings")


def _tree(window: MainWindow) -> None:
    _shell(window)
    window.choose("hollow-tree")
    window.view.set_lens("wet")
    window.shell.show_tab("walls")


def _compare(window: MainWindow) -> None:
    window.view.set_lens("wet")
    window.view.set_month(0)
    window.go_to("compare")


def _place(window: MainWindow) -> None:
    window.go_to("place")


VIEWS: tuple[tuple[str, Callable[[MainWindow], None]], ...] = (
    ("shell-wet.png", _wet),
    ("shell-make-up.png", _make_up),
    ("shell-openings.png", _openings),
    ("shell-tree.png", _tree),
    ("compare.png", _compare),
    ("place.png", _place),
)


def take_pictures(folder: Path) -> list[str]:
    """Write a PNG of every main view and return their names.

    Raises
    ------
    FileError
        When the folder cannot be written.
    """
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise FileError(folder, f"cannot be made ({error.strerror}); choose another") from error
    existing = QApplication.instance()
    app = existing if isinstance(existing, QApplication) else QApplication(sys.argv[:1])
    theme.apply(app)
    window = MainWindow(Document(demo_project()), executor=InlineExecutor())
    window.resize(1280, 800)
    window.show()
    written = []
    for name, prepare in VIEWS:
        prepare(window)
        settle(app, window)
        if not window.grab().save(str(folder / name)):
            raise FileError(folder / name, "cannot be written; choose another folder")
        written.append(name)
    window.close()
    return written
