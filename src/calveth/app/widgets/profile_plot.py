"""Through a face: its layers, the temperature and the vapour pressure in them."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from calveth.app.cutaway.hatches import fill_color
from calveth.app.theme.palette import Palette
from calveth.app.theme.theme import current, font
from calveth.app.view_state import ViewState
from calveth.app.widgets.axis import Axis, draw_upright
from calveth.core.hive.design import Face
from calveth.core.materials import Layer, Material
from calveth.core.moisture.profile import Profile
from calveth.texts.units import to_unit

_LEFT, _RIGHT = 40.0, 14.0


class ProfilePlot(QWidget):
    """Outside at the left, inside at the right, as in the list of layers."""

    def __init__(self, view: ViewState, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._view = view
        self._profile: Profile | None = None
        self._stack: tuple[Layer, ...] = ()
        self._materials: Mapping[str, Material] = {}
        self._air = (0.0, 0.0)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(150)
        self.setAccessibleName("profile through the face")

    def sizeHint(self) -> QSize:
        return QSize(330, 190)

    def show_profile(
        self,
        face: Face,
        stack: tuple[Layer, ...],
        materials: Mapping[str, Material],
        profile: Profile | None,
        outside_degc: float,
        inside_degc: float,
    ) -> None:
        """Show the profile of a face; None while it is worked out."""
        self._stack, self._materials, self._profile = stack, materials, profile
        self._air = (outside_degc, inside_degc)
        wet = profile is not None and bool(np.any(profile.condensing_g_m2_day > 0))
        self.setAccessibleDescription(
            f"{face}: " + ("water gathers inside" if wet else "dry inside")
        )
        self.update()

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self.paint(painter, self.width(), self.height(), current())

    def paint(self, painter: QPainter, wide: float, tall: float, p: Palette) -> None:
        """Draw the profile into a rectangle; used by the screen and by print alike."""
        if self._profile is None:
            painter.setPen(p.color("muted"))
            box = QRectF(0, 0, wide, tall)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, "working it out …")
            return
        gap = 34.0
        each = (tall - gap - 22) / 2
        width = wide - _LEFT - _RIGHT
        upper = QRectF(_LEFT, 18, width, each)
        lower = QRectF(_LEFT, 18 + each + gap - 12, width, each)
        self._bands(painter, upper, p)
        self._bands(painter, lower, p)
        self._temperature(painter, upper, p)
        self._vapour(painter, lower, p)

    def _x(self, area: QRectF, depth: np.ndarray) -> np.ndarray:
        """Return pixels of depths from the inner surface; a margin at both ends is air."""
        assert self._profile is not None
        body = area.width() * 0.8
        share = 1 - depth / self._profile.depth_m[-1]
        result: np.ndarray = area.left() + area.width() * 0.1 + share * body
        return result

    def _bands(self, painter: QPainter, area: QRectF, p: Palette) -> None:
        painter.setPen(QPen(p.color("line"), 1))
        painter.setBrush(p.color("sheet"))
        painter.drawRect(area)
        depth = 0.0
        for layer in reversed(self._stack):
            x1, x0 = self._x(area, np.array([depth, depth + layer.thickness_m]))
            depth += layer.thickness_m
            material = self._materials[layer.material]
            painter.setBrush(fill_color(material.hatch, p))
            painter.setPen(QPen(p.color("ink", 120), 1))
            painter.drawRect(QRectF(x0, area.top(), x1 - x0, area.height()))

    def _frame_text(
        self,
        painter: QPainter,
        area: QRectF,
        title: str,
        axis: Axis,
        p: Palette,
        *,
        sides: bool = False,
    ) -> None:
        painter.setFont(font(11))
        painter.setPen(p.color("muted"))
        heading = QRectF(area.left(), area.top() - 17, area.width(), 16)
        painter.drawText(heading, Qt.AlignmentFlag.AlignHCenter, title)
        if sides:
            painter.drawText(heading, Qt.AlignmentFlag.AlignLeft, "outside")
            painter.drawText(heading, Qt.AlignmentFlag.AlignRight, "inside")
        draw_upright(painter, area, axis, p, _LEFT)

    def _temperature(self, painter: QPainter, area: QRectF, p: Palette) -> None:
        assert self._profile is not None
        profile = self._profile
        outside, inside = self._air
        low, high = min(outside, inside) - 1, max(outside, inside) + 1

        def y(t: float) -> float:
            return area.bottom() - (t - low) / (high - low) * area.height()

        x = self._x(area, profile.depth_m)
        points = [QPointF(area.right(), y(inside))]
        points += [QPointF(a, y(t)) for a, t in zip(x, profile.temperature_degc, strict=True)]
        points.append(QPointF(area.left(), y(outside)))
        painter.setPen(QPen(p.color("heat"), 2))
        painter.drawPolyline(QPolygonF(points))
        units = self._view.units
        unit = units.unit("temperature")
        axis = Axis.of(low, high, lambda v: to_unit(v, "temperature", unit))
        self._frame_text(painter, area, f"temperature {unit}", axis, p, sides=True)

    def _vapour(self, painter: QPainter, area: QRectF, p: Palette) -> None:
        assert self._profile is not None
        profile = self._profile
        top = 1.08 * float(max(profile.saturation_pa.max(), profile.vapour_pressure_pa.max()))
        low = 0.85 * float(profile.vapour_pressure_pa.min())

        def y(v: float) -> float:
            return area.bottom() - (v - low) / (top - low) * area.height()

        x = self._x(area, profile.depth_m)
        for values, color, style in (
            (profile.saturation_pa, "ink", Qt.PenStyle.SolidLine),
            (profile.vapour_pressure_pa, "water", Qt.PenStyle.DashLine),
        ):
            painter.setPen(QPen(p.color(color), 2, style))
            painter.drawPolyline(
                QPolygonF([QPointF(a, y(float(v))) for a, v in zip(x, values, strict=True)])
            )
        painter.setPen(QPen(p.color("sheet"), 1))
        painter.setBrush(p.color("water"))
        for k in np.flatnonzero(profile.condensing_g_m2_day > 0):
            painter.drawEllipse(QPointF(x[k], y(float(profile.vapour_pressure_pa[k]))), 5, 5)
        self._frame_text(painter, area, "vapour Pa: — saturated  - - actual", Axis.of(low, top), p)
