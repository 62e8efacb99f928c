"""The first lines of a file as a table: the line of names and the columns of time are clicked."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QAbstractItemView, QTableWidget, QTableWidgetItem

_TALL_PX = 210


class FirstRows(QTableWidget):
    """Shows rows as a file has them; names and times stand in bold.

    Signals
    -------
    names_chosen(row)
        The number of a line was clicked.
    time_chosen(column)
        The head of a column was clicked.
    """

    names_chosen = Signal(int)
    time_chosen = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("first lines of the file")
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
        self.setFixedHeight(_TALL_PX)
        self.verticalHeader().setDefaultSectionSize(22)
        self.verticalHeader().sectionClicked.connect(self.names_chosen)
        self.horizontalHeader().sectionClicked.connect(self.time_chosen)

    def show_rows(
        self, rows: Sequence[Sequence[str]], header: int | None, times: Sequence[int]
    ) -> None:
        """Show rows, of which ``header`` holds the names and columns ``times`` the time."""
        wide = max((len(row) for row in rows), default=0)
        self.setRowCount(len(rows))
        self.setColumnCount(wide)
        names = ("time",) if len(times) == 1 else ("date", "clock")
        headings = dict(zip(times, names, strict=False))
        self.setHorizontalHeaderLabels([headings.get(k, str(k + 1)) for k in range(wide)])
        self.setVerticalHeaderLabels(
            ["names" if k == header else str(k + 1) for k in range(len(rows))]
        )
        for k, row in enumerate(rows):
            for at in range(wide):
                item = QTableWidgetItem(row[at] if at < len(row) else "")
                bold = item.font()
                bold.setBold(k == header or at in times)
                item.setFont(bold)
                self.setItem(k, at, item)
        self.resizeColumnsToContents()
