"""Water inside a face over the year: what gathers in winter and dries in summer.

EN ISO 13788:2012, clause 6, month by month with any number of wet planes at once. While a plane
holds water its vapour pressure is saturation there; months are cut where a plane dries out.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calveth.core.calendar import DAYS_IN_MONTH
from calveth.core.climate.air import saturation_pressure_pa
from calveth.core.heat.slab import Direction
from calveth.core.materials import Layer, Material
from calveth.core.moisture.profile import (
    FaceNodes,
    face_nodes,
    gathering_g_m2_day,
    vapour_string,
)

FloatArray = NDArray[np.float64]

_MOST_PARTS = 24
_NO_WATER_G_M2 = 1e-6
# A residue below this is rounding, not water that stays [g/m²].
_RESIDUE_G_M2 = 1.0


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Climate12:
    """Airs on both sides of a face through twelve months, arrays [12]."""

    inside_degc: FloatArray
    inside_pa: FloatArray
    outside_degc: FloatArray
    outside_pa: FloatArray
    outer_film_m2k_w: FloatArray


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class InsideYear:
    """Water inside a face at the end of each month, from the first month that gathers any.

    Attributes
    ----------
    nodes : FaceNodes
    held_g_m2 : array [12, K]
        Water at each node at the end of each calendar month [g/m²].
    gathered_g_m2 : array [12]
        Gained (or lost, negative) in each calendar month [g/m²].
    first_month : int
        Calendar month 0 to 11 the count begins with; -1 when the face stays dry.
    """

    nodes: FaceNodes
    held_g_m2: FloatArray
    gathered_g_m2: FloatArray
    first_month: int

    @property
    def worst_month(self) -> int:
        """Calendar month at whose end most water is held; -1 when the face stays dry."""
        return -1 if self.first_month < 0 else int(np.argmax(self.held_g_m2.sum(axis=1)))

    @property
    def most_g_m2(self) -> float:
        """Most water held at the end of a month [g/m²]."""
        return float(self.held_g_m2.sum(axis=1).max())

    @property
    def residue_g_m2(self) -> float:
        """Water that is left after twelve months [g/m²]; 0 when it dries again."""
        if self.first_month < 0:
            return 0.0
        left = float(self.held_g_m2[(self.first_month - 1) % 12].sum())
        return left if left > _RESIDUE_G_M2 else 0.0


def inside_year(
    stack: Sequence[Layer],
    materials: Mapping[str, Material],
    direction: Direction,
    climate: Climate12,
    inner_radius_m: float | None = None,
) -> InsideYear:
    """Return the water inside a face over a year.

    The count begins with the first month that gathers after a month that does not (6.4); where
    every month gathers it begins with January and never dries.
    """
    nodes = face_nodes(stack, materials, direction, inner_radius_m)
    saturation = [_saturation(nodes, climate, k) for k in range(12)]
    gains = [_month_rate(nodes, climate, saturation[k], k) for k in range(12)]
    wet_months = [k for k in range(12) if gains[k].max() > _NO_WATER_G_M2]
    held = np.zeros((12, nodes.depth_m.size))
    if not wet_months:
        return InsideYear(nodes=nodes, held_g_m2=held, gathered_g_m2=np.zeros(12), first_month=-1)
    first = next((k for k in wet_months if (k - 1) % 12 not in wet_months), 0)
    water = np.zeros(nodes.depth_m.size)
    change = np.zeros(12)
    for step in range(12):
        k = (first + step) % 12
        before = float(water.sum())
        water = _through_month(nodes, climate, saturation[k], k, water)
        held[k] = water
        change[k] = float(water.sum()) - before
    return InsideYear(nodes=nodes, held_g_m2=held, gathered_g_m2=change, first_month=first)


def _saturation(nodes: FaceNodes, climate: Climate12, k: int) -> FloatArray:
    return saturation_pressure_pa(
        nodes.temperature_degc(
            float(climate.inside_degc[k]),
            float(climate.outside_degc[k]),
            float(climate.outer_film_m2k_w[k]),
        )
    )


def _month_rate(
    nodes: FaceNodes,
    climate: Climate12,
    saturation: FloatArray,
    k: int,
    wet: NDArray[np.bool_] | None = None,
) -> FloatArray:
    """Return g/(m²·day) at the nodes in month ``k`` with the given wet nodes."""
    pressure = vapour_string(
        nodes.vapour_depth_m,
        saturation,
        float(climate.inside_pa[k]),
        float(climate.outside_pa[k]),
        wet,
    )
    return gathering_g_m2_day(nodes.vapour_depth_m, pressure)


def _through_month(
    nodes: FaceNodes, climate: Climate12, saturation: FloatArray, k: int, water: FloatArray
) -> FloatArray:
    """Return the water at the end of a month; it is cut where a plane dries out."""
    water, left = water.copy(), float(DAYS_IN_MONTH[k])
    for _ in range(_MOST_PARTS):
        wet = water > _NO_WATER_G_M2
        rate = _month_rate(nodes, climate, saturation, k, wet)
        drying = wet & (rate < 0)
        until = float(np.min(water[drying] / -rate[drying], initial=np.inf))
        step = min(left, until)
        water = np.maximum(water + rate * step, 0.0)
        water[water <= _NO_WATER_G_M2] = 0.0
        left -= step
        if left <= 1e-9:
            break
    return water
