"""What one design brings to the balance: surfaces, couplings and air paths as arrays."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields, replace

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.airflow.paths import AirPaths, air_paths, stack_paths, tunnel_m
from calveth.core.case import HiveCase
from calveth.core.climate.place import Place
from calveth.core.heat.correction import ShellCorrection
from calveth.core.heat.seasons import summer_materials, winter_materials
from calveth.core.heat.shell import DIRECTIONS, FaceHeat, shell_heat, window_heat
from calveth.core.heat.slab import gas_resistance_m
from calveth.core.hive.design import Design, Face
from calveth.core.hive.forms import cavity_height_m, side_spans_m
from calveth.core.hive.opening import opening_parts
from calveth.core.hive.zones import BASE, CROWN, FRACTIONS, NEST
from calveth.core.materials import Material
from calveth.core.parameters import Parameters
from calveth.core.solids.build import HiveSolids, build_solids
from calveth.core.solids.openings_cut import colony_openings
from calveth.core.solids.quantities import cavity_litres
from calveth.core.solids.shapes import Ring

_SHORTEST_M = 1e-4

FloatArray = NDArray[np.float64]

SURFACES = (
    "lid middle",
    "lid rim",
    "upper wall",
    "middle wall",
    "lower wall",
    "floor",
    "window",
)
"""Inner surfaces that may turn wet, in the order of every surface array; a hive without a window
has one of no area."""
WINDOW = SURFACES.index("window")
SURFACE_ZONE = np.array([CROWN, CROWN, CROWN, NEST, BASE, BASE, NEST])
SURFACE_FACE: tuple[Face, ...] = ("lid", "lid", "walls", "walls", "walls", "floor", "walls")
_CONVECTION = np.array(
    [
        c.CONVECTION_UP.value,
        c.CONVECTION_UP.value,
        c.CONVECTION_HORIZONTAL.value,
        c.CONVECTION_HORIZONTAL.value,
        c.CONVECTION_HORIZONTAL.value,
        c.CONVECTION_DOWN.value,
        c.CONVECTION_HORIZONTAL.value,
    ]
).reshape(-1, 1)
# Which zone owns what share of walls, lid, floor and window.
ZONE_OF_PATH = np.array(
    [
        [FRACTIONS[BASE], 0.0, 1.0, 0.0],
        [FRACTIONS[NEST], 0.0, 0.0, 1.0],
        [FRACTIONS[CROWN], 1.0, 0.0, 0.0],
    ]
)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class NestNetwork:
    """What the balance needs of one hive, or of N hives of one structure, as arrays.

    The last axis M is one for a single hive at any number of conditions, or N, one hive each.

    Attributes
    ----------
    surface_area_m2, surface_film_m2k_w, surface_layers_m2k_w, surface_ratio : array [7, M]
        Area, inner film, layers per inner area, and outer over inner area of `SURFACES`.
    surface_outer_share : array [7, M]
        Share of the outer film that counts.
    path_inner_k_w, path_outer_m2, path_outer_share : array [4, M]
        Film and layers of walls, lid, floor and window [K/W], their outer areas [m²] and the share
        of the outer film.
    zone_vapour_kg_s_pa : array [3, M]
        Diffusion conductance for vapour from each zone through the shell [kg/(s·Pa)].
    zone_breath_m3_s : array [3, M]
        Diffusion conductance D·A/(μ·d) for CO2 through the shell and D·A/L through the still air
        in the openings [m³/s]; little, but it is what is left when the air stands.
    zone_factor : array [3, M]
        On the whole conductance of base, nest and crown (`ShellCorrection.zones`).
    comb_area_m2 : array [3, M]
        Both sides of the combs in each zone [m²].
    volume_m3 : array [M]
        Of the room.
    plume_share, mixing_base_w_k, mixing_crown_w_k : array [M]
        `Parameters` of each hive.
    wind_factor, cluster_factor, rest_factor, fanning_factor, core_offset_k : array [M]
        On wind and bees, put on by `lanes.packed`.
    film_factor, bees_factor : array [M]
        On the inner films, and on the mass of the bees.
    activity_share, fanning_most, fanning_speed, cooling_most : array [M]
        What bees spend in the hive, and can do (`Parameters`).
    brood_need, rest_q10, mantle_degc, broodless_airs_k, liked_degc, fanning_cost_w_m3_s : array [M]
    cluster_leaves_k, brood_bees, heat_borne_k, damp_borne : array [M]
        What their heat follows, and when they air the nest (`Parameters`).
    """

    paths: AirPaths
    surface_area_m2: FloatArray
    surface_film_m2k_w: FloatArray
    surface_layers_m2k_w: FloatArray
    surface_ratio: FloatArray
    surface_outer_share: FloatArray
    path_inner_k_w: FloatArray
    path_outer_m2: FloatArray
    path_outer_share: FloatArray
    zone_factor: FloatArray
    zone_vapour_kg_s_pa: FloatArray
    zone_breath_m3_s: FloatArray
    comb_area_m2: FloatArray
    volume_m3: FloatArray
    plume_share: FloatArray
    mixing_base_w_k: FloatArray
    mixing_crown_w_k: FloatArray
    wind_factor: FloatArray
    cluster_factor: FloatArray
    rest_factor: FloatArray
    fanning_factor: FloatArray
    core_offset_k: FloatArray
    activity_share: FloatArray
    film_factor: FloatArray
    bees_factor: FloatArray
    fanning_most: FloatArray
    fanning_speed: FloatArray
    cooling_most: FloatArray
    brood_need: FloatArray
    rest_q10: FloatArray
    mantle_degc: FloatArray
    broodless_airs_k: FloatArray
    liked_degc: FloatArray
    fanning_cost_w_m3_s: FloatArray
    cluster_leaves_k: FloatArray
    brood_bees: FloatArray
    heat_borne_k: FloatArray
    damp_borne: FloatArray

    @property
    def surface_convection_w_m2k(self) -> FloatArray:
        """Convective part of the inner films, which carries vapour [7, M] [W/(m²·K)].

        Never more than the whole film.
        """
        part: FloatArray = np.minimum(_CONVECTION * self.film_factor, 1 / self.surface_film_m2k_w)
        return part

    def take(self, index: NDArray[np.int_]) -> NestNetwork:
        """Return the hives at ``index``; a single hive stands for any number of conditions."""
        if self.volume_m3.size == 1:
            return self
        return NestNetwork(
            paths=self.paths.take(index),
            **{name: getattr(self, name)[..., index] for name in _TERM_ARRAYS},
        )

    def zone_whole_w_k(self, outer_film_m2k_w: FloatArray) -> FloatArray:
        """Return the whole conductance of each zone with edges [3, N] for films [N]."""
        share = self.path_outer_share
        rse = share * outer_film_m2k_w[None, :] + (1 - share) * c.RSI_HORIZONTAL.value
        zone_w_k = 1.0 / (self.path_inner_k_w + rse / self.path_outer_m2)
        result: FloatArray = self.zone_factor * (ZONE_OF_PATH @ zone_w_k)
        return result


_TERM_ARRAYS = tuple(f.name for f in fields(NestNetwork) if f.name != "paths")


def stack_terms(terms: Sequence[NestNetwork], owner: NDArray[np.int_]) -> NestNetwork:
    """Return hives of one structure side by side; ``owner`` [N] names the hive of a condition."""
    if len(terms) == 1:
        return terms[0]
    return NestNetwork(
        paths=stack_paths([t.paths for t in terms], owner),
        **{
            name: np.concatenate([getattr(t, name) for t in terms], axis=-1)[..., owner]
            for name in _TERM_ARRAYS
        },
    )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class HiveModel:
    """A design at a place, ready to be balanced.

    ``materials`` are as moist and cold as they were taken to be; what looks into a face
    afterwards takes the same. ``parameters`` are those of the case.
    """

    design: Design
    place: Place
    hive: HiveSolids
    faces: dict[Face, FaceHeat]
    window: FaceHeat | None
    litres: float
    terms: NestNetwork
    correction: ShellCorrection
    materials: Mapping[str, Material]
    parameters: Parameters

    @property
    def conductance_w_k(self) -> float:
        """L of the whole shell with the table's outer film [W/K]."""
        return float(self.terms.zone_whole_w_k(np.array([c.RSE.value])).sum())

    @property
    def paths(self) -> AirPaths:
        """The air paths."""
        return self.terms.paths


