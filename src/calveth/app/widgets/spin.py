"""Fields for whole numbers, and for compass bearings that are also said in words."""

from __future__ import annotations

import re

from PySide6.QtCore import QPoint, Signal
from PySide6.QtGui import QValidator, QWheelEvent
from PySide6.QtWidgets import QSpinBox, QToolTip

from calveth.app.widgets.field_keys import FieldKeys
from calveth.app.widgets.labels import set_tip

_POINTS = ("N", "NE", "E", "SE", "S", "SW", "W", "NW")
_MOST_DIGITS = 9


def compass_point(bearing_deg: float) -> str:
    """Return the nearest of the eight compass points to a bearing [°]."""
    return _POINTS[round(bearing_deg / 45.0) % 8]


class CountBox(QSpinBox):
    """A whole number in a range, taken when it is left, not while it is typed.

    What is typed stays as it is typed; a number out of the range is refused with a sentence when
    the field is left, and the value before stands.

    Signals
    -------
    refused(sentence)
        What was typed is not accepted; empty when it is right again.
    """

    refused = Signal(str)

    def __init__(self, name: str, low: int, high: int) -> None:
        super().__init__()
        self._name = name
        self.setRange(low, high)
        self.setKeyboardTracking(False)
        self.setAccessibleName(name)
        self.lineEdit().setTextMargins(5, 0, 0, 0)
        self.valueChanged.connect(lambda _: self._say(""))
        FieldKeys(self.lineEdit())

    def show_value(self, value: int) -> None:
        """Show a value without telling anybody."""
        self.blockSignals(True)
        self.setValue(value)
        self.blockSignals(False)

    def validate(self, text: str, position: int) -> tuple[QValidator.State, str, int]:
        digits = text.strip()
        if not re.fullmatch(r"[-−+]?\d*", digits) or len(digits) > _MOST_DIGITS:
            return QValidator.State.Invalid, text, position
        inside = digits.isdigit() and self.minimum() <= int(digits) <= self.maximum()
        state = QValidator.State.Acceptable if inside else QValidator.State.Intermediate
        return state, text, position

    def fixup(self, text: str) -> str:
        """Refuse what was left in the field; Qt calls it before it puts the old value back."""
        if text.strip():
            self._say(
                f"{self._name}: {text.strip()} is outside {self.minimum()} to {self.maximum()}; "
                "enter a whole number in that range"
            )
        return text

    def _say(self, sentence: str) -> None:
        set_tip(self, sentence)
        self.refused.emit(sentence)
        if sentence and self.isVisible():
            QToolTip.showText(self.mapToGlobal(QPoint(0, self.height())), sentence, self)

    def wheelEvent(self, event: QWheelEvent) -> None:
        # A page scrolls on under the pointer; a number is never changed by the way.
        event.ignore()


class BearingBox(CountBox):
    """Shows “135° SE”; takes a number of degrees or the name of a point."""

    def __init__(self, name: str) -> None:
        super().__init__(name, 0, 360)
        self.setSingleStep(5)
        self.setWrapping(True)

    def textFromValue(self, value: int) -> str:
        return f"{value}° {compass_point(value)}"

    def valueFromText(self, text: str) -> int:
        number = re.match(r"\s*(\d{1,3})", text)
        if number:
            return min(int(number[1]), 360)
        word = text.strip().upper()
        return 45 * _POINTS.index(word) if word in _POINTS else self.value()

    def validate(self, text: str, position: int) -> tuple[QValidator.State, str, int]:
        word = text.strip().upper()
        number = re.fullmatch(r"(\d{1,3})\s*°?\s*[NESW]{0,2}", word)
        if (number and int(number[1]) <= 360) or word in _POINTS:
            return QValidator.State.Acceptable, text, position
        beginning = re.fullmatch(r"[\d°\sNESW]*", word)
        state = QValidator.State.Intermediate if beginning else QValidator.State.Invalid
        return state, text, position
