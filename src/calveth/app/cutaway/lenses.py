"""The answers drawn on the cutaway: make-up and wet, with their words around it."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from calveth.app.cutaway.beads import paint_beads
from calveth.app.cutaway.field import paint_dew_line
from calveth.app.cutaway.labels import LIST_PX, Labels, paint_foot
from calveth.app.cutaway.view import Mapping2D, Scene
from calveth.app.cutaway.zones import ZONE_WORDS, paint_zone, zone_shares
from calveth.app.theme.palette import Palette
from calveth.core.assess.readings import FACE_ZONE, VISIBLE_G_DAY
from calveth.core.constants import RIM_WIDTH, RUNNING_SLOPE
from calveth.core.hive.design import FACES, Face
from calveth.core.hive.opening import Opening
from calveth.core.hive.zones import zone_tops_m
from calveth.core.materials import Layer
from calveth.core.nest.network import SURFACES, WINDOW
from calveth.core.solids.build import build_solids
from calveth.core.solids.quantities import cavity_litres, outer_size_m
from calveth.core.solids.section import Rect
from calveth.texts.units import UnitSystem


def paint_make_up(
    painter: QPainter, scene: Scene, m: Mapping2D, area: QRectF, p: Palette
) -> list[QRectF]:
    """Draw thicknesses, sizes and the names of openings; return where the words stand."""
    section = scene.section
    labels = Labels(painter, area, m.rect(section.outline), p)
    for face, anchor, side in (
        ("lid", _middle_of(scene, "lid", 0.85), "right"),
        ("walls", _middle_of(scene, "walls", 0.5), "right"),
        ("floor", _middle_of(scene, "floor", 0.85), "right"),
    ):
        stack = scene.design.shell.stack(face)  # type: ignore[arg-type]
        text = "\n".join(_layer_text(scene, layer) for layer in stack)
        labels.put(m.point(*anchor), text, side)
    _opening_names(scene, m, labels)
    hive = build_solids(scene.design)
    u = scene.units
    width, length, height = (u.number(size, "length") for size in outer_size_m(hive))
    text = (
        f"{u.write(cavity_litres(hive), 'volume')} inside · outside {width} × {length} × {height} "
        f"{u.unit('length')} ({_way_round(scene)}, high)"
    )
    if hive.frames:
        text = f"{len(hive.frames)} frames · " + text
    return [*labels.paint(), paint_foot(painter, area, text, p, LIST_PX)]


def _way_round(scene: Scene) -> str:
    """Return what the first two sizes are: a trough is long across its frames."""
    across, along = scene.design.form.spans_m
    return "long, deep" if across > 1.5 * along else "wide, deep"


def _middle_of(scene: Scene, face: Face, share: float) -> tuple[float, float]:
    """Return a point (y, z) in the middle of a face: back wall, or ``share`` along a plate."""
    outline, room = scene.section.outline, scene.section.cavity
    if face == "walls":
        return (room.y1 + outline.y1) / 2, room.z0 + share * (room.z1 - room.z0)
    y = outline.y0 + share * (outline.y1 - outline.y0)
    if face == "lid":
        return y, (room.z1 + outline.z1) / 2
    return y, (room.z0 + outline.z0) / 2


def _layer_text(scene: Scene, layer: Layer) -> str:
    size = scene.units.write(layer.thickness_m, "length", _digits(scene, layer.thickness_m))
    text = f"{size} {scene.materials[layer.material].name}"
    if layer.mixed_share > 0:
        text += f"\n  {layer.mixed_share:.0%} {scene.materials[layer.mixed_with].name}"
    if layer.fitting != "fixed":
        text += f" ({layer.fitting})"
    return text


def _digits(scene: Scene, thickness_m: float) -> int | None:
    """Return a digit more for films and half millimetres."""
    if scene.units.name != "metric":
        return None
    mm = 1000 * thickness_m  # sizes are kept in metres, in which 19 mm is not exact
    return 1 if abs(mm - round(mm)) > 0.05 else 0


def _opening_names(scene: Scene, m: Mapping2D, labels: Labels) -> None:
    """Name the openings with their sizes; a gap of several parts once."""
    seen = set()
    for gap in scene.section.gaps:
        if gap.opening in seen:
            continue
        # A gap along three sides of a lid is cut twice, and is one opening to whoever saws it.
        seen.add(gap.opening)
        opening = next(o for o in scene.design.openings if o.id == gap.opening)
        rect = m.rect(gap.rect)
        left = gap.front or not gap.through or gap.level
        anchor = (
            rect.center()
            if gap.level
            else QPointF(rect.left() if left else rect.right(), rect.center().y())
        )
        labels.put(
            anchor,
            f"{opening.name}\n{opening_size(opening, scene.units)}",
            "left" if left else "right",
        )


def opening_size(opening: Opening, units: UnitSystem) -> str:
    """Return the size of an opening in words."""
    if opening.round:
        each = units.write(opening.width_m, "length")
        text = f"{opening.count} × {each}" if opening.count > 1 else f"{each} hole"
    elif opening.shape == "lid gap":
        text = f"{units.write(opening.height_m, 'length')} on three sides"
    else:
        width = units.number(opening.width_m, "length")
        text = f"{width} × {units.write(opening.height_m, 'length')}"
    return text if opening.free_share == 1 else f"{text}, {opening.free_share:.0%} open"


def paint_wet_marks(
    painter: QPainter, scene: Scene, m: Mapping2D, p: Palette, *, small: bool = False
) -> None:
    """Draw the dew-point line in the shell, beads on wet surfaces and where the water goes."""
    if scene.assessed is None:
        return
    grams = scene.assessed.months.condensing_g_day[:, scene.month]
    if scene.films_g is not None:
        grams = np.array(scene.films_g)
    if scene.solved is not None and scene.films_g is None:
        paint_dew_line(painter, scene, scene.solved.upright, m, p)
        paint_beads(painter, scene, m, p, small=small)
    else:
        if scene.films_g is None:
            _dew_line(painter, scene, m, p)
        surfaces = _surface_lines(scene.section.cavity)
        for k, name in enumerate(SURFACES):
            for y0, z0, y1, z1 in surfaces.get(name, ()):
                _beads(painter, m.point(y0, z0), m.point(y1, z1), grams[k], p, small=small)
    if not small:
        _drips(painter, scene, m, grams, p)


def paint_wet(
    painter: QPainter, scene: Scene, m: Mapping2D, area: QRectF, p: Palette
) -> list[QRectF]:
    """Draw the wet marks and say beside them what each surface does; return where words stand."""
    if scene.assessed is None:
        return []
    paint_wet_marks(painter, scene, m, p)
    _zone_air(painter, scene, m, p)
    labels = Labels(painter, area, m.rect(scene.section.outline), p)
    surfaces = _surface_lines(scene.section.cavity)
    if scene.design.window is not None and scene.section.panes:
        _window_label(scene, m, labels)
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
        labels.put(anchor, *_surface_label(scene, name, k, side))
    key = "• water or frost on a surface    - - -  as cold as the dew point inside"
    if scene.films_g is not None:
        key = "• water or ice that stands on a surface in this hour"
    return [*labels.paint(), paint_foot(painter, area, key, p)]


SURFACE_WORDS = {"lid rim": "rim of the lid", "lid middle": "middle of the lid"}
"""What surfaces are called where the name of the model is not a beekeeper's."""


