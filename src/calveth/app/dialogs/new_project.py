"""A new project in three short steps: place, frames, construction."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import label
from calveth.catalogue.library import (
    new_project,
    shipped_frames,
    shipped_make_ups,
    shipped_places,
)
from calveth.core.colony.curves import STRENGTHS
from calveth.core.errors import CalvethError
from calveth.core.project import Project
from calveth.core.school import SCHOOLS

STEPS = ("Where does it stand?", "Which frames?", "Which construction?")
_HINTS = (
    "Invented places, one for each climate. Your own weather file can be read in later.",
    "Frames and boxes are named by their dimensions. The outer size follows from the wall.",
    "Everything can be changed afterwards: each layer, each opening, each month.",
)


class NewProjectDialog(QDialog):
    """Three lists, one after the other; `project` is the answer."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("New project")
        self.resize(680, 500)
        self.project: Project | None = None
        self.title = label(role="title")
        self.hint = label(role="muted", wrap=True)
        self.problem = label(role="wrong", wrap=True)
        self.places = item_list(
            "place", [(s.id, s.climate, f"{s.place.name}. {s.hint}") for s in shipped_places()]
        )
        self.frames = item_list("frames", [(f.id, f.name, f.note) for f in shipped_frames()])
        self.make_ups = item_list(
            "construction", [(m.id, m.name, m.note) for m in shipped_make_ups()]
        )
        self.name = QLineEdit("My hives")
        self.name.setAccessibleName("name of the project")
        self.bees = Choice(
            "bees", [(s, f"{s} colony" if len(s) < 8 else s) for s in STRENGTHS], lambda _: None
        )
        self.bees.show_id("normal")
        self.school = Choice("school", [(s, s) for s in SCHOOLS], lambda _: None)
        self.school.show_id("sealed warm top")
        self.pages = QStackedWidget()
        for page in (self.places, self.frames, self._last_page()):
            self.pages.addWidget(page)
        self.back = QPushButton("Back")
        self.go = QPushButton("Next")
        self.go.setDefault(True)
        cancel = QPushButton("Cancel")
        self.back.clicked.connect(lambda: self._step(-1))
        self.go.clicked.connect(self._next)
        cancel.clicked.connect(self.reject)
        for each in (self.places, self.frames, self.make_ups):
            each.itemDoubleClicked.connect(self._next)
        buttons = QHBoxLayout()
        buttons.addWidget(cancel)
        buttons.addStretch()
        buttons.addWidget(self.back)
        buttons.addWidget(self.go)
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 14, 18, 14)
        column.setSpacing(8)
        for widget in (self.title, self.hint, self.pages, self.problem):
            column.addWidget(widget)
        column.addLayout(buttons)
        self._show()

    def _last_page(self) -> QWidget:
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.make_ups, 1)
        row = QHBoxLayout()
        for text, widget in (("name", self.name), ("bees", self.bees), ("judged by", self.school)):
            row.addWidget(label(text, "muted"))
            row.addWidget(widget)
        column.addLayout(row)
        return page

    @property
    def step(self) -> int:
        """The step shown, 0 to 2."""
        return self.pages.currentIndex()

    def _step(self, by: int) -> None:
        self.pages.setCurrentIndex(min(max(self.step + by, 0), 2))
        self._show()

    def _show(self) -> None:
        self.title.setText(f"{self.step + 1} of 3 · {STEPS[self.step]}")
        self.hint.setText(_HINTS[self.step])
        self.back.setEnabled(self.step > 0)
        self.go.setText("Make it" if self.step == 2 else "Next")
        (self.places, self.frames, self.make_ups)[self.step].setFocus()

    def _next(self, *_: object) -> None:
        if self.step < 2:
            self._step(1)
            return
        place = {s.id: s for s in shipped_places()}[chosen(self.places)]
        frames = {f.id: f for f in shipped_frames()}[chosen(self.frames)]
        make_up = {m.id: m for m in shipped_make_ups()}[chosen(self.make_ups)]
        try:
            self.project = new_project(
                self.name.text(),
                place,
                frames,
                make_up,
                self.bees.currentData(),
                self.school.currentData(),
            )
        except CalvethError as error:
            self.problem.setText(str(error))
            return
        self.accept()


def item_list(name: str, rows: Sequence[tuple[str, str, str]]) -> QListWidget:
    """Return a list of (id, name, note), the first chosen."""
    widget = QListWidget()
    widget.setAccessibleName(name)
    widget.setWordWrap(True)
    for key, text, note in rows:
        item = QListWidgetItem(f"{text}\n{note}")
        item.setData(Qt.ItemDataRole.UserRole, key)
        widget.addItem(item)
    widget.setCurrentRow(0)
    return widget


def chosen(widget: QListWidget) -> str:
    """Return the id of the row that is chosen."""
    return str(widget.currentItem().data(Qt.ItemDataRole.UserRole))


def choose(widget: QListWidget, key: str) -> None:
    """Pick the row with an id."""
    for row in range(widget.count()):
        if widget.item(row).data(Qt.ItemDataRole.UserRole) == key:
            widget.setCurrentRow(row)
