"""A logger's file before it is read into the diary: what was found, and where each probe is."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from pathlib import Path

from PySide6.QtWidgets import (
    QCheckBox,
    QDialogButtonBox,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from calveth.app.dialogs.stoppable import StoppableDialog
from calveth.app.jobs import Jobs
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.first_rows import FirstRows
from calveth.app.widgets.labels import clear, label
from calveth.core.errors import CalvethError
from calveth.core.records.diary import StandingHive
from calveth.core.records.quantity import QUANTITIES, WHERE, Where
from calveth.store.csv_in import first_rows
from calveth.store.log_csv import DATE_ORDERS, DateOrder, LogFile, LogLayout, read_log
from calveth.texts.logs import series_sentence
from calveth.texts.units import METRIC, sentence_of

Taken = tuple[str, Where]
_ROWS = 8
_HINT = (
    "If the lines are read wrong: click the number of the line the names stand in, and the head "
    "of the column of the time, or of both date and clock."
)
_ORDERS: tuple[tuple[str, str], ...] = (
    ("", "as the file shows"),
    ("day first", "day first"),
    ("month first", "month first"),
)


class LogDialog(StoppableDialog):
    """Shows how a file is read, beside the window, and asks where its probes are.

    ``zone`` is how the clock of the logger is set; a change of it, or of the order of the date,
    reads the file anew.
    """

    def __init__(
        self,
        path: Path,
        hives: Sequence[StandingHive],
        hive: str,
        zone: str,
        jobs: Jobs,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(jobs, parent)
        self.hear(jobs.refused, self._refused)
        self._header: int | None = None
        self._times: tuple[int, ...] = ()
        self.path = path
        self.log: LogFile | None = None
        self.setWindowTitle("Read a log")
        self.resize(860, 640)
        self.hive = Choice("hive of the log", [(h.id, h.name) for h in hives], lambda _: None)
        self.hive.show_id(hive)
        self.zone = QLineEdit(zone)
        self.zone.setAccessibleName("time zone of the logger's clock")
        self.zone.setToolTip(
            "UTC, a name as Europe/Berlin, or Etc/GMT-1 for standard time all year"
        )
        self.order = Choice("order of the date", _ORDERS, lambda _: self.read())
        self.again = QPushButton("Read again")
        self.again.clicked.connect(lambda *_: self.read())
        self.watch = QCheckBox("Follow the file while the window is open")
        self.watch.setToolTip("Rows that are added to it come into the diary by themselves")
        self.answer = label("", wrap=True)
        self.rows = FirstRows()
        self.rows.names_chosen.connect(self.take_header)
        self.rows.time_chosen.connect(self.take_time)
        self.places: dict[str, Choice] = {}
        self.units: dict[str, Choice] = {}
        self._units: dict[str, str] = {}
        self._columns = QGridLayout()
        self._columns.setHorizontalSpacing(14)
        self._asked: tuple[str, DateOrder | None] | None = None
        self._chosen: dict[str, str] = {}
        self._lay_out()
        self.zone.editingFinished.connect(self._read_other)
        self.read()

    def _lay_out(self) -> None:
        top = QHBoxLayout()
        for text, widget in (
            ("hive", self.hive),
            ("clock of the logger", self.zone),
            ("dates", self.order),
        ):
            top.addWidget(label(text, "muted"))
            top.addWidget(widget)
        top.addWidget(self.again)
        top.addStretch()
        self.buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        self.buttons.button(QDialogButtonBox.StandardButton.Ok).setText("Read into the diary")
        self.buttons.accepted.connect(self.accept)
        self.buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 14, 16, 12)
        column.setSpacing(10)
        column.addWidget(label(self.path.name, "title"))
        column.addLayout(top)
        column.addWidget(self.rows)
        column.addWidget(label(_HINT, "muted", wrap=True))
        column.addWidget(self.answer)
        column.addLayout(self._columns)
        column.addStretch()
        column.addWidget(self.watch)
        column.addWidget(self.buttons)

    def _fields(self) -> tuple[str, DateOrder | None]:
        order = next((o for o in DATE_ORDERS if o == self.order.currentData()), None)
        return self.zone.text().strip(), order

    def _read_other(self) -> None:
        """Read the file when the fields say something else than they did."""
        if self._fields() != self._asked:
            self.read()

    def read(self) -> None:
        """Read the file as the fields say, and show what was found when it is there."""
        self._chosen = {name: str(c.currentData()) for name, c in self.places.items()}
        self._empty()
        self.answer.setText("Reading … Esc stops it")
        path, (zone, order) = self.path, self._fields()
        self._asked = zone, order
        layout = LogLayout(header=self._header, times=self._times, units=dict(self._units))

        def work() -> object:
            first = first_rows(path, _ROWS)
            try:
                return first, read_log(path, zone, order, layout)
            except CalvethError as error:
                # The lines are shown all the same: they are what is clicked to read it right.
                return first, error

        self._jobs.run(work, self._take)

    def take_header(self, row: int) -> None:
        """Take the names of the columns from a line, and read the file anew."""
        self._header = row
        self.read()

    def take_time(self, column: int) -> None:
        """Take the time from a column, or date and clock from two; a second click lets it go."""
        if column in self._times:
            self._times = tuple(k for k in self._times if k != column)
        else:
            self._times = (*self._times, column)[-2:]
        self.read()

    def _take(self, answer: object) -> None:
        assert isinstance(answer, tuple)
        first, units = answer
        if isinstance(units, LogFile):
            self.rows.show_rows(first, units.layout.header, units.layout.times)
        else:
            self.rows.show_rows(first, self._header, self._times)
        if isinstance(units, LogFile):
            self._show(units)
        else:
            self._refused(sentence_of(units, METRIC))

    def _empty(self) -> None:
        clear(self._columns)
        self.places, self.units, self.log = {}, {}, None
        self._tell()

    def _refused(self, sentence: str) -> None:
        self._empty()
        self.answer.setText(sentence)

    def _show(self, log: LogFile) -> None:
        self.log = log
        self.answer.setText("; ".join(log.notes) + ".")
        for row, column in enumerate(log.columns):
            series = column.series
            caption = label(series_sentence(column.name, series), wrap=True)
            self._columns.addWidget(caption, row, 0)
            rows = [("", "not read")]
            rows += [(at, at) for at in QUANTITIES[series.quantity].places]
            choice = Choice(f"where {column.name} is measured", rows, lambda _: self._tell())
            choice.show_id(self._chosen.get(column.name, _likely(column.name, rows)))
            self._columns.addWidget(choice, row, 1)
            self.places[column.name] = choice
        for row, (name, meanings) in enumerate(log.asked, start=len(log.columns)):
            self._columns.addWidget(label(f"{name}: what is it?", wrap=True), row, 0)
            units = [f"{m.quantity} {m.unit}" for m in meanings]
            ask = Choice(
                f"what {name} is",
                [("", "not read"), *((u, u) for u in units)],
                partial(self._say_unit, name),
            )
            self._columns.addWidget(ask, row, 1)
            self.units[name] = ask
        self._columns.setColumnStretch(0, 1)
        self._tell()

    def _say_unit(self, name: str, unit: str) -> None:
        """Read the file anew, knowing what a column is."""
        if unit:
            self._units[name] = unit
            self.read()

    def taken(self) -> list[Taken]:
        """Return the columns to read and where their probes are."""
        chosen = []
        for name, choice in self.places.items():
            at = next((w for w in WHERE if w == choice.currentData()), None)
            if at is not None:
                chosen.append((name, at))
        return chosen

    def _tell(self) -> None:
        ok = self.buttons.button(QDialogButtonBox.StandardButton.Ok)
        ok.setEnabled(self.log is not None and bool(self.taken()))


# What headers call a place, in the languages such files came in so far; common practice, no source.
_WORDS: dict[Where, tuple[str, ...]] = {
    "outside": ("out", "außen", "aussen", "ambient", "draußen"),
    "under the lid": ("lid", "top", "deckel"),
    "among the bees": ("nest", "brood", "bees", "inside", "innen", "brut"),
    "at the floor": ("floor", "bottom", "boden"),
    "scale": ("kg", "lb", "weight", "gewicht"),
    "heater": ("watt", " w"),
}


def _likely(header: str, rows: Sequence[tuple[str, str]]) -> str:
    """Return where a header says its probe is; nothing where it does not."""
    words = header.lower()
    keys = [key for key, _ in rows]
    for at, heading_words in _WORDS.items():
        if at in keys and any(word in words for word in heading_words):
            return at
    return ""
