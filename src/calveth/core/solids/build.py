"""The one list of solids from which drawing, conduction, areas, litres, weight and cost are taken.

Axes: x across the frames from left to right, y from the front (0 and below is the front wall) to
the back, z up from the inner face of the floor. The origin is the front left lower inner corner of
the cavity; a hollow tree has its axis at the middle of its inner square. Shapes of a hive whose
sides or lid are not upright and flat are those of a box; its `SectionMap` puts them in place.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import assert_never

from calveth.core.hive.design import Design, Face
from calveth.core.hive.forms import BarTrough, HollowTree, LittleBoxes, StackedBoxes
from calveth.core.remembered import remembered
from calveth.core.solids.boxes import build_boxes
from calveth.core.solids.openings_cut import cuts_of
from calveth.core.solids.parts import HiveSolids, PartId, Solid
from calveth.core.solids.plates import plate_solids
from calveth.core.solids.shapes import Cuboid, Ring, SectionMap

__all__ = ["HiveSolids", "Solid", "build_solids"]


@dataclass(frozen=True, slots=True)
class _Trunk:
    radius: float
    outer: float


@remembered(128)
def build_solids(design: Design) -> HiveSolids:
    """Return the solids of a design; the only place where a form becomes geometry.

    >>> from calveth.catalogue.shipped import demo_project
    >>> hive = build_solids(demo_project().design("timber"))
    >>> sorted({s.role for s in hive.solids})
    ['box', 'floor', 'lid']
    """
    match design.form:
        case HollowTree() as tree:
            return _tree(design, tree)
        case StackedBoxes() | BarTrough() | LittleBoxes() as boxes:
            return build_boxes(design, boxes)
        case other:
            assert_never(other)


def _tree(design: Design, form: HollowTree) -> HiveSolids:
    radius, height = form.inner_diameter_m / 2, form.cavity_height_m
    trunk = _Trunk(radius, radius + design.shell.thickness_m("walls"))
    solids = []
    out = trunk.outer
    for index, layer in enumerate(design.shell.walls):
        inner = out - layer.thickness_m
        shape = Ring(
            x=radius, y=radius, inner_radius_m=inner, outer_radius_m=out, z0=0.0, z1=height
        )
        solids.append(
            Solid(
                id=PartId(role="trunk"),
                material=layer.material,
                shape=shape,
                face="walls",
                layer=index,
            )
        )
        out = inner
    outline = (radius - trunk.outer, radius + trunk.outer)
    levels: tuple[tuple[Face, float], ...] = (("lid", height), ("floor", 0.0))
    for face, z in levels:
        for solid in plate_solids(design, face, z, outline, outline):
            plate = solid.shape
            disc = Ring(
                x=radius,
                y=radius,
                inner_radius_m=0.0,
                outer_radius_m=trunk.outer,
                z0=plate.z0,
                z1=plate.z1,
            )
            solids.append(
                Solid(
                    id=PartId(role="trunk"),
                    material=solid.material,
                    shape=disc,
                    face=solid.face,
                    layer=solid.layer,
                )
            )
    cavity = Ring(x=radius, y=radius, inner_radius_m=0.0, outer_radius_m=radius, z0=0.0, z1=height)
    return HiveSolids(
        solids=tuple(solids),
        cuts=cuts_of(design),
        cavity=cavity,
        frames=(),
        shell=Cuboid(
            x0=0.0,
            x1=2 * radius,
            y0=0.0,
            y1=2 * radius,
            z0=0.0,
            z1=height,
        ),
        bend=_dome(design, radius, height),
    )


def _dome(design: Design, radius: float, height: float) -> SectionMap | None:
    """Return what makes the top of the hollow a dome, None where it is flat."""
    if design.lid_slope_deg == 0:
        return None
    return SectionMap(
        middle_m=radius,
        half_m=radius,
        knots=((radius, 0.0), (radius, height)),
        lid="domed",
        lid_slope_deg=design.lid_slope_deg,
    )
