"""Starts the application, or renders its views where there is no display."""

from __future__ import annotations

import atexit
import contextlib
import ctypes.util
import json
import logging
import os
import shutil
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from platformdirs import user_log_path

from calveth.catalogue.shipped import demo_project
from calveth.core.errors import CalvethError
from calveth.core.project import Project
from calveth.store.project_file import ProjectFile
from calveth.store.working_copy import claim, unnamed_work, working_copy

if TYPE_CHECKING:
    from calveth.app.document import Document

# Library, Debian package: what Qt needs for a window on X11 beyond what it brings.
_LIBRARIES = (
    ("GL", "libgl1"),
    ("EGL", "libegl1"),
    ("xkbcommon", "libxkbcommon0"),
    ("fontconfig", "libfontconfig1"),
    ("dbus-1", "libdbus-1-3"),
    ("glib-2.0", "libglib2.0-0"),
    ("xkbcommon-x11", "libxkbcommon-x11-0"),
    ("xcb-cursor", "libxcb-cursor0"),
    ("xcb-icccm", "libxcb-icccm4"),
    ("xcb-keysyms", "libxcb-keysyms1"),
    ("xcb-shape", "libxcb-shape0"),
)
_OFFSCREEN_ONLY = 6
_TITLE_BAR_PX = 32


class StartError(CalvethError):
    """The window cannot be opened here; says what to do."""


def missing_packages(*, window: bool) -> list[str]:
    """Return the Debian packages whose libraries are not on this machine."""
    libraries = _LIBRARIES if window else _LIBRARIES[:_OFFSCREEN_ONLY]
    return [package for name, package in libraries if ctypes.util.find_library(name) is None]


def has_display() -> bool:
    """Return whether there is a display to open a window on, or Qt is told to do without."""
    return bool(
        os.environ.get("DISPLAY")
        or os.environ.get("WAYLAND_DISPLAY")
        or os.environ.get("QT_QPA_PLATFORM")
    )


def _require(*, window: bool) -> None:
    missing = missing_packages(window=window)
    if missing:
        raise StartError(
            "this machine lacks " + ", ".join(missing) + "; install them with: "
            "apt-get install " + " ".join(missing)
        )


def use_offscreen(width: int = 1280, height: int = 800) -> None:
    """Have Qt draw without a display, on a screen of the given size [px].

    Must run before the application object is made.
    """
    if os.environ.get("QT_QPA_PLATFORM"):
        return
    # A folder of its own: a name anybody can foretell in a common one could be a link of theirs.
    folder = tempfile.mkdtemp(prefix="calveth-")
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    config = Path(folder) / f"screen-{width}x{height}.json"
    screen = {
        "name": "screen",
        "x": 0,
        "y": 0,
        "width": width,
        "height": height,
        "logicalDpi": 96,
        "logicalBaseDpi": 96,
        "dpr": 1,
    }
    config.write_text(json.dumps({"screens": [screen]}), encoding="utf-8")
    os.environ["QT_QPA_PLATFORM"] = f"offscreen:configfile={config}"


def _log_to_file() -> None:
    """Keep a log beside the user's data; a folder that cannot be written is no reason to stop."""
    with contextlib.suppress(OSError):
        folder = user_log_path("calveth", ensure_exists=True)
        logging.basicConfig(
            filename=folder / "calveth.log",
            level=logging.INFO,
            format="%(asctime)s %(levelname)s %(name)s: %(message)s",
        )


def _catch_everything() -> None:
    """Log what nobody caught, with its traceback, instead of showing it to the user."""

    def hook(kind: type[BaseException], error: BaseException, trace: object) -> None:
        if issubclass(kind, KeyboardInterrupt):
            sys.__excepthook__(kind, error, None)
            return
        logging.getLogger("calveth").error(
            "uncaught",
            exc_info=(kind, error, trace),  # type: ignore[arg-type]
        )
        print(f"calveth: something went wrong ({error}); the log says more", file=sys.stderr)
        _tell_windows(error)

    sys.excepthook = hook


def _tell_windows(error: BaseException) -> None:
    """Say in every window what went wrong in a slot: nothing a person does is without an answer."""
    from PySide6.QtWidgets import QApplication

    from calveth.app.main_window import MainWindow

    sentence = (
        str(error)
        if isinstance(error, CalvethError)
        else (
            f"Something went wrong ({type(error).__name__}); what you did last may not be done. "
            "The log says more."
        )
    )
    for window in QApplication.topLevelWidgets():
        if isinstance(window, MainWindow):
            window.refuse(sentence)


