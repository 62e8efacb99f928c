"""Work of earlier sessions that never got a name: what it holds, how it looks, how old it is."""

from __future__ import annotations

import time
from collections.abc import Callable, Sequence
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from calveth.app.cutaway.view import scene
from calveth.app.cutaway.widget import CutawayWidget
from calveth.app.widgets.labels import label
from calveth.core.climate.place import coldest_month
from calveth.core.errors import CalvethError
from calveth.store.working_copy import UnnamedWork, ago, discard

_MOST_NAMES = 4


class UnnamedDialog(QDialog):
    """Offers each piece of work by its hives; ``chosen`` is the one to go on with."""

    def __init__(self, work: Sequence[UnnamedWork], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Work without a name")
        self.resize(620, 480)
        self.chosen: Path | None = None
        self.rows: list[_Row] = []
        column = QVBoxLayout(self)
        column.addWidget(label("Go on with what you worked on?", "title"))
        column.addWidget(
            label(
                "It was kept as you worked, but has no name yet. Ctrl+S gives it one.",
                "muted",
                wrap=True,
            )
        )
        body = QWidget()
        self._list = QVBoxLayout(body)
        for one in work:
            row = _Row(one, self._take, self._discard)
            self.rows.append(row)
            self._list.addWidget(row)
        self._list.addStretch()
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(body)
        column.addWidget(scroll, 1)
        self.problem = label(role="wrong", wrap=True)
        column.addWidget(self.problem)
        buttons = QDialogButtonBox()
        buttons.addButton("None of it", QDialogButtonBox.ButtonRole.RejectRole)
        buttons.rejected.connect(self.reject)
        column.addWidget(buttons)

    def _take(self, row: _Row) -> None:
        self.chosen = row.work.path
        self.accept()

    def _discard(self, row: _Row) -> None:
        try:
            discard(row.work.path)
        except CalvethError as error:
            self.problem.setText(str(error))
            return
        self.rows.remove(row)
        row.hide()
        row.deleteLater()
        if not self.rows:
            self.reject()


class _Row(QWidget):
    """One piece of work: picture, hives, place and age."""

    def __init__(
        self, work: UnnamedWork, take: Callable[[_Row], None], drop: Callable[[_Row], None]
    ) -> None:
        super().__init__()
        self.work = work
        project = work.project
        design = next((d for d in project.designs if not d.benchmark), project.designs[0])
        picture = CutawayWidget(small=True)
        picture.setFixedSize(72, 76)
        picture.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        picture.set_scene(
            scene(
                design,
                project.material_table(),
                project.colony,
                None,
                coldest_month(project.place),
                "make-up",
            )
        )
        names = [d.name for d in project.designs if not d.benchmark] or [design.name]
        more = len(names) - _MOST_NAMES
        listed_names = ", ".join(names[:_MOST_NAMES]) + (f" and {more} more" if more > 0 else "")
        age = ago(time.time() - work.changed_s)
        when = time.strftime("%A %d %B, %H:%M", time.localtime(work.changed_s))
        text = QVBoxLayout()
        text.addWidget(label(project.name, "heading", wrap=True))
        text.addWidget(label(listed_names, wrap=True))
        text.addWidget(label(f"{project.place.name} · changed {age}, {when}", "muted", wrap=True))
        go = QPushButton("Go on")
        go.setAccessibleName(f"go on with {project.name}, changed {age}")
        go.clicked.connect(lambda *_: take(self))
        throw = QPushButton("Throw away")
        throw.setAccessibleName(f"throw away {project.name}, changed {age}")
        throw.clicked.connect(lambda *_: drop(self))
        acts = QVBoxLayout()
        acts.addWidget(go)
        acts.addWidget(throw)
        acts.addStretch()
        row = QHBoxLayout(self)
        row.addWidget(picture)
        row.addLayout(text, 1)
        row.addLayout(acts)
        self._take, self.button = take, go

    def mouseDoubleClickEvent(self, _: QMouseEvent) -> None:
        self._take(self)
