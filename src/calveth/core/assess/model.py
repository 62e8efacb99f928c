"""What one design brings to the balance: surfaces, couplings and air paths as arrays."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.airflow.paths import BASE, CROWN, NEST, AirPaths, air_paths
from calveth.core.climate.place import Place
from calveth.core.heat.shell import FaceHeat, shell_heat
from calveth.core.hive.design import Design, Face
from calveth.core.hive.quantities import cavity_litres
from calveth.core.hive.solids import HiveSolids, Ring, build_solids
from calveth.core.materials import Material

FloatArray = NDArray[np.float64]

SURFACES = ("lid middle", "lid rim", "upper wall", "middle wall", "lower wall", "floor")
"""Inner surfaces that may turn wet, in the order of every surface array."""
SURFACE_ZONE = np.array([CROWN, CROWN, CROWN, NEST, BASE, BASE])
SURFACE_FACE: tuple[Face, ...] = ("lid", "lid", "walls", "walls", "walls", "floor")
_CONVECTION = np.array(
    [
        c.CONVECTION_UP.value,
        c.CONVECTION_UP.value,
        c.CONVECTION_HORIZONTAL.value,
        c.CONVECTION_HORIZONTAL.value,
        c.CONVECTION_HORIZONTAL.value,
        c.CONVECTION_DOWN.value,
    ]
)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class HiveModel:
    """A design at a place, ready to be balanced.

    Attributes
    ----------
    surface_area_m2, surface_film_m2k_w, surface_layers_m2k_w, surface_ratio : array [6]
        Area, inner film, layers per inner area, and outer over inner area of `SURFACES`.
    surface_convection_w_m2k : array [6]
        Convective part of the inner film, which carries vapour.
    zone_vapour_kg_s_pa : array [3]
        Diffusion conductance for vapour from each zone through the shell [kg/(s·Pa)].
    zone_breath_m3_s : array [3]
        Diffusion conductance D·A/(μ·d) for CO2 through the shell and D·A/L through the still air
        in the openings [m³/s]; little, but it is what is left when the air stands.
    comb_area_m2 : array [3]
        Both sides of the combs in each zone [m²].
    """

    design: Design
    place: Place
    hive: HiveSolids
    faces: dict[Face, FaceHeat]
    paths: AirPaths
    litres: float
    surface_area_m2: FloatArray
    surface_film_m2k_w: FloatArray
    surface_layers_m2k_w: FloatArray
    surface_ratio: FloatArray
    surface_convection_w_m2k: FloatArray
    zone_vapour_kg_s_pa: FloatArray
    zone_breath_m3_s: FloatArray
    comb_area_m2: FloatArray

    def zone_whole_w_k(self, outer_film_m2k_w: FloatArray) -> FloatArray:
        """Return the whole conductance of each zone with edges [3, N] for films [N]."""
        walls = self.faces["walls"].whole_w_k(outer_film_m2k_w)
        share = c.ZONE_SHARE.value
        return np.stack(
            [
                share * walls + self.faces["floor"].whole_w_k(outer_film_m2k_w),
                (1 - 2 * share) * walls,
                share * walls + self.faces["lid"].whole_w_k(outer_film_m2k_w),
            ]
        )


def hive_model(design: Design, place: Place, materials: Mapping[str, Material]) -> HiveModel:
    """Return the model of a design at a place."""
    hive = build_solids(design)
    faces = shell_heat(design, hive, materials)
    share = c.ZONE_SHARE.value
    wall_m2 = faces["walls"].area.inner_m2
    lid_m2 = faces["lid"].area.inner_m2
    rim_m2 = _rim_area_m2(hive, lid_m2)
    areas = [
        lid_m2 - rim_m2,
        rim_m2,
        share * wall_m2,
        (1 - 2 * share) * wall_m2,
        share * wall_m2,
        faces["floor"].area.inner_m2,
    ]
    layers = np.array([sum(faces[face].layers_m2k_w) for face in SURFACE_FACE])
    ratio = np.array([faces[face].outer_ratio for face in SURFACE_FACE])
    films = np.array([faces[face].film_m2k_w for face in SURFACE_FACE])
    # The rim sits between lid and wall and is as cold as the worse of the two.
    films[1] = c.RSI_EDGE.value
    layers[1] = min(layers[0], layers[2])
    delta = c.VAPOUR_PERMEABILITY_AIR.value
    by_face = {
        face: delta * heat.area.inner_m2 / heat.vapour_resistance_m for face, heat in faces.items()
    }
    paths = air_paths(design, hive, place)
    through_shell = np.array(
        [
            share * by_face["walls"] + by_face["floor"],
            (1 - 2 * share) * by_face["walls"],
            share * by_face["walls"] + by_face["lid"],
        ]
    )
    through_openings = np.zeros(3)
    np.add.at(through_openings, paths.opening_zone, paths.opening_area_m2)
    d_co2 = c.CO2_DIFFUSIVITY_AIR.value
    return HiveModel(
        design=design,
        place=place,
        hive=hive,
        faces=faces,
        paths=paths,
        litres=cavity_litres(hive),
        surface_area_m2=np.array(areas),
        surface_film_m2k_w=films,
        surface_layers_m2k_w=layers,
        surface_ratio=ratio,
        surface_convection_w_m2k=_CONVECTION,
        zone_vapour_kg_s_pa=through_shell,
        zone_breath_m3_s=d_co2
        * (through_shell / delta + through_openings / design.shell.thickness_m("walls")),
        comb_area_m2=np.array([share, 1 - 2 * share, share])
        * (2.0 * hive.cavity.volume_m3 / c.COMB_PITCH.value),
    )


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