_NO_DISPLAY = "there is no display to open a window on; "


def demo(project: Project) -> int:
    """Open the window with a project as it ships."""
    if not has_display():
        raise StartError(
            f"{_NO_DISPLAY}run it in a desktop session, or add --screenshots DIR to have every "
            "main view drawn to PNG files"
        )
    return _run(lambda: _fresh(project))


def start() -> int:
    """Open the window where the user left off: unnamed work first, then the last file, or the demo.

    Raises
    ------
    StartError
        When there is no display.
    """
    if not has_display():
        raise StartError(f"{_NO_DISPLAY}“calveth --help” lists what works without one")
    return _run(_where_it_was_left)


def open_file(path: Path) -> int:
    """Open the window with a project file."""
    with ProjectFile.open(path) as file:
        file.read()
    if not has_display():
        raise StartError(f"{_NO_DISPLAY}“calveth assess” works without one")
    return _run(lambda: _document(path, named=True))


def _fresh(project: Project) -> Document:
    from calveth.app.document import Document

    return Document(project, working_copy(project))


def _document(path: Path, *, named: bool) -> Document:
    from calveth.app.document import Document

    file = ProjectFile.open(path)
    try:
        return Document(file.read(), file, named=named, disposable=False)
    except CalvethError:
        file.close()
        raise


def _where_it_was_left() -> Document:
    """Return the document to begin with; asks when there is work without a name."""
    from calveth.app import preferences
    from calveth.app.prompts import Prompts

    work = unnamed_work()
    if work:
        chosen = Prompts().unnamed(None, work)
        return _fresh(demo_project()) if chosen is None else _document(claim(chosen), named=False)
    for name in preferences.load().recent[:1]:
        with contextlib.suppress(CalvethError):
            return _document(Path(name), named=True)
    return _fresh(demo_project())


def _run(begin: Callable[[], Document]) -> int:
    _require(window=os.environ.get("QT_QPA_PLATFORM") is None)
    _log_to_file()
    _catch_everything()
    from calveth.app.first_compile import FirstCompile, must_compile

    slow = must_compile()
    from PySide6.QtCore import QByteArray, QSize
    from PySide6.QtWidgets import QApplication

    from calveth.app import preferences
    from calveth.app.main_window import MainWindow
    from calveth.app.memory import Collector, give_back_memory
    from calveth.app.theme import theme
    from calveth.app.theme.palette import DARK, LIGHT

    give_back_memory()
    app = QApplication(sys.argv[:1])
    app.setApplicationName("calveth")
    app.setApplicationDisplayName("Calveth")
    app.setDesktopFileName("calveth")
    likes = preferences.load()
    theme.prepare(app, DARK if likes.dark else LIGHT)
    window = MainWindow(begin())
    theme.dress(app)
    if not (likes.geometry and window.restoreGeometry(QByteArray.fromHex(likes.geometry.encode()))):
        # On a small screen the title bar wants room too.
        room = app.primaryScreen().availableSize() - QSize(0, _TITLE_BAR_PX)
        window.resize(window.size().boundedTo(room))
    window.show()
    collector = Collector(app)
    compiling = FirstCompile(parent=app)
    if slow:
        window.follow_compiling(compiling)
    try:
        return int(app.exec())
    finally:
        compiling.stop()
        collector.stop()


def prepare_offscreen() -> object:
    """Return an application that draws without a display; keep it while anything is drawn."""
    if not has_display():
        use_offscreen()
    _require(window=False)
    from PySide6.QtWidgets import QApplication

    from calveth.app.theme import theme

    existing = QApplication.instance()
    app = existing if isinstance(existing, QApplication) else QApplication(sys.argv[:1])
    theme.apply(app)
    return app


def screenshots(folder: Path) -> int:
    """Draw every main view of the demo at 1280 x 800 into PNG files."""
    os.environ.pop("QT_QPA_PLATFORM", None)
    use_offscreen()
    _require(window=False)
    from calveth.app.pictures import take_pictures

    for name in take_pictures(folder):
        print(f"wrote {folder / name}")
    return 0
