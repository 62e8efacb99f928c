"""A combo box that shows ids as names and tells when the user has chosen."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from PySide6.QtWidgets import QComboBox


class Choice(QComboBox):
    """Names with ids behind them; ``act`` is called with the id the user picks."""

    def __init__(
        self,
        name: str,
        rows: Iterable[tuple[str, str]],
        act: Callable[[str], object],
        *,
        narrow: int = 0,
    ) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.set_rows(rows)
        if narrow:
            self.setSizeAdjustPolicy(
                QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon
            )
            self.setMinimumContentsLength(narrow)
        self.activated.connect(lambda _: act(self.currentData()))

    def set_rows(self, rows: Iterable[tuple[str, str]]) -> None:
        """Show other rows of (id, name)."""
        self.clear()
        for key, text in rows:
            self.addItem(text, key)

    def show_id(self, key: str) -> None:
        """Show a row without telling anybody."""
        at = self.findData(key)
        if at != self.currentIndex():
            self.setCurrentIndex(at)

    def choose(self, key: str) -> None:
        """Pick a row as a user would."""
        self.setCurrentIndex(self.findData(key))
        self.activated.emit(self.currentIndex())
