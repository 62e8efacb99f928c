"""A quilt: a loose layer above the bees that takes up water and dries to its vents; an estimate.

Per month: in comes what the balance of the hive sends up through the lid and what settles on its
underside, which loose matter draws up: one ledger. Out goes what its vents carry off, or where it
has none what diffuses on. It holds water up to its capacity; what comes on top drips back.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.calendar import DAYS_IN_MONTH
from calveth.core.climate.air import saturation_pressure_unchecked_pa

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class QuiltYear:
    """Water in the quilt, arrays [12] by calendar month.

    ``held_kg`` at the end of each month; ``taken_kg``, ``dried_kg`` and ``dripped_kg``, what it
    could not hold, in each month; ``capacity_kg`` is what it holds before it drips.
    """

    held_kg: FloatArray
    taken_kg: FloatArray
    dried_kg: FloatArray
    dripped_kg: FloatArray
    capacity_kg: float

    @property
    def fullest(self) -> float:
        """Largest share of the capacity that is filled, 1 when it is soaked [-]."""
        return float(self.held_kg.max() / self.capacity_kg) if self.capacity_kg > 0 else 0.0


def quilt_year(
    *,
    taken_kg_s: FloatArray,
    capacity_kg: float,
    vent_m3_s: FloatArray,
    onward_kg_s_pa: float,
    quilt_degc: FloatArray,
    outside_pa: FloatArray,
    on: NDArray[np.bool_],
    first_month: int,
    wash: float,
) -> QuiltYear:
    """Return the water in a quilt through the year, arrays [12] of months.

    ``taken_kg_s`` is what the hive sends into it, ``vent_m3_s`` the air that washes its top, which
    leaves by ``wash`` nearer to saturation, ``onward_kg_s_pa`` what goes on by diffusion, ``on``
    the months it is on; it begins dry in ``first_month``.
    """
    held, taken, dried, dripped = (np.zeros(12) for _ in range(4))
    water = 0.0
    saturated = saturation_pressure_unchecked_pa(quilt_degc)
    for step in range(12):
        k = (first_month + step) % 12
        if not on[k]:
            water = 0.0
            continue
        seconds = 86400.0 * DAYS_IN_MONTH[k]
        into = max(0.0, float(taken_kg_s[k])) * seconds
        kelvin = quilt_degc[k] + c.KELVIN_AT_0_DEGC.value
        drier = max(0.0, float(saturated[k] - outside_pa[k]))
        washed = vent_m3_s[k] * wash * drier / (c.GAS_CONSTANT_VAPOUR.value * kelvin)
        out = min(water + into, (washed + onward_kg_s_pa * drier) * seconds)
        water_now = water + into - out
        water = min(water_now, capacity_kg)
        held[k], taken[k], dried[k], dripped[k] = water, into, out, water_now - water
    return QuiltYear(
        held_kg=held, taken_kg=taken, dried_kg=dried, dripped_kg=dripped, capacity_kg=capacity_kg
    )


def vent_flow_m3_s(
    vent_area_m2: float, height_m: float, warmer_k: FloatArray, wind_m_s: FloatArray
) -> FloatArray:
    """Return the air through the vents of a quilt box [12] [m³/s].

    One opening breathing both ways, (Cd/3)·A·√(g·H·ΔT/T), and gusts of 0.025·A·v
    (Warren and Parkins 1984).

    Parameters
    ----------
    vent_area_m2 : float
        Open area of the vents [m²].
    height_m : float
        Of the vents [m].
    warmer_k : array [12]
        How much warmer the quilt is than the air outside [K].
    wind_m_s : array [12]
        Mean wind at the hive [m/s].
    """
    stack = np.sqrt(c.GRAVITY.value * height_m * np.maximum(warmer_k, 0.0) / c.COOL_AIR.value)
    result: FloatArray = vent_area_m2 * (
        c.DISCHARGE_COEFFICIENT.value / 3 * stack + c.WIND_FLUCTUATION.value * wind_m_s
    )
    return result
