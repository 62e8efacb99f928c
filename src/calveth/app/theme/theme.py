"""Puts typeface, palette and style sheet on the application."""

from __future__ import annotations

import contextlib
from functools import cache
from importlib.resources import as_file, files
from pathlib import Path

from PySide6.QtCore import QTimer
from PySide6.QtGui import QFont, QFontDatabase, QIcon
from PySide6.QtWidgets import QApplication, QWidget

from calveth.app.theme.palette import DARK, LIGHT, SHEET_ROLES, Palette, qt_palette

_FONTS = ("CalvethSans-Regular.ttf", "CalvethSans-SemiBold.ttf")


@cache
def font_family() -> str:
    """Return the family of the shipped typeface, loading it on first use."""
    family = ""
    for name in _FONTS:
        with as_file(files("calveth.app.theme") / "fonts" / name) as path:
            number = QFontDatabase.addApplicationFont(str(path))
        loaded = QFontDatabase.applicationFontFamilies(number)
        family = loaded[0] if loaded else family
    return family


def font(pixels: int = 13, *, bold: bool = False) -> QFont:
    """Return the shipped typeface at a size in pixels."""
    result = QFont(font_family())
    result.setPixelSize(pixels)
    result.setBold(bold)
    return result


class _Chosen:
    """The palette in use: one for the application, as Qt's own is."""

    palette = LIGHT


def current() -> Palette:
    """Return the palette in use."""
    return _Chosen.palette


def choose(app: QApplication, *, dark: bool) -> None:
    """Give the application the light or the dark look.

    The style sheet names roles of Qt's palette and stays as it is: putting on another one tells
    every widget of a new style, which takes seconds. Widgets only have to look their colours up
    again; those in sight do so first, the others before the next event.
    """
    _Chosen.palette = DARK if dark else LIGHT
    app.setPalette(qt_palette(_Chosen.palette))
    waiting = []
    for widget in app.allWidgets():
        if widget.isVisible():
            _look_up_colours(widget)
        else:
            waiting.append(widget)

    def rest() -> None:
        for widget in waiting:
            with contextlib.suppress(RuntimeError):  # it is gone by now
                _look_up_colours(widget)

    QTimer.singleShot(0, app, rest)


def _look_up_colours(widget: QWidget) -> None:
    style = widget.style()
    style.unpolish(widget)
    style.polish(widget)
    widget.update()


def style_sheet() -> str:
    """Return the style sheet with the roles that stand for the palette's colours filled in."""
    text = (files("calveth.app.theme") / "style.qss").read_text(encoding="utf-8")
    for name, role in SHEET_ROLES.items():
        text = text.replace(f"@{name}@", f"palette({role})")
    icons = Path(str(files("calveth.app.theme") / "icons")).as_posix()
    return text.replace("@family@", font_family()).replace("@icons@", icons)


def apply(app: QApplication) -> None:
    """Give the application Calveth's look."""
    prepare(app, current())
    dress(app)


def prepare(app: QApplication, palette: Palette) -> None:
    """Give the application typeface, icon and palette; `dress` puts the style sheet on.

    Widgets put into each other under a style sheet are styled again each time, so a window that is
    built before the sheet is put on stands a tenth of a second earlier.
    """
    _Chosen.palette = palette
    app.setStyle("Fusion")
    app.setFont(font())
    app.setWindowIcon(QIcon(str(files("calveth.app.theme") / "icons" / "calveth.svg")))
    app.setPalette(qt_palette(palette))


def dress(app: QApplication) -> None:
    """Put the style sheet on; its colours are those of the palette in use."""
    app.setStyleSheet(style_sheet())
