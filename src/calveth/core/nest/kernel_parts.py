"""Pieces of the balance of one hive at one condition, as compiled scalar arithmetic.

Vapour, films and surfaces, air carried from zone to zone, and a small linear solver. `kernel` puts
them together; `airflow.kernel` moves the air.
"""

from __future__ import annotations

from math import exp, sqrt

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.compiled import compiled, folded

FloatArray = NDArray[np.float64]

SURFACE_ZONE, SURFACE_AREA, SURFACE_FILM, SURFACE_LAYERS, SURFACE_RATIO, SURFACE_SHARE = range(6)
SURFACE_CONVECTION = 6
SURFACE_COLUMNS = 7
PATH_INNER, PATH_OUTER_M2, PATH_SHARE = range(3)
PATH_COLUMNS = 3
ZONE_FACTOR, ZONE_VAPOUR, ZONE_BREATH, ZONE_COMB, ZONE_VOLUME = range(5)
ZONE_COLUMNS = 5
# What a surface answers: its temperature, water settling and heat of it, and their growth with
# temperature and vapour pressure of the air before it.
AT_DEGC, AT_KG_S, AT_W, AT_LATENT_J = range(4)
AT_T_T, AT_T_P, AT_KG_T, AT_KG_P, AT_TO_ZONE = range(4, 9)
AT_COLUMNS = 9
# The law of a surface: how it follows the air before it, where it stands without [°C], how the
# heat of what settles warms it [K·m²/W]; water on it over the time there is [kg/s], the share of
# the area it wets, and how much of it is ice; whether its sides are told apart.
LAW_FOLLOW, LAW_PAST, LAW_LATENT, LAW_STORE, LAW_PATCH, LAW_ICE, LAW_APART = range(7)
LAW_COLUMNS = 7
# What a zone remembers: its shell's A·T - B [W]; its contents and air [W/K, W]; air's vapour
# [kg·K/(s·Pa), kg/s] and CO2 [kg/s]; water of boards and combs [kg/(s·Pa), kg/s]; water on combs.
HOLD_SHELL, HOLD_SHELL_W, HOLD_HEAT, HOLD_HEAT_W, HOLD_VAPOUR, HOLD_VAPOUR_KG = range(6)
HOLD_CO2, HOLD_CO2_KG, HOLD_BOARD, HOLD_BOARD_KG, HOLD_COMB, HOLD_PATCH = range(6, 12)
HOLD_COLUMNS = 12

UPPER_WALL = 2
"""The surface whose four sides are told apart: beside the crown, where it is wet first."""
# What a side of the upper wall brings to an hour and what settles on it: how much warmer it is
# than the mean of the four [K]; water on it over the time there is [kg/(s·m²)] and the share of its
# area that is wet; what settles [kg/(s·m²)].
SIDE_WARMER, SIDE_STORE, SIDE_PATCH, SIDE_RATE = range(4)
SIDE_COLUMNS = 4

_KELVIN = c.KELVIN_AT_0_DEGC.value
_R_DRY = c.GAS_CONSTANT_DRY_AIR.value
_R_VAPOUR = c.GAS_CONSTANT_VAPOUR.value
_R_CO2 = c.GAS_CONSTANT_CO2.value
_CP = c.AIR_HEAT_CAPACITY.value
_LEWIS = c.LEWIS_FACTOR.value
_WATER_J, _ICE_J = c.LATENT_HEAT_WATER.value, c.LATENT_HEAT_ICE.value
_RADIATION = 4.0 * c.EMISSIVITY_DULL.value * c.STEFAN_BOLTZMANN.value
_STILL_M2K_W = c.RSI_HORIZONTAL.value
_P0 = 610.5  # Pa, EN ISO 13788:2012, formula (E.7)
_MOST_STEPS = 12
_SUGAR = 1.0 - c.HONEY_WATER_SHARE.value
WATER_W = (c.HONEY_WATER_SHARE.value + _SUGAR * c.SUGAR_TO_WATER.value) / c.HONEY_ENERGY.value
CO2_W = _SUGAR * c.SUGAR_TO_CO2.value / c.HONEY_ENERGY.value
DRY_W = 1.0 - WATER_W * c.LATENT_HEAT_WATER.value
"""Water and CO2 [kg/s] a watt of burnt honey gives, and what is left of it as dry heat [-]."""


