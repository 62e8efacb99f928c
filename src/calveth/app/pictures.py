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

from calveth.app.cutaway.view import Lens
from calveth.app.document import Document
from calveth.app.main_window import MainWindow
from calveth.app.preferences import Preferences
from calveth.app.theme import theme
from calveth.catalogue.apiary import apiary_project
from calveth.catalogue.shipped import demo_project
from calveth.store.errors import FileError

_MOST_WORK_S = 240.0
"""What a window may take at the most, in time of the processor: a busy machine is no fault [s]."""


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
    end = time.process_time() + _MOST_WORK_S
    while not window.idle() and time.process_time() < end:
        app.processEvents(QEventLoop.ProcessEventsFlag.AllEvents, 20)
    # Layouts ask for room, get it, and lay their children out: a turn of the loop each.
    for _ in range(4):
        app.processEvents()


def _settle(window: MainWindow) -> None:
    app = QApplication.instance()
    assert isinstance(app, QApplication)
    settle(app, window)


def _shell(window: MainWindow, design: str, lens: Lens, tab: str) -> None:
    window.go_to("shell")
    window.choose(design)
    window.view.set_month(0)
    window.view.set_lens(lens)
    window.view.set_cut("upright")
    window.shell.show_tab(tab)


def _compare(window: MainWindow, view: str, lens: Lens) -> None:
    window.choose("composite")
    window.view.set_lens(lens)
    window.view.set_month(0)
    window.go_to("compare")
    window.compare.show_view(view)


def _build(window: MainWindow, design: str, picture: str, page: str) -> None:
    window.choose(design)
    window.go_to("build")
    window.build.show_picture(picture)
    window.build.show_list(page)
    if page == "cut":
        window.build.choose_row(13)


def _openings(window: MainWindow) -> None:
    _shell(window, "composite", "air", "openings")
    window.shell.openings.show_more("high")


def _layers(window: MainWindow) -> None:
    _shell(window, "quilt", "make-up", "lid")
    window.shell.layers.show_details(1)


def _sun(window: MainWindow) -> None:
    _shell(window, "timber", "sun", "walls")
    window.run("hottest_hour")
    _settle(window)


def _seasons(window: MainWindow) -> None:
    window.choose("quilt")
    window.go_to("seasons")


def _hours(window: MainWindow) -> None:
    window.choose("plain-boards")
    window.view.set_lens("wet")
    window.go_to("seasons")
    window.seasons.show_page("year")
    _settle(window)
    window.seasons.year.jumps["wettest"].click()


def _answers(window: MainWindow) -> None:
    window.choose("composite")
    window.go_to("seasons")
    window.seasons.show_page("questions")
    _settle(window)
    window.seasons.questions.button.click()


def _compare_year(window: MainWindow) -> None:
    window.go_to("compare")
    window.compare.show_view("year")


def _diary(window: MainWindow) -> None:
    """Show the apiary for the last picture."""
    window.adopt(Document(apiary_project()))
    window.go_to("diary")
    window.diary.choose_hive("hive-2")
    looked = [i for i in window.document.project.diary.of_hive("hive-2") if i.looked_at_lid]
    window.diary.choose_inspection(looked[-2].id)


def _logs(window: MainWindow) -> None:
    window.diary.show_page("logs")


def _why(window: MainWindow) -> None:
    window.diary.show_page("why")
    _settle(window)
    window.diary.why.button.click()


def _dark(window: MainWindow) -> None:
    _shell(window, "aircrete", "wet", "walls")
    window.run("switch_look")
    window.run("switch_units")


def _light(window: MainWindow) -> None:
    if window.preferences.value.dark:
        window.run("switch_look")
        window.run("switch_units")


VIEWS: tuple[tuple[str, Callable[[MainWindow], None]], ...] = (
    ("place.png", lambda w: w.go_to("place")),
    ("shell-make-up.png", _layers),
    ("shell-warmth.png", lambda w: _shell(w, "composite", "warmth", "walls")),
    ("shell-wet.png", lambda w: _shell(w, "timber", "wet", "says")),
    ("shell-air.png", _openings),
    ("shell-sun.png", _sun),
    ("seasons.png", _seasons),
    ("seasons-hours.png", _hours),
    ("seasons-answers.png", _answers),
    ("compare.png", lambda w: _compare(w, "figures", "wet")),
    ("compare-year.png", _compare_year),
    ("build-apart.png", lambda w: _build(w, "composite", "apart", "cut")),
    ("build-layouts.png", lambda w: _build(w, "composite", "layouts", "get")),
    ("build-stack.png", lambda w: _build(w, "timber", "stack", "weights")),
    ("compare-sweep.png", lambda w: _compare(w, "sweep", "make-up")),
    ("shell-dark-inch.png", _dark),
    ("diary.png", _diary),
    ("diary-logs.png", _logs),
    ("diary-why.png", _why),
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
    window = MainWindow(Document(demo_project()), executor=InlineExecutor(), likes=Preferences())
    window.resize(1280, 800)
    window.show()
    written = []
    for name, prepare in VIEWS:
        _light(window)
        prepare(window)
        settle(app, window)
        if not window.grab().save(str(folder / name)):
            raise FileError(folder / name, "cannot be written; choose another folder")
        written.append(name)
    _light(window)
    window.close()
    return written
