"""The coupled balance of heat, water vapour, CO2 and air in the three zones of a hive.

Unknowns per condition: temperature, vapour pressure and CO2 of base, nest and crown, and the
pressure difference at the floor; ten numbers for ten balances, solved by Newton's method for all
conditions at once. `evaluate` states the physics once; the solver, the ledgers and the figures
on the screen all come from it.
"""

from __future__ import annotations

from dataclasses import dataclass, fields, is_dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.airflow.flow import Flows, flows
from calveth.core.climate.air import (
    density_kg_m3,
    humidity_ratio,
    saturation_pressure_unchecked_pa,
)
from calveth.core.colony.colony import ColonyMoment, HoneyLedger, honey_ledger
from calveth.core.heat.slab import outer_film_m2k_w
from calveth.core.hive.zones import BASE, CROWN, NEST
from calveth.core.nest.network import SURFACE_ZONE, NestNetwork
from calveth.core.nest.state import CO2, FLOOR_PRESSURE, TEMPERATURE, VAPOUR

FloatArray = NDArray[np.float64]

_CP = c.AIR_HEAT_CAPACITY.value
_ZONES = np.arange(3)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Outside:
    """N conditions outside the hive, arrays [N]; the air pressure is one number [Pa]."""

    temperature_degc: FloatArray
    vapour_pressure_pa: FloatArray
    wind_m_s: FloatArray
    pressure_pa: float

    def take(self, index: NDArray[np.int_]) -> Outside:
        """Return the conditions at ``index``."""
        return Outside(
            temperature_degc=self.temperature_degc[index],
            vapour_pressure_pa=self.vapour_pressure_pa[index],
            wind_m_s=self.wind_m_s[index],
            pressure_pa=self.pressure_pa,
        )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Balance:
    """Everything that happens in a state, and what is left over (zero when it is the solution).

    Zone arrays are [3, N] (base, nest, crown), surface arrays [7, N], openings [O, N]. Water that
    settles on combs and in the air is ``comb_kg_s`` [3, N]; ``condensing_w`` [N] is the heat all
    condensation sets free.
    """

    temperature_degc: FloatArray
    vapour_pressure_pa: FloatArray
    co2_mass_fraction: FloatArray
    floor_pressure_pa: FloatArray
    metabolic_w: FloatArray
    ledger: HoneyLedger
    flows: Flows
    surface_degc: FloatArray
    condensing_kg_s: FloatArray
    comb_kg_s: FloatArray
    condensing_w: FloatArray
    shell_w: FloatArray
    air_w: FloatArray
    vapour_carried_kg_s: FloatArray
    vapour_diffused_kg_s: FloatArray
    residual: FloatArray

    def take(self, index: NDArray[np.int_]) -> Balance:
        """Return the conditions at ``index``; every array has its conditions last."""

        def cut(owner: Any) -> Any:
            return type(owner)(
                **{
                    field.name: cut(value) if is_dataclass(value) else value[..., index]
                    for field in fields(owner)
                    for value in [getattr(owner, field.name)]
                }
            )

        part: Balance = cut(self)
        return part

    @property
    def state(self) -> FloatArray:
        """The ten unknowns [10, N], a good start for a similar hive."""
        return np.concatenate(
            [
                self.temperature_degc,
                self.vapour_pressure_pa,
                self.co2_mass_fraction,
                self.floor_pressure_pa[None, :],
            ]
        )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Air:
    """Air through the zones: in and out by zone [3, N], and up from zone to zone [N] [kg/s].

    ``mixing_base`` and ``mixing_crown`` are what the zones exchange beside it [M] [kg/s].
    """

    flows: Flows
    into: FloatArray
    away: FloatArray
    up_to_nest: FloatArray
    up_to_crown: FloatArray
    left_over: FloatArray
    mixing_base: FloatArray
    mixing_crown: FloatArray

    def carried(self, inside: FloatArray, outside: FloatArray) -> FloatArray:
        """Return the net gain [3, N] by through-flow and mixing of a quantity per kg of air."""
        gain = self.into * (outside - inside)
        for lower, upper, up, mixing in (
            (BASE, NEST, self.up_to_nest, self.mixing_base),
            (NEST, CROWN, self.up_to_crown, self.mixing_crown),
        ):
            step = inside[lower] - inside[upper]
            gain[upper] += (np.maximum(up, 0.0) + mixing) * step
            gain[lower] -= (np.maximum(-up, 0.0) + mixing) * step
        return gain


