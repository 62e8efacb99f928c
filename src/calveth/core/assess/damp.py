"""Damp through the year: inside the faces, mould, the quilt, rain, and where water goes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calveth.core.assess.moments import FACE_ZONE
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.assess.weather import surroundings
from calveth.core.climate.air import is_windward, saturation_pressure_unchecked_pa
from calveth.core.heat.shell import DIRECTIONS
from calveth.core.heat.slab import outer_film_m2k_w
from calveth.core.hive.by_month import setting_of
from calveth.core.hive.design import FACES, Design, Face
from calveth.core.hive.opening import WALL_SIDES
from calveth.core.hive.shapes import Ring
from calveth.core.hive.zones import CROWN
from calveth.core.materials import Material
from calveth.core.moisture.inside import Climate12, InsideYear, inside_year
from calveth.core.moisture.quilt import QuiltYear, quilt_capacity_kg, quilt_year, vent_flow_m3_s
from calveth.core.moisture.rain import RainYear, drinks_rain, rain_year
from calveth.core.moisture.surface import Fate, ceiling_fate, floor_fate, mould_risk
from calveth.core.nest.network import SURFACE_ZONE, SURFACES, WINDOW

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
    materials = monthly.materials
    design = monthly.model_in(monthly.coldest_month).design
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
    rain, painted = _rain(monthly, design, materials)
    return DampYear(
        inside={face: _inside(monthly, design, face) for face in FACES},
        mould=mould,
        surface_humidity=humidity,
        quilt=_quilt(monthly, design, materials),
        rain=rain,
        painted=painted,
        ceiling=ceiling_fate(design.lid_slope_deg, design.tilt_deg),
        floor=floor_fate(
            design.tilt_deg, screened=any(o.shape == "screen" for o in design.openings)
        ),
    )


def _surface_humidity(monthly: MonthlyAssessment) -> FloatArray:
    balance = monthly.months.balance
    saturation = saturation_pressure_unchecked_pa(balance.surface_degc)
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
    winter = monthly.model.winter
    return inside_year(design.shell.stack(face), winter, DIRECTIONS[face], climate, radius)


def _quilt(
    monthly: MonthlyAssessment, design: Design, materials: Mapping[str, Material]
) -> QuiltYear | None:
    """Return the year of the quilt: its thickest layer, gaps and cloths left out."""
    lid = design.shell.lid
    at = [
        k
        for k, layer in enumerate(lid)
        if layer.fitting == "quilt" and materials[layer.material].kind == "solid"
    ]
    if not at:
        return None
    k = max(at, key=lambda n: lid[n].thickness_m)
    quilt = lid[k]
    material = materials[quilt.material]
    below = sum(materials[y.material].sd_m(y.thickness_m) for y in lid[k + 1 :])
    heat = monthly.model.faces["lid"]
    layers, area = heat.layers_m2k_w, heat.area.inner_m2
    months = monthly.months
    crown, outside = months.balance.temperature_degc[CROWN], months.outside.temperature_degc
    inner = heat.film_m2k_w + sum(layers[k + 1 :]) + 0.5 * layers[k]
    total = heat.film_m2k_w + sum(layers) + float(heat.outer_film_m2k_w())
    degc = crown - (crown - outside) * inner / total
    vents = sum(layer.vents_m2_m for layer in lid[: k + 1]) * _perimeter_m(monthly)
    return quilt_year(
        area_m2=area,
        sd_below_m=below + 0.5 * material.sd_m(quilt.thickness_m),
        capacity_kg=quilt_capacity_kg(area, quilt.thickness_m, material.density_kg_m3),
        vent_m3_s=vent_flow_m3_s(vents, 0.02, degc - outside, months.outside.wind_m_s),
        crown_pa=months.balance.vapour_pressure_pa[CROWN],
        quilt_degc=degc,
        outside_pa=months.outside.vapour_pressure_pa,
        on=np.array([setting_of(monthly.design, i).quilt for i in range(12)]),
        first_month=(monthly.coldest_month + 8) % 12,
    )


def _perimeter_m(monthly: MonthlyAssessment) -> float:
    return monthly.model.faces["lid"].area.edge_m


def _rain(
    monthly: MonthlyAssessment, design: Design, materials: Mapping[str, Material]
) -> tuple[RainYear | None, bool]:
    """Return the rain year of the walls, and whether something keeps rain off thirsty layers."""
    stack = design.shell.walls
    thirsty = [k for k, y in enumerate(stack) if drinks_rain(materials[y.material])]
    if not thirsty:
        return None, False
    if thirsty[0] != 0:
        return None, True
    place = monthly.place
    windward = sum(is_windward(side, place) for side in WALL_SIDES)
    layer = stack[0]
    return (
        rain_year(
            materials[layer.material],
            layer.thickness_m,
            surroundings(place),
            monthly.months.outside.wind_m_s,
            windward / 4,
        ),
        False,
    )
