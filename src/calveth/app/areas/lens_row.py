"""The lenses as a row of buttons, the same over the drawing and over the comparison."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from calveth.app.cutaway.view import LENS_TEXT, LENS_TIPS, LENSES, Lens
from calveth.app.view_state import ViewState
from calveth.app.widgets.pages import tab_row


def lens_row(owner: QWidget, row: QHBoxLayout, view: ViewState) -> dict[Lens, QPushButton]:
    """Put the lenses into a row and return their buttons; the one looked through is down."""
    texts = [(lens, LENS_TEXT[lens]) for lens in LENSES]
    buttons = tab_row(owner, row, texts, "look at", view.set_lens)
    for lens, button in buttons.items():
        button.setToolTip(LENS_TIPS[lens])
    buttons[view.lens].setChecked(True)
    return buttons