def _air(
    model: NestNetwork,
    out: Outside,
    outside_density: FloatArray,
    zone_density: FloatArray,
    floor_pressure: FloatArray,
    fanning_m3_s: FloatArray,
) -> _Air:
    """Return the air that moves at a floor pressure; what is left over is zero in the solution."""
    moving = flows(
        model.paths, floor_pressure, outside_density, zone_density, out.wind_m_s, fanning_m3_s
    )
    openings, joints = model.paths.part_zone, model.paths.joint_zone
    into = _by_zone(openings, moving.opening_in) + _by_zone(joints, moving.joint_in)
    away = _by_zone(openings, moving.opening_out) + _by_zone(joints, moving.joint_out)
    up_to_nest = into[BASE] - away[BASE]
    up_to_crown = up_to_nest + into[NEST] - away[NEST]
    return _Air(
        flows=moving,
        into=into,
        away=away,
        up_to_nest=up_to_nest,
        up_to_crown=up_to_crown,
        left_over=up_to_crown + into[CROWN] - away[CROWN],
        mixing_base=model.mixing_base_w_k / _CP,
        mixing_crown=model.mixing_crown_w_k / _CP,
    )


def evaluate(model: NestNetwork, bees: ColonyMoment, out: Outside, state: FloatArray) -> Balance:
    """Return the balance of a state [10, N]: T, p, CO2 of base, nest, crown, and Δp0."""
    t, p, co2 = state[TEMPERATURE], state[VAPOUR], state[CO2]
    te, pe = out.temperature_degc, out.vapour_pressure_pa
    co2_outside = np.full_like(te, c.CO2_OUTSIDE_MASS_FRACTION.value)
    rho_out = density_kg_m3(te, pe, co2_outside, out.pressure_pa)
    rho = density_kg_m3(t, p, co2, out.pressure_pa)
    air = _air(model, out, rho_out, rho, state[FLOOR_PRESSURE], bees.fanning_m3_s)
    metabolic = bees.metabolic_heat_w(t[NEST])
    ledger = honey_ledger(metabolic)
    rse = outer_film_m2k_w(out.wind_m_s, te)

    surface, condensing, latent = _surfaces(model, out, t, p, rse)
    whole = model.zone_whole_w_k(rse)
    # Condensation heats its surface: the zone loses the less for it.
    film_w_k = model.surface_area_m2 / model.surface_film_m2k_w
    behind_w_k = _behind_w_k(model, rse)
    latent_to_zone = latent * film_w_k / np.maximum(film_w_k + behind_w_k, 1e-12)
    shell = whole * (t - te)
    on_combs = _combs(model, out, t, p)
    plume = model.plume_share
    share = np.stack([np.zeros_like(plume), 1 - plume, plume])

    comb_latent = on_combs * _latent_heat_j_kg(t)
    heat = share * ledger.dry_heat_w - shell + _by_zone(SURFACE_ZONE, latent_to_zone)
    heat = heat + comb_latent
    heat = heat + _CP * air.carried(t, te)
    w, w_out = humidity_ratio(p, out.pressure_pa), humidity_ratio(pe, out.pressure_pa)
    diffused = model.zone_vapour_kg_s_pa * (p - pe)
    water = share * ledger.water_kg_s - diffused - _by_zone(SURFACE_ZONE, condensing) - on_combs
    water = water + air.carried(w, w_out)
    breath = model.zone_breath_m3_s * (rho * co2 - rho_out * co2_outside)
    carbon = share * ledger.co2_kg_s - breath + air.carried(co2, co2_outside)
    return Balance(
        temperature_degc=t,
        vapour_pressure_pa=p,
        co2_mass_fraction=co2,
        floor_pressure_pa=state[FLOOR_PRESSURE],
        metabolic_w=metabolic,
        ledger=ledger,
        flows=air.flows,
        surface_degc=surface,
        condensing_kg_s=condensing,
        comb_kg_s=on_combs,
        condensing_w=np.sum(latent, axis=0) + np.sum(comb_latent, axis=0),
        shell_w=shell + _by_zone(SURFACE_ZONE, latent - latent_to_zone),
        air_w=_CP * (np.sum(air.away * t, axis=0) - np.sum(air.into, axis=0) * te),
        vapour_carried_kg_s=np.sum(air.away * w, axis=0) - np.sum(air.into, axis=0) * w_out,
        vapour_diffused_kg_s=np.sum(diffused, axis=0),
        residual=np.concatenate([heat, water, carbon, air.left_over[None, :]]),
    )