def hive_model(case: HiveCase, *, warm: bool = False, beside: HiveModel | None = None) -> HiveModel:
    """Return the model of a hive, with λ as moist and cold as its winter makes it, or its summer.

    ``beside`` is the same hive in the other season: its solids and air paths are taken over.
    """
    design, place = case.design, case.place
    # λ hangs on what a wall holds through a season, not on the hour: two sets do for a year.
    season = summer_materials if warm else winter_materials
    materials = season({key: case.materials[key] for key in design.material_ids}, place)
    hive = build_solids(design) if beside is None else beside.hive
    correction = case.shells(design)
    faces = shell_heat(design, hive, materials, correction)
    window = window_heat(design, materials)
    if beside is None:
        paths = air_paths(design, hive, place, case.parameters)
        terms = _terms(design, hive, faces, window, paths, correction, case.parameters, materials)
    else:
        layers, inner = _resistances(faces, window, correction, case.parameters)
        terms = replace(beside.terms, surface_layers_m2k_w=layers, path_inner_k_w=inner)
    return HiveModel(
        design=design,
        place=place,
        hive=hive,
        faces=faces,
        window=window,
        litres=cavity_litres(hive),
        terms=terms,
        correction=correction,
        materials=materials,
        parameters=case.parameters,
    )


def _terms(
    design: Design,
    hive: HiveSolids,
    faces: Mapping[Face, FaceHeat],
    window: FaceHeat | None,
    paths: AirPaths,
    correction: ShellCorrection,
    p: Parameters,
    materials: Mapping[str, Material],
) -> NestNetwork:
    wall_m2, lid_m2 = faces["walls"].area.inner_m2, faces["lid"].area.inner_m2
    rim_m2 = _rim_area_m2(hive, lid_m2)
    glass_m2 = window.area.inner_m2 if window is not None else 0.0
    areas = [
        lid_m2 - rim_m2,
        rim_m2,
        FRACTIONS[CROWN] * wall_m2,
        FRACTIONS[NEST] * wall_m2,
        FRACTIONS[BASE] * wall_m2,
        faces["floor"].area.inner_m2,
        glass_m2,
    ]
    by_surface = [faces[face] for face in SURFACE_FACE]
    if window is not None:
        by_surface[WINDOW] = window
    films = np.array([heat.film_m2k_w for heat in by_surface]) / p.film_factor
    layers, inner = _resistances(faces, window, correction, p)
    outer_m2, outer_share = _outside_of(faces, window)
    still = _still_air_m(design, paths)
    delta = c.VAPOUR_PERMEABILITY_AIR.value
    through_shell = _diffusion(faces, window) + delta * still
    pores = p.pores_co2 * _pores_m(design, faces, materials)
    breath = c.CO2_DIFFUSIVITY_AIR.value * (pores + still)
    # Both faces of combs that hang a pitch apart through all of the room.
    combs = np.array(FRACTIONS) * (2.0 * hive.cavity.volume_m3 / c.COMB_PITCH.value)

    return NestNetwork(
        paths=paths,
        surface_area_m2=_column(areas),
        surface_film_m2k_w=_column(films),
        surface_layers_m2k_w=layers,
        surface_ratio=_column([heat.outer_ratio for heat in by_surface]),
        surface_outer_share=_column([heat.outer_share for heat in by_surface]),
        path_inner_k_w=inner,
        path_outer_m2=_column(outer_m2),
        path_outer_share=_column(outer_share),
        zone_factor=_column(correction.zones),
        zone_vapour_kg_s_pa=_column(through_shell),
        zone_breath_m3_s=_column(breath),
        comb_area_m2=_column(combs),
        volume_m3=np.array([hive.cavity.volume_m3]),
        **_uncertain(p),
    )


