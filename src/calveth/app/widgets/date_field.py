"""A field for a date, or a date with its hour, which reads what people type, with a calendar."""

from __future__ import annotations

from datetime import datetime

from PySide6.QtCore import QDate, QPoint, Qt, Signal
from PySide6.QtGui import QKeyEvent, QResizeEvent
from PySide6.QtWidgets import QCalendarWidget, QLineEdit, QMenu, QToolButton, QWidget, QWidgetAction

from calveth.app.widgets.labels import set_tip
from calveth.core.errors import DomainError
from calveth.texts.dates import read_date, read_moment


class DateField(QLineEdit):
    """Takes a date in any common form; what is refused stays as it was typed, marked, with why.

    Signals
    -------
    entered(text)
        Another date: 2026-02-03, or with its hour 2026-02-03T14:30.
    refused(sentence)
        What was typed is not accepted; empty when it is right again.
    """

    entered = Signal(str)
    refused = Signal(str)

    def __init__(self, name: str, *, hour: bool = False, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._name, self._hour = name, hour
        self._value = ""
        self.setAccessibleName(name)
        self.setPlaceholderText("2026-02-03 14:30" if hour else "2026-02-03")
        self._button = QToolButton(self)
        self._button.setText("▾")
        self._button.setProperty("role", "small")
        self._button.setAccessibleName(f"calendar for {name}")
        # Tab goes from field to field; the calendar opens by Alt+Down from the keyboard.
        self._button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._button.clicked.connect(self.show_calendar)
        self.setTextMargins(0, 0, 22, 0)
        self.editingFinished.connect(self._commit)

    @property
    def value(self) -> str:
        """The date that stands."""
        return self._value

    def set_value(self, text: str) -> None:
        """Show a date as it is kept; nothing for an empty text."""
        self._value = text[:16]  # to the minute
        self._show_value()

    def refuse(self, sentence: str) -> None:
        """Mark what was typed as not accepted, and say why; it stays to be corrected."""
        self.setProperty("wrong", bool(sentence))
        self.style().unpolish(self)
        self.style().polish(self)
        set_tip(self, sentence)
        self.refused.emit(sentence)

    def show_calendar(self) -> None:
        """Open a calendar under the field."""
        menu = QMenu(self)
        calendar = QCalendarWidget()
        calendar.setGridVisible(False)
        day = QDate.fromString(self._value[:10], "yyyy-MM-dd")
        calendar.setSelectedDate(day if day.isValid() else QDate.currentDate())
        calendar.clicked.connect(menu.close)
        calendar.clicked.connect(self.pick)
        calendar.activated.connect(menu.close)
        calendar.activated.connect(self.pick)
        action = QWidgetAction(menu)
        action.setDefaultWidget(calendar)
        menu.addAction(action)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(self.mapToGlobal(QPoint(0, self.height())))

    def pick(self, day: QDate) -> None:
        """Take a day of the calendar; the hour stays."""
        hour = self._value[11:] or "12:00"
        self.setText(day.toString("yyyy-MM-dd") + (f" {hour}" if self._hour else ""))
        self.setModified(True)
        self._commit()

    def _show_value(self) -> None:
        self.setText(self._value.replace("T", " "))
        self.setModified(False)
        if self.property("wrong"):
            self.refuse("")

    def _commit(self) -> None:
        if not self.isModified():
            return
        self.setModified(False)
        try:
            text = self._read()
        except DomainError as error:
            self.refuse(str(error))
            return
        self.refuse("")
        if text != self._value:
            self.entered.emit(text)
        else:
            self._show_value()

    def _read(self) -> str:
        if self._hour:
            parsed: datetime = read_moment(self.text(), self._name)
            return parsed.isoformat(timespec="minutes")
        return read_date(self.text(), self._name).isoformat()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        if key == Qt.Key.Key_Escape:
            self._show_value()
        elif key == Qt.Key.Key_Down and event.modifiers() & Qt.KeyboardModifier.AltModifier:
            self.show_calendar()
        else:
            super().keyPressEvent(event)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        size = self._button.sizeHint()
        self._button.setGeometry(
            self.width() - size.width() - 3, 3, size.width(), max(self.height() - 6, 8)
        )
