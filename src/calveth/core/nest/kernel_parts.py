"""Pieces of the balance of one hive at one condition, as compiled scalar arithmetic.

Vapour, films and surfaces, air carried from zone to zone, and a small linear solver. `kernel` puts
them together; `airflow.kernel` moves the air.
"""

from __future__ import annotations

from math import exp

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.compiled import compiled

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


@compiled
def saturation_pa(degc: float) -> float:
    """Return the saturation pressure [Pa], over ice below 0 °C; EN ISO 13788:2012, E.7, E.8."""
    if degc >= 0.0:
        return _P0 * exp(17.269 * degc / (237.3 + degc))
    return _P0 * exp(21.875 * degc / (265.5 + degc))


@compiled
def saturation_slope_pa_k(degc: float, saturation: float) -> float:
    """Return how much the saturation pressure grows with the temperature [Pa/K]."""
    if degc >= 0.0:
        return 17.269 * 237.3 / (237.3 + degc) ** 2 * saturation
    return 21.875 * 265.5 / (265.5 + degc) ** 2 * saturation


@compiled
def latent_j_kg(degc: float) -> float:
    """Return the heat set free by condensing [J/kg], passing from ice to water around 0 °C."""
    ice = min(max(0.5 - degc, 0.0), 1.0)
    return _WATER_J + ice * (_ICE_J - _WATER_J)


@compiled
def air_density(degc: float, vapour: float, co2: float, pressure: float) -> float:
    """Return the density [kg/m³] of moist air that holds CO2, as `climate.air.density_kg_m3`."""
    kelvin = degc + _KELVIN
    dry = _R_DRY * (1.0 - co2) + _R_CO2 * co2
    return (pressure - vapour) / (dry * kelvin) + vapour / (_R_VAPOUR * kelvin)


@compiled
def density_growth(
    degc: float, vapour: float, co2: float, pressure: float
) -> tuple[float, float, float]:
    """Return how the density grows with temperature, vapour pressure and CO2."""
    kelvin = degc + _KELVIN
    dry = _R_DRY * (1.0 - co2) + _R_CO2 * co2
    density = (pressure - vapour) / (dry * kelvin) + vapour / (_R_VAPOUR * kelvin)
    by_vapour = (1.0 / _R_VAPOUR - 1.0 / dry) / kelvin
    by_co2 = (pressure - vapour) / (dry * dry * kelvin) * (_R_DRY - _R_CO2)
    return -density / kelvin, by_vapour, by_co2


@compiled
def kg_kg(vapour: float, pressure: float) -> float:
    """Return kg of water vapour per kg of dry air [-]."""
    return _R_DRY / _R_VAPOUR * vapour / (pressure - vapour)


@compiled
def transfer_kg_s_m2_pa(convection: float, degc: float, pressure: float) -> float:
    """Return β [kg/(s·m²·Pa)] from the convection at a surface by the Lewis relation."""
    kelvin = degc + _KELVIN
    rho_cp = pressure / (_R_DRY * kelvin) * _CP
    return convection / (rho_cp * _LEWIS * _R_VAPOUR * kelvin)


@compiled
def outer_film_m2k_w(wind: float, degc: float) -> float:
    """Return the outer film [m²·K/W], EN ISO 6946, annex C: he = 4 + 4·v + ε·4σT³."""
    return 1.0 / (4.0 + 4.0 * wind + _RADIATION * (degc + _KELVIN) ** 3)


@compiled
def whole_w_k(
    paths: FloatArray, zones: FloatArray, share_of_path: FloatArray, outer: float, whole: FloatArray
) -> None:
    """Put the whole conductance of each zone with edges into ``whole`` [3] [W/K]."""
    whole[:] = 0.0
    for k in range(paths.shape[0]):
        share = paths[k, PATH_SHARE]
        film = share * outer + (1.0 - share) * _STILL_M2K_W
        through = 1.0 / (paths[k, PATH_INNER] + film / paths[k, PATH_OUTER_M2])
        for z in range(3):
            whole[z] += zones[z, ZONE_FACTOR] * share_of_path[z, k] * through


