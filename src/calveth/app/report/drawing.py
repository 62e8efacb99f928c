"""Cutaways as files: SVG with live text, PNG, or painted into a page."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QRectF, QSize
from PySide6.QtGui import QImage, QPainter

from calveth.app.cutaway.compose import paint_cutaway
from calveth.app.cutaway.view import Scene
from calveth.app.theme.palette import LIGHT
from calveth.store.atomic_write import atomic_write
from calveth.store.errors import FileError

WIDTH, HEIGHT = 900, 620


def paint_drawing(painter: QPainter, scene: Scene, width: int, height: int) -> None:
    """Paint a cutaway with its words into a rectangle of the given size, ground included.

    What is printed is light whatever the window looks like.
    """
    area = QRectF(0, 0, width, height)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.fillRect(area, LIGHT.color("sheet"))
    paint_cutaway(painter, scene, area, LIGHT)


def drawing_image(
    scene: Scene, scale: float = 2.0, *, width: int = WIDTH, height: int = HEIGHT
) -> QImage:
    """Return a cutaway as an image; a smaller one has larger words in it."""
    image = QImage(int(width * scale), int(height * scale), QImage.Format.Format_ARGB32)
    image.setDevicePixelRatio(scale)
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    paint_drawing(painter, scene, width, height)
    painter.end()
    return image


def write_drawing(path: Path, scene: Scene) -> None:
    """Write a cutaway as SVG or PNG, by the ending of the name, in one move.

    Raises
    ------
    FileError
        When the ending is another one or the file cannot be written.
    """
    suffix = path.suffix.lower()
    if suffix not in (".svg", ".png"):
        raise FileError(path, "must end in .svg or .png")
    with atomic_write(path) as part:
        if suffix == ".svg":
            _write_svg(part, scene)
        else:
            drawing_image(scene).save(str(part))


def _write_svg(path: Path, scene: Scene) -> None:
    from PySide6.QtSvg import QSvgGenerator

    generator = QSvgGenerator()
    generator.setFileName(str(path))
    generator.setSize(QSize(WIDTH, HEIGHT))
    generator.setViewBox(QRectF(0, 0, WIDTH, HEIGHT))
    generator.setTitle(f"{scene.design.name}, {scene.lens}")
    painter = QPainter()
    if not painter.begin(generator):
        return
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    paint_drawing(painter, scene, WIDTH, HEIGHT)
    painter.end()