def _uncertain(p: Parameters) -> dict[str, FloatArray]:
    """Return the parameters that are columns of the network as they are, each [1]."""
    return {
        name: np.array([value])
        for name, value in (
            ("plume_share", p.plume_share),
            ("mixing_base_w_k", p.mixing_nest_base_w_k),
            ("mixing_crown_w_k", p.mixing_nest_crown_w_k),
            ("wind_factor", p.wind_factor),
            ("cluster_factor", p.cluster_factor),
            ("rest_factor", p.rest_factor),
            ("fanning_factor", p.fanning_factor),
            ("core_offset_k", p.core_offset_k),
            ("activity_share", p.activity_share),
            ("film_factor", p.film_factor),
            ("bees_factor", p.bees_factor),
            ("fanning_most", p.fanning_most_m3_s_kg),
            ("fanning_speed", p.fanning_speed_m_s),
            ("cooling_most", p.cooling_most_1_s),
            ("brood_need", p.brood_need),
            ("rest_q10", p.rest_q10),
            ("mantle_degc", p.mantle_degc),
            ("broodless_airs_k", p.broodless_airs_k),
            ("liked_degc", p.liked_degc),
            ("fanning_cost_w_m3_s", p.fanning_cost_w_m3_s),
            ("cluster_leaves_k", p.cluster_leaves_k),
            ("brood_bees", p.brood_bees),
            ("heat_borne_k", p.heat_borne_k),
            ("damp_borne", p.damp_borne),
        )
    }


