"""Tests of an empty hive: the sheet of each, its log read, and what it tells."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QPushButton,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import label
from calveth.core.errors import CalvethError
from calveth.store.empty_hive_log import decay_of, heater_of
from calveth.store.log_csv import LogFile, read_log
from calveth.texts.empty_hive import TITLES, TestKind, sheet_of
from calveth.texts.logs import decay_sentence, heater_sentence


class EmptyHiveDialog(QDialog):
    """Shows a sheet, reads a log, and says what it tells beside what was worked out.

    ``ask`` returns the path of a log, ``worked_out`` what the program has for the chosen hive.
    """

    def __init__(
        self,
        ask: Callable[[], Path | None],
        worked_out: Callable[[TestKind], str],
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self._ask, self._worked_out = ask, worked_out
        self._log: LogFile | None = None
        self.setWindowTitle("Test of an empty hive")
        self.resize(720, 520)
        self.kind = Choice("test", [(k, t) for k, t in TITLES.items()], lambda _: self._show())
        self.sheet = QTextBrowser()
        self.sheet.setAccessibleName("sheet of the test")
        self.read = QPushButton("Read its log …")
        self.outside = Choice("probe outside", [], lambda _: self._tell())
        self.outside_label = label("probe outside", "muted")
        self.answer = label("", wrap=True)
        row, foot = QHBoxLayout(), QHBoxLayout()
        for widget in (self.read, self.outside_label, self.outside):
            row.addWidget(widget)
        row.addStretch()
        close = QPushButton("Close")
        close.clicked.connect(self.accept)
        foot.addStretch()
        foot.addWidget(close)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 14, 16, 12)
        column.setSpacing(10)
        column.addWidget(self.kind)
        column.addWidget(self.sheet, 1)
        column.addLayout(row)
        column.addWidget(self.answer)
        column.addLayout(foot)
        self.read.clicked.connect(self._read)
        self._show()

    def _which(self) -> TestKind:
        return next(k for k in TITLES if k == self.kind.currentData())

    def _show(self) -> None:
        kind = self._which()
        self._log = None
        self.sheet.setHtml(sheet_of(kind))
        self.read.setVisible(kind != "smoke")
        self._show_probes()
        self.answer.setText("")

    def _show_probes(self) -> None:
        warm = (
            []
            if self._log is None
            else [c.name for c in self._log.columns if c.series.quantity == "temperature"]
        )
        self.outside.set_rows([(name, name) for name in warm])
        out = next((name for name in warm if "out" in name.lower()), warm[-1] if warm else "")
        self.outside.show_id(out)
        for widget in (self.outside, self.outside_label):
            widget.setVisible(self._which() == "heater" and len(warm) > 1)

    def _read(self, *_: object) -> None:
        path = self._ask()
        if path is None:
            return
        try:
            self._log = read_log(path, "UTC")
        except CalvethError as error:
            self.answer.setText(str(error))
            return
        self._show_probes()
        self._tell()

    def _tell(self) -> None:
        if self._log is None:
            return
        kind = self._which()
        try:
            if kind == "heater":
                text = heater_sentence(heater_of(self._log, self.outside.currentData()))
            else:
                text = decay_sentence(decay_of(self._log))
        except CalvethError as error:
            self.answer.setText(str(error).replace("(--outside HEADER) ", ""))
            return
        self.answer.setText(f"{text}\n{self._worked_out(kind)}".strip())