@compiled
def saturation_pa(degc: float) -> float:
    """Return the saturation pressure [Pa], over ice below 0 °C; EN ISO 13788:2012, E.7, E.8.

    Parameters
    ----------
    degc : float
        Of the air or surface [°C].
    """
    if degc >= 0.0:
        return _P0 * exp(17.269 * degc / (237.3 + degc))
    return _P0 * exp(21.875 * degc / (265.5 + degc))


@compiled
def saturation_slope_pa_k(degc: float, saturation: float) -> float:
    """Return how much the saturation pressure grows with the temperature [Pa/K].

    Parameters
    ----------
    degc : float
        Of the air or surface [°C].
    saturation : float
        Saturation pressure there [Pa].
    """
    if degc >= 0.0:
        return 17.269 * 237.3 / (237.3 + degc) ** 2 * saturation
    return 21.875 * 265.5 / (265.5 + degc) ** 2 * saturation


@compiled
def latent_j_kg(degc: float) -> float:
    """Return the heat set free by condensing [J/kg], passing from ice to water around 0 °C.

    Parameters
    ----------
    degc : float
        Of the air or surface [°C].
    """
    ice = min(max(0.5 - degc, 0.0), 1.0)
    return _WATER_J + ice * (_ICE_J - _WATER_J)


@compiled
def air_density(degc: float, vapour: float, co2: float, pressure: float) -> float:
    """Return the density [kg/m³] of moist air that holds CO2, as `climate.air.density_kg_m3`.

    Parameters
    ----------
    degc : float
        Of the air or surface [°C].
    vapour : float
        Partial pressure of the water vapour [Pa].
    co2 : float
        kg of CO2 per kg of air [-].
    pressure : float
        Of the air [Pa].
    """
    kelvin = degc + _KELVIN
    dry = _R_DRY * (1.0 - co2) + _R_CO2 * co2
    return (pressure - vapour) / (dry * kelvin) + vapour / (_R_VAPOUR * kelvin)


@compiled
def density_growth(
    degc: float, vapour: float, co2: float, pressure: float
) -> tuple[float, float, float]:
    """Return how the density grows with temperature, vapour pressure and CO2.

    Parameters
    ----------
    degc : float
        Of the air or surface [°C].
    vapour : float
        Partial pressure of the water vapour [Pa].
    co2 : float
        kg of CO2 per kg of air [-].
    pressure : float
        Of the air [Pa].
    """
    kelvin = degc + _KELVIN
    dry = _R_DRY * (1.0 - co2) + _R_CO2 * co2
    density = (pressure - vapour) / (dry * kelvin) + vapour / (_R_VAPOUR * kelvin)
    by_vapour = (1.0 / _R_VAPOUR - 1.0 / dry) / kelvin
    by_co2 = (pressure - vapour) / (dry * dry * kelvin) * (_R_DRY - _R_CO2)
    return -density / kelvin, by_vapour, by_co2


@compiled
def kg_kg(vapour: float, pressure: float) -> float:
    """Return kg of water vapour per kg of dry air [-].

    Parameters
    ----------
    vapour : float
        Partial pressure of the water vapour [Pa].
    pressure : float
        Of the air [Pa].
    """
    return _R_DRY / _R_VAPOUR * vapour / (pressure - vapour)


