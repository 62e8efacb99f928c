"""The answers drawn on the cutaway: make-up and wet, with their words around it."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QPainter, QPen

from calveth.app.cutaway.painting import paint_arrow
from calveth.app.cutaway.view import Mapping2D, Scene
from calveth.app.theme.palette import Palette
from calveth.app.theme.theme import font
from calveth.core.airflow.paths import BASE, CROWN, NEST, zone_tops_m
from calveth.core.assess.model import SURFACES
from calveth.core.assess.moments import FACE_ZONE, VISIBLE_G_DAY
from calveth.core.constants import RIM_WIDTH
from calveth.core.hive.design import FACES, Face
from calveth.core.hive.quantities import cavity_litres, outer_size_m
from calveth.core.hive.section import Rect
from calveth.core.hive.solids import build_solids

_LABEL_GAP = 30.0


class Labels:
    """Places words in the margins beside the hive and keeps them from lying on each other."""

    def __init__(self, painter: QPainter, area: QRectF, hive: QRectF, p: Palette) -> None:
        self._painter = painter
        self._area = area
        self._hive = hive
        self._p = p
        self._taken: list[QRectF] = []

    def put(self, anchor: QPointF, text: str, side: str, color: str = "ink") -> None:
        """Write lines at the ``left`` or ``right`` of the hive, joined to the anchor."""
        painter = self._painter
        painter.setFont(font(12))
        metrics = QFontMetricsF(painter.font())
        lines = text.split("\n")
        width = max(metrics.horizontalAdvance(line) for line in lines)
        height = metrics.lineSpacing() * len(lines)
        if side == "left":
            left = max(self._area.left() + 4, self._hive.left() - width - _LABEL_GAP)
        else:
            left = min(self._area.right() - width - 4, self._hive.right() + _LABEL_GAP)
        box = QRectF(left, anchor.y() - height / 2, width, height)
        box.moveTop(max(self._area.top() + 2, min(box.top(), self._area.bottom() - height - 2)))
        for _ in range(40):
            clash = next((t for t in self._taken if t.adjusted(-4, -3, 4, 3).intersects(box)), None)
            if clash is None:
                break
            down = clash.bottom() + 4
            box.moveTop(down if down + height < self._area.bottom() else clash.top() - height - 4)
        self._taken.append(box)
        end = QPointF(box.right() + 4 if side == "left" else box.left() - 4, box.center().y())
        painter.setPen(QPen(self._p.color("muted"), 0.8))
        painter.drawLine(anchor, end)
        painter.setBrush(self._p.color("muted"))
        painter.drawEllipse(anchor, 1.8, 1.8)
        painter.setPen(self._p.color(color))
        align = Qt.AlignmentFlag.AlignRight if side == "left" else Qt.AlignmentFlag.AlignLeft
        painter.drawText(box, align, text)


def paint_make_up(painter: QPainter, scene: Scene, m: Mapping2D, area: QRectF, p: Palette) -> None:
    """Draw thicknesses, sizes and the air through the openings."""
    section = scene.section
    labels = Labels(painter, area, m.rect(section.outline), p)
    for face, anchor, side in (
        ("lid", _middle_of(scene, "lid", 0.85), "right"),
        ("walls", _middle_of(scene, "walls", 0.5), "right"),
        ("floor", _middle_of(scene, "floor", 0.85), "right"),
    ):
        stack = scene.design.shell.stack(face)  # type: ignore[arg-type]
        text = "\n".join(
            f"{layer.thickness_m * 1000:g} mm {_short(scene.materials[layer.material].name)}"
            for layer in stack
        )
        labels.put(m.point(*anchor), text, side)
    _air_arrows(painter, scene, m, labels, p)
    hive = build_solids(scene.design)
    width, length, height = outer_size_m(hive)
    text = (
        f"{cavity_litres(hive):.0f} L inside · outside {width * 1000:.0f} × {length * 1000:.0f} × "
        f"{height * 1000:.0f} mm (wide, long, high)"
    )
    if hive.frames:
        text = f"{len(hive.frames)} frames · " + text
    _foot(painter, area, text, p)


def _foot(painter: QPainter, area: QRectF, text: str, p: Palette) -> None:
    painter.setPen(p.color("muted"))
    painter.setFont(font(12))
    row = QRectF(area.left(), area.bottom() - 22, area.width(), 18)
    painter.drawText(row, Qt.AlignmentFlag.AlignCenter, text)


def _short(name: str) -> str:
    words = name.split(" (", maxsplit=1)[0].split(",", maxsplit=1)[0]
    return words if len(words) <= 21 else words[:20].rstrip() + "…"


def _middle_of(scene: Scene, face: Face, share: float) -> tuple[float, float]:
    """Return a point (y, z) in the middle of a face: back wall, or ``share`` along a plate."""
    outline, room = scene.section.outline, scene.section.cavity
    if face == "walls":
        return (room.y1 + outline.y1) / 2, room.z0 + share * (room.z1 - room.z0)
    y = outline.y0 + share * (outline.y1 - outline.y0)
    if face == "lid":
        return y, (room.z1 + outline.z1) / 2
    return y, (room.z0 + outline.z0) / 2


def _air_arrows(painter: QPainter, scene: Scene, m: Mapping2D, labels: Labels, p: Palette) -> None:
    """Draw what flows through each opening, in and out."""
    if scene.assessed is None:
        return
    flows = {
        air.opening: (air.in_l_h, air.out_l_h)
        for air in scene.assessed.months.openings(scene.month)
    }
    names = {o.id: o.name for o in scene.design.openings}
    for gap in scene.section.gaps:
        into, out = flows.get(gap.opening, (0.0, 0.0))
        rect = m.rect(gap.rect)
        outer = rect.left() if gap.front or not gap.through else rect.right()
        direction = 1.0 if gap.front or not gap.through else -1.0
        painter.setPen(QPen(p.color("accent"), 1.4 + 1.6 * min(1.0, max(into, out) / 200)))
        middle = rect.center().y()
        if gap.through:
            if into > 0.5:
                tip = QPointF(outer + direction * 2, middle + 3)
                paint_arrow(painter, tip, direction, 22, 6)
            if out > 0.5:
                tip = QPointF(outer - direction * 22, middle - 4)
                paint_arrow(painter, tip, -direction, 20, 6)
        labels.put(
            QPointF(outer - direction * 26, middle),
            f"{names.get(gap.opening, gap.opening)}\nin {into:.0f}, out {out:.0f} L/h",
            "left" if direction > 0 else "right",
        )


def paint_wet_marks(
    painter: QPainter, scene: Scene, m: Mapping2D, p: Palette, *, small: bool = False
) -> None:
    """Draw the dew-point line in the shell, beads on wet surfaces and where the water goes."""
    if scene.assessed is None:
        return
    _dew_line(painter, scene, m, p)
    surfaces = _surface_lines(scene.section.cavity)
    grams = scene.assessed.months.condensing_g_day[:, scene.month]
    for k, name in enumerate(SURFACES):
        for y0, z0, y1, z1 in surfaces.get(name, ()):
            _beads(painter, m.point(y0, z0), m.point(y1, z1), grams[k], p, small=small)
    if not small:
        _drips(painter, scene, m, grams, p)


def paint_wet(painter: QPainter, scene: Scene, m: Mapping2D, area: QRectF, p: Palette) -> None:
    """Draw the wet marks and say beside them what each surface does."""
    if scene.assessed is None:
        return
    moments, i = scene.assessed.months, scene.month
    paint_wet_marks(painter, scene, m, p)
    _zone_air(painter, scene, m, p)
    labels = Labels(painter, area, m.rect(scene.section.outline), p)
    surfaces = _surface_lines(scene.section.cavity)
    grams = moments.condensing_g_day[:, i]
    for name, side, along in (
        ("lid middle", "right", 0.75),
        ("lid rim", "left", 0.5),
        ("upper wall", "right", 0.5),
        ("middle wall", "left", 0.55),
        ("lower wall", "right", 0.45),
        ("floor", "right", 0.8),
    ):
        k = SURFACES.index(name)
        lines = surfaces[name]
        y0, z0, y1, z1 = lines[0] if side == "left" or len(lines) == 1 else lines[-1]
        anchor = m.point(y0 + along * (y1 - y0), z0 + along * (z1 - z0))
        wet = grams[k] >= VISIBLE_G_DAY
        margin = moments.margin_k[k, i]
        verdict = f"wet, {grams[k]:.1f} g a day" if wet else f"dry, {margin:.1f} K above dew point"
        label = "frost" if wet and moments.balance.surface_degc[k, i] < 0 else ""
        verdict = verdict.replace("wet", label) if label else verdict
        labels.put(
            anchor,
            f"{name} {moments.balance.surface_degc[k, i]:.1f} °C\n{verdict}",
            side,
            "water" if wet else "ink",
        )
    _foot(
        painter, area, "• water or frost on a surface    - - -  as cold as the dew point inside", p
    )


def _surface_lines(room: Rect) -> dict[str, list[tuple[float, float, float, float]]]:
    """Return the lines (y0, z0, y1, z1) of each surface in the section [m]."""
    height = room.z1 - room.z0
    low, high = (room.z0 + z for z in zone_tops_m(height))
    rim = min(RIM_WIDTH.value, (room.y1 - room.y0) / 4)

    def both(z0: float, z1: float) -> list[tuple[float, float, float, float]]:
        return [(room.y0, z0, room.y0, z1), (room.y1, z0, room.y1, z1)]

    return {
        "lid middle": [(room.y0 + rim, room.z1, room.y1 - rim, room.z1)],
        "lid rim": [
            (room.y0, room.z1, room.y0 + rim, room.z1),
            (room.y1 - rim, room.z1, room.y1, room.z1),
        ],
        "upper wall": both(high, room.z1),
        "middle wall": both(low, high),
        "lower wall": both(room.z0, low),
        "floor": [(room.y0, room.z0, room.y1, room.z0)],
    }


def _beads(
    painter: QPainter, a: QPointF, b: QPointF, grams: float, p: Palette, *, small: bool
) -> None:
    """Draw beads along a surface; their size grows with the water."""
    if grams < VISIBLE_G_DAY:
        return
    radius = (1.8 + 1.6 * min(2.0, math.sqrt(grams / 4))) * (0.6 if small else 1.0)
    length = math.hypot(b.x() - a.x(), b.y() - a.y())
    count = max(2, int(length / (2.4 * radius + 3)))
    painter.setPen(QPen(p.color("sheet"), 0.8))
    painter.setBrush(p.color("water"))
    for k in range(count):
        s = (k + 0.5) / count
        painter.drawEllipse(
            QPointF(a.x() + s * (b.x() - a.x()), a.y() + s * (b.y() - a.y())), radius, radius
        )


def _drips(painter: QPainter, scene: Scene, m: Mapping2D, grams: np.ndarray, p: Palette) -> None:
    """Draw drops that fall from a flat wet lid, and runs down wet walls."""
    room = scene.section.cavity
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(p.color("water", 200))
    if grams[0] >= VISIBLE_G_DAY:
        for share in (0.32, 0.5, 0.68):
            top = m.point(room.y0 + share * (room.y1 - room.y0), room.z1)
            for k in (1, 2):
                c = QPointF(top.x(), top.y() + 14.0 * k)
                painter.drawEllipse(c, 1.8, 3.2)
    if grams[2:5].sum() >= VISIBLE_G_DAY:
        painter.setPen(QPen(p.color("water", 190), 1.6))
        for y, inward in ((room.y0, 7.0), (room.y1, -7.0)):
            start = m.point(y, room.z0 + 0.32 * (room.z1 - room.z0))
            end = m.point(y, room.z0 + 0.06 * (room.z1 - room.z0))
            x = start.x() + inward
            painter.drawLine(QPointF(x, start.y()), QPointF(x, end.y()))
            painter.drawLine(QPointF(x, end.y()), QPointF(x - 3, end.y() - 5))
            painter.drawLine(QPointF(x, end.y()), QPointF(x + 3, end.y() - 5))


def _zone_air(painter: QPainter, scene: Scene, m: Mapping2D, p: Palette) -> None:
    """Write the air of crown, nest and base into the room."""
    assert scene.assessed is not None
    moments, i = scene.assessed.months, scene.month
    room = scene.section.cavity
    height = room.z1 - room.z0
    painter.setFont(font(12))
    for zone, share, name in ((CROWN, 0.93, "crown"), (NEST, 0.5, "nest"), (BASE, 0.09, "base")):
        t = moments.balance.temperature_degc[zone, i]
        rh = min(1.0, moments.relative_humidity[zone, i])
        text = f"{name} {t:.1f} °C · {rh:.0%}"
        if m.scale * (room.y1 - room.y0) < 190:
            text = f"{t:.1f} °C\n{rh:.0%}"
        centre = m.point((room.y0 + room.y1) / 2, room.z0 + share * height)
        metrics = QFontMetricsF(painter.font())
        lines = text.split("\n")
        width = max(metrics.horizontalAdvance(line) for line in lines) + 10
        tall = metrics.lineSpacing() * len(lines) + 2
        box = QRectF(centre.x() - width / 2, centre.y() - tall / 2, width, tall)
        inside = m.rect(room)
        box.moveTop(max(inside.top() + 6, min(box.top(), inside.bottom() - tall - 8)))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(p.color("sheet", 225))
        painter.drawRoundedRect(box, 3, 3)
        painter.setPen(p.color("ink"))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)


def dew_depth_m(scene: Scene, face: Face) -> float | None:
    """Return how deep in a face its temperature falls to the dew point inside [m].

    None when the whole face is warmer; 0 when the inner surface itself is below.
    """
    if scene.assessed is None:
        return None
    moments, i = scene.assessed.months, scene.month
    profile = moments.profile(face, i, scene.materials)
    dew = float(moments.dew_point_degc[FACE_ZONE[face], i])
    t = profile.temperature_degc
    if t[0] <= dew:
        return 0.0
    if t[-1] > dew:
        return None
    k = int(np.argmax(t <= dew))
    share = (t[k - 1] - dew) / (t[k - 1] - t[k])
    return float(profile.depth_m[k - 1] + share * (profile.depth_m[k] - profile.depth_m[k - 1]))


def _dew_line(painter: QPainter, scene: Scene, m: Mapping2D, p: Palette) -> None:
    """Draw the line in the shell where it is as cold as the dew point of the air inside."""
    room = scene.section.cavity
    depth = {face: dew_depth_m(scene, face) for face in FACES}
    painter.setPen(QPen(p.color("water"), 1.6, Qt.PenStyle.DashLine))
    lid, walls, floor = (depth[face] for face in ("lid", "walls", "floor"))
    if lid is not None:
        z = room.z1 + lid
        painter.drawLine(m.point(room.y0, z), m.point(room.y1, z))
    if floor is not None:
        z = room.z0 - floor
        painter.drawLine(m.point(room.y0, z), m.point(room.y1, z))
    if walls is not None:
        for y in (room.y0 - walls, room.y1 + walls):
            painter.drawLine(m.point(y, room.z0), m.point(y, room.z1))