@compiled
def settle_on(
    surface: FloatArray,
    degc: float,
    vapour: float,
    outside: float,
    outer: float,
    pressure: float,
    at: FloatArray,
) -> None:
    """Put what settles on a surface, and how warm it is, into ``at``; see the ``AT_`` columns.

    Per area: (Tz - Ts)/Rsi + h_fg·β·max(p - psat(Ts), 0) = (Ts - Te)/(R + Rse). The left side
    falls and the right side rises with Ts: Newton's method from the dry temperature converges.
    """
    area = surface[SURFACE_AREA]
    film = 1.0 / surface[SURFACE_FILM]
    share = surface[SURFACE_SHARE]
    behind = 1.0 / (
        surface[SURFACE_LAYERS]
        + (share * outer + (1.0 - share) * _STILL_M2K_W) / surface[SURFACE_RATIO]
    )
    beta = transfer_kg_s_m2_pa(surface[SURFACE_CONVECTION], degc, pressure)
    ts = (film * degc + behind * outside) / (film + behind)
    saturation = saturation_pa(ts)
    heat, slope = 0.0, 0.0
    if vapour > saturation:
        for _ in range(_MOST_STEPS):
            heat = latent_j_kg(ts) * beta
            slope = saturation_slope_pa_k(ts, saturation)
            excess = vapour - saturation
            gap = film * (degc - ts) + heat * max(excess, 0.0) - behind * (ts - outside)
            step = gap / (film + behind + (heat * slope if excess > 0.0 else 0.0))
            ts += step
            saturation = saturation_pa(ts)
            if abs(step) < 1e-11:
                break
    excess = max(vapour - saturation, 0.0)
    wet = excess > 0.0
    latent = latent_j_kg(ts)
    below = film + behind + (heat * slope if wet else 0.0)
    at[AT_DEGC] = ts
    at[AT_KG_S] = beta * excess * area
    at[AT_LATENT_J] = latent
    at[AT_W] = latent * beta * excess * area
    at[AT_T_T] = film / below
    at[AT_T_P] = heat / below if wet else 0.0
    at[AT_KG_T] = -beta * area * slope * at[AT_T_T] if wet else 0.0
    at[AT_KG_P] = beta * area * (1.0 - slope * at[AT_T_P]) if wet else 0.0
    # Condensation heats its surface: the zone loses the less for it.
    at[AT_TO_ZONE] = film / (film + behind)


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
def carry(
    q: FloatArray,
    outside: float,
    into: FloatArray,
    ups: FloatArray,
    mixing: FloatArray,
    gain: FloatArray,
    growth: FloatArray,
) -> None:
    """Put the net gain [3] of what air carries, per kg of it, into ``gain``; its growth too.

    ``ups`` [2] is the air that rises from base to nest and from nest to crown, ``mixing`` [2] what
    they exchange beside it [kg/s]; ``growth`` [3, 3] is by the q of each zone.
    """
    growth[:] = 0.0
    for z in range(3):
        gain[z] = into[z] * (outside - q[z])
        growth[z, z] = -into[z]
    for pair in range(2):
        step = q[pair] - q[pair + 1]
        up = max(ups[pair], 0.0) + mixing[pair]
        down = max(-ups[pair], 0.0) + mixing[pair]
        gain[pair + 1] += up * step
        growth[pair + 1, pair] += up
        growth[pair + 1, pair + 1] -= up
        gain[pair] -= down * step
        growth[pair, pair] -= down
        growth[pair, pair + 1] += down


@compiled
def carry_growth(
    q: FloatArray, outside: float, ups: FloatArray, zone: int, way: int, gain: FloatArray
) -> None:
    """Put how the gains [3] of `carry` grow with the air let into or out of a zone in ``gain``."""
    gain[:] = 0.0
    if way == 0:
        gain[zone] += outside - q[zone]
    sign = 1.0 if way == 0 else -1.0
    for pair in range(2):
        if zone > pair:
            continue
        step = q[pair] - q[pair + 1]
        gain[pair + 1 if ups[pair] > 0.0 else pair] += sign * step


@compiled
def solve_linear(matrix: FloatArray, right: FloatArray) -> bool:
    """Solve a small system in place by elimination with row pivots; whether it has an answer."""
    n = right.size
    for k in range(n):
        best = k
        for i in range(k + 1, n):
            if abs(matrix[i, k]) > abs(matrix[best, k]):
                best = i
        if not abs(matrix[best, k]) > 1e-300:
            return False
        if best != k:
            for j in range(k, n):
                matrix[k, j], matrix[best, j] = matrix[best, j], matrix[k, j]
            right[k], right[best] = right[best], right[k]
        for i in range(k + 1, n):
            factor = matrix[i, k] / matrix[k, k]
            if factor != 0.0:
                for j in range(k + 1, n):
                    matrix[i, j] -= factor * matrix[k, j]
                right[i] -= factor * right[k]
    for k in range(n - 1, -1, -1):
        for j in range(k + 1, n):
            right[k] -= matrix[k, j] * right[j]
        right[k] /= matrix[k, k]
    return True