@compiled
def transfer_kg_s_m2_pa(convection: float, degc: float, pressure: float) -> float:
    """Return β [kg/(s·m²·Pa)] from the convection at a surface by the Lewis relation.

    Parameters
    ----------
    convection : float
        Coefficient of convection at the surface [W/(m²·K)].
    degc : float
        Of the air or surface [°C].
    pressure : float
        Of the air [Pa].
    """
    kelvin = degc + _KELVIN
    rho_cp = pressure / (_R_DRY * kelvin) * _CP
    return convection / (rho_cp * _LEWIS * _R_VAPOUR * kelvin)


@compiled
def outer_film_m2k_w(wind: float, degc: float) -> float:
    """Return the outer film [m²·K/W], EN ISO 6946, annex C: he = 4 + 4·v + ε·4σT³.

    Parameters
    ----------
    wind : float
        Mean wind at the hive [m/s].
    degc : float
        Of the air or surface [°C].
    """
    return 1.0 / (4.0 + 4.0 * wind + _RADIATION * (degc + _KELVIN) ** 3)


@compiled
def whole_w_k(
    paths: FloatArray,
    zones: FloatArray,
    share_of_path: FloatArray,
    outer: float,
    total_w_k: FloatArray,
) -> None:
    """Put the whole conductance of each zone with edges into ``whole`` [3] [W/K]."""
    total_w_k[:] = 0.0
    for k in range(paths.shape[0]):
        share = paths[k, PATH_SHARE]
        film = share * outer + (1.0 - share) * _STILL_M2K_W
        through = 1.0 / (paths[k, PATH_INNER] + film / paths[k, PATH_OUTER_M2])
        for z in range(3):
            total_w_k[z] += zones[z, ZONE_FACTOR] * share_of_path[z, k] * through


@folded
def settle_on(
    surfaces: FloatArray,
    laws: FloatArray,
    k: int,
    degc: float,
    vapour: float,
    pressure: float,
    at: FloatArray,
) -> None:
    """Put what settles on surface ``k`` or dries from it, and how warm it is, into ``at``.

    The surface follows the air before it and the heat of what settles: Ts = P + S·T + L·lat with
    the ``LAW_`` of the wall behind it, whether that wall has settled or remembers. lat falls with
    Ts, so that there is one answer; Newton's method from the dry temperature finds it.
    """
    area = surfaces[k, SURFACE_AREA]
    follow, past, latent_k = laws[k, LAW_FOLLOW], laws[k, LAW_PAST], laws[k, LAW_LATENT]
    store = laws[k, LAW_STORE] / area if area > 0.0 else 0.0
    patch, ice = laws[k, LAW_PATCH], laws[k, LAW_ICE]
    beta = transfer_kg_s_m2_pa(surfaces[k, SURFACE_CONVECTION], degc, pressure)
    dry = past + follow * degc
    # Near where the last search ended; the answer is the same from anywhere.
    ts = at[k, AT_DEGC] if at[k, AT_T_T] > 0.0 else dry
    saturation = saturation_pa(ts)
    if vapour <= saturation and store <= 0.0 and ts != dry:
        ts = dry
        saturation = saturation_pa(ts)
    rate, by_excess, slope, latent = 0.0, 0.0, 0.0, _WATER_J
    if vapour > saturation or store > 0.0:
        for _ in range(_MOST_STEPS):
            slope = saturation_slope_pa_k(ts, saturation)
            excess = vapour - saturation
            latent = latent_j_kg(ts)
            if excess < 0.0:
                # Frost that is there takes its own heat along.
                latent = _WATER_J + ice * (_ICE_J - _WATER_J)
            rate, by_excess = exchanged(beta, excess, store, patch)
            gap = dry + latent_k * latent * rate - ts
            step = gap / (1.0 + latent_k * latent * by_excess * slope)
            ts += step
            saturation = saturation_pa(ts)
            # Each step squares what is left: to less than 1e-8 K.
            if abs(step) < 1e-4:
                break
        rate, by_excess = exchanged(beta, vapour - saturation, store, patch)
    heat = latent_k * latent * by_excess
    below = 1.0 + heat * slope
    at[k, AT_DEGC] = ts
    at[k, AT_KG_S] = rate * area
    at[k, AT_LATENT_J] = latent
    at[k, AT_W] = latent * rate * area
    at[k, AT_T_T] = follow / below
    at[k, AT_T_P] = heat / below
    at[k, AT_KG_T] = -by_excess * area * slope * at[k, AT_T_T]
    at[k, AT_KG_P] = by_excess * area * (1.0 - slope * at[k, AT_T_P])
    # Condensation heats its surface: the zone loses the less for it.
    at[k, AT_TO_ZONE] = latent_k / surfaces[k, SURFACE_FILM]


