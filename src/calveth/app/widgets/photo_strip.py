"""Photographs of an inspection: small ones in a row, each opened by a click, removed by Delete."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QIcon, QKeyEvent, QPixmap
from PySide6.QtWidgets import QDialog, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from calveth.core.records.blob import Blob

_SMALL = QSize(64, 48)
_MOST_SHOWN = 5
_WIDE = QSize(1000, 700)


class _Thumb(QPushButton):
    """One photograph; Delete takes it out."""

    removed = Signal()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.removed.emit()
            return
        super().keyPressEvent(event)


class PhotoStrip(QWidget):
    """Shows photographs and a button to add one.

    Signals
    -------
    add_wanted()
        A photograph is to be taken in.
    changed(photos)
        One was taken out.
    """

    add_wanted = Signal()
    changed = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self._photos: tuple[Blob, ...] = ()
        self.thumbs: list[_Thumb] = []
        self.add = QPushButton("Add …")
        self.add.setAccessibleName("add a photograph")
        self.add.clicked.connect(self.add_wanted)
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.addWidget(self.add)
        self._row.addStretch()

    def show_photos(self, photos: Sequence[Blob]) -> None:
        """Show photographs."""
        if tuple(photos) == self._photos and len(self.thumbs) == min(len(photos), _MOST_SHOWN):
            return
        self._photos = tuple(photos)
        for thumb in self.thumbs:
            self._row.removeWidget(thumb)
            thumb.deleteLater()
        self.thumbs = []
        for k, photo in enumerate(self._photos[-_MOST_SHOWN:]):
            thumb = _Thumb()
            picture = QPixmap()
            picture.loadFromData(photo.data)
            thumb.setIcon(QIcon(picture))
            thumb.setIconSize(_SMALL)
            thumb.setFixedSize(_SMALL.width() + 10, _SMALL.height() + 8)
            thumb.setAccessibleName(f"photograph {k + 1}")
            thumb.setToolTip("Click to see it large; Delete takes it out")
            thumb.clicked.connect(lambda _, p=picture: self._open(p))
            thumb.removed.connect(lambda p=photo: self._remove(p))
            self._row.insertWidget(k, thumb)
            self.thumbs.append(thumb)

    def _remove(self, photo: Blob) -> None:
        self.changed.emit(tuple(p for p in self._photos if p != photo))

    def _open(self, picture: QPixmap) -> None:
        dialog = QDialog(self)
        dialog.setWindowTitle("Photograph")
        shown = QLabel()
        shown.setAccessibleName("photograph")
        shown.setPixmap(
            picture.scaled(
                _WIDE,
                Qt.AspectRatioMode.KeepAspectRatio,
                Qt.TransformationMode.SmoothTransformation,
            )
        )
        QVBoxLayout(dialog).addWidget(shown)
        dialog.open()
