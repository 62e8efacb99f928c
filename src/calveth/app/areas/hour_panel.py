"""The hive cut open at one hour of its year, under any lens, and what is to be said of it."""

from __future__ import annotations

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from calveth.app.areas.findings_panel import finding_row
from calveth.app.areas.lens_row import lens_row
from calveth.app.cutaway.view import scene
from calveth.app.cutaway.widget import CutawayWidget
from calveth.app.document import Document
from calveth.app.hour_view import hour_view
from calveth.app.results import Results
from calveth.app.view_state import ViewState
from calveth.app.widgets.labels import clear, label
from calveth.texts.year import hour_words

_PICTURE_PX = 330


class HourPanel(QWidget):
    """Follows the hand through the hours while it is in sight."""

    def __init__(self, document: Document, results: Results, view: ViewState) -> None:
        super().__init__()
        self._document, self._results, self._view = document, results, view
        self.title = label("", "heading")
        self.picture = CutawayWidget(small=True)
        self.picture.setFixedHeight(_PICTURE_PX)
        self._findings = QVBoxLayout()
        self._findings.setSpacing(4)
        lenses = QWidget()
        row = QHBoxLayout(lenses)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(2)
        self.lens_buttons = lens_row(self, row, view)
        # Two rows: the panel is as narrow as the one it stands in for.
        grid = QGridLayout()
        grid.setSpacing(4)
        for k, button in enumerate(self.lens_buttons.values()):
            grid.addWidget(button, k // 3, k % 3)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 8, 12, 8)
        column.setSpacing(7)
        column.addWidget(self.title)
        column.addLayout(grid)
        column.addWidget(self.picture)
        column.addLayout(self._findings)
        column.addStretch()
        # The hand may move many times before there is time to draw.
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.timeout.connect(self._fill)
        for signal in (view.hour_changed, view.lens_changed, view.units_changed):
            signal.connect(self.show_soon)

    def show_soon(self, *_: object) -> None:
        """Show the hour under the hand as soon as there is time."""
        if self.isVisible():
            self._soon.start(0)

    def _fill(self) -> None:
        view, project = self._view, self._document.project
        design = project.design(view.design_id)
        self.lens_buttons[view.lens].setChecked(True)
        self.title.setText(hour_words(view.hour))
        clear(self._findings)
        hour = hour_view(self._results, design, view)
        if hour is None:
            return
        self.picture.set_scene(
            scene(
                design,
                project.material_table(),
                project.colony,
                hour.monthly,
                view.month,
                view.lens,
                units=view.units,
                solved=self._results.conduction(design.id, view.month),
                sun=hour.sun,
                as_set=hour.design,
                films_g=hour.films_g,
            )
        )
        for sentence in hour.sentences:
            self._findings.addLayout(finding_row(sentence))
