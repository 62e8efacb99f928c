"""The working behind a figure: formula, inputs, source, how sure."""

from __future__ import annotations

from collections.abc import Callable
from html import escape

from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QHBoxLayout,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

from calveth.app.theme.theme import current
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import label
from calveth.texts.derivation import FIGURES, Asked, Working


class WorkingDialog(QDialog):
    """Shows the working of one figure after another; the text can be selected and copied."""

    def __init__(
        self,
        asked: Asked,
        figure: str,
        make: Callable[[str, Asked], Working],
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self._asked, self._make = asked, make
        self.resize(700, 480)
        self.figure = Choice("figure", [(f, f) for f in FIGURES], self.show_figure)
        self.text = QTextBrowser()
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        head = QHBoxLayout()
        head.addWidget(label(f"{asked.monthly.design.name}:", "heading"))
        head.addWidget(self.figure)
        head.addStretch()
        column = QVBoxLayout(self)
        column.addLayout(head)
        column.addWidget(self.text)
        column.addWidget(buttons)
        self.show_figure(figure)

    def show_figure(self, figure: str) -> None:
        """Show the working of another figure."""
        derivation = self._make(figure, self._asked)
        self.figure.show_id(figure)
        self.setWindowTitle(derivation.title)
        self.text.setAccessibleName(f"working of {derivation.title}")
        self.text.setHtml(working_html(derivation, current().muted))


def working_html(working: Working, muted: str) -> str:
    """Return a working as a page of simple HTML."""
    rows = "".join(
        f"<tr><td style='padding:2px 14px 2px 0'>{escape(i.name)}</td>"
        f"<td style='padding:2px 14px 2px 0'><b>{escape(i.value)}</b></td>"
        f"<td style='padding:2px 0;color:{muted}'>{escape(i.source)}</td></tr>"
        for i in working.inputs
    )
    note = f"<p>{escape(working.note)}</p>" if working.note else ""
    return (
        f"<h3>{escape(working.title)}: {escape(working.result)}</h3>"
        f"<p>{escape(working.formula)}</p><table>{rows}</table>"
        f"<p style='color:{muted}'>{escape(working.source)}</p>{note}"
    )
