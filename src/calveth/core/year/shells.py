"""A hive as it is set for a while, as the arrays a year takes: walls, stores, wind by bearing."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import inf, log, sqrt

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core import constants_year as y
from calveth.core.airflow.paths import AirPaths, air_paths
from calveth.core.assess.snowed_in import closed_by_ice
from calveth.core.calendar import HOURS_IN_DAY
from calveth.core.climate.air import rain_share
from calveth.core.climate.place import Place
from calveth.core.climate.year import OWN_WIND
from calveth.core.constants_tables import TRAY_LEAK
from calveth.core.heat.shell import DIRECTIONS, FaceHeat
from calveth.core.heat.slab import plane_layers
from calveth.core.hive.design import Face
from calveth.core.hive.opening import WALL_SIDES
from calveth.core.materials import Layer, Material
from calveth.core.moisture.rain import drinks_rain, rain_capacity_kg_m2
from calveth.core.moisture.surface import ceiling_fate, floor_fate
from calveth.core.nest import kernel_parts as kp
from calveth.core.nest.network import SURFACE_FACE, SURFACES, WINDOW, HiveModel
from calveth.core.nest.stores import QUILT, water_stores
from calveth.core.parameters import Parameters
from calveth.core.remembered import remembered
from calveth.core.solids.openings_cut import colony_openings
from calveth.core.year import kernel_arrays as ka
from calveth.core.year.chains import HOUR_S, Chains, chains

# The exchange of boards and combs with air hardly knows how warm it is [°C].
_BOARDS_DEGC = 10.0

FloatArray = NDArray[np.float64]

_FLAT = np.array([1.0, 1.0, 0.0, 0.0, 0.0, -1.0, 0.0])
_LID_SURFACES, _FLOOR = 2, 5
# Each cell of a board is so many times as deep as the one before: the first is a day's.
_CELL_GROWS = 2.2
# The ideal moisture buffer value of a material, Rode et al. (2005), at 23 °C.
_RODE, _PSAT_23_PA = 0.00568, 2809.0
_CLING = np.array(
    [y.CLING_LID.value] * 2 + [y.CLING_WALL.value] * 3 + [y.CLING_FLOOR.value, y.CLING_WALL.value]
)
_FACE = {"lid": ka.LID, "walls": ka.SIDES, "floor": ka.FLOOR}


def shell_arrays(
    model: HiveModel, hive: tuple[FloatArray, ...], mean_film_m2k_w: float, wind: FloatArray
) -> ka.Shell:
    """Return the arrays of a hive as it is set.

    ``hive`` are its surfaces [7, 7] and zones [3, 5] as the balance has them,
    ``mean_film_m2k_w`` the outer film of the mean hour, ``wind`` what `wind_rows` found.
    """
    surfaces, zones = hive
    walls = _walls(model, surfaces, mean_film_m2k_w)
    share = walls[:, ka.WALL_SHARE]
    outer = walls[:, ka.WALL_RATIO] / (
        share * mean_film_m2k_w + (1 - share) * c.RSI_HORIZONTAL.value
    )
    modes = wall_modes(model, surfaces, outer)
    strips = model.paths.strip_part.size
    arrays = (
        walls,
        modes.decay,
        modes.gain,
        modes.inner,
        modes.outer,
        modes.inner_by,
        modes.outer_by,
        modes.to_cells,
        modes.to_modes,
        modes.capacity,
        modes.film,
        modes.outer_film,
        _combs(zones, model.parameters),
        _extra(model),
        wind[:, :strips],
        wind[:, strips:],
        *_snowed_in(model),
        _rain(model),
        *_boards(model, walls, surfaces[:, kp.SURFACE_CONVECTION]),
    )
    # The compiled hours are made for arrays that lie in one piece.
    return ka.Shell(*(np.ascontiguousarray(a) for a in arrays))


def wall_modes(
    model: HiveModel,
    surfaces: FloatArray,
    outer: FloatArray,
    grown: tuple[float, float] = (1.0, 1.0),
) -> Chains:
    """Return the modes of the surfaces [7, 7], the outer layers conducting ``grown`` times as well.

    Those of walls and of the lid, with the rain that makes them so; ``outer`` [7] are outer films
    [W/(m²·K)].
    """
    layers = [
        _layers(model, k, float(surfaces[k, kp.SURFACE_LAYERS]), grown)
        for k in range(len(SURFACES))
    ]
    return chains(layers, 1.0 / surfaces[:, kp.SURFACE_FILM], outer)


def _stack_of(model: HiveModel, surface: int) -> tuple[tuple[Layer, ...], FaceHeat, Face]:
    if surface == WINDOW and model.window is not None and model.design.window is not None:
        return model.design.window.stack, model.window, "walls"
    face = SURFACE_FACE[surface]
    return model.design.shell.stack(face), model.faces[face], face


def _layers(
    model: HiveModel, surface: int, behind_m2k_w: float, grown: tuple[float, float]
) -> list[tuple[float, float]]:
    """Return resistance and heat capacity of the layers behind a surface, innermost first.

    Of walls and lid the outermost conducts ``grown`` times as well and holds the rain for it.

    The resistances share what the balance has behind the surface (its rim is colder than the lid);
    what lies outside a ventilated gap stores as little as it counts.
    """
    stack, heat, face = _stack_of(model, surface)
    layers = plane_layers(stack, model.materials, DIRECTIONS[face])
    resistance = max(sum(heat.layers_m2k_w), 1e-9)
    layers_m2 = []
    for layer, r, share in zip(stack, heat.layers_m2k_w, layers.closed_shares, strict=True):
        material = model.materials[layer.material]
        stores = material.kind == "solid"
        capacity = layer.thickness_m * material.density_kg_m3 * material.specific_heat_j_kgk
        if layer.mixed_share > 0:
            other = model.materials[layer.mixed_with]
            part = layer.thickness_m * other.density_kg_m3 * other.specific_heat_j_kgk
            capacity += layer.mixed_share * (part - capacity)
        layers_m2.append((r / resistance * behind_m2k_w, capacity * share if stores else 0.0))
    more = 1.0 if surface == WINDOW else {"walls": grown[0], "lid": grown[1]}.get(face, 1.0)
    if more > 1.0:
        r, capacity = layers_m2[0]
        rain = log(more) / _conducts_by_rain(model, stack[0])
        layers_m2[0] = (r / more, capacity + rain * y.WATER_HEAT_CAPACITY.value)
    return layers_m2[::-1]


def _conducts_by_rain(model: HiveModel, layer: Layer) -> float:
    """Return ln of what λ of a layer grows by for rain in it [m²/kg]."""
    material = model.materials[layer.material]
    return material.moisture_conversion / (layer.thickness_m * material.density_kg_m3)


def _walls(model: HiveModel, surfaces: FloatArray, film_m2k_w: float) -> FloatArray:
    rows = np.zeros((len(SURFACES), ka.WALL_COLUMNS))
    area = surfaces[:, kp.SURFACE_AREA]
    rows[:, ka.WALL_AREA] = area
    rows[:, ka.WALL_RATIO] = surfaces[:, kp.SURFACE_RATIO]
    rows[:, ka.WALL_SHARE] = surfaces[:, kp.SURFACE_SHARE]
    rows[:, ka.WALL_FLAT] = _FLAT
    if ceiling_fate(model.design.lid_slope_deg, model.design.tilt_deg) != "drips":
        rows[:_LID_SURFACES, ka.WALL_FLAT] = 0.0
    rows[:, ka.WALL_CLING] = _CLING * model.parameters.cling_factor * area
    share = surfaces[:, kp.SURFACE_SHARE]
    film = share * film_m2k_w + (1 - share) * c.RSI_HORIZONTAL.value
    u = 1.0 / (
        surfaces[:, kp.SURFACE_FILM]
        + surfaces[:, kp.SURFACE_LAYERS]
        + film / surfaces[:, kp.SURFACE_RATIO]
    )
    zone_w_k = model.terms.zone_whole_w_k(np.array([film_m2k_w]))[:, 0]
    zone = surfaces[:, kp.SURFACE_ZONE].astype(int)
    plain = np.bincount(zone, weights=area * u, minlength=3)
    rows[:, ka.WALL_SCALE] = (zone_w_k / np.maximum(plain, 1e-12))[zone]
    for k in range(len(SURFACES)):
        stack, _, face = _stack_of(model, k)
        rows[k, ka.WALL_FACE] = _FACE[face]
        outermost = model.materials[stack[0].material]
        rows[k, ka.WALL_ABSORBS] = min(
            outermost.solar_absorptance * model.parameters.sun_factor, 1.0
        )
        rows[k, ka.WALL_EMITS] = outermost.emissivity
    rows[_FLOOR, ka.WALL_CLING] = _floor_holds(model) * area[_FLOOR]
    return rows


def _floor_holds(model: HiveModel) -> float:
    """Return the water a floor holds before it runs out [kg/m²]: less where it leans or has joints.

    From level to what drains the slope counts in proportion.
    """
    board = _board_inside(model, model.design.shell.floor)
    of_boards = board is not None and model.materials[board.material].has_grain
    level = y.FLOOR_OF_BOARDS.value if of_boards else y.CLING_FLOOR.value
    level *= model.parameters.cling_factor
    return level * max(1.0 - model.design.tilt_deg / c.DRAINING_TILT.value, 0.0)


def _board_inside(model: HiveModel, stack: Sequence[Layer]) -> Layer | None:
    """Return the layer the air inside meets, but for a gap of air."""
    inner = [layer for layer in stack if model.materials[layer.material].kind != "air gap"]
    return inner[-1] if inner else None


def _boards(
    model: HiveModel, walls: FloatArray, convection: FloatArray
) -> tuple[FloatArray, FloatArray]:
    """Return what the cells of the boards inside bind [kg] and how they hand it on [7, 4].

    Puts what they drink into ``walls``. Capacity and permeability are those of the material;
    where it has no moisture contents, the capacity that has its moisture buffer value by the
    ideal of Rode et al. (2005): MBV = 0.00568·psat·b·√day, b = √(δ·c/psat) at 23 °C.
    """
    most = np.zeros((len(SURFACES), ka.WOOD_CELLS))
    through = np.zeros((len(SURFACES), ka.WOOD_CELLS))
    p = model.parameters
    grows = _CELL_GROWS ** np.arange(ka.WOOD_CELLS)
    for k in range(len(SURFACES)):
        layer = _board_inside(model, _stack_of(model, k)[0])
        area = float(walls[k, ka.WALL_AREA])
        if layer is None or area <= 0.0:
            continue
        material = model.materials[layer.material]
        binds = binds_kg_m3(material)
        if binds <= 0.0:
            continue
        depth = min(layer.thickness_m, y.BOARD_DEEPEST.value)
        cells = depth * grows / grows.sum()
        delta = c.VAPOUR_PERMEABILITY_AIR.value / material.vapour_resistance_factor
        beta = kp.transfer_kg_s_m2_pa(
            float(convection[k]), _BOARDS_DEGC, c.PRESSURE_SEA_LEVEL.value
        )
        most[k] = binds * cells * area * p.buffer_factor
        apart = 0.5 * (cells[:-1] + cells[1:])
        through[k, 0] = area / (1.0 / beta + 0.5 * cells[0] / delta)
        through[k, 1:] = area * delta / apart
        walls[k, ka.WALL_DRINKS] = material.water_absorption_kg_m2_h05
        walls[k, ka.WALL_THIRSTY] = p.thirsty_inside
        walls[k, ka.WALL_DRIES] = area * max(p.thirsty_inside * beta, through[k, 0] / area)
        walls[k, ka.WALL_PORES] = rain_capacity_kg_m2(material, depth, p.rain_fill) * area
    return most, through


def binds_kg_m3(material: Material) -> float:
    """Return what a material binds from dry to saturated at its slope below 80 % [kg/m³]."""
    if material.moisture_80 > material.moisture_50:
        return material.density_kg_m3 * (material.moisture_80 - material.moisture_50) / (0.8 - 0.5)
    # b of the moisture buffer value; grams by percent.
    effusivity = (
        material.buffer_value_g_m2 * 1e-3 / (_RODE * _PSAT_23_PA * sqrt(HOUR_S * HOURS_IN_DAY))
    )
    delta = c.VAPOUR_PERMEABILITY_AIR.value / material.vapour_resistance_factor
    return effusivity**2 * _PSAT_23_PA / delta


def _combs(zones: FloatArray, p: Parameters) -> FloatArray:
    rows = np.zeros((3, ka.COMB_COLUMNS))
    area = zones[:, kp.ZONE_COMB]
    beta = kp.transfer_kg_s_m2_pa(
        c.CONVECTION_HORIZONTAL.value, _BOARDS_DEGC, c.PRESSURE_SEA_LEVEL.value
    )
    heat_j_k_m2 = y.COMB_HEAT.value * p.comb_heat_factor
    rows[:, ka.COMB_HEAT] = heat_j_k_m2 * area
    rows[:, ka.COMB_FOLLOWS] = -np.expm1(-c.CONVECTION_HORIZONTAL.value * HOUR_S / heat_j_k_m2)
    rows[:, ka.COMB_SORB] = beta * area
    rows[:, ka.COMB_WATER] = y.COMB_SORPTION.value * p.buffer_factor * area
    rows[:, ka.COMB_CLING] = y.CLING_COMB.value * p.cling_factor * area
    return rows


def _snowed_in(model: HiveModel) -> tuple[FloatArray, FloatArray]:
    """Return free areas [m²] of strips [S, 2] and parts [O, 2] and the snow that shuts them [m].

    Snow lies before an entrance when it comes up to it from the ground, past the stand; what is
    in the lid or high up it never shuts (`closed_by_ice`).
    """
    design, paths = model.design, model.paths
    under = 0.0 if design.joinery.stand == "slab" else design.joinery.leg_high_m
    reached = {
        o.id: max(o.bottom_m, 0.0) + under if closed_by_ice(o) else inf
        for o in colony_openings(design)
    }
    parts = np.array([reached[i] for i in paths.part_ids]).reshape(-1)
    return (
        np.column_stack([paths.strip_area_m2[:, 0], parts[paths.strip_part]]),
        np.column_stack([paths.part_area_m2[:, 0], parts]),
    )


def _extra(model: HiveModel) -> FloatArray:
    extra = np.zeros(ka.EXTRA_COLUMNS)
    stores, design = water_stores(model), model.design
    extra[ka.ON_SLAB] = float(design.joinery.stand == "slab")
    slides = design.lid_slope_deg >= y.SNOW_SLIDES_FROM.value
    stays = y.SNOW_ON_SLOPE.value if slides else 1.0
    if model.place.snow_brushed:
        stays = 0.0
    extra[ka.SNOW_MOST] = model.parameters.snow_on_lid_m * stays
    openings = _snowed_in(model)[1]
    low_m2 = float(openings[openings[:, 1] < inf, 0].sum())
    extra[ka.ICE_SHARE] = model.parameters.ice_at_mouth
    extra[ka.ICE_CLOSES] = low_m2 * y.ICE_PLUG.value * y.ICE_DENSITY.value
    extra[ka.STEEPER] = model.parameters.isotherm_steeper
    extra[ka.AIR_M3] = float(model.terms.volume_m3[0])
    screened = any(
        o.shape == "screen" and o.free_share > TRAY_LEAK.value for o in colony_openings(design)
    )
    fate = floor_fate(design.tilt_deg, screened=screened)
    extra[ka.FLOOR_DRAINS] = float(fate == "drains forward")
    delta = c.VAPOUR_PERMEABILITY_AIR.value
    if stores.layer[QUILT] >= 0:
        heat = model.faces["lid"]
        extra[ka.QUILT_ON] = 1.0
        extra[ka.QUILT_KG] = stores.capacity_kg[QUILT]
        extra[ka.QUILT_PASS] = delta * heat.area.inner_m2 / heat.vapour_resistance_m
        extra[ka.QUILT_VENTS] = stores.vents_m2[QUILT]
        extra[ka.QUILT_WASH] = model.parameters.quilt_wash
        extra[ka.QUILT_INNER] = stores.inner_share[QUILT]
    return extra


def _rain(model: HiveModel) -> FloatArray:
    """Return how walls and lid drink rain [2, 7]: what is bare and thirsty outside."""
    rows = np.zeros((2, ka.RAIN_COLUMNS))
    rows[:, ka.RAIN_FROM], rows[:, ka.RAIN_TO] = -inf, inf
    shell, p = model.design.shell, model.parameters
    for row, layer in ((rows[ka.WALL_RAIN], shell.walls[0]), (rows[ka.LID_RAIN], shell.lid[0])):
        material = model.materials[layer.material]
        if drinks_rain(material):
            row[ka.RAIN_ON] = 1.0
            row[ka.RAIN_MOST] = rain_capacity_kg_m2(material, layer.thickness_m, p.rain_fill)
            row[ka.RAIN_DRINK] = material.water_absorption_kg_m2_h05  # in one hour
            row[ka.RAIN_DRY] = p.rain_drying
            row[ka.RAIN_CONDUCTS] = _conducts_by_rain(model, layer)
    return rows


def wind_rows(
    model: HiveModel, *, turns: bool, known: FloatArray | None = None
) -> tuple[AirPaths, FloatArray]:
    """Return the paths of a hive and their Cp by where the wind comes from.

    The array [17, S + J] has a row for each 16th of the compass and one for the place's own wind;
    first the strips of the openings, then the joints, by side. Where no wind ``turns`` all are
    alike; ``known`` are the rows of the same hive in another setting, which are the same.
    """
    place, design = model.place, model.design
    own = air_paths(design, model.hive, place, model.parameters, by_side=turns)
    if known is not None:
        return own, known
    rows = []
    for sector in range(OWN_WIND + 1):
        paths = own
        if turns and sector < OWN_WIND:
            there = replace(place, wind_from_deg=22.5 * sector)
            paths = air_paths(design, model.hive, there, model.parameters, by_side=True)
        rows.append(np.concatenate([paths.strip_cp[:, 0], paths.joint_cp[:, 0]]))
    return own, np.array(rows)


@remembered(32)
def exposed_sides(place: Place) -> FloatArray:
    """Return how far each side looks into each wind [17, 4]: the cosine, none in the lee."""
    winds = [replace(place, wind_from_deg=22.5 * sector) for sector in range(OWN_WIND)]
    return np.array([[rain_share(side, p) for side in WALL_SIDES] for p in (*winds, place)])
