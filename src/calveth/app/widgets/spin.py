"""Fields for whole numbers, and for compass bearings that are also said in words."""

from __future__ import annotations

import re

from PySide6.QtGui import QValidator
from PySide6.QtWidgets import QSpinBox

_POINTS = ("N", "NE", "E", "SE", "S", "SW", "W", "NW")


def compass_point(bearing_deg: float) -> str:
    """Return the nearest of the eight compass points to a bearing [°]."""
    return _POINTS[round(bearing_deg / 45.0) % 8]


class CountBox(QSpinBox):
    """A whole number in a range, taken when it is left, not while it is typed."""

    def __init__(self, name: str, low: int, high: int) -> None:
        super().__init__()
        self.setRange(low, high)
        self.setKeyboardTracking(False)
        self.setAccessibleName(name)
        self.lineEdit().setTextMargins(5, 0, 0, 0)

    def show_value(self, value: int) -> None:
        """Show a value without telling anybody."""
        self.blockSignals(True)
        self.setValue(value)
        self.blockSignals(False)


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
