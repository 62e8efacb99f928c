"""What is refused is said where the eye is: all buttons over hives that were built."""

from __future__ import annotations

import unittest
from dataclasses import replace

from PySide6.QtWidgets import QAbstractButton, QWidget

from calveth.app.main_window import AREAS, MainWindow
from calveth.catalogue.apiary import apiary_project
from calveth.core.project import Project
from tests.app.base import WindowTest
from tests.diary.cases import KEPT

# What opens dialogs, writes files or begins long work has tests of its own.
_PASSED_OVER = (
    "…",
    "work",
    "stop",
    "print",
    "write",
    "export",
    "read",
    "search",
    "travel",
    "sheet",
    "calendar",
    "▾",
    "marks in the drawing",
    "take over",
    "next version",
    "find",
    "pdf",
    "folder",
    "dialog",
)


def buttons(area: QWidget) -> list[QAbstractButton]:
    """Return the buttons of an area one may press without a dialog coming up."""
    return [
        b
        for b in area.findChildren(QAbstractButton)
        if b.isVisibleTo(area)
        and b.isEnabled()
        and not any(word in f"{b.text()} {b.accessibleName()}".lower() for word in _PASSED_OVER)
    ]


class BuiltHives(WindowTest):
    def built(self, window: MainWindow, before: Project) -> None:
        """Assert that no design that was built has changed."""
        for design in before.designs:
            if before.diary.entries_of(design.id):
                self.assertEqual(window.document.project.design(design.id), design)

    def test_every_button_says_why_or_does_something(self) -> None:
        two = tuple(KEPT.design(key) for key in ("plain-boards", "composite"))
        before = replace(KEPT, designs=two)
        w = self.window(before)
        w.choose("plain-boards")
        pressed = refused = 0
        for area in AREAS:
            w.go_to(area)
            self.settle(w)
            tabs = w.shell.face_buttons if area == "shell" else {"": None}
            for tab in tabs:
                if tab:
                    w.shell.show_tab(tab)
                page = getattr(w, area)
                names = [(b.text(), b.accessibleName()) for b in buttons(page)]
                for name in names:
                    button = next(
                        (b for b in buttons(page) if (b.text(), b.accessibleName()) == name), None
                    )
                    if button is None or button in w.shell.face_buttons.values():
                        continue
                    w.choose("plain-boards")
                    w.refusal.clear()
                    button.click()
                    self.app.processEvents()
                    pressed += 1
                    if w.refusal.isVisible():
                        refused += 1
                        self.assertGreater(len(w.refusal.text.text()), 20, name)
                    self.built(w, before)
                    while w.document.undo_stack.canUndo():
                        w.document.undo_stack.undo()
        self.assertGreater(pressed, 40)
        self.assertGreaterEqual(refused, 3)

    def test_layers_and_openings_of_the_apiary_are_refused_in_words(self) -> None:
        """The fourteen of the review: each plus and cross of a built hive, and another material."""
        project = apiary_project()
        w = self.window(project)
        w.choose("composite")
        self.assertTrue(w.shell.built.isVisible())
        self.assertIn("in the diary", w.shell.built_text.text())
        clicked = 0
        for tab in ("lid", "walls", "floor", "openings"):
            w.shell.show_tab(tab)
            panel = w.shell.openings if tab == "openings" else w.shell.layers
            for name in [
                b.accessibleName()
                for b in panel.findChildren(QAbstractButton)
                if b.text() in ("+ layer", "×")
            ]:
                button = next(
                    b for b in panel.findChildren(QAbstractButton) if b.accessibleName() == name
                )
                if not button.isEnabled():
                    continue
                w.refusal.clear()
                button.click()
                clicked += 1
                self.assertIn("duplicate it", w.refusal.text.text(), name)
                self.assertTrue(w.refusal.copy.isVisible())
        self.assertGreaterEqual(clicked, 8)
        self.assertEqual(w.document.project, project)
        w.shell.show_tab("walls")
        combo = w.shell.layers.combos[0]
        was = combo.currentData()
        w.shell.layers._choose(0, "oak")
        self.assertEqual(combo.currentData(), was)
        self.assertIn("duplicate it", w.refusal.text.text())
        # The line stays until the next act, and its button is one.
        w.refusal.copy.click()
        self.settle(w)
        self.assertFalse(w.refusal.isVisible())
        self.assertNotEqual(w.view.design_id, "composite")
        self.assertFalse(w.shell.built.isVisible())

    def test_an_error_of_a_slot_is_shown_in_the_window(self) -> None:
        from calveth.app.launch import _tell_windows
        from calveth.core.errors import DomainError

        w = self.window(KEPT)
        _tell_windows(DomainError("lid", 1, "is refused"))
        self.assertIn("is refused", w.refusal.text.text())
        _tell_windows(ZeroDivisionError("by zero"))
        self.assertIn("Something went wrong", w.refusal.text.text())
        w.go_to("place")
        self.assertFalse(w.refusal.isVisible())


if __name__ == "__main__":
    unittest.main()
