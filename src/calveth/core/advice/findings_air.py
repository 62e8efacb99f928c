"""What is to be said of the air of a hive: fresh, thick, bad, damp, and under snow."""

from __future__ import annotations

import numpy as np

from calveth.core.advice.finding import Depth, Finding, Tone, month_value
from calveth.core.assess.readings import VISIBLE_G_DAY
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.assess.snowed_in import SnowedIn
from calveth.core.climate.air import saturation_pressure_unchecked_pa
from calveth.core.climate.place import has_forage
from calveth.core.constants import CLUSTER_LEFT_ALL, CO2_BAD
from calveth.core.hive.zones import NEST
from calveth.core.message import Value, message
from calveth.core.units import litres_per_hour

# Above this share of CO2 beekeepers call the air thick; common practice, no source.
_THICK_AIR = 0.04
BAD_AIR = CO2_BAD.value
"""Share of CO2 by volume from which air is bad for bees [-]."""
# A clustered hive that changes its air more often stands open to the wind [1/h]; estimate.
_MANY_CHANGES = 30.0
# How much warmer than the air of the hive a logger beside the cluster hangs [K]; estimate.
_BESIDE_K = 5.0


def two_ways(month: int, depth: Depth | None) -> list[Finding]:
    """Return that a hive may breathe in two ways, where it may."""
    if depth is None or not np.isfinite(depth.nights.other_co2[month]):
        return []
    other = Value(float(depth.nights.other_co2[month]), "share", 1)
    return [
        Finding(
            message=message("two ways to breathe", month=month_value(month), co2=other),
            tone="note",
            helps=message("a wider entrance or a hole above"),
        )
    ]


def damp_air(assessed: MonthlyAssessment, month: int) -> list[Finding]:
    """Return the humidity of the air while bees cluster, and what a logger beside them reads."""
    m = assessed.months
    if float(m.balance.temperature_degc[NEST, month]) > CLUSTER_LEFT_ALL.value:
        return []
    held = float(m.condensing_g_day[:, month].max()) >= VISIBLE_G_DAY
    degc = float(m.balance.temperature_degc[NEST, month])
    vapour = float(m.balance.vapour_pressure_pa[NEST, month])
    warmer = vapour / float(saturation_pressure_unchecked_pa(np.array(degc + _BESIDE_K)))
    message_of = message(
        "humidity held by wet walls" if held else "humidity of the air",
        here=Value(min(float(m.relative_humidity[NEST, month]), 1.0), "share"),
        dew=Value(float(m.dew_point_degc[NEST, month]), "temperature"),
        beside=Value(min(warmer, 1.0), "share"),
        warmer=Value(_BESIDE_K, "temperature difference", 0, 0),
    )
    return [Finding(message=message_of, tone="note")]


def air_finding(assessed: MonthlyAssessment, month: int) -> Finding:
    """Return how much air there is and how good."""
    m = assessed.months
    co2 = float(m.co2_volume_share[NEST, month])
    thick, bad = co2 > _THICK_AIR, co2 >= BAD_AIR
    # So much air is no merit while bees cluster; in summer nobody minds.
    draughty = float(m.air_changes_per_hour[month]) > _MANY_CHANGES and not has_forage(
        assessed.place, month
    )
    return Finding(
        message=message(
            "air bad" if bad else "air thick" if thick else "air",
            flow=Value(litres_per_hour(float(m.exchange_m3_s[month])), "flow"),
            changes=Value(float(m.air_changes_per_hour[month]), "number", 1),
            co2=Value(co2, "share", 1),
        ),
        tone="bad" if bad else "note" if thick or draughty else "good",
        helps=message("a wider entrance or a hole above") if thick else None,
    )


def snowed_in_findings(month: int, snowed_in: SnowedIn | None) -> list[Finding]:
    """Return what becomes of the air when snow closes the low openings."""
    if snowed_in is None or snowed_in.days == 0 or snowed_in.month != month or not snowed_in.shut:
        return []
    shut = Value(snowed_in.shut, "names")
    free = message("a hole above or a free entrance")
    if snowed_in.readings is None:
        danger = message(
            "snow suffocates",
            shut=shut,
            month=month_value(month),
            bad=_hours(snowed_in.hours_bad),
            end=_hours(snowed_in.hours_end),
        )
        return [Finding(message=danger, tone="danger", helps=free)]
    co2 = float(snowed_in.readings.co2_volume_share[NEST, 0])
    exit_left = bool(snowed_in.left)
    if snowed_in.hours_bad is not None:
        danger = message(
            "snow makes air bad",
            shut=shut,
            month=month_value(month),
            co2=Value(co2, "share", 0),
            bad=_hours(snowed_in.hours_bad),
        )
        return [Finding(message=danger, tone="danger", helps=free)]
    return [
        Finding(
            message=message(
                "snow leaves an exit" if exit_left else "snow leaves no exit",
                shut=shut,
                month=month_value(month),
                days=Value(snowed_in.days, "number", 0),
                co2=Value(co2, "share", 1),
            ),
            tone=_air_tone(co2, exit_left=exit_left),
            helps=None if exit_left else free,
        )
    ]


def _hours(hours: float | None) -> Value:
    return Value(0.0 if hours is None else hours, "number", 0 if (hours or 0) >= 2 else 1)


def _air_tone(co2: float, *, exit_left: bool) -> Tone:
    if co2 >= BAD_AIR:
        return "bad"
    return "good" if exit_left and co2 < _THICK_AIR else "note"
