"""Lists to choose from: a short one, and one that can be searched."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence

from PySide6.QtCore import QEvent, QObject, QPoint, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QWheelEvent
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
)

from calveth.app.widgets.labels import set_tip


class Choice(QComboBox):
    """Names with ids behind them; ``act`` is called with the id the user picks.

    Letters typed on the closed list open it: nothing is picked before Return.
    """

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
        self._narrow = narrow
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
        """Show a row without telling anybody; where it may be cut its name is the tool tip."""
        at = self.findData(key)
        if at != self.currentIndex():
            self.setCurrentIndex(at)
        if self._narrow:
            set_tip(self, self.currentText())

    def choose(self, key: str) -> None:
        """Pick a row as a user would."""
        self.setCurrentIndex(self.findData(key))
        self.activated.emit(self.currentIndex())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        letter = event.text()
        plain = not event.modifiers() & ~Qt.KeyboardModifier.ShiftModifier
        if plain and letter.strip() and letter.isprintable():
            self.begin_search(letter)
        else:
            super().keyPressEvent(event)

    def begin_search(self, letter: str) -> None:
        """Open the list and look for what begins with a letter."""
        self.showPopup()
        self.view().keyboardSearch(letter)

    def wheelEvent(self, event: QWheelEvent) -> None:
        # A page scrolls on under the pointer; a choice is never changed by the way.
        event.ignore()


class SearchChoice(Choice):
    """A long list in groups that opens with a field to search it."""

    def __init__(
        self,
        name: str,
        rows: Sequence[tuple[str, str, str]],
        act: Callable[[str], object],
        *,
        narrow: int = 0,
    ) -> None:
        self._rows = tuple(rows)
        super().__init__(name, [(key, text) for key, text, _ in rows], act, narrow=narrow)
        self._list = _SearchList(name)
        self._list.picked.connect(self._picked)

    def showPopup(self) -> None:
        self._open("")

    def hidePopup(self) -> None:
        self._list.hide()

    def begin_search(self, letter: str) -> None:
        self._open(letter)

    def _open(self, text: str) -> None:
        self._list.setParent(self.window(), Qt.WindowType.Popup)
        below = self.mapToGlobal(QPoint(0, self.height()))
        room = self.screen().availableGeometry()
        size = QSize(max(self.width(), 300), 360)
        below.setX(min(below.x(), room.right() - size.width()))
        below.setY(min(below.y(), room.bottom() - size.height()))
        self._list.open_at(below, size, self._rows, str(self.currentData()), text)

    def _picked(self, key: str) -> None:
        self.choose(key)


class _SearchList(QFrame):
    """The open list: a field, and below it the rows whose name holds what is typed."""

    picked = Signal(str)

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setFrameShape(QFrame.Shape.Box)
        self.search = QLineEdit()
        self.search.setPlaceholderText("type to search")
        self.search.setAccessibleName(f"search {name}")
        self.search.setClearButtonEnabled(True)
        self.list = QListWidget()
        self.list.setAccessibleName(f"found for {name}")
        self._rows: Sequence[tuple[str, str, str]] = ()
        column = QVBoxLayout(self)
        column.setContentsMargins(4, 4, 4, 4)
        column.setSpacing(4)
        column.addWidget(self.search)
        column.addWidget(self.list)
        self.search.textChanged.connect(self._fill)
        self.search.installEventFilter(self)
        self.list.itemClicked.connect(self._pick)
        self.list.itemActivated.connect(self._pick)

    def open_at(
        self, where: QPoint, size: QSize, rows: Sequence[tuple[str, str, str]], now: str, text: str
    ) -> None:
        """Show the rows (id, name, group) with the present one marked and a search begun."""
        self._rows = rows
        self.search.setText(text)
        self._fill(text)
        for k in range(self.list.count()):
            if self.list.item(k).data(Qt.ItemDataRole.UserRole) == now and not text:
                self.list.setCurrentRow(k)
        self.resize(size)
        self.move(where)
        self.show()
        self.search.setFocus()
        self.search.end(False)

    def _fill(self, text: str) -> None:
        words = text.casefold().split()
        self.list.clear()
        group = ""
        for key, name, of in self._rows:
            if not all(word in f"{name} {of}".casefold() for word in words):
                continue
            if of != group:
                group = of
                head = QListWidgetItem(of)
                head.setFlags(Qt.ItemFlag.NoItemFlags)
                self.list.addItem(head)
            item = QListWidgetItem(f"   {name}")
            item.setData(Qt.ItemDataRole.UserRole, key)
            set_tip(item, name)
            self.list.addItem(item)
        self._step(0, 1)

    def _step(self, start: int, way: int) -> None:
        """Mark the next row that can be picked."""
        for k in range(start, self.list.count() if way > 0 else -1, way):
            if self.list.item(k).flags() & Qt.ItemFlag.ItemIsEnabled:
                self.list.setCurrentRow(k)
                return

    def _pick(self, item: QListWidgetItem | None) -> None:
        key = item.data(Qt.ItemDataRole.UserRole) if item is not None else None
        if key:
            self.hide()
            self.picked.emit(key)

    def eventFilter(self, _: QObject, event: QEvent) -> bool:
        """Let arrows and Return work in the list while the field has the focus."""
        if event.type() != QEvent.Type.KeyPress or not isinstance(event, QKeyEvent):
            return False
        row = self.list.currentRow()
        ways = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}
        key = Qt.Key(event.key())
        if key in ways:
            self._step(row + ways[key], ways[key])
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._pick(self.list.currentItem())
        else:
            return False
        return True
