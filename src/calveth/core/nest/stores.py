"""The stores of water a hive has besides its air, by name: quilt and thirsty outer wall.

What a store holds, through what it is filled and what dries it is stated here once, from the same
layers and faces as the balance; `moisture` follows each through the year.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.moisture.rain import drinks_rain, rain_capacity_kg_m2
from calveth.core.nest.network import HiveModel

FloatArray = NDArray[np.float64]

StoreName = Literal["quilt", "outer wall"]
STORES: tuple[StoreName, ...] = ("quilt", "outer wall")
"""The stores in the order of every array of `WaterStores`."""
QUILT, OUTER_WALL = range(2)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class WaterStores:
    """The stores of one hive as arrays [2] in the order of `STORES`; one it lacks has no area.

    Attributes
    ----------
    layer : array of int [2]
        Which layer of lid or walls holds the water, 0 outermost; -1 where there is none.
    area_m2, capacity_kg : array [2]
        Of the store, and what it holds before it drips or takes no more.
    sd_inside_m : array [2]
        Vapour resistance between the bees' air and the middle of the store [m].
    inner_share : array [2]
        Share of the resistance between inside and outside air that lies on its warm side [-].
    vents_m2 : array [2]
        Openings through which outside air washes it.
    painted : bool
        Whether a film or a tight board keeps the rain from thirsty layers behind it.
    """

    layer: NDArray[np.int_]
    area_m2: FloatArray
    capacity_kg: FloatArray
    sd_inside_m: FloatArray
    inner_share: FloatArray
    vents_m2: FloatArray
    painted: bool


def water_stores(model: HiveModel) -> WaterStores:
    """Return the stores of water of a hive as it is set in ``model``."""
    stores = WaterStores(
        layer=np.array([-1, -1]),
        area_m2=np.zeros(2),
        capacity_kg=np.zeros(2),
        sd_inside_m=np.zeros(2),
        inner_share=np.zeros(2),
        vents_m2=np.zeros(2),
        painted=_painted(model),
    )
    _put_quilt(stores, model)
    _put_outer_wall(stores, model)
    return stores


def _put_quilt(stores: WaterStores, model: HiveModel) -> None:
    """Put in the thickest layer of the quilt, gaps and cloths left out."""
    lid, table = model.design.shell.lid, model.materials
    at = [
        k for k, y in enumerate(lid) if y.fitting == "quilt" and table[y.material].kind == "solid"
    ]
    if not at:
        return
    k = max(at, key=lambda n: lid[n].thickness_m)
    quilt, material, heat = lid[k], table[lid[k].material], model.faces["lid"]
    below = sum(table[y.material].sd_m(y.thickness_m) for y in lid[k + 1 :])
    layers, area = heat.layers_m2k_w, heat.area.inner_m2
    inner = heat.film_m2k_w + sum(layers[k + 1 :]) + 0.5 * layers[k]
    weight = area * quilt.thickness_m * material.density_kg_m3
    stores.layer[QUILT], stores.area_m2[QUILT] = k, area
    stores.capacity_kg[QUILT] = weight * model.parameters.quilt_capacity_kg_kg
    stores.sd_inside_m[QUILT] = below + 0.5 * material.sd_m(quilt.thickness_m)
    total = heat.film_m2k_w + sum(layers) + float(heat.outer_film_m2k_w())
    stores.inner_share[QUILT] = inner / total
    stores.vents_m2[QUILT] = sum(y.vents_m2_m for y in lid[: k + 1]) * heat.area.edge_m


def _put_outer_wall(stores: WaterStores, model: HiveModel) -> None:
    """Put in the outermost layer of the walls where it is bare and drinks rain."""
    walls, table, heat = model.design.shell.walls, model.materials, model.faces["walls"]
    if not drinks_rain(table[walls[0].material]):
        return
    layers = heat.layers_m2k_w
    stores.layer[OUTER_WALL], stores.area_m2[OUTER_WALL] = 0, heat.area.outer_m2
    most = rain_capacity_kg_m2(
        table[walls[0].material], walls[0].thickness_m, model.parameters.rain_fill
    )
    stores.capacity_kg[OUTER_WALL] = most * heat.area.outer_m2
    stores.sd_inside_m[OUTER_WALL] = sum(
        table[y.material].sd_m(y.thickness_m) for y in walls[1:]
    ) + 0.5 * table[walls[0].material].sd_m(walls[0].thickness_m)
    total = heat.film_m2k_w + sum(layers) + c.RSE.value
    stores.inner_share[OUTER_WALL] = (heat.film_m2k_w + sum(layers[1:]) + 0.5 * layers[0]) / total


def _painted(model: HiveModel) -> bool:
    thirsty = [drinks_rain(model.materials[y.material]) for y in model.design.shell.walls]
    return any(thirsty) and not thirsty[0]
