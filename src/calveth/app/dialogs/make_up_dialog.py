"""A design from the library: a construction and a cavity."""

from __future__ import annotations

from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QListWidget,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from calveth.app.dialogs.new_project import chosen, item_list
from calveth.app.widgets.labels import label
from calveth.catalogue.library import make_design, shipped_frames, shipped_make_ups
from calveth.core.errors import DomainError
from calveth.core.hive.design import Design


class MakeUpDialog(QDialog):
    """Two lists side by side; `design` is the answer, None when it was closed."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Add a design")
        self.resize(760, 460)
        self.design: Design | None = None
        self.make_ups: QListWidget = item_list(
            "construction", [(m.id, m.name, m.note) for m in shipped_make_ups()]
        )
        self.frames: QListWidget = item_list(
            "frames", [(f.id, f.name, f.note) for f in shipped_frames()]
        )
        self.problem = label(role="wrong", wrap=True)
        self.go = QPushButton("Add it")
        self.go.setDefault(True)
        self.go.clicked.connect(self._make)
        cancel = QPushButton("Cancel")
        cancel.clicked.connect(self.reject)
        lists = QHBoxLayout()
        for title, widget in (("Construction", self.make_ups), ("Frames", self.frames)):
            column = QVBoxLayout()
            column.addWidget(label(title, "heading"))
            column.addWidget(widget)
            lists.addLayout(column)
        buttons = QHBoxLayout()
        buttons.addWidget(cancel)
        buttons.addStretch()
        buttons.addWidget(self.go)
        outer = QVBoxLayout(self)
        outer.addLayout(lists)
        outer.addWidget(self.problem)
        outer.addLayout(buttons)

    def _make(self) -> None:
        make_up = next(m for m in shipped_make_ups() if m.id == chosen(self.make_ups))
        frames = next(f for f in shipped_frames() if f.id == chosen(self.frames))
        try:
            self.design = make_design(make_up, frames)
        except DomainError as error:
            self.problem.setText(str(error))
            return
        self.accept()
