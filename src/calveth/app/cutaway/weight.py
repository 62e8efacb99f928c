"""The lens Weight: what each part weighs, where the hive balances, and what tips it."""

from __future__ import annotations

from functools import lru_cache

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from calveth.app.cutaway.labels import Labels, paint_foot
from calveth.app.cutaway.painting import paint_arrow
from calveth.app.cutaway.view import Mapping2D, Scene
from calveth.app.theme.palette import Palette
from calveth.core.climate.place import Place
from calveth.core.colony.colony import Colony
from calveth.core.errors import CalvethError
from calveth.core.hive.design import Design
from calveth.core.materials import Material
from calveth.core.solids.build import build_solids
from calveth.core.workshop.lifting import LiftVerdict, judge
from calveth.core.workshop.standing import Standing, standing
from calveth.core.workshop.weights import lifts_of

_MARK_PX, _ARROW_PX = 6.0, 34.0


@lru_cache(maxsize=32)
def _weighed(
    design: Design, table: frozenset[tuple[str, Material]], colony: Colony, place: Place | None
) -> tuple[tuple[LiftVerdict, ...], Standing | None]:
    """Return what each part weighs, and how the hive stands in February; remembered."""
    materials, hive = dict(table), build_solids(design)
    lifts = tuple(judge(x, design) for x in lifts_of(design, hive, materials, colony))
    if place is None or not design.form.of_boards:
        return lifts, None
    try:
        return lifts, standing(design, hive, materials, colony, place, "february")
    except CalvethError:
        return lifts, None


def weighed(scene: Scene) -> tuple[tuple[LiftVerdict, ...], Standing | None]:
    """Return the lifts of a scene's hive and how it stands; without its months it has no place."""
    table = frozenset((m, scene.materials[m]) for m in scene.design.material_ids)
    place = scene.assessed.case.place if scene.assessed is not None else None
    return _weighed(scene.design, table, scene.colony, place)


def paint_weight(
    painter: QPainter, scene: Scene, m: Mapping2D, area: QRectF, p: Palette
) -> list[QRectF]:
    """Draw weights beside the parts, the balance with its plumb line, and what pushes it over."""
    lifts, stands = weighed(scene)
    u, outline = scene.units, scene.section.outline
    labels = Labels(painter, area, m.rect(outline), p)
    for verdict in lifts:
        lift = verdict.lift
        z = (lift.bottom_m + lift.top_m) / 2
        three = " / ".join(
            u.number(lift.kg(s), "mass", 0 if lift.kg(s) >= 10 else 1)
            for s in ("empty", "february", "full")
        )
        text = f"{lift.part.label} {three} {u.unit('mass')}"
        color = {"fine": "ink", "hard": "honey", "too heavy": "heat"}[verdict.verdict]
        if verdict.verdict != "fine":
            times = (
                "not to be lifted"
                if verdict.index is None
                else (f"{verdict.index:.1f} times the guideline")
            )
            text += f"\nfull: {times}"
        labels.put(m.point(outline.y1, z), text, "right", color)
    if stands is not None:
        _paint_balance(painter, scene, m, p, stands)
        over = m.point(outline.y0, outline.z1)
        push = f"{stands.push_n:.0f} N here tip it\nin February, {stands.angle_deg:.0f}°"
        labels.put(over, push, "left")
        gust = f"storm gust {stands.gust_pa:.0f} Pa\n{_safe(stands)}"
        labels.put(
            m.point(outline.y0, (outline.z0 + outline.z1) / 2),
            gust,
            "left",
            "ink" if stands.stands else "heat",
        )
    foot = "empty / in February / full; with frames, honey and bees, estimates"
    if stands is not None:
        foot += f" · balances {u.write(stands.height_m, 'length')} above the ground"
    return [*labels.paint(), paint_foot(painter, area, foot, p)]


def _safe(s: Standing) -> str:
    if s.stands:
        return f"stands, {s.ratio:.1f} times safe"
    return "lifts the lid: strap it" if not s.lid_stays and s.ratio >= 1 else "not safe: strap it"


def _paint_balance(painter: QPainter, scene: Scene, m: Mapping2D, p: Palette, s: Standing) -> None:
    """Draw the balance point, its plumb line between the feet, and the push at the top."""
    _, y, z = s.balance_m
    ground = z - s.height_m
    at, foot = m.placed(y, z), m.placed(y, ground)
    ys = [q for _, q in s.foot]
    painter.setPen(QPen(p.color("accent"), 1.4, Qt.PenStyle.DashLine))
    painter.drawLine(at, foot)
    painter.setPen(QPen(p.color("accent"), 2.4))
    painter.drawLine(m.placed(min(ys), ground), m.placed(max(ys), ground))
    paint_mark(painter, at, p)
    outline = scene.section.outline
    tip = m.point(outline.y0, outline.z1)
    painter.setPen(QPen(p.color("heat"), 2.0))
    paint_arrow(painter, tip, 1.0, _ARROW_PX, 8.0)


def paint_mark(painter: QPainter, at: QPointF, p: Palette) -> None:
    """Draw the mark of a balance point: a disc in quarters."""
    box = QRectF(at.x() - _MARK_PX, at.y() - _MARK_PX, 2 * _MARK_PX, 2 * _MARK_PX)
    painter.setPen(QPen(p.color("ink"), 1.2))
    painter.setBrush(p.color("sheet"))
    painter.drawEllipse(box)
    painter.setBrush(p.color("ink"))
    painter.drawPie(box, 0, 90 * 16)
    painter.drawPie(box, 180 * 16, 90 * 16)


def paint_weight_marks(painter: QPainter, scene: Scene, m: Mapping2D, p: Palette) -> None:
    """Draw the balance point alone, for a small picture."""
    _, stands = weighed(scene)
    if stands is not None:
        _, y, z = stands.balance_m
        paint_mark(painter, m.placed(y, z), p)
