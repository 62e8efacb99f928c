"""The line a refusal stands in, above the area one works in, until the next act."""

from __future__ import annotations

from PySide6.QtCore import QTimer, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QWidget

from calveth.app.widgets.labels import label, small_button


class RefusalBar(QFrame):
    """Says why something was not done, and offers the copy that may be changed instead.

    Signals
    -------
    copy_wanted()
        The copy was asked for.
    """

    copy_wanted = Signal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setProperty("role", "refusal")
        self.text = label(role="wrong", wrap=True)
        self.text.setAccessibleName("why it was not done")
        self.copy = QPushButton("Duplicate, and change the copy")
        self.copy.clicked.connect(lambda *_: self.copy_wanted.emit())
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 5, 8, 5)
        row.addWidget(self.text, 1)
        row.addWidget(self.copy)
        row.addWidget(small_button("×", "close this line", self.clear))
        self._fresh = QTimer(self)
        self._fresh.setSingleShot(True)
        self.hide()

    def show_refusal(self, sentence: str, *, copy: bool = False) -> None:
        """Show a sentence; ``copy`` offers to change a copy instead.

        A field that is right again takes its own sentence away with an empty one; what was refused
        in the same turn, by what the field set off, stays.
        """
        if not sentence:
            if not self._fresh.isActive():
                self.clear()
            return
        self.text.setText(sentence)
        self.copy.setVisible(copy)
        self.show()
        self._fresh.start(0)

    def clear(self) -> None:
        """Take the sentence away: something else was done."""
        self._fresh.stop()
        self.text.setText("")
        self.hide()
