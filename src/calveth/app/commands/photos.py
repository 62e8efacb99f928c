"""Photographs come in: scaled down, as JPEG, into the project itself."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QBuffer, QIODevice, QSize, Qt
from PySide6.QtGui import QImageReader

from calveth.app.commands.context import Context
from calveth.core.edits_diary import set_diary
from calveth.core.project import Project
from calveth.core.records.blob import Blob
from calveth.store.errors import FileError
from calveth.store.gate import check_readable

MOST_PX = 1600
_QUALITY = 82
_MOST_MB = 256
_TAIL_BYTES = 65_536
_PICTURES = ("jpeg", "jpg", "png", "webp", "tiff", "tif")


def add_photo(c: Context, inspection_id: str) -> None:
    """Ask for a photograph and keep it with an inspection."""
    path = c.prompts.photo_path(c.parent)
    if path is None:
        return

    def change(project: Project) -> Project:
        look = next(i for i in project.diary.inspections if i.id == inspection_id)
        made = replace(look, photos=(*look.photos, photo_of(path)))
        return set_diary(project, project.diary.with_inspection(made))

    if c.attempt(lambda: c.document.edit("photograph", change)):
        c.frame.say(f"took in {path.name}")


def photo_of(path: Path) -> Blob:
    """Return a picture as a JPEG of at most `MOST_PX` pixels, turned as it was held.

    Raises
    ------
    FileError
        When it is no picture, or a damaged one.
    """
    check_readable(path)
    QImageReader.setAllocationLimit(_MOST_MB)
    reader = QImageReader(str(path))
    # By what it is, not by its name; a drawing could make Qt open other files.
    reader.setDecideFormatFromContent(True)
    reader.setAutoDetectImageFormat(True)
    if bytes(reader.format().data()).decode() not in _PICTURES:
        raise FileError(path, "is no photograph; use a JPEG, PNG, WebP or TIFF")
    reader.setAutoTransform(True)
    size = reader.size()
    if size.isValid() and max(size.width(), size.height()) > MOST_PX:
        most = QSize(MOST_PX, MOST_PX)
        reader.setScaledSize(
            size.scaled(most, Qt.AspectRatioMode.KeepAspectRatio).expandedTo(QSize(1, 1))
        )
    if not _ends_whole(path):
        raise FileError(path, "is cut short; copy the photograph again")
    image = reader.read()
    if image.isNull():
        raise FileError(path, "is no picture that can be read; use a JPEG or PNG")
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    if not image.save(buffer, "JPEG", _QUALITY):  # type: ignore[call-overload]
        raise FileError(path, "cannot be made into a JPEG; use another picture")
    return Blob(bytes(buffer.data().data()))


def _ends_whole(path: Path) -> bool:
    """Return whether a JPEG has its end mark: one that is cut short is read as half grey."""
    with path.open("rb") as stream:
        if stream.read(2) != b"\xff\xd8":
            return True
        stream.seek(0, 2)
        # Some cameras append a little after the mark.
        stream.seek(max(stream.tell() - _TAIL_BYTES, 0))
        return b"\xff\xd9" in stream.read()
