"""Twelve months of a hive as a small table of figures, drawn: one row a quantity."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from calveth.app.ribbon.verdict import paint_verdict
from calveth.app.theme.theme import current, font
from calveth.app.view_state import ViewState
from calveth.app.widgets.copying import can_be_copied
from calveth.app.widgets.plan_grid import LEFT, RIGHT, month_width
from calveth.core.advice.dossier import FollowUp
from calveth.core.assess.readings import crown_verdict
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.calendar import MONTH_NAMES
from calveth.core.climate.place import Place, days_with_snow
from calveth.core.hive.zones import CROWN, NEST
from calveth.core.nest.network import SURFACES, WINDOW
from calveth.core.units import litres_per_hour
from calveth.texts.units import UnitSystem

_HEAD, _ROW = 20.0, 19.0
_Row = tuple[str, Callable[[MonthlyAssessment, int, UnitSystem], str]]


def _water(monthly: MonthlyAssessment, k: int, u: UnitSystem) -> str:
    lower = monthly.months.condensing_g_day[2:, k].sum() + 8.64e7 * (
        monthly.months.balance.comb_kg_s[:, k].sum()
    )
    return u.number(float(lower), "water", 0 if u.name == "metric" else 1)


_ROWS: tuple[_Row, ...] = (
    (
        "beside the bees",
        lambda m, k, u: u.number(
            float(m.months.balance.temperature_degc[NEST, k]), "temperature", 0
        ),
    ),
    (
        "humid under the lid %",
        lambda m, k, _: f"{100 * min(1, m.months.relative_humidity[CROWN, k]):.0f}",
    ),
    ("water lower down a day", _water),
    (
        "fresh air",
        lambda m, k, u: u.number(litres_per_hour(float(m.months.exchange_m3_s[k])), "flow", 0),
    ),
    ("CO2 %", lambda m, k, _: f"{100 * m.months.co2_volume_share[NEST, k]:.1f}"),
    (
        "draught at the comb",
        lambda m, k, u: u.number(
            max((a.draught_m_s for a in m.months.openings(k)), default=0.0), "speed", 2
        ),
    ),
    ("honey burnt", lambda m, k, u: u.number(float(m.honey_kg_month[k]), "mass")),
)


class YearTable(QWidget):
    """The figures of a year, with crown marks, mould and snow."""

    def __init__(self, view: ViewState) -> None:
        super().__init__()
        self._view = view
        self._monthly: MonthlyAssessment | None = None
        self._deep: FollowUp | None = None
        self._snow: tuple[float, ...] = (0.0,) * 12
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("the year of the hive")
        self.setToolTip("coldest: the coldest night to be expected at the place")
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        can_be_copied(self, self.rows_of_text)

    def sizeHint(self) -> QSize:
        return QSize(700, self.height())

    def show_year(
        self, monthly: MonthlyAssessment | None, follow_up: FollowUp | None, place: Place
    ) -> None:
        """Show a year; None while it is worked out."""
        self._monthly, self._deep, self._snow = monthly, follow_up, days_with_snow(place)
        quilt = follow_up is not None and follow_up.damp.quilt is not None
        rows = len(_ROWS) + 3 + quilt + 1 + len(SURFACES) - (not self._has_window())
        self.setFixedHeight(int(_HEAD + _ROW * rows + 6))
        self.update()

    def _has_window(self) -> bool:
        return self._monthly is not None and self._monthly.design.window is not None

    def rows_of_text(self) -> list[list[str]]:
        """Return all of it as it is read: months, then a row a figure; the coldest night last."""
        rows = [["", *(name[:3] for name in MONTH_NAMES), "coldest night"]]
        if self._monthly is not None:
            crown = [crown_verdict(self._monthly.months, k) for k in range(12)]
            rows.append(["under the lid", *crown])
        rows += [[name, *texts] for name, texts in (*self._figures(), *self._words())]
        unit = self._view.units.unit("temperature difference")
        for name, margins in self._margins():
            shown = (self._view.units.margin(m) for m in margins)
            rows.append([f"{name} above the dew point {unit}", *shown])
        return rows

    def _figures(self) -> list[tuple[str, list[str]]]:
        """Return names and twelve figures of what the months say."""
        known, units = self._monthly, self._view.units
        return [
            (
                self._with_unit(name),
                ["…"] * 12 if known is None else [write(known, k, units) for k in range(12)],
            )
            for name, write in _ROWS
        ]

    def _margins(self) -> list[tuple[str, list[float]]]:
        """Return how far surfaces are above the dew point, in months and the coldest night [K]."""
        rows = []
        for surface, name in enumerate(SURFACES):
            if surface == WINDOW and not self._has_window():
                continue
            margins: list[float] = []
            if self._monthly is not None:
                margins += self._monthly.months.margin_k[surface].tolist()
            if self._monthly is not None and self._deep is not None:
                margins.append(float(self._deep.nights.coldest_night.margin_k[surface, 0]))
            rows.append((name, margins))
        return rows

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        p = current()
        painter.setFont(font(12))
        width = month_width(self.width())
        column = QRectF(LEFT + self._view.month * width, 0, width, self.height() - 3)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(p.color("chosen"))
        painter.drawRoundedRect(column, 3, 3)
        painter.setPen(p.color("muted"))
        self._cells(painter, 0.0, [name[:3] for name in MONTH_NAMES])
        y = _HEAD
        self._name(painter, y, "under the lid")
        if self._monthly is not None:
            for k in range(12):
                c = QPointF(LEFT + (k + 0.5) * width, y + _ROW / 2)
                paint_verdict(painter, c, crown_verdict(self._monthly.months, k), p, 5.5)
        y += _ROW
        for name, texts in (*self._figures(), *self._words()):
            self._name(painter, y, name)
            painter.setPen(p.color("ink"))
            self._cells(painter, y, texts)
            y += _ROW
        self._dew(painter, y + 2)

    def _cells(self, painter: QPainter, y: float, texts: Sequence[str]) -> None:
        width = month_width(self.width())
        for k, text in enumerate(texts):
            box = QRectF(LEFT + k * width, y, width if k < 12 else RIGHT, _ROW)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def _dew(self, painter: QPainter, y: float) -> None:
        """Write how far each surface is above the dew point, in every month and the coldest night.

        What is wet has a minus before it and the ink of water.
        """
        p, units, width = current(), self._view.units, month_width(self.width())
        unit = units.unit("temperature difference")
        self._name(painter, y, f"above the dew point {unit}")
        painter.drawText(
            QRectF(LEFT + 12 * width, y, RIGHT, _ROW), Qt.AlignmentFlag.AlignCenter, "coldest"
        )
        for name, margins in self._margins():
            y += _ROW
            self._name(painter, y, name)
            for column, margin in enumerate(margins):
                painter.setPen(p.color("water" if margin < 0 else "ink"))
                box = QRectF(LEFT + column * width, y, width if column < 12 else RIGHT, _ROW)
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, units.margin(margin))

    def _words(self) -> list[tuple[str, list[str]]]:
        """Return where mould may grow, days of snow, and how full the quilt is."""
        follow_up = self._deep
        quilt = follow_up.damp.quilt if follow_up is not None else None
        rows: list[tuple[str, list[str]]] = [
            (
                "surfaces that may mould",
                ["…"] * 12
                if follow_up is None
                else [str(int(n)) if n else "–" for n in np.sum(follow_up.damp.mould, axis=0)],
            ),
            ("days with snow", [f"{d:.0f}" if d else "–" for d in self._snow]),
        ]
        if quilt is not None:
            full = quilt.held_kg / max(quilt.capacity_kg, 1e-9)
            rows.append(("quilt filled %", [f"{100 * v:.0f}" for v in full]))
        return rows

    def _with_unit(self, name: str) -> str:
        units = self._view.units
        quantity = {
            "beside the bees": "temperature",
            "water lower down a day": "water",
            "fresh air": "flow",
            "draught at the comb": "speed",
            "honey burnt": "mass",
        }.get(name)
        return f"{name} {units.unit(quantity)}" if quantity else name

    @staticmethod
    def _name(painter: QPainter, y: float, text: str) -> None:
        painter.setPen(current().color("muted"))
        painter.drawText(QRectF(0, y, LEFT - 8, _ROW), Qt.AlignmentFlag.AlignVCenter, text)