def _by_zone(zone: NDArray[np.int_], values: FloatArray) -> FloatArray:
    """Return the sum of ``values`` [K, N] over the members of each zone [3, N]."""
    total: FloatArray = (zone[None, :] == _ZONES[:, None]).astype(float) @ values
    return total


def _behind_w_m2k(model: NestNetwork, rse: FloatArray) -> FloatArray:
    """Return the transmittance [7, N] from each inner surface to the outside air [W/(m²·K)]."""
    share = model.surface_outer_share
    outer = share * rse[None, :] + (1 - share) * c.RSI_HORIZONTAL.value
    result: FloatArray = 1.0 / (model.surface_layers_m2k_w + outer / model.surface_ratio)
    return result


def _behind_w_k(model: NestNetwork, rse: FloatArray) -> FloatArray:
    """Return the conductance [7, N] from each inner surface to the outside air."""
    result: FloatArray = model.surface_area_m2 * _behind_w_m2k(model, rse)
    return result


def _surfaces(
    model: NestNetwork, out: Outside, t: FloatArray, p: FloatArray, rse: FloatArray
) -> tuple[FloatArray, FloatArray, FloatArray]:
    """Return temperature [°C], condensation [kg/s] and its heat [W] of every surface [7, N].

    Per area: (Tz - Ts)/Rsi + h_fg·β·max(p - psat(Ts), 0) = (Ts - Te)/(R + Rse). The left side
    falls and the right side rises with Ts, so Newton's method from the dry temperature converges.
    The mass transfer follows from convection by the Lewis relation.
    """
    zone_t, zone_p = t[SURFACE_ZONE], p[SURFACE_ZONE]
    film = 1.0 / model.surface_film_m2k_w
    behind = _behind_w_m2k(model, rse)
    te = out.temperature_degc[None, :]
    beta = _transfer_kg_s_m2_pa(model.surface_convection_w_m2k, zone_t, out.pressure_pa)
    ts = (film * zone_t + behind * te) / (film + behind)
    for _ in range(4):
        saturation = saturation_pressure_unchecked_pa(ts)
        excess = np.maximum(zone_p - saturation, 0.0)
        heat = _latent_heat_j_kg(ts) * beta
        gap = film * (zone_t - ts) + heat * excess - behind * (ts - te)
        # d psat/dT = a·b/(b + T)²·psat, with the water branch taken for both: it only steers.
        slope = 17.269 * 237.3 / (237.3 + ts) ** 2 * saturation
        ts = ts + gap / (film + behind + np.where(excess > 0, heat * slope, 0.0))
    excess = np.maximum(zone_p - saturation_pressure_unchecked_pa(ts), 0.0)
    rate = beta * excess * model.surface_area_m2
    return ts, rate, _latent_heat_j_kg(ts) * rate


def _transfer_kg_s_m2_pa(
    convection_w_m2k: FloatArray | float, air_degc: FloatArray, pressure_pa: float
) -> FloatArray:
    """Return β [kg/(s·m²·Pa)] from the convection at a surface by the Lewis relation."""
    kelvin = air_degc + c.KELVIN_AT_0_DEGC.value
    rho_cp = pressure_pa / (c.GAS_CONSTANT_DRY_AIR.value * kelvin) * _CP
    beta: FloatArray = convection_w_m2k / (
        rho_cp * c.LEWIS_FACTOR.value * c.GAS_CONSTANT_VAPOUR.value * kelvin
    )
    return beta


def _latent_heat_j_kg(surface_degc: FloatArray) -> FloatArray:
    """Return the heat set free by condensing [J/kg], passing from ice to water around 0 °C."""
    ice = np.clip(0.5 - surface_degc, 0.0, 1.0)
    water_j, ice_j = c.LATENT_HEAT_WATER.value, c.LATENT_HEAT_ICE.value
    result: FloatArray = water_j + ice * (ice_j - water_j)
    return result


def _combs(model: NestNetwork, out: Outside, t: FloatArray, p: FloatArray) -> FloatArray:
    """Return the water settling on combs and in the air of each zone [kg/s], [3, N].

    Combs have the temperature of the air around them; air past saturation wets them first.
    """
    beta = _transfer_kg_s_m2_pa(c.CONVECTION_HORIZONTAL.value, t, out.pressure_pa)
    excess = np.maximum(p - saturation_pressure_unchecked_pa(t), 0.0)
    result: FloatArray = beta * model.comb_area_m2 * excess
    return result
