"""A tour of every view and a monkey at the keyboard, with the real threads and timers.

    .venv/bin/python -m tests.monkey --events 3000 --seed 1
    .venv/bin/python -m tests.monkey --tour 50

An exception in a slot is a failure. The tests of the window run a short part of both.
"""

from __future__ import annotations

import argparse
import os
import random
import sys
import tempfile
import time
import traceback
from collections import Counter
from collections.abc import Callable, Sequence
from itertools import zip_longest
from pathlib import Path

from PySide6.QtCore import QEvent, QEventLoop, QPoint, Qt, QTimer
from PySide6.QtGui import QAction, QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QDialog,
    QLineEdit,
    QWidget,
)

from calveth.app.areas.build_area import LISTS, PICTURES
from calveth.app.areas.compare_area import VIEWS
from calveth.app.areas.diary_area import PAGES
from calveth.app.areas.shell_area import TABS
from calveth.app.cutaway.view import CUT_TEXT, CUTS, LENSES, SECTIONS
from calveth.app.dialogs.weather_dialog import BeesMove
from calveth.app.document import Document
from calveth.app.main_window import AREAS, MainWindow
from calveth.app.memory import Collector, give_back_memory
from calveth.app.pictures import settle
from calveth.app.preferences import Preferences
from calveth.app.prompts import Prompts, Unsaved
from calveth.catalogue.apiary import apiary_project
from calveth.catalogue.shipped import demo_project
from calveth.core.project import Project
from calveth.store.project_file import ProjectFile
from calveth.store.weather import WeatherImport
from calveth.store.working_copy import UnnamedWork
from calveth.texts.units import UnitSystem
from tests.random_hives import random_project

_RUBBISH = ("", "abc", "1e9", "-5", "0", "12,5", "25", "½", "nan", "<b>x</b>", "9" * 60, "3/4 in")
# What would end the run or leave the program.
_NOT_PRESSED = ("close", "quit")


class AnyPrompts(Prompts):
    """Answers every question at random; files lie in one folder."""

    def __init__(self, rng: random.Random, folder: Path, poke: Callable[[QWidget], None]) -> None:
        self.rng, self.folder, self.poke = rng, folder, poke

    def _path(self, *endings: str) -> Path | None:
        name = self.rng.choice(["a", "b", "no/such/c", "with space"]) + self.rng.choice(endings)
        return self.rng.choice([None, self.folder / name])

    def save_path(self, parent: QWidget, suggestion: str) -> Path | None:
        return self._path(".calveth", ".txt")

    def open_path(self, parent: QWidget, folder: str = "") -> Path | None:
        made = self.folder / f"random-{self.rng.randrange(10**6)}.calveth"
        kind = self.rng.randrange(4)
        if kind == 0:
            project = apiary_project()
        elif kind == 1:
            project = demo_project()
        else:
            project = random_project(self.rng.randrange(10**6), designs=self.rng.randint(1, 4))
        ProjectFile.create(made, project).close()
        return self.rng.choice([made, made, None, self.folder / "not there.calveth"])

    def name(self, parent: QWidget, old: str) -> str | None:
        return self.rng.choice([None, "", "<i>hive</i>", old, "x" * 300, "an old name"])

    def weather_path(self, parent: QWidget) -> Path | None:
        return self._path(".csv", ".epw")

    def log_path(self, parent: QWidget) -> Path | None:
        path = self.folder / "log.csv"
        text = (
            "time,temperature,humidity,weight\n2025-01-01 00:00,31.5,60,30.1\n"
            "2025-01-01 01:00,x,61,\n"
            "2025-01-01 02:00,30.9,59,30.2\n",
            "Zeit;Temp;Gewicht\n01.02.2025 00:00;31,5;30100\n01.02.2025 02:00;30,5;30110\n",
            "",
            "no log at all",
        )
        path.write_text(self.rng.choice(text), encoding="utf-8")
        return self.rng.choice([path, path, None, self.folder / "not there.csv"])

    def photo_path(self, parent: QWidget) -> Path | None:
        path = self.folder / f"{self.rng.randrange(3)}.png"
        image = QImage(self.rng.randint(1, 900), 300, QImage.Format.Format_RGB32)
        image.fill(self.rng.randrange(2**24))
        image.save(str(path))
        if self.rng.random() < 0.2:
            path.write_bytes(path.read_bytes()[:200])
        return self.rng.choice([path, path, None, self.folder / "not there.jpg"])

    def json_path(self, parent: QWidget, suggestion: str) -> Path | None:
        return self._path(".json")

    def materials_path(self, parent: QWidget) -> Path | None:
        return self._path(".json", ".csv")

    def stock_path(self, parent: QWidget) -> Path | None:
        return self._path(".csv")

    def export_path(self, parent: QWidget, suggestion: str, kind: str, suffix: str) -> Path | None:
        return self._path(f".{suffix.split(maxsplit=1)[0].lstrip('.')}")

    def new_project(self, parent: QWidget) -> Project | None:
        return self.rng.choice([None, random_project(self.rng.randrange(10**6))])

    def accept_weather(
        self, parent: QWidget, found: WeatherImport, units: UnitSystem
    ) -> BeesMove | None:
        return self.rng.choice(["move", "keep", None])

    def show_dialog(self, dialog: QDialog) -> None:
        dialog.show()
        for _ in range(self.rng.randint(0, 4)):
            self.poke(dialog)
        dialog.close()
        dialog.deleteLater()

    def tell(self, parent: QWidget, title: str, text: str) -> None:
        assert title and text

    def unsaved(self, parent: QWidget, problem: str) -> Unsaved:
        return self.rng.choice(["lose", "stay"])

    def unnamed(self, parent: QWidget | None, work: Sequence[UnnamedWork]) -> Path | None:
        return self.rng.choice([None, *(w.path for w in work)])

    def confirm(self, parent: QWidget, title: str, text: str, act: str) -> bool:
        return self.rng.random() < 0.7