def _column(values: object) -> FloatArray:
    return np.asarray(values, dtype=float).reshape(-1, 1)


def _resistances(
    faces: Mapping[Face, FaceHeat],
    window: FaceHeat | None,
    correction: ShellCorrection,
    p: Parameters,
) -> tuple[FloatArray, FloatArray]:
    """Return what follows λ: resistances behind the surfaces [7, 1] [m²·K/W], of the paths [K/W].

    Paths are walls, lid, floor and window [4, 1]. A hive without a window has one that lets nothing
    through.
    """
    by_surface = [faces[face] for face in SURFACE_FACE]
    if window is not None:
        by_surface[WINDOW] = window
    layers = np.array([sum(heat.layers_m2k_w) for heat in by_surface]) / p.shell_factor
    # The rim sits between lid and wall; estimated, it is as cold as the worse of the two.
    layers[1] = min(layers[0], layers[2]) * correction.rim
    factor, film = p.shell_factor, p.film_factor
    heats = [faces["walls"], faces["lid"], faces["floor"]]
    inner = [h.film_m2k_w / (film * h.area.inner_m2) + 1 / (factor * h.shape_w_k) for h in heats]
    if window is None:
        inner.append(np.inf)
    else:
        area = window.area.inner_m2
        inner.append(window.film_m2k_w / (film * area) + 1 / (factor * window.shape_w_k))
    return _column(layers), _column(inner)


def _outside_of(
    faces: Mapping[Face, FaceHeat], window: FaceHeat | None
) -> tuple[list[float], list[float]]:
    """Return outer area [m²] and outer share of walls, lid, floor and window."""
    heats = [faces["walls"], faces["lid"], faces["floor"]]
    outer_m2, outer_share = [h.area.outer_m2 for h in heats], [h.outer_share for h in heats]
    if window is not None:
        return [*outer_m2, window.area.inner_m2], [*outer_share, window.outer_share]
    return [*outer_m2, 1.0], [*outer_share, 1.0]


def _still_air_m(design: Design, paths: AirPaths) -> FloatArray:
    """Return A/L of the still air in the openings by zone [3] [m], through which gases diffuse.

    L is the way through and the mouths at both ends (`MOUTH_OF_HOLE`).
    """
    spans, height = side_spans_m(design.form), cavity_height_m(design.form)
    parts = [p for o in colony_openings(design) for p in opening_parts(o, spans, height)]
    still_m, mouths = np.zeros(3), 2.0 * c.MOUTH_OF_HOLE.value
    for part, zone, area in zip(parts, paths.part_zone, paths.part_area_m2[:, 0], strict=True):
        number = part.opening.count
        radius = float(np.sqrt(area / number / np.pi))
        still_m[zone] += area / max(tunnel_m(part, design) + mouths * radius, _SHORTEST_M)
    return still_m


def _pores_m(
    design: Design, faces: Mapping[Face, FaceHeat], materials: Mapping[str, Material]
) -> FloatArray:
    """Return A/Σμd of the faces whose every layer is open-pored, by zone [3] [m]; nought else."""
    by_path = [
        faces[face].area.inner_m2
        / gas_resistance_m(design.shell.stack(face), materials, DIRECTIONS[face])
        for face in ("walls", "lid", "floor")
    ]
    result: FloatArray = ZONE_OF_PATH @ np.array([*by_path, 0.0])
    return result


def _diffusion(faces: Mapping[Face, FaceHeat], window: FaceHeat | None) -> FloatArray:
    """Return δ0·A/Σμd of the shell by zone [3] [kg/(s·Pa)]."""
    delta = c.VAPOUR_PERMEABILITY_AIR.value
    heats = [faces["walls"], faces["lid"], faces["floor"]] + ([window] if window else [])
    by_path = [delta * h.area.inner_m2 / h.vapour_resistance_m for h in heats]
    by_path += [0.0] * (4 - len(by_path))
    result: FloatArray = ZONE_OF_PATH @ np.array(by_path)
    return result


def _rim_area_m2(hive: HiveSolids, lid_m2: float) -> float:
    """Return the area of the strip along the lid's edge [m²], at most half the lid."""
    width = c.RIM_WIDTH.value
    cavity = hive.cavity
    if isinstance(cavity, Ring):
        middle = max(cavity.outer_radius_m - width, 0.0)
        strip = float(np.pi * (cavity.outer_radius_m**2 - middle**2))
    else:
        a, b = cavity.x1 - cavity.x0, cavity.y1 - cavity.y0
        strip = a * b - max(a - 2 * width, 0.0) * max(b - 2 * width, 0.0)
    return min(strip, lid_m2 / 2)
