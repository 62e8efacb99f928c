"""Damp through the year: inside the faces, mould, the quilt, rain, and where water goes."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.assess.readings import FACE_ZONE, LID_MIDDLE, LID_RIM
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.assess.solved_shells import conduction_in
from calveth.core.assess.weather import surroundings
from calveth.core.climate.air import rain_share, saturation_pressure_unchecked_pa
from calveth.core.heat.shell import DIRECTIONS
from calveth.core.heat.slab import outer_film_m2k_w
from calveth.core.hive.by_month import setting_of
from calveth.core.hive.design import FACES, Design, Face
from calveth.core.hive.opening import WALL_SIDES
from calveth.core.hive.zones import CROWN
from calveth.core.moisture.inside import Climate12, InsideYear, inside_year
from calveth.core.moisture.quilt import QuiltYear, quilt_year, vent_flow_m3_s
from calveth.core.moisture.rain import RainYear, rain_year
from calveth.core.moisture.surface import Fate, ceiling_fate, floor_fate, mould_risk
from calveth.core.nest.network import SURFACE_ZONE, SURFACES, WINDOW, HiveModel
from calveth.core.nest.stores import OUTER_WALL, QUILT, WaterStores, water_stores
from calveth.core.solids.openings_cut import colony_openings
from calveth.core.solids.shapes import Ring

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class DampYear:
    """Damp of one design through the year.

    Attributes
    ----------
    inside : dict
        Water inside walls, lid and floor, of the hive as it stands in the coldest month.
    mould : array of bool [7, 12]
        Where and when mould may grow.
    surface_humidity : array [7, 12]
        Relative humidity at the surfaces, 0 to 1.
    quilt : QuiltYear or None
    rain : RainYear or None
        Of a wall whose outermost layer drinks rain.
    painted : bool
        Whether a film or a tight board keeps the rain from thirsty layers behind it.
    ceiling, floor : str
        What water does under the lid and on the floor.
    """

    inside: dict[Face, InsideYear]
    mould: NDArray[np.bool_]
    surface_humidity: FloatArray
    quilt: QuiltYear | None
    rain: RainYear | None
    painted: bool
    ceiling: Fate
    floor: Fate


def damp_year(monthly: MonthlyAssessment) -> DampYear:
    """Return the damp of an assessed design through the year."""
    model = monthly.model_in(monthly.coldest_month)
    design, stores = model.design, water_stores(model)
    humidity = _surface_humidity(monthly)
    degc = monthly.months.balance.surface_degc
    mould = np.array(
        [
            [mould_risk(float(humidity[k, i]), float(degc[k, i])) for i in range(12)]
            for k in range(len(SURFACES))
        ]
    )
    if design.window is None:
        mould[WINDOW] = False
    return DampYear(
        inside={face: _inside(monthly, design, face) for face in FACES},
        mould=mould,
        surface_humidity=humidity,
        quilt=_quilt(monthly, model, stores),
        rain=_rain(monthly, model, stores),
        painted=stores.painted,
        ceiling=ceiling_fate(design.lid_slope_deg, design.tilt_deg),
        floor=floor_fate(
            design.tilt_deg, screened=any(o.shape == "screen" for o in colony_openings(design))
        ),
    )


def _surface_humidity(monthly: MonthlyAssessment) -> FloatArray:
    """Return the humidity at the surfaces [7, 12]; at the rim that of its coldest spot.

    With the inner film EN ISO 13788 asks for where mould is looked for, 0.25 m²·K/W.
    """
    balance, outside = monthly.months.balance, monthly.months.outside.temperature_degc
    model, rsi = monthly.model, c.RSI_EDGE.value
    solved = conduction_in(monthly.case.shells, monthly.design, monthly.coldest_month)
    spot = solved.coldest.get("lid rim") if solved is not None else None
    if spot is not None:
        factor = spot.factor
    else:
        behind = float(model.terms.surface_layers_m2k_w[LID_RIM, 0]) + c.RSE.value
        factor = behind / (rsi + behind)
    # The balance knows the rim's mean; mould begins in its coldest corner, and is looked for there.
    degc = balance.surface_degc.copy()
    crown = balance.temperature_degc[CROWN]
    degc[LID_RIM] = outside + factor * (crown - outside)
    saturation = saturation_pressure_unchecked_pa(degc)
    result: FloatArray = np.minimum(1.0, balance.vapour_pressure_pa[SURFACE_ZONE] / saturation)
    return result


def _inside(monthly: MonthlyAssessment, design: Design, face: Face) -> InsideYear:
    months, zone = monthly.months, FACE_ZONE[face]
    cavity = monthly.model.hive.cavity
    outside = months.outside
    climate = Climate12(
        inside_degc=months.balance.temperature_degc[zone],
        inside_pa=months.balance.vapour_pressure_pa[zone],
        outside_degc=outside.temperature_degc,
        outside_pa=outside.vapour_pressure_pa,
        outer_film_m2k_w=outer_film_m2k_w(outside.wind_m_s, outside.temperature_degc),
    )
    radius = cavity.outer_radius_m if face == "walls" and isinstance(cavity, Ring) else None
    winter = monthly.model.materials
    return inside_year(design.shell.stack(face), winter, DIRECTIONS[face], climate, radius)


def through_lid_kg_s(monthly: MonthlyAssessment) -> FloatArray:
    """Return the vapour that diffuses out through the lid in each month [12] [kg/s].

    It is the lid's share of what the balance sends through the shell.
    """
    months, delta = monthly.months, c.VAPOUR_PERMEABILITY_AIR.value
    lids = [months.model_at(k).faces["lid"] for k in range(12)]
    permeance = np.array([delta * h.area.inner_m2 / h.vapour_resistance_m for h in lids])
    drop = months.balance.vapour_pressure_pa[CROWN] - months.outside.vapour_pressure_pa
    result: FloatArray = permeance * drop
    return result


def _quilt(monthly: MonthlyAssessment, model: HiveModel, stores: WaterStores) -> QuiltYear | None:
    """Return the year of the quilt."""
    if stores.layer[QUILT] < 0:
        return None
    months = monthly.months
    crown, outside = months.balance.temperature_degc[CROWN], months.outside.temperature_degc
    degc = crown - (crown - outside) * stores.inner_share[QUILT]
    vents = float(stores.vents_m2[QUILT])
    delta_a = c.VAPOUR_PERMEABILITY_AIR.value * float(stores.area_m2[QUILT])
    above_m = model.faces["lid"].vapour_resistance_m - float(stores.sd_inside_m[QUILT])
    # What settles under a quilt soaks into it. The months let none drip back; the hours do.
    settled = months.balance.condensing_kg_s[[LID_MIDDLE, LID_RIM]].sum(axis=0)
    return quilt_year(
        taken_kg_s=through_lid_kg_s(monthly) + settled,
        # Where vents carry the water off, what the boards above let through is nothing beside it.
        onward_kg_s_pa=delta_a / max(above_m, 1e-3) if vents == 0.0 else 0.0,
        capacity_kg=float(stores.capacity_kg[QUILT]),
        vent_m3_s=vent_flow_m3_s(
            vents, c.QUILT_VENT_HEIGHT.value, degc - outside, months.outside.wind_m_s
        ),
        quilt_degc=degc,
        outside_pa=months.outside.vapour_pressure_pa,
        on=np.array([setting_of(monthly.design, i).quilt for i in range(12)]),
        # It begins dry two thirds of a year after the coldest month, before the next cold.
        first_month=(monthly.coldest_month + 8) % 12,
        wash=model.parameters.quilt_wash,
    )


def _rain(monthly: MonthlyAssessment, model: HiveModel, stores: WaterStores) -> RainYear | None:
    """Return the rain year of walls whose outermost layer drinks."""
    if stores.layer[OUTER_WALL] < 0:
        return None
    layer, place = model.design.shell.walls[0], monthly.place
    return rain_year(
        model.materials[layer.material],
        layer.thickness_m,
        surroundings(place),
        monthly.months.outside.wind_m_s,
        sum(rain_share(side, place) for side in WALL_SIDES) / 4,
        fill=model.parameters.rain_fill,
        drying=model.parameters.rain_drying,
    )
