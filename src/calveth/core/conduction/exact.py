"""Bodies whose conduction is known exactly or by another program, for `calveth verify`.

Formulas: Incropera et al., Fundamentals of Heat and Mass Transfer, table 3.3 and Langmuir, Adams
and Meikle 1913, both from memory.
"""

from __future__ import annotations

from dataclasses import replace
from math import log, pi
from typing import cast

import numpy as np
from numpy.typing import ArrayLike, NDArray

from calveth.core.conduction.grid import NO_SHARP, Fineness, Sharp, make_grid
from calveth.core.conduction.joint_section import section_conduction
from calveth.core.conduction.parts import WEDGE_RAD, AirSpace, Body, ConductionModel, Side
from calveth.core.conduction.solve import Conduction, Way, solve_conduction
from calveth.core.conduction.solved import BESIDE_METAL_GROWTH, BESIDE_METAL_M, HIVE_FINENESS
from calveth.core.hive.design import Design, Shell
from calveth.core.hive.forms import BarTrough
from calveth.core.materials import Layer, Material
from calveth.core.solids.shapes import Cuboid, SectionMap

FloatArray = NDArray[np.float64]
Span = tuple[float, float]
_HELD: dict[Side, float] = {"up": 0.0, "horizontal": 0.0, "down": 0.0}
_ROUND: Span = (0.0, 2 * pi)

SLOPED_W_K = 1.66570
"""A metre of half the section of `sloped_trough` by scikit-fem 12.0.2 on quadratic elements, its
error 1e-5; ``tests/core/test_elements.py`` works it out again [W/K]."""


def block(x: Span, y: Span, z: Span) -> Cuboid:
    """Return a block by its spans [m]."""
    return Cuboid(x0=x[0], x1=x[1], y0=y[0], y1=y[1], z0=z[0], z1=z[1])


def held(name: str, shape: Cuboid) -> AirSpace:
    """Return a space that holds the surfaces it touches at its temperature."""
    return AirSpace(name=name, shape=shape, film_m2k_w=_HELD)


class Polar:
    """Puts radius and latitude where a sphere has them; stands in for a bend."""

    def place(self, y: ArrayLike, z: ArrayLike) -> tuple[FloatArray, FloatArray]:
        """Return distance from the axis and height [n] [m] of points by radius and latitude."""
        r, latitude = np.broadcast_arrays(np.asarray(y, float), np.asarray(z, float))
        return r * np.cos(latitude), r * np.sin(latitude)

    def levels_m(self) -> tuple[float, ...]:
        """Return no heights where anything turns."""
        return ()


def corner(finer: float = 1.0, way: Way = "fitting", film_m2k_w: float = 0.0) -> Conduction:
    """Return a square corner 50 mm thick of λ 1 between held surfaces, arms of 0.4 m."""
    thick, side = 0.05, 0.4
    films: dict[Side, float] = dict.fromkeys(_HELD, film_m2k_w)
    out = held("out", block((0, 1), (-0.02, side + thick), (-0.02, side + thick)))
    room = held("in", block((0, 1), (thick, side + thick), (thick, side + thick)))
    model = ConductionModel(
        outside=(replace(out, film_m2k_w=films),),
        bodies=(
            Body(
                part="shell",
                shape=block((0, 1), (0, side + thick), (0, side + thick)),
                conductivity_w_mk=1.0,
            ),
        ),
        inside=(replace(room, film_m2k_w=films),),
    )
    fine = Fineness(first_m=1e-3, growth=1.15).finer(finer)
    return solve_conduction(model, make_grid(model, fine, "x"), way)


def edge_term() -> float:
    """Return what the edge of a box adds to A/d [-]; exactly 0.559 by a conformal map.

    >>> round(edge_term(), 2)  # 0.559 by the exact solution of an edge
    0.56
    """
    # Less two plain arms of 0.4 m by 0.05 m: at their ends the edge is forgotten.
    return float(corner(1.5).coupling_w_k[0, 1]) - 2 * 0.4 / 0.05


def hollow_box_m(thick_m: float, sides_m: tuple[float, float, float]) -> Conduction:
    """Return an eighth of a hollow box of λ 1 between held surfaces."""
    a, b, h = (s / 2 for s in sides_m)
    t = thick_m
    model = ConductionModel(
        outside=(held("out", block((0, a + t + 0.01), (0, b + t + 0.01), (0, h + t + 0.01))),),
        bodies=(
            Body(
                part="shell", shape=block((0, a + t), (0, b + t), (0, h + t)), conductivity_w_mk=1.0
            ),
        ),
        inside=(held("in", block((0, a), (0, b), (0, h))),),
    )
    fine = Fineness(first_m=min(t / 8, 0.003), growth=1.3)
    return solve_conduction(model, make_grid(model, fine))


