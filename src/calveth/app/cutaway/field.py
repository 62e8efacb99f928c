"""The solved field on the cutaway: colours, lines of equal temperature and the dew-point line."""

from __future__ import annotations

import math
from itertools import pairwise
from typing import TYPE_CHECKING, cast

import numpy as np
from contourpy import FillType, LineType, contour_generator
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen, QPolygonF

from calveth.app.cutaway.view import Mapping2D, Scene
from calveth.app.theme.palette import Palette
from calveth.app.theme.scale import ink_on, temperature_color
from calveth.app.theme.theme import font
from calveth.core.hive.zones import zone_tops_m

if TYPE_CHECKING:
    from calveth.core.conduction.fields import SectionField


FloatArray = NDArray[np.float64]
_Filled = tuple[list[FloatArray], list[NDArray[np.uint32]]]
_BANDS, _FEW_BANDS = 48, 14
_LABEL_APART_PX = 34.0


def field_degc(scene: Scene, field: SectionField) -> FloatArray:
    """Return the temperatures of a section in the month of the scene [n, m] [°C]."""
    assert scene.assessed is not None
    months, i = scene.assessed.months, scene.month
    return field.degc(
        months.balance.temperature_degc[:, i], float(months.outside.temperature_degc[i])
    )


def paint_bands(
    painter: QPainter,
    scene: Scene,
    field: SectionField,
    m: Mapping2D,
    ends: tuple[float, float],
    *,
    small: bool = False,
) -> None:
    """Fill the solids with the colours of their temperatures.

    Every band lies on the one before, so that no seam shows between them.
    """
    degc = field_degc(scene, field)
    known = degc[np.isfinite(degc)]
    if not known.size:
        return
    x, y = _pixels(field, m)
    contours = contour_generator(x, y, _masked(degc), fill_type=FillType.OuterOffset)
    count = _FEW_BANDS if small else _BANDS
    levels = np.linspace(float(known.min()) - 0.01, float(known.max()) + 0.01, count + 1)
    painter.save()
    painter.setPen(Qt.PenStyle.NoPen)
    for low, high in pairwise(levels.tolist()):
        path = QPainterPath()
        path.setFillRule(Qt.FillRule.OddEvenFill)
        points, offsets = cast(_Filled, contours.filled(low, float(levels[-1]) + 1))
        for outline, parts in zip(points, offsets, strict=True):
            for start, end in pairwise(parts.tolist()):
                path.addPolygon(_polygon(outline[start:end]))
        painter.fillPath(path, temperature_color(0.5 * (low + high), *ends))
    painter.restore()


def paint_isotherms(
    painter: QPainter, scene: Scene, field: SectionField, m: Mapping2D, ends: tuple[float, float]
) -> None:
    """Draw lines of equal temperature with their figures."""
    degc = field_degc(scene, field)
    known = degc[np.isfinite(degc)]
    if not known.size:
        return
    low, high = float(known.min()), float(known.max())
    step = next(s for s in (1.0, 2.0, 5.0, 10.0) if (high - low) / s <= 7 or s == 10.0)
    painter.setFont(font(10))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    taken: list[QPointF] = []
    x, y = (v[np.isfinite(degc)] for v in _pixels(field, m))
    inside = QRectF(float(x.min()), float(y.min()), float(np.ptp(x)), float(np.ptp(y)))
    drawn: list[tuple[float, QColor, list[FloatArray]]] = []
    for k in range(math.ceil(low / step), math.floor(high / step) + 1):
        color = temperature_color(k * step, *ends)
        drawn.append((k * step, color, _lines(field, m, degc, k * step)))
        painter.setPen(QPen(ink_on(color), 1.0))
        for line in drawn[-1][2]:
            painter.drawPolyline(_polygon(line))
    # Figures after all lines, so that none runs through them.
    for value, color, lines in drawn:
        painter.setPen(QPen(ink_on(color), 1.0))
        text = scene.units.number(value, "temperature", 0) + "°"
        for line in lines:
            _label(painter, line, text, color, taken, inside)


def _label(
    painter: QPainter,
    line: FloatArray,
    text: str,
    color: QColor,
    taken: list[QPointF],
    inside: QRectF,
) -> None:
    """Write a figure on a long line where no other stands near, within the hive.

    It stands on the colour of its line: beside it the field may be as dark as the ink.
    """
    if np.hypot(*np.ptp(line, axis=0)) < 60:
        return
    for share in (0.5, 0.3, 0.7, 0.15, 0.85):
        at = QPointF(*line[int(share * (len(line) - 1))].tolist())
        here = inside.contains(QRectF(at.x(), at.y() - 12, 22, 12))
        if here and all((at - other).manhattanLength() > _LABEL_APART_PX for other in taken):
            taken.append(at)
            wide = painter.fontMetrics().horizontalAdvance(text) + 3
            box = QRectF(at.x() + 1, at.y() - 12, wide, 12)
            painter.fillRect(box, color)
            painter.drawText(QPointF(at.x() + 2, at.y() - 2), text)
            return


def paint_dew_line(
    painter: QPainter, scene: Scene, field: SectionField, m: Mapping2D, p: Palette
) -> None:
    """Draw where the shell is as cold as the dew point of the air it faces."""
    assert scene.assessed is not None
    room = scene.section.cavity
    dew = scene.assessed.months.dew_point_degc[:, scene.month]
    tops = [room.z0 + top for top in zone_tops_m(room.z1 - room.z0)]
    above = field_degc(scene, field) - dew[np.searchsorted(tops, field.up_m)]
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(p.color("water"), 1.6, Qt.PenStyle.DashLine))
    for line in _lines(field, m, above, 0.0):
        painter.drawPolyline(_polygon(line))


def _lines(field: SectionField, m: Mapping2D, values: FloatArray, level: float) -> list[FloatArray]:
    x, y = _pixels(field, m)
    contours = contour_generator(x, y, _masked(values), line_type=LineType.Separate)
    return cast(list[FloatArray], contours.lines(level))


def _masked(values: FloatArray) -> np.ma.MaskedArray[tuple[int, ...], np.dtype[np.float64]]:
    return np.ma.masked_invalid(values)


def _pixels(field: SectionField, m: Mapping2D) -> tuple[FloatArray, FloatArray]:
    return m.left + (field.across_m - m.y0) * m.scale, m.bottom - (field.up_m - m.z0) * m.scale


def _polygon(points: FloatArray) -> QPolygonF:
    return QPolygonF([QPointF(x, y) for x, y in points.tolist()])
