"""One palette; every colour of the window comes from here.

Text on ground has a contrast of at least 4.5:1 (a test holds it). Water is blue and heat is rust,
which stay apart for red-green blindness; no meaning is carried by colour alone.
"""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtGui import QColor, QPalette

from calveth.drawing.colors import PRINT


@dataclass(frozen=True, slots=True, kw_only=True)
class Palette:
    """Named colours as ``#rrggbb``."""

    ground: str
    sheet: str
    ink: str
    muted: str
    line: str
    accent: str
    on_accent: str
    chosen: str
    water: str
    heat: str
    honey: str
    night: str
    forage: str
    wood: str
    foam: str
    stone: str
    fill: str

    def color(self, name: str, alpha: int = 255) -> QColor:
        """Return a colour, with an alpha of 0 to 255."""
        color = QColor(getattr(self, name))
        color.setAlpha(alpha)
        return color


LIGHT = Palette(**PRINT)


DARK = Palette(
    ground="#1d2124",
    sheet="#262b2f",
    ink="#e9e7e0",
    muted="#a9b0b5",
    line="#454c52",
    accent="#58b8c4",
    on_accent="#10181a",
    chosen="#24424a",
    water="#7db4ee",
    heat="#ee9264",
    honey="#dfb14a",
    night="#252b33",
    forage="#2a3226",
    wood="#57472c",
    foam="#3d444a",
    stone="#4a4d4e",
    fill="#3b3830",
)


SHEET_ROLES = {
    "ground": "window",
    "sheet": "base",
    "ink": "window-text",
    "muted": "placeholder-text",
    "line": "mid",
    "accent": "link",
    "on_accent": "highlighted-text",
    "chosen": "midlight",
    "heat": "bright-text",
}
"""What a colour is called in the style sheet: the role of Qt's palette that carries it."""


def qt_palette(p: Palette) -> QPalette:
    """Return the Qt palette of a palette."""
    q = QPalette()
    for role, name in (
        (QPalette.ColorRole.Window, "ground"),
        (QPalette.ColorRole.Base, "sheet"),
        (QPalette.ColorRole.AlternateBase, "ground"),
        (QPalette.ColorRole.WindowText, "ink"),
        (QPalette.ColorRole.Text, "ink"),
        (QPalette.ColorRole.Button, "sheet"),
        (QPalette.ColorRole.ButtonText, "ink"),
        (QPalette.ColorRole.ToolTipBase, "sheet"),
        (QPalette.ColorRole.ToolTipText, "ink"),
        (QPalette.ColorRole.Highlight, "accent"),
        (QPalette.ColorRole.HighlightedText, "on_accent"),
        (QPalette.ColorRole.PlaceholderText, "muted"),
        (QPalette.ColorRole.Mid, "line"),
        (QPalette.ColorRole.Link, "accent"),
        (QPalette.ColorRole.Midlight, "chosen"),
        (QPalette.ColorRole.BrightText, "heat"),
    ):
        q.setColor(role, p.color(name))
    for role in (QPalette.ColorRole.Text, QPalette.ColorRole.ButtonText):
        q.setColor(QPalette.ColorGroup.Disabled, role, p.color("muted", 150))
    return q
