"""Cold spots of the inner surface: what a beekeeper calls them, and the limit of a fine grid there.

Along an inner edge the solid stands round three quarters of it, and the temperature rises with the
distance r from it as r^(2/3) (the singular term of a wedge of 270°, Williams 1952): the nearest
piece of surface of any grid is warmer than the edge. The edge is read from two pieces by that law.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import isinf

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.conduction.grid import Sharp
from calveth.core.conduction.hive_model import ROOM, ZONES
from calveth.core.conduction.parts import Body
from calveth.core.conduction.solve import Conduction
from calveth.core.conduction.solved import Solved, room_limits_m
from calveth.core.hive.zones import zone_at, zone_tops_m
from calveth.core.solids.shapes import Cuboid, Ring

FloatArray = NDArray[np.float64]

# Power of the distance from an edge of 270° by which the temperature rises: 180°/270°.
_EDGE_POWER = 2.0 / 3.0
_SAME_M = 1e-7


@dataclass(frozen=True, slots=True, kw_only=True)
class Spot:
    """A place on the inner surface: its name, where it is [m], its zone and temperature factor.

    ``zone`` is 0, 1 or 2 for base, nest and crown.
    """

    name: str
    x_m: float
    y_m: float
    z_m: float
    factor: float
    zone: int


def to_the_limit(solved: Solved, in_room: NDArray[np.bool_]) -> FloatArray:
    """Return temperature factors of the surfaces [n], as a very fine grid would have them.

    Pieces on an inner edge get the value at the edge itself, by r^(2/3) through them and the next.
    Pieces where a named stretch begins, `RIM_WIDTH` from an edge, get the value there, straight
    between them and the last piece before. Beside two edges both corrections add; only pieces of
    one body go together. The still air that fills an opening has its mean: it is no surface.
    """
    factor = solved.field.surface_degc(solved.space_share.sum(axis=0))
    return limit_factors(solved.field, factor, in_room, room_limits_m(solved.parts))


def limit_factors(
    field: Conduction, factor: FloatArray, in_room: NDArray[np.bool_], room: Sharp
) -> FloatArray:
    """Return temperature factors [n] read to the edges of a room; see `to_the_limit`.

    ``factor`` [n] is what the grid tells, ``room`` where the room ends along x, y and z [m]: as far
    as infinity where it goes on past what was solved.
    """
    s, edges = field.surfaces, field.grid.edges_m
    at = np.stack([np.searchsorted(e, s.box_m[:, a] - 1e-9) for a, e in enumerate(edges)], axis=1)
    sizes = [len(e) + 2 for e in edges]

    def code(index: NDArray[np.int64], normal: NDArray[np.int64]) -> NDArray[np.int64]:
        x, y, z = index.T
        number: NDArray[np.int64] = ((normal * sizes[0] + x) * sizes[1] + y) * sizes[2] + z
        return number

    own = code(at, s.axis)
    order = np.argsort(own)

    def beside(rows: NDArray[np.bool_], axis: int, step: int) -> NDArray[np.int64]:
        """Return the number of the next piece of the same body, -1 where there is none."""
        moved = at[rows]
        moved[:, axis] += step
        codes = code(moved, s.axis[rows])
        other = order[np.minimum(np.searchsorted(own, codes, sorter=order), len(own) - 1)]
        there = (own[other] == codes) & (s.body[other] == s.body[rows])
        return np.where(there, other, -1)

    result = factor.copy()
    for axis, limits in enumerate(room):
        for limit, way in zip(limits, (1, -1), strict=True):
            if isinf(limit):
                continue
            r = way * (s.box_m[:, axis] - limit)
            along = in_room & (s.axis != axis)
            edge = along & (_near(edges[axis], at[:, axis], limit, way) < _SAME_M)
            result[edge] += _at_the_edge(factor, r, np.flatnonzero(edge), beside(edge, axis, way))
            inner = along & (r >= c.RIM_WIDTH.value)
            before, after = beside(inner, axis, -way), beside(inner, axis, way)
            result[inner] += _where_it_begins(factor, r, np.flatnonzero(inner), before, after)
    for number, body in enumerate(field.model.bodies):
        if body.role == "opening air":
            here = in_room & (s.body == number)
            area = s.area_m2[here]
            result[here] = (factor[here] * area).sum() / max(area.sum(), 1e-12)
    return np.maximum(result, 0.0)


def _at_the_edge(
    factor: FloatArray, r: FloatArray, one: NDArray[np.int64], other: NDArray[np.int64]
) -> FloatArray:
    """Return what pieces on an edge are to change by, to have the value at the edge."""
    a, b = r[one] ** _EDGE_POWER, np.maximum(r[other], 1e-9) ** _EDGE_POWER
    change = -(factor[other] - factor[one]) * a / (b - a)
    result: FloatArray = np.where(other >= 0, change, 0.0)
    return result


def _where_it_begins(
    factor: FloatArray,
    r: FloatArray,
    one: NDArray[np.int64],
    before: NDArray[np.int64],
    after: NDArray[np.int64],
) -> FloatArray:
    """Return what the first pieces of a stretch are to change by, to have the value at its begin.

    Between the straight line to the piece before, which lies below a field that flattens, and that
    from the piece after, which lies above.
    """
    first = (before >= 0) & (r[before] < c.RIM_WIDTH.value)
    back = r[one] - c.RIM_WIDTH.value
    low = (factor[before] - factor[one]) * back / np.where(first, r[one] - r[before], 1.0)
    high = (factor[one] - factor[after]) * back / np.where(after >= 0, r[after] - r[one], 1.0)
    change = np.where(after >= 0, 0.5 * (low + high), low)
    result: FloatArray = np.where(first, change, 0.0)
    return result


def _near(edges: FloatArray, cell: NDArray[np.int64], limit: float, way: int) -> FloatArray:
    """Return how far the nearer face of cells is from a limit [m]; numbers are one past theirs."""
    face = edges[np.clip(cell - 1 if way > 0 else cell, 0, len(edges) - 1)]
    distance: FloatArray = np.abs(face - limit)
    return distance


def coldest_spots(solved: Solved) -> dict[str, Spot]:
    """Return the coldest spot of every named stretch of the inner surface."""
    field = solved.field
    s = field.surfaces
    names = [space.name for space in field.model.spaces]
    in_room = np.array([n in (*ZONES, ROOM) for n in names])[s.space]
    factor = to_the_limit(solved, in_room)
    cavity = solved.parts.hive.cavity
    tops = zone_tops_m(cavity.z1 - cavity.z0)
    result: dict[str, Spot] = {}
    inside = np.flatnonzero(in_room)
    # Pieces of one body that look one way and lie near the same edges have one name; it is asked
    # for the coldest of them alone.
    near = c.RIM_WIDTH.value
    x0, y0, z0 = s.box_m[inside].T
    sides = [z0 - cavity.z0 < near, cavity.z1 - z0 < near, 2 * z0 > cavity.z0 + cavity.z1]
    if isinstance(cavity, Ring):
        sides.append(cavity.outer_radius_m - x0 < near)
    else:
        sides.append(np.minimum(x0 - cavity.x0, cavity.x1 - x0) < near)
        sides.append(np.minimum(y0 - cavity.y0, cavity.y1 - y0) < near)
    code = s.body[inside].astype(np.int64) * 3 + s.axis[inside]
    for side in sides:
        code = 2 * code + side
    order = inside[np.lexsort((inside, factor[inside], code))]
    sorted_code = np.sort(code)
    first: NDArray[np.int_] = np.flatnonzero(np.r_[True, sorted_code[1:] != sorted_code[:-1]])
    for k in sorted(order[first], key=lambda k: (factor[k], k)):
        body = field.model.bodies[int(s.body[k])]
        x, y, z = (float(v) for v in s.box_m[k])
        name = surface_name(body, cavity, int(s.axis[k]), (x, y, z))
        if name not in result:
            zone = zone_at(z - cavity.z0, tops)
            x, y, z = (float(v) for v in s.centre_m[k])
            result[name] = Spot(name=name, x_m=x, y_m=y, z_m=z, factor=float(factor[k]), zone=zone)
    return result


def surface_name(
    body: Body, room: Cuboid | Ring, axis: int, box_m: tuple[float, float, float]
) -> str:
    """Return what a beekeeper calls a place on the inner surface; normal along ``axis``."""
    if body.opening:
        return f"at the {body.opening}"
    if body.role in _NAMED_ALONE:
        return body.part
    return spot_name(room, axis, *box_m)


_NAMED_ALONE = ("window", "window frame", "follower board", "divider", "corner posts", "battens")


def spot_name(room: Cuboid | Ring, axis: int, x: float, y: float, z: float) -> str:
    """Return what a beekeeper calls a place on a face; normal along ``axis``."""
    near = c.RIM_WIDTH.value
    if isinstance(room, Ring):
        edge_x, edge_y = room.outer_radius_m - x < near, False
    else:
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
    across = (edge_y if axis == 0 else edge_x) and not isinstance(room, Ring)
    return "corner of the walls" if across else "wall middle"
