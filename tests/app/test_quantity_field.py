"""The number field: reads what people type, refuses in words, steps by keys."""

from __future__ import annotations

import unittest

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from calveth.app.view_state import ViewState
from calveth.app.widgets.quantity import QuantityField
from calveth.core.errors import DomainError, require_between
from calveth.texts.units import INCH, METRIC
from tests.app.base import WindowTest


class Typing(WindowTest):
    def setUp(self) -> None:
        super().setUp()
        self.taken: list[float] = []
        self.answer: list[str] = []
        self.view = ViewState("x")
        self.field = QuantityField("thickness", "length", self.view, self.accept, digits=1)
        self.field.refused.connect(self.answer.append)
        self.field.set_value(0.019)
        self.field.show()
        self.addCleanup(self.field.close)

    def accept(self, value: float) -> None:
        require_between("thickness", value, 0.001, 0.5, "m")
        self.taken.append(value)

    def test_it_shows_its_unit(self) -> None:
        self.assertEqual(self.field.text(), "19 mm")
        self.assertEqual(self.field.accessibleName(), "thickness [mm]")

    def test_typed_values(self) -> None:
        for text, expected in (
            ("25", 0.025),
            ("3/4 in", 0.01905),
            ("1,9 cm", 0.019),
            ("32 mm", 0.032),
        ):
            with self.subTest(text=text):
                self.type_into(self.field, text)
                self.assertAlmostEqual(self.taken[-1], expected)

    def test_a_refused_value_is_marked_and_said_and_not_taken(self) -> None:
        for text, part in (("thick", "not a number"), ("-5", "outside"), ("900", "outside")):
            with self.subTest(text=text):
                self.type_into(self.field, text)
                self.assertEqual(self.taken, [])
                self.assertIn(part, self.answer[-1])
                self.assertTrue(self.field.property("wrong"))
                self.assertEqual(self.field.text(), text)

    def test_escape_brings_the_old_value_back(self) -> None:
        self.type_into(self.field, "thick")
        QTest.keyClick(self.field, Qt.Key.Key_Escape)
        self.assertEqual(self.field.text(), "19 mm")
        self.assertFalse(self.field.property("wrong"))

    def test_arrow_keys_step(self) -> None:
        QTest.keyClick(self.field, Qt.Key.Key_Up)
        QTest.keyClick(self.field, Qt.Key.Key_PageUp)
        QTest.keyClick(self.field, Qt.Key.Key_Down)
        self.assertEqual([round(v * 1000) for v in self.taken], [20, 30, 29])
        self.assertEqual(self.field.text(), "29 mm")

    def test_steps_stop_at_the_limit_in_words(self) -> None:
        self.field.set_value(0.001)
        QTest.keyClick(self.field, Qt.Key.Key_PageDown)
        self.assertEqual(self.taken, [])
        self.assertIn("outside", self.answer[-1])

    def test_inch_units_at_a_key(self) -> None:
        self.view.set_units(INCH)
        self.assertEqual(self.field.text(), "0.75 in")
        self.assertEqual(self.field.accessibleName(), "thickness [in]")
        self.type_into(self.field, "1")
        self.assertAlmostEqual(self.taken[-1], 0.0254)
        QTest.keyClick(self.field, Qt.Key.Key_Up)
        # A sixteenth of an inch more (common practice, no source).
        self.assertAlmostEqual(self.taken[-1], 0.0254 + 0.0015875, places=6)
        self.view.set_units(METRIC)
        self.assertEqual(self.field.text(), "27 mm")

    def test_leaving_without_typing_changes_nothing(self) -> None:
        self.field.setFocus()
        self.field.clearFocus()
        self.assertEqual(self.taken, [])

    def test_an_error_of_the_owner_is_the_users_sentence(self) -> None:
        def refuse(_: float) -> None:
            raise DomainError("lid layer 1 thickness", 0.3, "m is too thick for this")

        field = QuantityField("x", "length", self.view, refuse)
        field.set_value(0.02)
        field.show()
        self.addCleanup(field.close)
        self.type_into(field, "300")
        self.assertIn("too thick for this", field.toolTip())


if __name__ == "__main__":
    unittest.main()
