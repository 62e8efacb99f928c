"""What the hive says in a month, as sentences a beekeeper would say."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from calveth.core.airflow.paths import CROWN, NEST
from calveth.core.assess.model import SURFACES
from calveth.core.assess.moments import LID_MIDDLE, LID_RIM, VISIBLE_G_DAY, crown_verdict
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.climate.place import MONTH_NAMES, has_forage
from calveth.core.units import litres_per_hour

Tone = Literal["good", "note", "bad"]

FANNING = "In a month of forage bees fan: less damp and more air than worked out here."

# Above this share of CO2 beekeepers call the air thick; common practice, no source.
_THICK_AIR = 0.04


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """One sentence, how it sounds, and the surface it speaks of (empty: the whole hive)."""

    text: str
    tone: Tone
    surface: str = ""


def findings(assessed: MonthlyAssessment, month: int) -> list[Finding]:
    """Return the findings of a design in a month (0 to 11): crown, walls, air, stores."""
    said = [
        _crown(assessed, month),
        _below(assessed, month),
        _air(assessed, month),
        _stores(assessed),
    ]
    if has_forage(assessed.place, month):
        said.append(Finding(text=FANNING, tone="note"))
    return said


def _crown(assessed: MonthlyAssessment, month: int) -> Finding:
    m = assessed.months
    verdict = crown_verdict(m, month)
    name = MONTH_NAMES[month]
    if verdict == "dry":
        spare = float(min(m.margin_k[LID_MIDDLE, month], m.margin_k[LID_RIM, month]))
        return Finding(
            text=f"Crown dry in {name}: even the rim of the lid is {spare:.1f} K above dew point.",
            tone="good",
            surface="lid rim",
        )
    at = LID_MIDDLE if verdict == "wet" else LID_RIM
    degc = m.balance.surface_degc[at, month]
    dew = m.dew_point_degc[CROWN, month]
    grams = m.condensing_g_day[at, month]
    if verdict == "wet ring":
        return Finding(
            text=(
                f"Wet ring in {name}: the rim of the lid is at {degc:.1f} °C, dew point "
                f"{dew:.1f} °C, about {grams:.1f} g of water a day. The middle stays dry."
            ),
            tone="note",
            surface="lid rim",
        )
    fate = "drips on it" if degc >= 0 else "freezes there and drips in the thaw"
    return Finding(
        text=(
            f"Wet above the cluster in {name}: the lid is at {degc:.1f} °C, dew point "
            f"{dew:.1f} °C, about {grams:.1f} g a day {fate}. Thicken the lid first."
        ),
        tone="bad",
        surface="lid middle",
    )


def _below(assessed: MonthlyAssessment, month: int) -> Finding:
    water = assessed.months.condensing_g_day[:, month]
    wet = [k for k in range(2, len(SURFACES)) if water[k] >= VISIBLE_G_DAY]
    if not wet:
        return Finding(text="Walls and floor are dry.", tone="good", surface="middle wall")
    names = " and ".join(
        [", ".join(SURFACES[k] for k in wet[:-1]), SURFACES[wet[-1]]] if len(wet) > 1
        else [SURFACES[wet[0]]]
    )  # fmt: skip
    return Finding(
        text=(
            f"Water gathers on {names}: {water[wet].sum():.0f} g a day. Tilt the hive a little "
            "forward so that it runs out."
        ),
        tone="note",
        surface=SURFACES[wet[0]],
    )


def _air(assessed: MonthlyAssessment, month: int) -> Finding:
    m = assessed.months
    flow = litres_per_hour(float(m.exchange_m3_s[month]))
    co2 = float(m.co2_volume_share[NEST, month])
    thick = co2 > _THICK_AIR
    return Finding(
        text=(
            f"Air: {flow:.0f} L an hour, {m.air_changes_per_hour[month]:.1f} changes; CO2 about "
            f"{co2:.1%}" + (", thick: open the entrance a little." if thick else ".")
        ),
        tone="note" if thick else "good",
    )


def _stores(assessed: MonthlyAssessment) -> Finding:
    need, held = assessed.winter_honey_kg, assessed.colony.stores_kg
    if assessed.stores_last:
        return Finding(
            text=f"Winter honey about {need:.1f} kg of {held:.0f} kg held (estimate).", tone="good"
        )
    return Finding(
        text=f"Stores of {held:.0f} kg do not last: about {need:.1f} kg are burnt (estimate).",
        tone="bad",
    )
