"""A field for a number with its unit, which reads what people type."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QLineEdit, QWidget

from calveth.app.view_state import ViewState
from calveth.app.widgets.field_keys import FieldKeys
from calveth.app.widgets.labels import set_tip
from calveth.core.errors import DomainError
from calveth.texts.units import parse_quantity, sentence_of, to_unit


class QuantityField(QLineEdit):
    """Takes “19”, “19 mm”, “3/4 in”, “1,9 cm”; arrow keys step.

    The owner's ``accept`` puts the SI value where it belongs; when it raises `DomainError` the
    field is marked, the sentence is its tool tip and is sent out, and the old value stands.

    Signals
    -------
    refused(sentence)
        What was typed is not accepted; empty when it is right again.
    """

    refused = Signal(str)

    def __init__(
        self,
        name: str,
        quantity: str,
        view: ViewState,
        accept: Callable[[float], None],
        *,
        digits: int | None = None,
        step: float = 1.0,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self._name, self._quantity, self._view = name, quantity, view
        self._accept, self._wanted_digits, self._step = accept, digits, step
        self._empty = False
        self._nothing: Callable[[], object] | None = None
        self._value_si = 0.0
        self._name_it()
        view.units_changed.connect(self._units_changed)
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        FieldKeys(self)
        self.editingFinished.connect(self._commit)

    @property
    def _unit(self) -> str:
        return self._view.units.unit(self._quantity)

    @property
    def _digits(self) -> int:
        usual = self._view.units.digits(self._quantity)
        if self._view.units.name == "metric" and self._wanted_digits is not None:
            return self._wanted_digits
        return max(usual, 1) if self._quantity == "length" else usual

    def _name_it(self) -> None:
        self.setAccessibleName(f"{self._name} [{self._unit}]" if self._unit else self._name)

    def _units_changed(self) -> None:
        self._name_it()
        self._render()

    def set_value(self, value_si: float) -> None:
        """Show an SI value; what is being typed is left alone while the field has the focus."""
        if value_si != self._value_si or not self.text():
            self._value_si, self._empty = value_si, False
            self._render()

    def allow_nothing(self, act: Callable[[], object]) -> None:
        """Take an emptied field too: ``act`` is called for it."""
        self._nothing = act

    def clear_value(self) -> None:
        """Show that there is no value."""
        self._empty = True
        self.setText("")
        self._mark("")

    def _render(self) -> None:
        if self._empty:
            self.clear_value()
            return
        value = to_unit(self._value_si, self._quantity, self._unit)
        # 19.0 mm is read as 19: digits beyond a nought promise what nobody measured.
        text = f"{value:.{self._digits}f}"
        if "." in text:
            text = text.rstrip("0").rstrip(".")
        self.setText(f"{text} {self._unit}".rstrip())
        self._mark("")

    def _commit(self) -> None:
        # The field sends this too when it is only left; what was not typed is not entered.
        if not self.isModified():
            return
        self.setModified(False)
        if self._nothing is not None and not self.text().strip():
            self.clear_value()
            self._nothing()
            return
        try:
            value = parse_quantity(self.text(), self._quantity, self._unit, self._name)
            self._put(value)
        except DomainError as error:
            self._mark(sentence_of(error, self._view.units))

    def _put(self, value_si: float) -> None:
        self._accept(value_si)
        self._value_si, self._empty = value_si, False
        self._render()

    def _mark(self, sentence: str) -> None:
        self.setProperty("wrong", bool(sentence))
        self.style().unpolish(self)
        self.style().polish(self)
        set_tip(self, sentence)
        self.refused.emit(sentence)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps = {
            Qt.Key.Key_Up: 1.0,
            Qt.Key.Key_Down: -1.0,
            Qt.Key.Key_PageUp: 10.0,
            Qt.Key.Key_PageDown: -10.0,
        }
        factor = steps.get(Qt.Key(event.key()))
        if factor is not None:
            step = self._step
            if self._quantity == "length" and self._view.units.name == "inch":
                step *= 1 / 16
            shown = to_unit(self._value_si, self._quantity, self._unit) + factor * step
            try:
                self._put(parse_quantity(f"{shown:.6f}", self._quantity, self._unit, self._name))
            except DomainError as error:
                self._mark(sentence_of(error, self._view.units))
        elif event.key() == Qt.Key.Key_Escape:
            self._render()
        else:
            super().keyPressEvent(event)
