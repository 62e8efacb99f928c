"""The shell solved in three dimensions: heat loss, parts, cold spots against the dew point."""

from __future__ import annotations

from html import escape
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QDialog, QDialogButtonBox, QTextBrowser, QVBoxLayout, QWidget

from calveth.app.theme.theme import current
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.calendar import MONTH_NAMES
from calveth.core.hive.zones import NEST
from calveth.texts.html import table
from calveth.texts.joints import joints_html
from calveth.texts.units import UnitSystem

if TYPE_CHECKING:
    from calveth.core.conduction.hive import GridChange, HiveConduction
    from calveth.core.conduction.joints import JointSum
    from calveth.core.conduction.spots import Spot


_LITTLE_W_K = 0.005


class ConductionDialog(QDialog):
    """Shows a solved shell; the text can be selected and copied."""

    def __init__(
        self,
        solved: HiveConduction,
        joints: JointSum,
        change: GridChange,
        monthly: MonthlyAssessment,
        month: int,
        units: UnitSystem,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(f"{monthly.design.name}, solved in three dimensions")
        self.resize(790, 640)
        self.text = QTextBrowser()
        self.text.setAccessibleName("the solved shell")
        self.text.setHtml(conduction_html(solved, joints, change, monthly, month, units))
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.addWidget(self.text)
        column.addWidget(buttons)


def spot_margin(spot: Spot, monthly: MonthlyAssessment, month: int) -> tuple[float, float, float]:
    """Return temperature, dew point and the margin between them at a spot [°C, °C, K].

    The spot has its share of the way from outside to the air of the zone it lies in.
    """
    months = monthly.months
    zone = spot.zone
    outside = float(months.outside.temperature_degc[month])
    inside = float(months.balance.temperature_degc[zone, month])
    degc = outside + spot.factor * (inside - outside)
    dew = float(months.dew_point_degc[zone, month])
    return degc, dew, degc - dew


def _w_k(value: float) -> str:
    return f"{value:.2f} W/K" if value > _LITTLE_W_K else "–"


def conduction_html(
    solved: HiveConduction,
    joints: JointSum,
    change: GridChange,
    monthly: MonthlyAssessment,
    month: int,
    units: UnitSystem,
) -> str:
    """Return a solved shell as a page of simple HTML."""
    zones = ", ".join(
        f"{name} {v:.2f} W/K"
        for name, v in zip(("base", "nest", "crown"), solved.zone_w_k, strict=True)
    )
    spots = [["coldest spots inside", "factor", f"in {MONTH_NAMES[month]}", "above dew point", ""]]
    for spot in sorted(solved.coldest.values(), key=lambda s: s.factor):
        degc, _, margin = spot_margin(spot, monthly, month)
        spots.append(
            [
                spot.name,
                f"{spot.factor:.2f}",
                units.write(degc, "temperature"),
                units.write(margin, "temperature difference"),
                "wet" if margin < 0 else "dry",
            ]
        )
    kelvin = float(
        monthly.months.balance.temperature_degc[NEST, month]
        - monthly.months.outside.temperature_degc[month]
    )
    heading = f"leaves in {MONTH_NAMES[month]}"
    parts = [["part", "goes in", "leaves", heading, "if twice as conductive"]]
    parts += [
        [
            escape(name),
            _w_k(into),
            _w_k(solved.leaving_w_k[name]),
            f"{solved.leaving_w_k[name] * kelvin:.1f} W"
            if solved.leaving_w_k[name] > _LITTLE_W_K
            else "–",
            f"{gain:+.2f} W/K",
        ]
        for name, (into, gain) in solved.part_w_k.items()
    ]
    muted = current().muted
    return (
        f"<h3>{solved.conductance_w_k:.2f} W/K; coldest inside: {escape(solved.coldest_spot.name)}"
        f"</h3><p>{zones}</p>{table(spots, words=(0, 4))}"
        f"<p style='color:{muted}'>Factor: 0 as cold as outside, 1 as warm as inside; "
        "beside edges with the inner film 0.25 m²·K/W of EN ISO 13788.</p>"
        f"{joints_html(joints, units, muted)}{table(parts)}"
        f"<p style='color:{muted}'>Openings hold still air, frames are left out. "
        f"{solved.cells} cells; residual {solved.residual:.0e}; heat in less heat out "
        f"{solved.imbalance:.0e}; on a finer grid W/K {100 * change.conductance:+.2f} %, "
        f"a factor by {change.factor:.3f} at most.</p>"
    )