@compiled
def exchanged(beta: float, excess: float, store: float, patch: float) -> tuple[float, float]:
    """Return what settles (dries: negative) [kg/(s·m²)], and its growth with the excess pressure.

    What dries is as much as the air takes from the share ``patch`` of the area that is wet, and
    no more than ``store`` [kg/(s·m²)], what there is over the time there is.

    Parameters
    ----------
    beta : float
        Mass transfer coefficient [kg/(s·m²·Pa)].
    excess : float
        Vapour pressure of the air over that of the surface [Pa].
    store : float
        What there is to dry over the time there is [kg/(s·m²)].
    patch : float
        Share of the area that is wet [-].
    """
    if excess >= 0.0:
        return beta * excess, beta
    if store <= 0.0:
        return 0.0, 0.0
    wish = -beta * patch * excess
    over = (wish / store) ** 4
    less = sqrt(sqrt(1.0 + over))
    return -wish / less, beta * patch / (less * (1.0 + over))


@compiled
def steady_law(hive_surfaces: FloatArray, outside: float, outer: float, laws: FloatArray) -> None:
    """Put the laws [K, 7] of surfaces whose walls have settled under a film into ``laws``.

    Per area: (Tz - Ts)/Rsi + lat = (Ts - Te)/(R + Rse).
    """
    laws[:] = 0.0
    for k in range(hive_surfaces.shape[0]):
        surface = hive_surfaces[k]
        film = 1.0 / surface[SURFACE_FILM]
        share = surface[SURFACE_SHARE]
        behind = 1.0 / (
            surface[SURFACE_LAYERS]
            + (share * outer + (1.0 - share) * _STILL_M2K_W) / surface[SURFACE_RATIO]
        )
        laws[k, LAW_FOLLOW] = film / (film + behind)
        laws[k, LAW_PAST] = behind * outside / (film + behind)
        laws[k, LAW_LATENT] = 1.0 / (film + behind)


@compiled
def ramp(u: float) -> float:
    """Return 0 below 0, 1 above 1, and a smooth course between."""
    v = min(max(u, 0.0), 1.0)
    return v * v * (3.0 - 2.0 * v)


@compiled
def ramp_growth(u: float) -> float:
    """Return how `ramp` grows."""
    return 6.0 * u * (1.0 - u) if 0.0 < u < 1.0 else 0.0


@compiled
def solve_linear(matrix: FloatArray, right: FloatArray) -> bool:
    """Solve a small system in place by elimination with row pivots; whether it has an answer."""
    n = right.size
    for k in range(n):
        best, most = k, abs(matrix[k, k])
        for i in range(k + 1, n):
            size = abs(matrix[i, k])
            if size > most:
                best, most = i, size
        if not most > 1e-300:
            return False
        if best != k:
            for j in range(k, n):
                matrix[k, j], matrix[best, j] = matrix[best, j], matrix[k, j]
            right[k], right[best] = right[best], right[k]
        over, above = 1.0 / matrix[k, k], right[k]
        for i in range(k + 1, n):
            factor = matrix[i, k] * over
            if factor != 0.0:
                for j in range(k + 1, n):
                    matrix[i, j] -= factor * matrix[k, j]
                right[i] -= factor * above
    for k in range(n - 1, -1, -1):
        rest = right[k]
        for j in range(k + 1, n):
            rest -= matrix[k, j] * right[j]
        right[k] = rest / matrix[k, k]
    return True
