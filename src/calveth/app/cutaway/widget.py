"""The cutaway on the screen: draws a scene, tells which face was clicked."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from calveth.app.cutaway.compose import mapping_of, paint_cutaway
from calveth.app.cutaway.drag import Drag, begin_drag
from calveth.app.cutaway.sections import (
    OpeningDrag,
    begin_opening_drag,
    begin_section_drag,
    face_of,
)
from calveth.app.cutaway.view import SECTIONS, Mapping2D, Scene
from calveth.app.theme.theme import current, font
from calveth.core.hive.design import FACES, Face


class CutawayWidget(QWidget):
    """A hive cut open, to scale, with the answers of a lens around it.

    Signals
    -------
    face_chosen(face)
        ``walls``, ``lid`` or ``floor`` was clicked or chosen by arrow keys.
    thickness_dragged(face, layer, thickness_m)
        The outer side of a face is being drawn in or out, from stock size to stock size.
    opening_chosen(opening)
        An opening was clicked in a section.
    opening_dragged(opening, along_m, bottom_m)
        An opening is being moved along its wall, or up and down.
    """

    face_chosen = Signal(str)
    opening_chosen = Signal(str)
    opening_dragged = Signal(str, float, float)
    thickness_dragged = Signal(str, int, float)

    def __init__(self, *, small: bool = False, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._scene: Scene | None = None
        self._small = small
        self._scale_limit = 1e9
        self._drag: Drag | None = None
        self._moved: OpeningDrag | None = None
        self.setAccessibleName("hive cut open")
        if not small:
            self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
            self.setMouseTracking(True)
            self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
            self.setMinimumSize(360, 240)

    def sizeHint(self) -> QSize:
        return QSize(90, 74) if self._small else QSize(620, 440)

    def set_scene(self, scene: Scene | None, scale_limit: float = 1e9) -> None:
        """Show a scene; ``scale_limit`` [px/m] keeps several hives to one scale."""
        self._scene = scene
        self._scale_limit = scale_limit
        if scene is not None:
            self.setAccessibleDescription(
                f"{scene.design.name}, lens {scene.lens}, month {scene.month + 1}"
            )
        self.update()

    @property
    def scene(self) -> Scene | None:
        """The scene shown."""
        return self._scene

    def mapping(self) -> Mapping2D:
        """Return where the metres of the scene lie on the widget."""
        assert self._scene is not None
        return mapping_of(
            self._scene, QRectF(self.rect()), small=self._small, limit=self._scale_limit
        )

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        palette = current()
        if self._scene is None:
            painter.setPen(palette.color("muted"))
            painter.setFont(font())
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "Choose a hive on the left")
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        paint_cutaway(
            painter,
            self._scene,
            QRectF(self.rect()),
            palette,
            small=self._small,
            limit=self._scale_limit,
            ratio=self.devicePixelRatioF(),
        )
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(palette.color("accent"), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))

    def face_at(self, point: QPointF) -> Face | None:
        """Return the face under a pixel, None in the room and outside."""
        if self._scene is None:
            return None
        if self._scene.way in ("front", "plan"):
            return face_of(self._scene, QRectF(self.rect()), point)
        if self._scene.way != "upright":
            return None
        mapping = self.mapping()
        for piece in self._scene.section.pieces:
            near = mapping.rect(piece.rect).adjusted(-2, -2, 2, 2).contains(point)
            bent = mapping.bend is not None
            inside = mapping.shape(piece.rect).containsPoint(point, Qt.FillRule.OddEvenFill)
            if near and (inside or not bent):
                return piece.face
        return None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton or self._small or self._scene is None:
            super().mousePressEvent(event)
            return
        if self._scene.way not in SECTIONS:
            return
        if self._scene.way in ("front", "plan"):
            area = QRectF(self.rect())
            self._moved = begin_opening_drag(self._scene, area, event.position())
            if self._moved is not None:
                self.opening_chosen.emit(self._moved.opening.id)
                return
        self._drag = self._hold_at(event.position())
        face = self.face_at(event.position())
        if self._drag is not None:
            face = self._drag.face
        if face is not None:
            self.face_chosen.emit(face)
        event.accept()

    def _hold_at(self, point: QPointF) -> Drag | None:
        """Return a hold on the face whose outer side is under a pixel."""
        assert self._scene is not None
        if self._scene.way in ("front", "plan"):
            return begin_section_drag(self._scene, QRectF(self.rect()), point)
        return begin_drag(self._scene, self.mapping(), point)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._moved is not None and event.buttons() & Qt.MouseButton.LeftButton:
            place = self._moved.moved(event.position())
            if place != self._moved.shown:
                self._moved.shown = place
                self.opening_dragged.emit(self._moved.opening.id, *place)
            return
        if self._drag is not None and event.buttons() & Qt.MouseButton.LeftButton:
            size = self._drag.thickness_m(event.position())
            if size != self._drag.shown_m:
                self._drag.shown_m = size
                self.thickness_dragged.emit(self._drag.face, self._drag.layer, size)
            return
        if self._small or self._scene is None or self._scene.way not in SECTIONS:
            self.unsetCursor()
            return
        hold = self._hold_at(event.position())
        if hold is not None:
            self.setCursor(hold.cursor)
            return
        over = self.face_at(event.position()) is not None
        self.setCursor(Qt.CursorShape.PointingHandCursor if over else Qt.CursorShape.ArrowCursor)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._drag = self._moved = None
        super().mouseReleaseEvent(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        order: tuple[Face, ...] = ("lid", "walls", "floor")
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()), 0)
        if not step or self._scene is None:
            super().keyPressEvent(event)
            return
        now = self._scene.chosen if self._scene.chosen in FACES else "walls"
        index = min(max(order.index(now) + step, 0), 2)
        self.face_chosen.emit(order[index])
