"""The air of a hive written into its room: under the lid, beside the bees, above the floor."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QFontMetricsF, QPainter

from calveth.app.cutaway.painting import cluster_rect
from calveth.app.cutaway.view import Mapping2D, Scene
from calveth.app.theme.palette import Palette
from calveth.app.theme.theme import font
from calveth.core.hive.zones import BASE, CROWN, NEST
from calveth.core.solids.section import Rect

ZONE_WORDS = {CROWN: "under the lid", NEST: "beside the bees", BASE: "above the floor"}
"""What a beekeeper calls the air of a zone. It is never that within the cluster."""


def zone_shares(scene: Scene) -> list[tuple[int, float]]:
    """Return each zone and the share of the height its words stand at, clear of the cluster."""
    room = scene.section.cavity
    height = room.z1 - room.z0
    below = (cluster_rect(scene).z0 - room.z0) / height - 0.05
    return [(CROWN, 0.93), (NEST, min(0.55, max(below, 0.3))), (BASE, 0.09)]


def paint_zone(
    painter: QPainter,
    m: Mapping2D,
    room: Rect,
    p: Palette | None,
    share: float,
    name: str,
    text: str,
    *,
    ink: QColor | None = None,
) -> QRectF:
    """Write a zone's air into the room, in one line or two, cut to the room's width.

    Without a palette it stands on what is drawn there, in ``ink``.
    """
    painter.setFont(font(12, bold=p is None))
    metrics = QFontMetricsF(painter.font())
    inside = m.rect(room)
    lines = [f"{name} {text}"]
    if metrics.horizontalAdvance(lines[0]) + 14 > inside.width():
        lines = [name, text] if metrics.horizontalAdvance(name) + 8 < inside.width() else [text]
    wide = max(metrics.horizontalAdvance(line) for line in lines) + 10
    tall = metrics.lineSpacing() * len(lines) + 2
    centre = m.point((room.y0 + room.y1) / 2, room.z0 + share * (room.z1 - room.z0))
    box = QRectF(centre.x() - wide / 2, centre.y() - tall / 2, wide, tall)
    box.moveTop(max(inside.top() + 4, min(box.top(), inside.bottom() - tall - 4)))
    if p is not None:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(p.color("sheet", 225))
        painter.drawRoundedRect(box, 3, 3)
        painter.setPen(p.color("ink"))
    if ink is not None:
        painter.setPen(ink)
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, "\n".join(lines))
    return box
