"""The hive at some conditions, and the figures read off it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.airflow.draught import draught_at_comb_m_s
from calveth.core.climate.air import dew_point_unchecked_degc, saturation_pressure_unchecked_pa
from calveth.core.colony.colony import ColonyState
from calveth.core.heat.shell import DIRECTIONS
from calveth.core.heat.slab import outer_film_m2k_w
from calveth.core.hive.design import Face
from calveth.core.hive.zones import BASE, CROWN, NEST
from calveth.core.moisture.profile import Profile, face_profile
from calveth.core.nest.balance import Balance, Outside
from calveth.core.nest.network import SURFACE_ZONE, SURFACES, HiveModel
from calveth.core.solids.openings_cut import colony_openings
from calveth.core.solids.shapes import Ring
from calveth.core.units import grams_per_day, litres_per_hour

FloatArray = NDArray[np.float64]

LID_MIDDLE, LID_RIM = SURFACES.index("lid middle"), SURFACES.index("lid rim")
FACE_ZONE: dict[Face, int] = {"walls": NEST, "lid": CROWN, "floor": BASE}
VISIBLE_G_DAY = c.VISIBLE_WATER.value
"""Less water than this is not seen on a surface [g/day]."""

CrownVerdict = Literal["dry", "wet ring", "wet"]


@dataclass(frozen=True, eq=False)
class NestReadings:
    """The hive at N conditions with the figures that are read off them."""

    models: tuple[HiveModel, ...]
    owner: NDArray[np.int_]
    outside: Outside
    bees: ColonyState
    balance: Balance

    @property
    def model(self) -> HiveModel:
        """The hive of the first condition; all have its form."""
        return self.models[int(self.owner[0])]

    def model_at(self, i: int) -> HiveModel:
        """Return the hive as it is set at condition ``i``."""
        return self.models[int(self.owner[i])]

    def take(self, index: NDArray[np.int_]) -> NestReadings:
        """Return the conditions at ``index``."""
        return NestReadings(
            self.models,
            self.owner[index],
            self.outside.take(index),
            self.bees.take(index),
            self.balance.take(index),
        )

    @cached_property
    def relative_humidity(self) -> FloatArray:
        """RH of base, nest and crown air [3, N], 0 to 1 and a little past it in fog."""
        b = self.balance
        rh: FloatArray = b.vapour_pressure_pa / saturation_pressure_unchecked_pa(b.temperature_degc)
        return rh

    @cached_property
    def dew_point_degc(self) -> FloatArray:
        """Dew point of base, nest and crown air [3, N] [°C]."""
        return dew_point_unchecked_degc(self.balance.vapour_pressure_pa)

    @cached_property
    def margin_k(self) -> FloatArray:
        """Surface temperature minus the dew point of the air before it [7, N] [K].

        Negative is wet. The temperature is that of the surface as warmed by its condensation.
        """
        margin: FloatArray = self.balance.surface_degc - self.dew_point_degc[SURFACE_ZONE]
        return margin

    @cached_property
    def seen_margin_k(self) -> FloatArray:
        """The same margin [7, N] [K] less what leaves a surface so little wet that none sees it.

        That (`Parameters.visible_g_day`) over area and transfer of the surface, as a difference of
        dew points.
        """
        terms, pressure = self.model.terms, self.outside.pressure_pa
        degc = self.balance.temperature_degc[SURFACE_ZONE]
        kelvin = degc + c.KELVIN_AT_0_DEGC.value
        dew = self.dew_point_degc[SURFACE_ZONE]
        # Lewis: vapour leaves air for a wall as heat does, so the film tells what condenses.
        rho_cp = pressure / (c.GAS_CONSTANT_DRY_AIR.value * kelvin) * c.AIR_HEAT_CAPACITY.value
        beta = terms.surface_convection_w_m2k / (
            rho_cp * c.LEWIS_FACTOR.value * c.GAS_CONSTANT_VAPOUR.value * kelvin
        )
        area = np.maximum(terms.surface_area_m2, 1e-9)
        excess_pa = self.model.parameters.visible_g_day / 8.64e7 / (beta * area)
        # As much vapour less in the air and so little would condense that nobody sees it.
        shown = self.balance.vapour_pressure_pa[SURFACE_ZONE]
        lower = dew_point_unchecked_degc(np.maximum(shown - excess_pa, 1.0))
        seen: FloatArray = self.margin_k + (dew - lower)
        return seen

    @cached_property
    def condensing_g_day(self) -> FloatArray:
        """Water condensing on each surface [7, N] [g/day]."""
        return self.balance.condensing_kg_s * 8.64e7

    @property
    def lid_g_day(self) -> FloatArray:
        """Water condensing on the middle and the rim of the lid [N] [g/day]."""
        grams: FloatArray = self.condensing_g_day[[LID_MIDDLE, LID_RIM]].sum(axis=0)
        return grams

    @property
    def elsewhere_g_day(self) -> FloatArray:
        """Water condensing on walls, floor, window, combs and as fog [N] [g/day]."""
        combs = self.balance.comb_kg_s.sum(axis=0) * 8.64e7
        grams: FloatArray = self.condensing_g_day.sum(axis=0) - self.lid_g_day + combs
        return grams

    @cached_property
    def co2_volume_share(self) -> FloatArray:
        """CO2 of base, nest and crown air by volume [3, N], 0 to 1."""
        mass = self.balance.co2_mass_fraction
        share: FloatArray = mass / (mass + c.CO2_OVER_AIR_MOLAR_MASS.value * (1 - mass))
        return share

    @cached_property
    def exchange_m3_s(self) -> FloatArray:
        """Outside air that enters in all [N] [m³/s], as outside volume."""
        flow = self.balance.flows
        density = self.outside.pressure_pa / (
            c.GAS_CONSTANT_DRY_AIR.value
            * (self.outside.temperature_degc + c.KELVIN_AT_0_DEGC.value)
        )
        result: FloatArray = (flow.opening_in.sum(axis=0) + flow.joint_in.sum(axis=0)) / density
        return result

    @cached_property
    def air_changes_per_hour(self) -> FloatArray:
        """Outside air an hour over the volume of the cavity [N] [1/h]."""
        result: FloatArray = self.exchange_m3_s * 3600.0 / (self.model.litres / 1000.0)
        return result

    def heat_ledger_w(self, i: int) -> dict[str, float]:
        """Return where the heat comes from and goes to at condition ``i`` [W]; sums are equal.

        What the bees' heat, less that of all vapour, leaves is ``warms the nest``.
        """
        b = self.balance
        # Water fetched and nectar dried take their heat from the bees' before it warms anything.
        cooling = float(b.cooling_kg_s[i] + b.nectar_kg_s[i]) * c.LATENT_HEAT_WATER.value
        return {
            "metabolic": float(b.metabolic_w[i]),
            "leaves as vapour": float(b.ledger.latent_w[i]) + cooling,
            "warms the nest": float(b.ledger.dry_heat_w[i]) - cooling,
            "set free by condensation": float(b.condensing_w[i]),
            "through the shell": float(b.shell_w[:, i].sum()),
            "with the air": float(b.air_w[i]),
        }

    def water_ledger_g_day(self, i: int) -> dict[str, float]:
        """Return where the water given off goes at ``i`` [g/day]; released = the rest."""
        b = self.balance
        given = b.ledger.water_kg_s[i] + b.cooling_kg_s[i] + b.nectar_kg_s[i]
        ledger = {
            "released": grams_per_day(float(given)),
            "with the air": grams_per_day(float(b.vapour_carried_kg_s[i])),
            "through the shell": grams_per_day(float(b.vapour_diffused_kg_s[i])),
        }
        for k, name in enumerate(SURFACES):
            ledger[name] = float(self.condensing_g_day[k, i])
        ledger["combs and fog"] = grams_per_day(float(b.comb_kg_s[:, i].sum()))
        return ledger

    def openings(self, i: int) -> list[OpeningAir]:
        """Return the air of every opening at condition ``i``, its parts taken together."""
        model, flow = self.model_at(i), self.balance.flows
        te, pressure = float(self.outside.temperature_degc[i]), self.outside.pressure_pa
        zone_t = self.balance.temperature_degc[:, i]
        airs = []
        for opening in colony_openings(model.design):
            parts = [k for k, key in enumerate(model.paths.part_ids) if key == opening.id]
            into = sum(float(flow.opening_in[k, i]) for k in parts)
            out = sum(float(flow.opening_out[k, i]) for k in parts)
            area = sum(float(model.paths.part_area_m2[k, 0]) for k in parts)
            inside = float(zone_t[model.paths.part_zone[parts[0]]])
            airs.append(
                OpeningAir(
                    opening=opening.id,
                    in_l_h=_litres_hour(into, pressure, te),
                    out_l_h=_litres_hour(out, pressure, inside),
                    # Both ways through one hole: the larger flow says how fast it blows.
                    speed_m_s=_litres_hour(max(into, out), pressure, te) / 3.6e6 / area
                    if area > 0
                    else 0.0,
                    heat_w=c.AIR_HEAT_CAPACITY.value * out * (inside - te),
                    draught_m_s=draught_at_comb_m_s(
                        model.design,
                        opening,
                        _litres_hour(into, pressure, te) / 3.6e6,
                        area,
                        model.parameters.slats_share,
                    ),
                )
            )
        return airs

    def joints_l_h(self, i: int) -> float:
        """Return the air that enters through joints at condition ``i`` [L/h]."""
        return _litres_hour(
            float(self.balance.flows.joint_in[:, i].sum()),
            self.outside.pressure_pa,
            self.outside.temperature_degc[i],
        )

    def profile(self, face: Face, i: int) -> Profile:
        """Return the profile through the middle of a face at condition ``i``."""
        zone, model = FACE_ZONE[face], self.model_at(i)
        cavity = model.hive.cavity
        rse = float(outer_film_m2k_w(self.outside.wind_m_s[i], self.outside.temperature_degc[i]))
        return face_profile(
            model.design.shell.stack(face),
            model.materials,
            DIRECTIONS[face],
            inside_degc=float(self.balance.temperature_degc[zone, i]),
            inside_pa=float(self.balance.vapour_pressure_pa[zone, i]),
            outside_degc=float(self.outside.temperature_degc[i]),
            outside_pa=float(self.outside.vapour_pressure_pa[i]),
            outer_film_m2k_w=rse,
            inner_radius_m=(
                cavity.outer_radius_m if face == "walls" and isinstance(cavity, Ring) else None
            ),
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class OpeningAir:
    """What goes through one opening.

    Flows in and out [L/h], mean speed [m/s], heat the leaving air carries [W] and the draught at
    the nearest comb [m/s] (estimate).
    """

    opening: str
    in_l_h: float
    out_l_h: float
    speed_m_s: float
    heat_w: float
    draught_m_s: float


def _litres_hour(mass_kg_s: float, pressure_pa: float, temperature_degc: float) -> float:
    kelvin = temperature_degc + c.KELVIN_AT_0_DEGC.value
    density = pressure_pa / (c.GAS_CONSTANT_DRY_AIR.value * kelvin)
    return litres_per_hour(float(mass_kg_s) / density)


def crown_verdict(readings: NestReadings, i: int) -> CrownVerdict:
    """Return what a beekeeper finds under the lid at condition ``i``.

    ``dry``; ``wet ring`` along the rim with a dry middle; ``wet`` when the middle is wet too and
    drips on the cluster.
    """
    water = readings.condensing_g_day[:, i]
    seen = readings.model.parameters.visible_g_day
    if water[LID_MIDDLE] >= seen:
        return "wet"
    return "wet ring" if water[LID_RIM] >= seen else "dry"
