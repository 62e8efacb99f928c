"""The cases of EN ISO 10211 the solver is held against, as `calveth verify` lists them.

Geometry and printed values of EN ISO 10211:2017, annex C, are entered from memory; the values of
case 1 agree with its exact series, the geometry of case 2 gives all its printed values.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from calveth.core.conduction.grid import Fineness, make_grid
from calveth.core.conduction.parts import AirSpace, Body, ConductionModel, Side
from calveth.core.conduction.solve import Conduction, solve_conduction
from calveth.core.remembered import remembered
from calveth.core.solids.shapes import Cuboid

FloatArray = NDArray[np.float64]
Span = tuple[float, float]

CASE_1_DEGC = (
    (9.7, 13.4, 14.7, 15.1),
    (5.3, 8.6, 10.3, 10.8),
    (3.2, 5.6, 7.0, 7.5),
    (2.0, 3.6, 4.7, 5.0),
    (1.3, 2.3, 3.0, 3.2),
    (0.7, 1.4, 1.8, 1.9),
    (0.3, 0.6, 0.8, 0.9),
)
"""Case 1: temperatures [°C] on an eighth of the side, rows from the warm side, to the middle."""

CASE_2_W_M = 9.5
CASE_2_DEGC = (
    ("A", 0.0, 0.0475, 7.1),
    ("B", 0.5, 0.0475, 0.8),
    ("C", 0.0, 0.0415, 7.9),
    ("D", 0.015, 0.0415, 6.3),
    ("E", 0.5, 0.0415, 0.8),
    ("F", 0.0, 0.0365, 16.4),
    ("G", 0.015, 0.0365, 16.3),
    ("H", 0.0, 0.0, 16.8),
    ("I", 0.5, 0.0, 18.3),
)
"""Case 2: name, place [m] and temperature [°C] of its points."""


def _plane(y: Span, z: Span) -> Cuboid:
    """Return a block one metre deep."""
    return Cuboid(x0=0.0, x1=1.0, y0=y[0], y1=y[1], z0=z[0], z1=z[1])


def _space(name: str, y: Span, z: Span, film_m2k_w: float) -> AirSpace:
    films: dict[Side, float] = dict.fromkeys(("up", "horizontal", "down"), film_m2k_w)
    return AirSpace(name=name, shape=_plane(y, z), film_m2k_w=films)


@remembered(1)
def case_1() -> Conduction:
    """Return half a square column of 1 m, 20 °C on its upper side, 0 °C on the others."""
    model = ConductionModel(
        outside=(
            _space("cold", (-0.02, 0.5), (-0.02, 1.0), 0.0),
            _space("warm", (0.0, 0.5), (1.0, 1.02), 0.0),
        ),
        bodies=(Body(part="column", shape=_plane((0, 0.5), (0, 1)), conductivity_w_mk=1.0),),
        inside=(),
    )
    return solve_conduction(model, make_grid(model, Fineness(first_m=0.004, growth=1.08), "x"))


def case_1_degc() -> FloatArray:
    """Return the temperatures of case 1 at its points [7, 4] [°C]."""
    field = case_1()
    degc = field.temperature_degc(np.array([0.0, 20.0]))[0]
    y, z = (0.5 * (e[:-1] + e[1:]) for e in field.grid.edges_m[1:])
    result = np.empty((7, 4))
    for row in range(7):
        line = [float(np.interp(1 - (row + 1) / 8, z, column)) for column in degc]
        # The plane of symmetry mirrors the last cell.
        for at in range(4):
            result[row, at] = np.interp((at + 1) / 8, [*y, 1 - y[-1]], [*line, line[-1]])
    return result


@remembered(1)
def case_2() -> Conduction:
    """Return concrete on insulation with a timber batten on an aluminium web, 0 and 20 °C."""

    def body(part: str, y: Span, z: Span, conductivity: float) -> Body:
        return Body(part=part, shape=_plane(y, z), conductivity_w_mk=conductivity)

    model = ConductionModel(
        outside=(
            _space("out", (0, 0.5), (0.0475, 0.05), 0.06),
            _space("in", (0, 0.5), (-0.01, 0), 0.11),
        ),
        bodies=(
            body("insulation", (0, 0.5), (0.0015, 0.0415), 0.029),
            body("sheet", (0, 0.5), (0, 0.0015), 230.0),
            body("concrete", (0, 0.5), (0.0415, 0.0475), 1.15),
            body("batten", (0, 0.015), (0.0365, 0.0415), 0.12),
            body("foot", (0, 0.015), (0.035, 0.0365), 230.0),
            body("web", (0, 0.0015), (0.0015, 0.035), 230.0),
        ),
        inside=(),
    )
    return solve_conduction(model, make_grid(model, Fineness(first_m=0.0005, growth=1.25), "x"))


def case_2_degc() -> tuple[float, ...]:
    """Return the temperatures of case 2 at its points [°C]."""
    field = case_2()
    return tuple(_at(field, y, z) for _, y, z, _ in CASE_2_DEGC)


def _at(field: Conduction, y: float, z: float) -> float:
    """Return the temperature at a point on a level plane between two bodies or at a surface."""
    spaces = np.array([0.0, 20.0])
    _, ey, ez = field.grid.edges_m
    columns = _beside(ey, y)
    k = int(np.argmin(abs(ez - z)))
    if k in (np.argmin(abs(ez)), np.argmin(abs(ez - 0.0475))):
        centre = field.surfaces.centre_m
        degc = field.surface_degc(spaces)
        middles = [0.5 * (ey[j] + ey[j + 1]) for j in columns]
        on = np.isclose(centre[:, 2], ez[k])
        pieces = [degc[on][np.argmin(abs(centre[on, 1] - middle))] for middle in middles]
        return float(np.mean(pieces))
    cells = field.temperature_degc(spaces)[0]
    table = np.array([b.conductivity_w_mk for b in field.model.bodies])
    lam = table[field.grid.body[0]]
    # The cells round the point, each as strongly as it holds the point at its own temperature.
    around = [(j, i) for j in columns for i in (k - 1, k)]
    hold = np.array([2 * lam[j, i] / (ez[i + 1] - ez[i]) for j, i in around])
    return float(hold @ np.array([cells[at] for at in around]) / hold.sum())


def _beside(edges: FloatArray, at: float) -> Sequence[int]:
    """Return the cells that touch a plane: two, or one at the ends."""
    k = int(np.argmin(abs(edges - at)))
    return [j for j in (k - 1, k) if 0 <= j < len(edges) - 1]