def cylinder_w_k(way: Way) -> tuple[float, float]:
    """Return a hollow cylinder of λ 0.5, 0.1 to 0.25 m, 0.3 m long: solved and exact [W/K]."""
    # Elements are placed by a map even where it moves nothing, and solve a thin wedge of the round.
    straight = SectionMap(middle_m=0.0, half_m=0.1, knots=((0.1, 0.0), (0.1, 0.3)))
    bend, times = (straight, 2 * pi / WEDGE_RAD) if way == "elements" else (None, 1.0)
    field = _turned(0.25, 0.3, bend, Fineness())
    return times * field, 2 * pi * 0.5 * 0.3 / log(0.25 / 0.1)


def half_sphere_w_k(finer: float = 1.0) -> tuple[float, float]:
    """Return half a hollow sphere of λ 0.5, 0.1 to 0.16 m: solved and exact [W/K]."""
    fine = Fineness(first_m=0.01, growth=1.0).finer(finer)
    field = _turned(0.16, pi / 2, cast(SectionMap, Polar()), fine)
    return 2 * pi / WEDGE_RAD * field, 2 * pi * 0.5 / (1 / 0.1 - 1 / 0.16)


def _turned(outer_m: float, top: float, bend: SectionMap | None, fine: Fineness) -> float:
    model = ConductionModel(
        outside=(held("out", block((0, outer_m + 0.01), _ROUND, (0, top))),),
        bodies=(
            Body(part="shell", shape=block((0, outer_m), _ROUND, (0, top)), conductivity_w_mk=0.5),
        ),
        inside=(held("in", block((0, 0.1), _ROUND, (0, top))),),
        bend=bend,
        round=True,
    )
    return float(solve_conduction(model, make_grid(model, fine, "y")).coupling_w_k[1, 0])


def sloped_trough() -> Design:
    """Return a trough with sloped sides of 30 mm boards without grain."""
    board = (Layer(material="board", thickness_m=0.03),)
    return Design(
        id="sloped",
        name="sloped",
        openings=(),
        form=BarTrough(bar_count=20, section=((0.21, 0.0), (0.44, 0.29))),
        shell=Shell(walls=board, lid=board, floor=board),
    )


def sloped_w_k() -> float:
    """Return a metre of half the section of `sloped_trough`, λ 0.13 [W/K]."""
    board = Material(
        id="board",
        name="Board",
        conductivity_w_mk=0.13,
        density_kg_m3=500,
        specific_heat_j_kgk=1600,
        vapour_resistance_factor=50,
        source="a check",
        certainty="published",
    )
    section = section_conduction(
        sloped_trough(),
        {"board": board},
        "heat",
        "x",
        0.2,
        lambda s: replace(s, y1=min(s.y1, 0.22)),
    ).field
    out = [s.name for s in section.model.spaces].index("outside")
    return float(section.coupling_w_k[out].sum())


def sheet_through_foam_w_k(*, fine: bool = False, keen: bool = True) -> float:
    """Return what a steel sheet of 1 mm through 60 mm of foam adds to a metre of wall [W/K].

    On the grid hives with metal are solved on, on the usual one (not ``keen``), or with cells of
    0.05 mm (``fine``).
    """
    foam, steel, half = 0.035, 50.0, 0.0005
    films: dict[Side, float] = dict.fromkeys(_HELD, 0.1)
    out = held("out", block((-0.2, 0.2), (0, 1), (-0.1, 0.0)))
    room = held("in", block((-0.2, 0.2), (0, 1), (0.06, 0.16)))
    model = ConductionModel(
        outside=(replace(out, film_m2k_w=films),),
        bodies=(
            Body(part="foam", shape=block((-0.2, 0.2), (0, 1), (0, 0.06)), conductivity_w_mk=foam),
            Body(
                part="steel", shape=block((-half, half), (0, 1), (0, 0.06)), conductivity_w_mk=steel
            ),
        ),
        inside=(replace(room, film_m2k_w=films),),
    )
    # A sheet carries more than the foam beside it: cells next to its edge decide the figure.
    usual = replace(HIVE_FINENESS, sharp_m=BESIDE_METAL_M, sharp_growth=BESIDE_METAL_GROWTH)
    limit = Fineness(first_m=5e-5, growth=1.1, least=12, thin_m=0.0)
    planes: Sharp = ((-half, half), (), (0.0, 0.06)) if keen and not fine else NO_SHARP
    grid = make_grid(model, limit if fine else usual, "y", planes)
    sheet_w_k = float(solve_conduction(model, grid).coupling_w_k[0, 1])
    return sheet_w_k - 0.4 / (0.2 + 0.06 / foam)