class Monkey:
    """Does one thing after another to a window, the same ones for the same seed."""

    def __init__(self, app: QApplication, folder: Path, seed: int) -> None:
        self.app = app
        self.rng = random.Random(seed)
        prompts = AnyPrompts(self.rng, folder, self.poke)
        # The apiary has hives, so that hands come to the diary at once.
        begun = apiary_project() if seed % 2 == 0 else random_project(seed, designs=3)
        first = ProjectFile.create(folder / "first.calveth", begun)
        self.window = MainWindow(
            Document(first.read(), first), prompts=prompts, likes=Preferences()
        )
        self.window.show()
        self.done: Counter[str] = Counter()
        # A menu that pops up runs a loop of its own and would wait for a hand.
        self._closer = QTimer()
        self._closer.timeout.connect(self._close_popup)
        self._closer.start(20)

    def _close_popup(self) -> None:
        popup = QApplication.activePopupWidget()
        if popup is not None:
            popup.close()

    def act(self) -> str:
        """Do one thing and let the loop turn; return what it was."""
        acts: tuple[tuple[Callable[[], None], int], ...] = (
            (self._poke, 40),
            (self._drag, 10),
            (self._menu, 8),
            (self._look, 25),
            (self._history, 6),
            (self._open, 2),
            (self._resize, 2),
        )
        chosen = self.rng.choices([a for a, _ in acts], [w for _, w in acts])[0]
        name = getattr(chosen, "__name__", "").strip("_")
        chosen()
        for _ in range(self.rng.choice((1, 1, 1, 4))):
            self.app.processEvents()
        if self.rng.random() < 0.05:
            self.rest(1.0)
        # Only the loop of a running program deletes these by itself.
        self.app.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
        self.done[name] += 1
        return name

    def _poke(self) -> None:
        self.poke(self.window)

    def poke(self, top: QWidget) -> None:
        """Click, type or choose somewhere."""
        seen = [w for w in top.findChildren(QWidget) if w.isVisible() and w.isEnabled()]
        if not seen:
            return
        widget = self.rng.choice(seen)
        if isinstance(widget, QComboBox) and widget.count():
            widget.setFocus()
            QTest.keyClick(widget, self.rng.choice([Qt.Key.Key_Up, Qt.Key.Key_Down]))
        elif isinstance(widget, QLineEdit | QAbstractSpinBox):
            widget.setFocus()
            QTest.keyClick(widget, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
            QTest.keyClicks(widget, self.rng.choice(_RUBBISH))
            ends = (Qt.Key.Key_Return, Qt.Key.Key_Tab, Qt.Key.Key_Escape)
            QTest.keyClick(widget, self.rng.choice(ends))
        elif isinstance(widget, QAbstractButton) or self.rng.random() < 0.5:
            QTest.mouseClick(widget, Qt.MouseButton.LeftButton, pos=self._spot(widget))
        else:
            keys = (
                Qt.Key.Key_Left,
                Qt.Key.Key_Right,
                Qt.Key.Key_Space,
                Qt.Key.Key_Home,
                Qt.Key.Key_Plus,
                Qt.Key.Key_5,
                Qt.Key.Key_Tab,
                Qt.Key.Key_Escape,
            )
            QTest.keyClick(widget, self.rng.choice(keys))

    def _spot(self, widget: QWidget) -> QPoint:
        return QPoint(
            self.rng.randrange(max(widget.width(), 1)), self.rng.randrange(max(widget.height(), 1))
        )

    def _drag(self) -> None:
        widget = self.rng.choice([self.window.shell.cutaway, self.window.ribbon])
        QTest.mousePress(widget, Qt.MouseButton.LeftButton, pos=self._spot(widget))
        for _ in range(self.rng.randint(1, 5)):
            QTest.mouseMove(widget, self._spot(widget))
            self.app.processEvents()
        QTest.mouseRelease(widget, Qt.MouseButton.LeftButton, pos=self._spot(widget))

    def _menu(self) -> None:
        actions = [
            (name, action)
            for name, action in self.window.menus.actions.items()
            if isinstance(action, QAction) and action.isEnabled() and name not in _NOT_PRESSED
        ]
        name, action = self.rng.choice(actions)
        self.done[f"menu {name}"] += 1
        action.trigger()

    def _look(self) -> None:
        look_somewhere(self.window, self.rng)

    def _history(self) -> None:
        self.window.run(self.rng.choice(["undo", "redo"]))

    def _open(self) -> None:
        self.window.run("open")

    def _resize(self) -> None:
        self.window.resize(self.rng.randint(640, 1600), self.rng.randint(480, 1000))

    def rest(self, longest_s: float) -> None:
        """Let the threads work on, for a while at most."""
        end = time.monotonic() + longest_s
        while not self.window.idle() and time.monotonic() < end:
            self.app.processEvents(QEventLoop.ProcessEventsFlag.AllEvents, 20)

    def end(self) -> None:
        """Close the window and everything of it, in the middle of its work."""
        self._closer.stop()
        self.window.context.prompts.unsaved = lambda *_: "lose"  # type: ignore[method-assign]
        self.window.close()
        self.window.deleteLater()
        self.app.processEvents()
        self.app.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)


