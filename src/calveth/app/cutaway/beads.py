"""Water beaded on the inner surface of a solved hive, where its own cold spots are."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtGui import QPainter, QPen

from calveth.app.cutaway.view import Mapping2D, Scene
from calveth.app.theme.palette import Palette
from calveth.core.assess.readings import VISIBLE_G_DAY
from calveth.core.climate.air import saturation_pressure_unchecked_pa

_APART_PX = 11.0


def paint_beads(
    painter: QPainter, scene: Scene, m: Mapping2D, p: Palette, *, small: bool = False
) -> None:
    """Draw beads where the inner surface is below the dew point of the air before it.

    The grams of the balance are shared out over the wet pieces by how far each is below; the size
    of a bead is the grams a day on its stretch of surface.
    """
    assert scene.solved is not None and scene.assessed is not None
    beads, months, i = scene.solved.beads, scene.assessed.months, scene.month
    outside = float(months.outside.temperature_degc[i])
    inside = months.balance.temperature_degc[beads.zone, i]
    degc = outside + beads.factor * (inside - outside)
    pressure = months.balance.vapour_pressure_pa[beads.zone, i]
    short = np.maximum(pressure - saturation_pressure_unchecked_pa(degc), 0.0)
    weight = short * beads.length_m
    if weight.sum() <= 0:
        return
    grams = max(float(months.condensing_g_day[:6, i].sum()), VISIBLE_G_DAY)
    # Grams a day on a stretch as long as beads are apart.
    stretch = _APART_PX / m.scale
    each = grams * weight / weight.sum() / np.maximum(beads.length_m, 1e-9) * stretch
    painter.setPen(QPen(p.color("sheet"), 0.8))
    painter.setBrush(p.color("water"))
    taken: set[tuple[int, int]] = set()
    for k in np.argsort(-each):
        if short[k] <= 0:
            break
        count = max(1, round(beads.length_m[k] * m.scale / _APART_PX))
        along_y = _runs_along_y(scene, float(beads.z_m[k]))
        for n in range(count):
            shift = ((n + 0.5) / count - 0.5) * float(beads.length_m[k])
            at = m.placed(
                float(beads.y_m[k]) + (shift if along_y else 0.0),
                float(beads.z_m[k]) + (0.0 if along_y else shift),
            )
            apart = _APART_PX * (0.6 if small else 1.0)
            cell = (round(at.x() / apart), round(at.y() / apart))
            if cell in taken:
                continue
            taken.add(cell)
            radius = (1.2 + 3.6 * min(1.3, math.sqrt(each[k]))) * (0.6 if small else 1.0)
            painter.drawEllipse(at, radius, radius)


def _runs_along_y(scene: Scene, z: float) -> bool:
    """Tell whether a piece of inner surface lies on lid or floor, not on a wall."""
    room = scene.section.cavity
    return abs(z - room.z0) < 1e-6 or z > room.z1 - 1e-6
