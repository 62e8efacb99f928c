"""What settles on the four sides of the upper wall, each with its own warmth and its own film.

The sides are built alike and look at the same air inside; sun and drying rain make one warmer than
another. Their mean answers as the wall does, so that what is told apart is only where it is wet.
"""

from __future__ import annotations

from calveth.core import constants as c
from calveth.core.compiled import folded
from calveth.core.nest.kernel_arrays import FloatArray
from calveth.core.nest.kernel_parts import (
    AT_DEGC,
    AT_KG_P,
    AT_KG_S,
    AT_KG_T,
    AT_LATENT_J,
    AT_T_P,
    AT_T_T,
    AT_TO_ZONE,
    AT_W,
    LAW_FOLLOW,
    LAW_ICE,
    LAW_LATENT,
    LAW_PAST,
    SIDE_PATCH,
    SIDE_RATE,
    SIDE_STORE,
    SIDE_WARMER,
    SURFACE_AREA,
    SURFACE_CONVECTION,
    SURFACE_FILM,
    exchanged,
    latent_j_kg,
    saturation_pa,
    saturation_slope_pa_k,
    transfer_kg_s_m2_pa,
)

_WATER_J, _ICE_J = c.LATENT_HEAT_WATER.value, c.LATENT_HEAT_ICE.value
_MOST_STEPS = 12


@folded
def mean_of_sides(
    sides: FloatArray, beta: float, vapour: float, ts: float
) -> tuple[float, float, float]:
    """Return what settles in the mean [kg/(s·m²)], and how it grows with vapour and falls with ts.

    What settles on each side is left in ``sides`` [4, 4].
    """
    rate, by_excess, by_ts = 0.0, 0.0, 0.0
    for side in range(4):
        degc = ts + sides[side, SIDE_WARMER]
        saturation = saturation_pa(degc)
        settled, grows = exchanged(
            beta, vapour - saturation, sides[side, SIDE_STORE], sides[side, SIDE_PATCH]
        )
        sides[side, SIDE_RATE] = settled
        rate += 0.25 * settled
        by_excess += 0.25 * grows
        by_ts += 0.25 * grows * saturation_slope_pa_k(degc, saturation)
    return rate, by_excess, by_ts


@folded
def settle_on_sides(
    surfaces: FloatArray,
    laws: FloatArray,
    sides: FloatArray,
    k: int,
    degc: float,
    vapour: float,
    pressure: float,
    at: FloatArray,
) -> None:
    """Put what settles on the sides of surface ``k`` and how warm it is in the mean into ``at``.

    As `kernel_parts.settle_on`, of which it is the mean where all sides are alike.
    """
    area = surfaces[k, SURFACE_AREA]
    latent_k = laws[k, LAW_LATENT]
    beta = transfer_kg_s_m2_pa(surfaces[k, SURFACE_CONVECTION], degc, pressure)
    dry = laws[k, LAW_PAST] + laws[k, LAW_FOLLOW] * degc
    latent, coldest, stored = _WATER_J, dry + 1e3, 0.0
    for side in range(4):
        coldest = min(coldest, dry + sides[side, SIDE_WARMER])
        stored += sides[side, SIDE_STORE]
        sides[side, SIDE_RATE] = 0.0
    ts, rate, by_excess, by_ts = dry, 0.0, 0.0, 0.0
    if stored > 0.0 or vapour > saturation_pa(coldest):
        ts = at[k, AT_DEGC] if at[k, AT_T_T] > 0.0 else dry
        for _ in range(_MOST_STEPS):
            rate, by_excess, by_ts = mean_of_sides(sides, beta, vapour, ts)
            # Frost that is there takes its own heat along.
            icy = latent_j_kg(ts)
            latent = icy if rate >= 0.0 else _WATER_J + laws[k, LAW_ICE] * (_ICE_J - _WATER_J)
            step = (dry + latent_k * latent * rate - ts) / (1.0 + latent_k * latent * by_ts)
            ts += step
            if abs(step) < 1e-4:
                break
        rate, by_excess, by_ts = mean_of_sides(sides, beta, vapour, ts)
    below = 1.0 + latent_k * latent * by_ts
    at[k, AT_DEGC] = ts
    at[k, AT_KG_S] = rate * area
    at[k, AT_LATENT_J] = latent
    at[k, AT_W] = latent * rate * area
    at[k, AT_T_T] = laws[k, LAW_FOLLOW] / below
    at[k, AT_T_P] = latent_k * latent * by_excess / below
    at[k, AT_KG_T] = -by_ts * area * at[k, AT_T_T]
    at[k, AT_KG_P] = area * (by_excess - by_ts * at[k, AT_T_P])
    at[k, AT_TO_ZONE] = latent_k / surfaces[k, SURFACE_FILM]
