"""Heat through the whole shell, with edges and corners.

The instant estimate that stands until the shell is solved in three dimensions: for every face

    1/L = Rsi/A_in + 1/(λ·S) + Rse/A_out,   S = A_in/d + 0.559·Σ(edges)/2 + 0.10·d·corners

with λ = d/R of the layers taken together. Against solved boxes of one material it is good to 1 to
2 %; for shells of very unequal faces or layers the error is larger (see docs/method.md).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from math import pi

import numpy as np
from numpy.typing import ArrayLike, NDArray

from calveth.core import constants as c
from calveth.core.heat.correction import AS_ESTIMATED, ShellCorrection
from calveth.core.heat.slab import (
    INNER_FILM_M2K_W,
    Direction,
    PlaneLayers,
    cylinder_resistance_m2k_w,
    plane_layers,
    vapour_layers_m,
)
from calveth.core.hive.design import FACES, Design, Face
from calveth.core.materials import Material
from calveth.core.solids.build import HiveSolids
from calveth.core.solids.quantities import FaceArea, face_areas
from calveth.core.solids.shapes import Ring

FloatArray = NDArray[np.float64]

DIRECTIONS: dict[Face, Direction] = {"walls": "horizontal", "lid": "up", "floor": "down"}
# A box has 8 corners of 3 faces: the four walls own two thirds, lid and floor a sixth each.
_CORNERS: dict[Face, float] = {"walls": 16 / 3, "lid": 4 / 3, "floor": 4 / 3}


@dataclass(frozen=True, slots=True, kw_only=True)
class FaceHeat:
    """How one face lets heat through.

    Attributes
    ----------
    layers_m2k_w : tuple of float
        Resistance of each layer per inner area, outermost first [m²·K/W].
    film_m2k_w : float
        Inner film [m²·K/W].
    shape_w_k : float
        Conductance of the layers with edges and corners, without films [W/K].
    outer_ratio : float
        Outer over inner area next to the middle of the face: 1 for plane faces, r2/r1 for a tree.
    vapour_resistance_m : float
        Σ μ·d per inner area, as an equivalent layer of still air [m].
    outer_share : float
        Share of the outer film that counts, less than 1 behind a ventilated gap.
    """

    face: Face
    area: FaceArea
    layers_m2k_w: tuple[float, ...]
    film_m2k_w: float
    shape_w_k: float
    outer_ratio: float
    vapour_resistance_m: float
    outer_share: float = 1.0

    def outer_film_m2k_w(self, rse_m2k_w: ArrayLike = c.RSE.value) -> FloatArray:
        """Return the outer film that counts [m²·K/W]: still air behind a ventilated gap."""
        layers = PlaneLayers(resistances_m2k_w=(), outer_share=self.outer_share)
        return layers.outer_film_m2k_w(rse_m2k_w)

    def whole_w_k(self, outer_film_m2k_w: ArrayLike = c.RSE.value) -> FloatArray:
        """Return the conductance of the face from air to air [W/K]."""
        rse = self.outer_film_m2k_w(outer_film_m2k_w)
        result: FloatArray = 1.0 / (
            self.film_m2k_w / self.area.inner_m2 + 1 / self.shape_w_k + rse / self.area.outer_m2
        )
        return result

    def middle_w_m2k(self, outer_film_m2k_w: ArrayLike = c.RSE.value) -> FloatArray:
        """Return U in the middle of the face per inner area [W/(m²·K)], EN ISO 6946."""
        rse = self.outer_film_m2k_w(outer_film_m2k_w)
        result: FloatArray = 1.0 / (
            self.film_m2k_w + sum(self.layers_m2k_w) + rse / self.outer_ratio
        )
        return result


def shell_heat(
    design: Design,
    hive: HiveSolids,
    materials: Mapping[str, Material],
    correction: ShellCorrection = AS_ESTIMATED,
) -> dict[Face, FaceHeat]:
    """Return the heat path of walls, lid and floor; a window takes its area from the walls.

    The estimate, times what solving the shell has shown.
    """
    areas = dict(face_areas(hive))
    if design.window is not None:
        walls = areas["walls"]
        glass = design.window.area_m2
        areas["walls"] = FaceArea(
            inner_m2=walls.inner_m2 - glass, outer_m2=walls.outer_m2 - glass, edge_m=walls.edge_m
        )
    faces = {face: _face_heat(design, hive, materials, face, areas[face]) for face in FACES}
    return {
        face: replace(heat, shape_w_k=heat.shape_w_k * float(getattr(correction, face)))
        for face, heat in faces.items()
    }


def window_heat(design: Design, materials: Mapping[str, Material]) -> FaceHeat | None:
    """Return the heat path of the window, None without one."""
    window = design.window
    if window is None:
        return None
    layers = plane_layers(window.stack, materials, "horizontal")
    area = FaceArea(inner_m2=window.area_m2, outer_m2=window.area_m2, edge_m=0.0)
    return FaceHeat(
        face="walls",
        area=area,
        layers_m2k_w=layers.resistances_m2k_w,
        film_m2k_w=INNER_FILM_M2K_W["horizontal"],
        shape_w_k=window.area_m2 / sum(layers.resistances_m2k_w),
        outer_ratio=1.0,
        vapour_resistance_m=sum(vapour_layers_m(window.stack, materials, layers)),
        outer_share=layers.outer_share,
    )


def whole_conductance_w_k(
    faces: Mapping[Face, FaceHeat],
    outer_film_m2k_w: ArrayLike = c.RSE.value,
    window: FaceHeat | None = None,
) -> FloatArray:
    """Return L of the whole shell, window included [W/K].

    Parameters
    ----------
    faces : mapping
        Heat of lid, walls and floor.
    outer_film_m2k_w : float or array
        Outer surface resistance, any shape [m²·K/W].
    window : FaceHeat or None
        Of a window, None for none.
    """
    paths = [faces[face] for face in FACES] + ([window] if window is not None else [])
    total: FloatArray = np.sum([path.whole_w_k(outer_film_m2k_w) for path in paths], axis=0)
    return total


def mass_to_conductance_kg_k_w(colony_mass_kg: float, conductance_w_k: float) -> float:
    """Return the mass-to-conductance ratio [kg·K/W] (Mitchell, Int. J. Biometeorology 2016).

    Parameters
    ----------
    colony_mass_kg : float
        Of the bees [kg].
    conductance_w_k : float
        Of the whole shell [W/K].
    """
    return colony_mass_kg / conductance_w_k


def _face_heat(
    design: Design,
    hive: HiveSolids,
    materials: Mapping[str, Material],
    face: Face,
    area: FaceArea,
) -> FaceHeat:
    stack = design.shell.stack(face)
    direction = DIRECTIONS[face]
    layers = plane_layers(stack, materials, direction)
    plane = layers.resistances_m2k_w
    # Layers outside a ventilated gap are washed by outside air: they add no room for edges either.
    thickness = max(
        sum(layer.thickness_m for layer, r in zip(stack, plane, strict=True) if r > 0), 1e-3
    )
    sd = vapour_layers_m(stack, materials, layers)
    if not design.form.of_boards and face == "walls":
        return _trunk(design, hive, layers, sd, area)
    conductivity = thickness / max(sum(plane), 1e-6)
    corners = 0.0 if isinstance(hive.cavity, Ring) else _CORNERS[face]
    shape_m = (
        area.inner_m2 / thickness
        + c.EDGE_SHAPE_FACTOR.value * area.edge_m / 2
        + c.CORNER_SHAPE_FACTOR.value * thickness * corners
    )
    return FaceHeat(
        face=face,
        area=area,
        layers_m2k_w=plane,
        film_m2k_w=INNER_FILM_M2K_W[direction],
        shape_w_k=conductivity * shape_m,
        outer_ratio=1.0,
        vapour_resistance_m=sum(sd),
        outer_share=layers.outer_share,
    )


def _trunk(
    design: Design,
    hive: HiveSolids,
    flat: PlaneLayers,
    sd: list[float],
    area: FaceArea,
) -> FaceHeat:
    """Return the round wall of a tree: layers as nested cylinders around the cavity."""
    assert isinstance(hive.cavity, Ring)
    radius = hive.cavity.outer_radius_m
    stack, plane = design.shell.walls, flat.resistances_m2k_w
    outer = radius + design.shell.thickness_m("walls")
    trunk = outer
    layers: list[float] = []
    vapour = 0.0
    for index, layer in enumerate(stack):
        inner = outer - layer.thickness_m
        # Per area of the cavity wall, so scaled from the layer's own inner radius to the cavity's:
        # the resistance of a flat layer of thickness 1, times what the ring makes of it.
        ring = cylinder_resistance_m2k_w(inner, outer, layer.thickness_m) * radius / inner
        layers.append(ring * plane[index])
        vapour += ring * sd[index]
        if plane[index] == 0:  # outside a ventilated gap: washed by outside air
            trunk = inner
        outer = inner
    edge_w_k = (
        c.EDGE_SHAPE_FACTOR.value * area.edge_m / 2 * ((trunk - radius) / max(sum(plane), 1e-6))
    )
    return FaceHeat(
        face="walls",
        area=area,
        layers_m2k_w=tuple(layers),
        film_m2k_w=INNER_FILM_M2K_W["horizontal"],
        shape_w_k=area.inner_m2 / max(sum(layers), 1e-6) + edge_w_k,
        outer_ratio=trunk / radius,
        vapour_resistance_m=vapour,
        outer_share=flat.outer_share,
    )


def box_shape_factor_m(
    sides_m: tuple[float, float, float],
    thickness_m: float,
    edge_factor: float = c.EDGE_SHAPE_FACTOR.value,
    corner_factor: float = c.CORNER_SHAPE_FACTOR.value,
) -> float:
    """Return the conduction shape factor S [m] of a hollow box with walls of one thickness.

    S = A/d + edge·Σ edges + corner·8·d; with 0.54 and 0.15 it is the formula of Langmuir, Adams
    and Meikle (1913) for fixed surface temperatures.

    Parameters
    ----------
    sides_m : tuple of three floats
        Inner sides of the box [m].
    thickness_m : float
        Of the walls [m].
    edge_factor : float
        Shape factor of an edge per its length [-].
    corner_factor : float
        Shape factor of a corner per thickness [-].
    """
    a, b, h = sides_m
    area = 2 * (a * b + b * h + a * h)
    edges = 4 * (a + b + h)
    return area / thickness_m + edge_factor * edges + corner_factor * 8 * thickness_m


def cylinder_conductance_w_mk(inner_radius_m: float, outer_radius_m: float, lam: float) -> float:
    """Return 2·π·λ/ln(r2/r1) [W/(m·K)] of a hollow cylinder of conductivity ``lam``.

    Parameters
    ----------
    inner_radius_m : float
        Of the hollow [m].
    outer_radius_m : float
        Of the outside [m].
    lam : float
        Conductivity λ [W/(m·K)].
    """
    return 2 * pi * inner_radius_m / cylinder_resistance_m2k_w(inner_radius_m, outer_radius_m, lam)
