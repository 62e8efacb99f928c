"""The hive as bodies between its air zones, and what its solved conduction tells.

Every layer conducts as its resistance in the face says (EN ISO 6946, with gaps, foils and mixed
layers), so the solved hive and the estimate differ by geometry alone. Openings are taken as closed,
frames as air.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.airflow.paths import zone_tops_m
from calveth.core.conduction.grid import Fineness, make_grid
from calveth.core.conduction.parts import AirSpace, Body, ConductionModel, Side
from calveth.core.conduction.solve import Conduction, solve_conduction
from calveth.core.errors import DomainError
from calveth.core.heat.shell import DIRECTIONS
from calveth.core.heat.slab import Direction, plane_layers
from calveth.core.hive.design import Design, Face
from calveth.core.hive.solids import Cuboid, HiveSolids, Solid, build_solids
from calveth.core.materials import Layer, Material

FloatArray = NDArray[np.float64]

ZONES = ("base", "nest", "crown")
HEAT_FILMS: Mapping[Side, float] = {
    "up": c.RSI_UP.value, "horizontal": c.RSI_HORIZONTAL.value, "down": c.RSI_DOWN.value,
}  # fmt: skip
DAMP_FILMS: Mapping[Side, float] = dict.fromkeys(("up", "horizontal", "down"), c.RSI_EDGE.value)
"""Inner films of EN ISO 13788, 4.4.1 for corners and behind things: on the safe side for damp."""

_AROUND_M = 0.01
"""Room that is drawn round the hive for the outside air [m]."""
_RECESS = "outside, before the window"
HIVE_FINENESS = Fineness(first_m=0.006, growth=1.5, least=3)


@dataclass(frozen=True, slots=True, kw_only=True)
class Spot:
    """A place on the inner surface: its name, where it is [m], its temperature factor."""

    name: str
    x_m: float
    y_m: float
    z_m: float
    factor: float


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class HiveConduction:
    """The solved shell of a hive.

    Attributes
    ----------
    conductance_w_k : float
        L of the whole shell, all zones at one temperature [W/K].
    zone_w_k : array [3]
        L of base, nest and crown to the outside [W/K].
    part_w_k : dict
        What goes into every part from inside, and what each part would add if it conducted twice
        as well: (W/K, W/K).
    coldest : dict
        The coldest spot of each inner surface by name: beside edges with `DAMP_FILMS`, in the
        middle of faces with `HEAT_FILMS`.
    cells, residual, imbalance
        Of the solution.
    """

    conductance_w_k: float
    zone_w_k: FloatArray
    part_w_k: dict[str, tuple[float, float]]
    coldest: dict[str, Spot]
    cells: int
    residual: float
    imbalance: float

    @property
    def coldest_spot(self) -> Spot:
        """The coldest of all."""
        return min(self.coldest.values(), key=lambda spot: spot.factor)


@lru_cache(maxsize=16)
def _model(design: Design, films: str, materials: tuple[Material, ...]) -> tuple[
    ConductionModel, float
]:  # fmt: skip
    """Return the bodies of a hive, its half or quarter, and how many of those make the hive."""
    hive = build_solids(design)
    cavity = hive.cavity
    if not isinstance(cavity, Cuboid):
        raise DomainError("hive", "round", "is not solved yet; its walls are worked out as a pipe")
    table = {m.id: m for m in materials}
    bodies = list(_bodies(design, hive, table))
    outer = _bounds([b.shape for b in bodies])
    around = Cuboid(
        x0=outer.x0 - _AROUND_M, x1=outer.x1 + _AROUND_M, y0=outer.y0 - _AROUND_M,
        y1=outer.y1 + _AROUND_M, z0=outer.z0 - _AROUND_M, z1=outer.z1 + _AROUND_M,
    )  # fmt: skip
    inner = HEAT_FILMS if films == "heat" else DAMP_FILMS
    low, high = zone_tops_m(cavity.z1 - cavity.z0)
    levels = (cavity.z0, cavity.z0 + low, cavity.z0 + high, cavity.z1)
    inside = [
        AirSpace(
            name=name,
            shape=Cuboid(x0=cavity.x0, x1=cavity.x1, y0=cavity.y0, y1=cavity.y1, z0=z0, z1=z1),
            film_m2k_w=inner,
        )
        for name, z0, z1 in zip(ZONES, levels[:-1], levels[1:], strict=True)
    ]
    outer_films: Mapping[Side, float] = dict.fromkeys(("up", "horizontal", "down"), c.RSE.value)
    recess = _recess(design, hive, around)
    if recess is not None:
        inside.append(AirSpace(name=_RECESS, shape=recess, film_m2k_w=outer_films))
    window = design.window
    half_x = window is None or window.side in ("front", "back")
    half_y = window is None or window.side in ("left", "right")
    cut = Cuboid(
        x0=around.x0, x1=0.5 * (cavity.x0 + cavity.x1) if half_x else around.x1,
        y0=around.y0, y1=0.5 * (cavity.y0 + cavity.y1) if half_y else around.y1,
        z0=around.z0, z1=around.z1,
    )  # fmt: skip
    model = ConductionModel(
        outside=(AirSpace(name="outside", shape=cut, film_m2k_w=outer_films),),
        bodies=tuple(
            Body(part=b.part, shape=shape, conductivity_w_mk=b.conductivity_w_mk)
            for b in bodies
            if (shape := _common(b.shape, cut)) is not None
        ),
        inside=tuple(
            AirSpace(name=s.name, shape=shape, film_m2k_w=s.film_m2k_w)
            for s in inside
            if (shape := _common(s.shape, cut)) is not None
        ),
    )
    return model, float(2 ** (half_x + half_y))


def _bodies(design: Design, hive: HiveSolids, table: Mapping[str, Material]) -> list[Body]:
    """Return the solids with the conductivity their layer has in its face."""
    found = []
    resistances = {
        face: plane_layers(design.shell.stack(face), table, DIRECTIONS[face]).resistances_m2k_w
        for face in ("walls", "lid", "floor")
    }
    panes = iter(_pane_conductivities(design, table, "horizontal"))
    for solid in hive.solids:
        if solid.face is None or solid.layer is None:
            if solid.part == "window":
                found.append(_body(solid, "window", next(panes)))
            continue
        layer = design.shell.stack(solid.face)[solid.layer]
        r = resistances[solid.face][solid.layer]
        if r <= 0:
            continue  # outside an open gap: outside air stands there
        found.append(_body(solid, _part(solid, layer, table), layer.thickness_m / r))
    return found


def _recess(design: Design, hive: HiveSolids, around: Cuboid) -> Cuboid | None:
    """Return the hole in the wall before the panes of a window, open to the outside air."""
    panes = [s.shape for s in hive.solids if s.part == "window" and isinstance(s.shape, Cuboid)]
    if design.window is None or not panes:
        return None
    box = _bounds(panes)
    beyond = {
        "front": replace(box, y0=around.y0, y1=box.y0),
        "back": replace(box, y0=box.y1, y1=around.y1),
        "left": replace(box, x0=around.x0, x1=box.x0),
        "right": replace(box, x0=box.x1, x1=around.x1),
    }
    return beyond[design.window.side]


def _pane_conductivities(
    design: Design, table: Mapping[str, Material], direction: Direction
) -> list[float]:
    """Return λ of the layers of the window from the inside out [W/(m·K)]."""
    if design.window is None:
        return []
    stack = design.window.stack
    r = plane_layers(stack, table, direction).resistances_m2k_w
    return [y.thickness_m / k for y, k in zip(stack, r, strict=True)][::-1]


def _body(solid: Solid, part: str, conductivity: float) -> Body:
    assert isinstance(solid.shape, Cuboid)
    return Body(part=part, shape=solid.shape, conductivity_w_mk=conductivity)


def _part(solid: Solid, layer: Layer, table: Mapping[str, Material]) -> str:
    face: Face | None = solid.face
    return f"{face}: {table[layer.material].name}"


def _bounds(shapes: Sequence[Cuboid]) -> Cuboid:
    return Cuboid(
        x0=min(s.x0 for s in shapes), x1=max(s.x1 for s in shapes),
        y0=min(s.y0 for s in shapes), y1=max(s.y1 for s in shapes),
        z0=min(s.z0 for s in shapes), z1=max(s.z1 for s in shapes),
    )  # fmt: skip


def _common(a: Cuboid, b: Cuboid) -> Cuboid | None:
    """Return what two blocks share, None when that is nothing."""
    shape = Cuboid(
        x0=max(a.x0, b.x0), x1=min(a.x1, b.x1), y0=max(a.y0, b.y0), y1=min(a.y1, b.y1),
        z0=max(a.z0, b.z0), z1=min(a.z1, b.z1),
    )  # fmt: skip
    whole = shape.x1 > shape.x0 and shape.y1 > shape.y0 and shape.z1 > shape.z0
    return shape if whole else None


def hive_conduction(
    design: Design, materials: Mapping[str, Material], fineness: Fineness = HIVE_FINENESS
) -> HiveConduction:
    """Return the solved conduction of a rectangular hive with outer film 0.04 m²·K/W.

    Raises
    ------
    DomainError
        For a round hive, or a grid too large.
    NotSolvedError
        When there is no answer.
    """
    used = tuple(materials[key] for key in sorted(set(design.material_ids)))
    model, times = _model(design, "heat", used)
    heat = solve_conduction(model, make_grid(model, fineness))
    damp_model, _ = _model(design, "damp", used)
    damp = solve_conduction(damp_model, make_grid(damp_model, fineness))
    # Away from edges the air moves as over any face: the films of EN ISO 6946 hold there.
    middles = {
        name: spot
        for name, spot in _coldest(heat, build_solids(design)).items()
        if name.endswith("middle")
    }
    out = _outdoors(heat)
    indoors = [k for k in range(len(heat.model.spaces)) if k not in out]
    zones = heat.coupling_w_k[np.ix_(indoors, out)].sum(axis=1) * times
    return HiveConduction(
        conductance_w_k=float(zones.sum()),
        zone_w_k=zones,
        part_w_k=_by_part(heat, times),
        coldest=_coldest(damp, build_solids(design)) | middles,
        cells=heat.grid.cells,
        residual=max(heat.residual, damp.residual),
        imbalance=max(heat.imbalance, damp.imbalance),
    )


def _outdoors(found: Conduction) -> list[int]:
    """Return the spaces that are outside air."""
    return [k for k, s in enumerate(found.model.spaces) if s.name in ("outside", _RECESS)]


def _indoor_kelvin(found: Conduction) -> FloatArray:
    """Return 1 for spaces in the hive, 0 for those outside it."""
    result = np.ones(len(found.model.spaces))
    result[_outdoors(found)] = 0.0
    return result


def _by_part(heat: Conduction, times: float) -> dict[str, tuple[float, float]]:
    """Return W/K into each part from inside, and λ·dL/dλ of each part [W/K]."""
    inside = _indoor_kelvin(heat)
    watts = inside[heat.surfaces.space] * heat.surface_w(inside)
    into = np.zeros(len(heat.model.bodies))
    np.add.at(into, heat.surfaces.body, watts)
    gains = heat.sensitivity_w_k(*_outdoors(heat))
    found: dict[str, tuple[float, float]] = {}
    for body, w, g in zip(heat.model.bodies, into, gains, strict=True):
        old = found.get(body.part, (0.0, 0.0))
        found[body.part] = (old[0] + float(w) * times, old[1] + float(g) * times)
    return found


def _coldest(damp: Conduction, hive: HiveSolids) -> dict[str, Spot]:
    """Return the coldest spot of every named stretch of the inner surface."""
    room = hive.cavity
    assert isinstance(room, Cuboid)
    s = damp.surfaces
    inside = _indoor_kelvin(damp)
    factor = damp.surface_degc(inside)
    found: dict[str, Spot] = {}
    for k in np.flatnonzero(inside[s.space]):
        x, y, z = (float(v) for v in s.centre_m[k])
        name = spot_name(room, int(s.axis[k]), x, y, z)
        if name not in found or factor[k] < found[name].factor:
            found[name] = Spot(name=name, x_m=x, y_m=y, z_m=z, factor=float(factor[k]))
    return found


def spot_name(room: Cuboid, axis: int, x: float, y: float, z: float) -> str:
    """Return what a beekeeper calls a place on the inner surface; normal along ``axis``."""
    near = c.RIM_WIDTH.value
    edge_x = min(x - room.x0, room.x1 - x) < near
    edge_y = min(y - room.y0, room.y1 - y) < near
    if axis == 2:
        plate = "lid" if z > 0.5 * (room.z0 + room.z1) else "floor"
        if edge_x and edge_y:
            return f"{plate} in the corner"
        return f"{plate} rim" if edge_x or edge_y else f"{plate} middle"
    if room.z1 - z < near:
        return "wall under the lid"
    if z - room.z0 < near:
        return "wall above the floor"
    across = edge_y if axis == 0 else edge_x
    return "corner of the walls" if across else "wall middle"
