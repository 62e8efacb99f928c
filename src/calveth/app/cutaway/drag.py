"""Drawing the outer side of a face in and out with the mouse, from stock size to stock size."""

from __future__ import annotations

from dataclasses import dataclass, field

from PySide6.QtCore import QPointF, Qt

from calveth.app.cutaway.view import Mapping2D, Scene
from calveth.core.hive.design import Face
from calveth.core.materials import Layer, Material

_REACH_PX = 5.0
_THINNEST_M, _STEP_M = 0.005, 0.001


@dataclass
class Drag:
    """A face held at its outer side: the thickest layer of the face follows the hand."""

    face: Face
    layer: int
    start_m: float
    start: QPointF
    outward: QPointF
    scale: float
    stock_m: tuple[float, ...]
    shown_m: float = field(default=0.0)

    @property
    def cursor(self) -> Qt.CursorShape:
        """Shape of the pointer over the side that can be held."""
        level = self.outward.y() != 0
        return Qt.CursorShape.SizeVerCursor if level else Qt.CursorShape.SizeHorCursor

    def thickness_m(self, position: QPointF) -> float:
        """Return the thickness for a hand there: the nearest stock size, else whole mm."""
        moved = position - self.start
        drawn = moved.x() * self.outward.x() + moved.y() * self.outward.y()
        dragged_m = max(_THINNEST_M, self.start_m + drawn / self.scale)
        if self.stock_m:
            return min(self.stock_m, key=lambda size: abs(size - dragged_m))
        return round(round(dragged_m / _STEP_M) * _STEP_M, 4)


def begin_drag(scene: Scene, mapping: Mapping2D, position: QPointF) -> Drag | None:
    """Return a hold on the face whose outer side is under a pixel, None elsewhere."""
    outline = mapping.rect(scene.section.outline)
    grown = outline.adjusted(-_REACH_PX, -_REACH_PX, _REACH_PX, _REACH_PX)
    if not grown.contains(position):
        return None
    sides: tuple[tuple[Face, float, QPointF], ...] = (
        ("lid", abs(position.y() - outline.top()), QPointF(0, -1)),
        ("floor", abs(position.y() - outline.bottom()), QPointF(0, 1)),
        ("walls", abs(position.x() - outline.left()), QPointF(-1, 0)),
        ("walls", abs(position.x() - outline.right()), QPointF(1, 0)),
    )
    face, distance, outward = min(sides, key=lambda side: side[1])
    if distance > _REACH_PX:
        return None
    return drag_of(scene, face, outward, position, mapping.scale)


def drag_of(scene: Scene, face: Face, outward: QPointF, position: QPointF, scale: float) -> Drag:
    """Return a hold on a face: its thickest layer follows the hand."""
    layer = thickest(scene.design.shell.stack(face), scene)
    stack = scene.design.shell.stack(face)
    material: Material = scene.materials[stack[layer].material]
    return Drag(
        face=face,
        layer=layer,
        start_m=stack[layer].thickness_m,
        start=position,
        outward=outward,
        scale=scale,
        stock_m=material.stock_m,
        shown_m=stack[layer].thickness_m,
    )


def thickest(stack: tuple[Layer, ...], scene: Scene) -> int:
    """Return the thickest layer that is no film: the one a hand would make thicker."""
    solid = [k for k, y in enumerate(stack) if scene.materials[y.material].kind != "film"]
    return max(solid or range(len(stack)), key=lambda k: stack[k].thickness_m)
