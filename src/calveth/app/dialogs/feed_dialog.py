"""How much honey to leave: the winter-feed table of a hive, here or in every climate."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtWidgets import (
    QHBoxLayout,
    QProgressBar,
    QPushButton,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

from calveth.app.dialogs.stoppable import StoppableDialog
from calveth.app.jobs import Jobs
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import label
from calveth.core.year.questions import FeedCell
from calveth.texts.feed import feed_html
from calveth.texts.units import UnitSystem

DRAWS = 8
Work = Callable[[str, int, Callable[[float], None]], list[FeedCell]]
Save = Callable[[list[FeedCell], str], Path | None]


class FeedDialog(StoppableDialog):
    """Works the table out beside the window; saves it for the wall and as data."""

    def __init__(
        self,
        hive: str,
        units: UnitSystem,
        jobs: Jobs,
        work: Work,
        save: Save,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(jobs, parent)
        self._units, self._work, self._save = units, work, save
        self.cells: list[FeedCell] = []
        self.setWindowTitle("Winter feed")
        self.resize(980, 560)
        self.where = Choice(
            "where", [("here", "at this place"), ("all", "in every climate")], lambda _: None
        )
        self.begin_button = QPushButton("Work it out")
        self.begin_button.setDefault(True)
        self.begin_button.clicked.connect(self.begin)
        self.progress = QProgressBar()
        self.progress.setAccessibleName("how far the table is")
        self.progress.setMaximumWidth(160)
        self.progress.hide()
        self.answer = label(f"How much honey to leave for {hive}.", wrap=True)
        self.page = QTextBrowser()
        self.page.setAccessibleName("winter-feed table")
        self.save_buttons: dict[str, QPushButton] = {}
        head, foot = QHBoxLayout(), QHBoxLayout()
        for widget in (self.where, self.begin_button, self.progress):
            head.addWidget(widget)
        head.addWidget(self.answer, 1)
        close = QPushButton("Close")
        close.clicked.connect(self.reject)
        foot.addWidget(close)
        foot.addStretch()
        for ending, text in (
            (".pdf", "Save for the wall (PDF) …"),
            (".csv", "Save as data (CSV) …"),
        ):
            button = QPushButton(text)
            button.setEnabled(False)
            button.clicked.connect(lambda _, e=ending: self._keep(e))
            self.save_buttons[ending] = button
            foot.addWidget(button)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 14, 16, 12)
        column.setSpacing(10)
        column.addLayout(head)
        column.addWidget(self.page, 1)
        column.addLayout(foot)
        self.hear(jobs.progress, self._show_share)
        self.hear(jobs.refused, self._refused)

    def begin(self) -> None:
        """Work the table out: as likely first, then with its ranges."""
        if self._jobs.idle():
            self._run(0)

    def _run(self, draws: int) -> None:
        self.progress.setValue(0)
        self.progress.show()
        self.answer.setText(
            "working … Esc stops it" if draws == 0 else "ranges come … Esc stops it"
        )
        report, where, work = self._jobs.reporter(), str(self.where.currentData()), self._work

        def done(answer: object) -> None:
            assert isinstance(answer, list)
            self.cells = answer
            self.page.setHtml(feed_html(self.cells, self._units))
            self.progress.hide()
            self.answer.setText("")
            for button in self.save_buttons.values():
                button.setEnabled(True)
            if draws == 0:
                self._run(DRAWS)

        self._jobs.run(lambda: work(where, draws, report), done)

    def _show_share(self, share: float) -> None:
        self.progress.setValue(round(100 * share))

    def _refused(self, sentence: str) -> None:
        self.progress.hide()
        self.answer.setText(sentence)

    def _keep(self, ending: str) -> None:
        written = self._save(self.cells, ending)
        if written is not None:
            self.answer.setText(f"wrote {written.name}")