def look_somewhere(window: MainWindow, rng: random.Random) -> None:
    """Go to some area, design, month, lens and tab."""
    window.go_to(rng.choice(AREAS))
    window.choose(rng.choice(window.document.project.designs).id)
    window.view.set_month(rng.randrange(12))
    window.view.set_lens(rng.choice(LENSES))
    window.view.set_cut(rng.choice(tuple(CUT_TEXT)))
    window.shell.show_tab(rng.choice(TABS))
    if rng.random() < 0.3:
        window.diary.show_page(rng.choice(PAGES)[0])
    if rng.random() < 0.3:
        window.compare.show_view(rng.choice(VIEWS))
    if rng.random() < 0.3:
        window.build.show_picture(rng.choice(PICTURES))
        window.build.show_list(rng.choice(LISTS))


def tour(window: MainWindow, app: QApplication) -> int:
    """Paint every area, tab, lens, cut and view of Compare; return how many pictures that was."""
    pictures = 0

    def paint() -> None:
        nonlocal pictures
        settle(app, window)
        assert not window.grab().isNull()
        pictures += 1

    for area in AREAS:
        window.go_to(area)
        paint()
    for view in VIEWS:
        window.compare.show_view(view)
        paint()
    window.go_to("build")
    for picture, page in zip_longest(PICTURES, LISTS, fillvalue="stack"):
        window.build.show_picture(picture)
        window.build.show_list(page)
        paint()
    window.go_to("shell")
    for tab in TABS:
        window.shell.show_tab(tab)
        paint()
    for lens in LENSES:
        cuts = {"warmth": CUTS, "make-up": SECTIONS}.get(lens, CUTS[:1])
        for cut in cuts:
            window.view.set_lens(lens)
            window.view.set_cut(cut)
            paint()
    window.run("switch_units")
    paint()
    return pictures


def resident_mb() -> float:
    """Return the memory the process holds now, MB (Linux)."""
    pages = int(Path("/proc/self/statm").read_text().split()[1])
    return pages * os.sysconf("SC_PAGE_SIZE") / 1e6


def main() -> int:
    """Let the monkey at a window, or go on tours; print what was done."""
    ask = argparse.ArgumentParser()
    ask.add_argument("--events", type=int, default=3000)
    ask.add_argument("--seed", type=int, default=0)
    ask.add_argument("--tour", type=int, default=0, help="tour this many random projects instead")
    given = ask.parse_args()
    from tests.app.base import application

    give_back_memory()
    app = application()
    collector = Collector(app)
    caught: list[str] = []
    sys.excepthook = lambda *found: caught.append("".join(traceback.format_exception(*found)))
    with tempfile.TemporaryDirectory() as folder:
        os.environ["XDG_DATA_HOME"] = os.environ["XDG_CONFIG_HOME"] = folder
        began = time.monotonic()
        if given.tour:
            for seed in range(given.seed, given.seed + given.tour):
                monkey = Monkey(app, Path(tempfile.mkdtemp(dir=folder)), seed)
                count = tour(monkey.window, app)
                monkey.end()
                print(f"seed {seed}: {count} pictures, {resident_mb():.0f} MB", flush=True)
        else:
            monkey = Monkey(app, Path(folder), given.seed)
            longest = (0.0, "")
            for k in range(given.events):
                start = time.monotonic()
                name = monkey.act()
                longest = max(longest, (time.monotonic() - start, name))
                if k % 500 == 499:
                    print(f"{k + 1} events, {resident_mb():.0f} MB", flush=True)
            monkey.end()
            print(dict(monkey.done), f"longest act {longest[0]:.1f} s ({longest[1]})")
    collector.stop()
    for text in caught:
        print(text, file=sys.stderr)
    print(f"{len(caught)} exceptions in {time.monotonic() - began:.0f} s")
    return 1 if caught else 0


if __name__ == "__main__":
    sys.exit(main())
