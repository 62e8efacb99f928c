"""Help inside the program: a short guide, words, the key to the marks, weather files."""

from __future__ import annotations

from importlib.resources import files

from PySide6.QtCore import QPointF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QStackedWidget,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

from calveth.app.ribbon.verdict import paint_verdict
from calveth.app.theme.theme import current
from calveth.app.widgets.labels import label

PAGES = {
    "guide": "A short guide",
    "key": "Key to the marks",
    "keys": "Keys and commands",
    "words": "Words",
    "formats": "Weather files",
}

# Mark and what it says.
_MARKS = (
    ("dry", "A tick: dry, or well"),
    ("wet ring", "A ring: a wet ring along the rim of the lid, or something to take note of"),
    ("wet", "A drop: wet over the bees, or bad"),
    ("no", "A cross: a sign that is not met"),
    ("danger", "A triangle with a stroke: danger to the life of the bees"),
)
_LINES = (
    (
        "heat",
        Qt.PenStyle.DashLine,
        "Ochre dashes: the air beside the bees, in the year; the "
        "dotted circle in the drawing is the cluster",
    ),
    (
        "water",
        Qt.PenStyle.DashLine,
        "Blue dashes: where the shell is as cold as the dew point "
        "inside; beads beyond it are water or frost",
    ),
    ("water", Qt.PenStyle.SolidLine, "Blue line and band: outside, with nights and days"),
    ("accent", Qt.PenStyle.SolidLine, "Green frame: what is chosen"),
)
_WORDS = (
    "Snow crystals in the year: days on which snow may close a low entrance.",
    "Green months: forage. Grey-blue months: none.",
    "Ochre arrows through Warmth: heat that leaves, as wide as its watts.",
    "Green arrows through Air: air that comes in; ochre ones: air that leaves.",
    "≈ and slanted figures: not settled yet.",
    "“· best” stands only where the difference is beyond doubt with the same bees in all hives, "
    "“· joint best” where several are not told apart; "
    "where the word does not fit, an arrow up for best, down for worst.",
)


class HelpDialog(QDialog):
    """Pages to read, chosen at the left."""

    def __init__(self, page: str, keys: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Help")
        self.resize(760, 560)
        self.list = QListWidget()
        self.list.setAccessibleName("pages of the help")
        self.list.setFixedWidth(170)
        self.pages = QStackedWidget()
        for key, title in PAGES.items():
            self.list.addItem(title)
            made = _key_page() if key == "key" else _text_page(key, keys if key == "keys" else "")
            self.pages.addWidget(made)
        self.list.currentRowChanged.connect(self.pages.setCurrentIndex)
        self.list.setCurrentRow(list(PAGES).index(page))
        row = QHBoxLayout(self)
        row.addWidget(self.list)
        row.addWidget(self.pages, 1)


def _text_page(key: str, given: str) -> QTextBrowser:
    page = QTextBrowser()
    page.setAccessibleName(PAGES[key])
    folder = files("calveth.app") / "help"
    page.setMarkdown(given or (folder / f"{key}.md").read_text(encoding="utf-8"))
    return page


def _key_page() -> QWidget:
    page = QWidget()
    column = QVBoxLayout(page)
    column.addWidget(label("Key to the marks", "title"))
    for mark, text in _MARKS:
        column.addLayout(_row(_Sign(mark=mark), text))
    for color, style, text in _LINES:
        column.addLayout(_row(_Sign(color=color, style=style), text))
    for text in _WORDS:
        column.addWidget(label(text, wrap=True))
    column.addStretch()
    return page


def _row(sign: QWidget, text: str) -> QHBoxLayout:
    row = QHBoxLayout()
    row.addWidget(sign, 0, Qt.AlignmentFlag.AlignTop)
    body: QLabel = label(text, wrap=True)
    row.addWidget(body, 1)
    return row


class _Sign(QWidget):
    """A mark or a stroke as the drawing has it."""

    def __init__(
        self, *, mark: str = "", color: str = "ink", style: Qt.PenStyle = Qt.PenStyle.SolidLine
    ) -> None:
        super().__init__()
        self._mark, self._color, self._style = mark, color, style
        self.setFixedSize(QSize(34, 20))

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self._mark:
            paint_verdict(painter, QPointF(16, 10), self._mark, current(), 6.0)
            return
        painter.setPen(QPen(current().color(self._color), 2, self._style))
        painter.drawLine(QPointF(3, 10), QPointF(31, 10))