def _window_label(scene: Scene, m: Mapping2D, labels: Labels) -> None:
    pane = m.rect(scene.section.panes[0].rect)
    labels.put(pane.center(), *_surface_label(scene, "window", WINDOW, "right"))


def _surface_label(scene: Scene, name: str, k: int, side: str) -> tuple[str, str, str]:
    """Return what is said of a surface, on which side and in which ink."""
    assert scene.assessed is not None
    readings, i, u = scene.assessed.months, scene.month, scene.units
    grams, degc = (
        float(a[k, i]) for a in (readings.condensing_g_day, readings.balance.surface_degc)
    )
    wet = grams >= VISIBLE_G_DAY
    margin = float(readings.margin_k[k, i])
    if scene.films_g is not None:
        stands = scene.films_g[k]
        wet = stands >= VISIBLE_G_DAY
        verdict = f"{'ice' if degc < 0 else 'wet'}, {u.write(stands, 'water', 0)}"
        above = u.write(abs(margin), "temperature difference", 1)
        verdict = verdict if wet else "dry"
        verdict += f"\n{above} {'above' if margin > 0 else 'below'} dew"
    elif wet:
        verdict = f"{'frost' if degc < 0 else 'wet'}, {u.write(grams, 'water')} a day"
    elif grams > 0.0:
        verdict = f"a little {'frost' if degc < 0 else 'dew'}, {u.write(grams, 'water')} a day"
    else:
        verdict = f"dry, {u.write(margin, 'temperature difference')} above dew"
    return (
        f"{SURFACE_WORDS.get(name, name)} {u.write(degc, 'temperature')}\n{verdict}",
        side,
        "water" if wet else "ink",
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
    if grams[0] >= VISIBLE_G_DAY and scene.design.lid_slope_deg < RUNNING_SLOPE.value:
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
    readings, i = scene.assessed.months, scene.month
    room = scene.section.cavity
    for zone, box_share in zone_shares(scene):
        t = scene.units.write(float(readings.balance.temperature_degc[zone, i]), "temperature")
        humid = f"{min(1.0, readings.relative_humidity[zone, i]):.0%} humid"
        paint_zone(painter, m, room, p, box_share, ZONE_WORDS[zone], f"{t}, {humid}")


def dew_depth_m(scene: Scene, face: Face) -> float | None:
    """Return how deep in a face its temperature falls to the dew point inside [m].

    None when the whole face is warmer; 0 when the inner surface itself is below.
    """
    if scene.assessed is None:
        return None
    readings, i = scene.assessed.months, scene.month
    profile = readings.profile(face, i)
    dew = float(readings.dew_point_degc[FACE_ZONE[face], i])
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
