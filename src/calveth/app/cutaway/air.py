"""The lens Air: what flows through each opening and how, draught, CO2 and the heat it carries."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QPainter, QPen

from calveth.app.cutaway.labels import Labels, paint_foot
from calveth.app.cutaway.painting import paint_arrow
from calveth.app.cutaway.view import Mapping2D, Scene
from calveth.app.cutaway.zones import ZONE_WORDS, paint_zone, zone_shares
from calveth.app.theme.palette import Palette
from calveth.core.solids.section import Gap
from calveth.core.units import litres_per_hour

_WIDE_AT_L_H = 200.0


def paint_air_arrows(
    painter: QPainter, scene: Scene, m: Mapping2D, p: Palette, *, small: bool = False
) -> None:
    """Draw arrows through the openings, thicker with the flow; in and out apart."""
    if scene.assessed is None:
        return
    flows = {air.opening: air for air in scene.assessed.months.openings(scene.month)}
    size = 3.5 if small else 7.0
    length = 9.0 if small else 24.0
    for gap in scene.section.gaps:
        air = flows.get(gap.opening)
        if air is None or not gap.through:
            continue
        for flow, inward in ((air.in_l_h, True), (air.out_l_h, False)):
            if flow < 0.5:
                continue
            width = (0.8 if small else 1.3) + 2.2 * min(1.0, flow / _WIDE_AT_L_H)
            painter.setPen(QPen(p.color("accent" if inward else "heat"), width))
            _arrow(painter, gap, m.rect(gap.rect), inward, length, size)


def _arrow(
    painter: QPainter, gap: Gap, rect: QRectF, inward: bool, length: float, size: float
) -> None:
    if gap.level:
        _level_arrow(painter, rect, inward, length, size, lid=gap.rect.z0 > 0)
        return
    direction = 1.0 if gap.front else -1.0
    outer = rect.left() if gap.front else rect.right()
    y = rect.center().y() + (2.5 if inward else -2.5)
    if inward:
        paint_arrow(painter, QPointF(outer + direction * 3, y), direction, length, size)
    else:
        paint_arrow(painter, QPointF(outer - direction * length, y), -direction, length, size)


def _level_arrow(
    painter: QPainter, rect: QRectF, inward: bool, length: float, size: float, *, lid: bool
) -> None:
    """Draw an upright arrow through the floor (from below) or the lid."""
    painter.save()
    x = rect.center().x() + (-6 if inward else 6)
    y = rect.top() - 2 if lid else rect.bottom() + 2
    painter.translate(x, y)
    painter.rotate(-90)
    # Turned a quarter, "to the right" is up: in through the floor, out through the lid.
    upward = inward != lid
    paint_arrow(
        painter,
        QPointF(length / 2 if upward else -length / 2, 0),
        1.0 if upward else -1.0,
        length,
        size,
    )
    painter.restore()


def paint_air(
    painter: QPainter, scene: Scene, m: Mapping2D, area: QRectF, p: Palette
) -> list[QRectF]:
    """Draw the arrows with their figures, the air of the zones and a line that sums it up.

    Returns where the words stand [px].
    """
    if scene.assessed is None:
        return []
    readings, i, u = scene.assessed.months, scene.month, scene.units
    paint_air_arrows(painter, scene, m, p)
    labels = Labels(painter, area, m.rect(scene.section.outline), p)
    names = {o.id: o.name for o in scene.design.openings}
    flows = {air.opening: air for air in readings.openings(i)}
    seen = set()
    for gap in scene.section.gaps:
        if gap.opening in seen:
            continue
        seen.add(gap.opening)
        air = flows[gap.opening]
        rect = m.rect(gap.rect)
        left = gap.front or not gap.through
        at = QPointF(rect.left() if left else rect.right(), rect.center().y())
        if gap.level:
            at, left = rect.center(), True
        text = (
            f"{names[gap.opening]}\nin {u.number(air.in_l_h, 'flow', 0)}, out "
            f"{u.write(air.out_l_h, 'flow', 0)}\n{u.write(air.speed_m_s, 'speed', 2)}, "
            f"{air.heat_w:.1f} W"
        )
        if air.draught_m_s >= 0.01:
            text += f"\nat the comb {u.write(air.draught_m_s, 'speed', 2)}"
        labels.put(at, text, "left" if left else "right")
    _zones(painter, scene, m, p)
    flow = u.write(litres_per_hour(float(readings.exchange_m3_s[i])), "flow")
    joints = u.write(readings.joints_l_h(i), "flow")
    caption = (
        f"{flow} of fresh air, {readings.air_changes_per_hour[i]:.1f} changes an hour; of it "
        f"{joints} through joints; wind at the hive "
        f"{u.write(float(readings.outside.wind_m_s[i]), 'speed')}"
    )
    return [*labels.paint(), paint_foot(painter, area, caption, p)]


def _zones(painter: QPainter, scene: Scene, m: Mapping2D, p: Palette) -> None:
    assert scene.assessed is not None
    readings, i = scene.assessed.months, scene.month
    for zone, share in zone_shares(scene):
        co2 = float(readings.co2_volume_share[zone, i])
        paint_zone(painter, m, scene.section.cavity, p, share, ZONE_WORDS[zone], f"CO2 {co2:.1%}")
