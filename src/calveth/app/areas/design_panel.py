"""What panels that edit one design have in common."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from PySide6.QtWidgets import QWidget

from calveth.app.document import Document
from calveth.app.view_state import ViewState
from calveth.app.widgets.labels import label
from calveth.core.edits import change_design
from calveth.core.errors import DomainError
from calveth.core.hive.design import Design
from calveth.core.project import Project
from calveth.texts.units import sentence_of


class DesignPanel(QWidget):
    """Edits one design; what is refused is said in ``problem`` and the fields go back."""

    def __init__(self, document: Document, view: ViewState) -> None:
        super().__init__()
        self._document, self._view = document, view
        self._design_id = document.project.designs[0].id
        self.problem = label(role="wrong", wrap=True)
        self.problem.hide()

    def show_design(self, design_id: str) -> None:
        """Show a design."""
        self._design_id = design_id

    def _design(self) -> Design:
        return self._document.project.design(self._design_id)

    def _try(self, text: str, change: Callable[[Project], Project], merge: str = "") -> None:
        """Edit; a refusal is shown and the fields go back."""
        try:
            self._document.edit(text, change, merge)
            self._refused("")
        except DomainError as error:
            self._refused(sentence_of(error, self._view.units))
            self.show_design(self._design_id)

    def _edit(self, text: str, **fields: Any) -> None:
        """Change fields of the design; the caller's own field says what is refused."""
        design = self._design_id
        self._document.edit(
            text,
            lambda p: change_design(p, design, lambda d: replace(d, **fields)),
            merge=f"{design}/{text}",
        )

    def _refused(self, sentence: str) -> None:
        self.problem.setText(sentence)
        self.problem.setVisible(bool(sentence))
