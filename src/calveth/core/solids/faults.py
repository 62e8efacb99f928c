"""What cannot be built, refused by name before anything is solved."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import combinations

import numpy as np

from calveth.core.errors import DomainError
from calveth.core.hive.design import Design
from calveth.core.hive.opening import opening_parts
from calveth.core.solids.parts import HiveSolids, Solid
from calveth.core.solids.shapes import Cuboid, Ring, Shape

_TOUCH_M = 1e-7
_BOX = ("x0", "x1", "y0", "y1", "z0", "z1")
# Fittings that give way where another stands: they are sawn to fit, or hang in the room.
_GIVES_WAY = ("battens", "corner posts", "divider plate", "nest bars", "slatted rack")


def refuse_faults(design: Design, hive: HiveSolids) -> None:
    """Raise for parts that would take the same place, and lids that come down too far.

    Raises
    ------
    DomainError
        It names the two parts, or the field, and the remedy.
    """
    # Panes stand in the walls: what they take out of them are the cuts.
    _refuse_overlaps([s for s in hive.solids if s.role != "window"])
    fittings = [s for s in hive.inset if s.role not in _GIVES_WAY]
    _refuse_overlaps(fittings)
    _refuse_openings(design, hive)
    _refuse_overlap_of_lid(design, hive)


def _refuse_overlaps(solids: Sequence[Solid]) -> None:
    for one, two in _meeting(solids):
        raise DomainError(
            "parts",
            f"{_named(one)} and {_named(two)}",
            "take the same place; make one smaller or move it",
        )


def _meeting(solids: Sequence[Solid]) -> Iterator[tuple[Solid, Solid]]:
    """Yield the pairs of solids with a volume in common: rings with rings, boxes with boxes."""
    for kind, axes in ((Ring, ("inner_radius_m", "outer_radius_m", "z0", "z1")), (Cuboid, _BOX)):
        alike = [s for s in solids if isinstance(s.shape, kind)]
        if len(alike) < 2:
            continue
        limits = np.array([[getattr(s.shape, a) for a in axes] for s in alike])
        low, high = limits[:, 0::2], limits[:, 1::2]
        common = np.minimum(high[:, None], high[None]) - np.maximum(low[:, None], low[None])
        meet = np.triu((common > _TOUCH_M).all(axis=2), k=1)
        for i, j in zip(*np.nonzero(meet), strict=True):
            yield alike[i], alike[j]


def _named(solid: Solid) -> str:
    if solid.layer is None or solid.face is None:
        return solid.part
    return f"{solid.part} ({solid.face} layer {solid.layer + 1})"


def _share(a: Shape, b: Shape) -> bool:
    """Tell whether two shapes have a volume in common."""
    if isinstance(a, Ring) or isinstance(b, Ring):
        if not (isinstance(a, Ring) and isinstance(b, Ring)):
            return False
        low = max(a.inner_radius_m, b.inner_radius_m)
        high = min(a.outer_radius_m, b.outer_radius_m)
        return high - low > _TOUCH_M and min(a.z1, b.z1) - max(a.z0, b.z0) > _TOUCH_M
    return all(
        min(getattr(a, f"{k}1"), getattr(b, f"{k}1"))
        - max(getattr(a, f"{k}0"), getattr(b, f"{k}0"))
        > _TOUCH_M
        for k in "xyz"
    )


def _refuse_openings(design: Design, hive: HiveSolids) -> None:
    """Refuse openings that run into each other or into the window."""
    named = {o.id: o.name for o in design.openings}
    ways = [(named[hole.opening], hole.shape) for hole in hive.holes]
    panes = [s.shape for s in hive.solids if s.role == "window"]
    ways += [("window", pane) for pane in panes[:1] if isinstance(pane, Cuboid)]
    for (one, a), (two, b) in combinations(ways, 2):
        if one != two and _share(a, b):
            raise DomainError(
                "openings", f"{one} and {two}", "run into each other; move one of them"
            )


def _refuse_overlap_of_lid(design: Design, hive: HiveSolids) -> None:
    """Refuse a lid that comes down further than the walls are high."""
    lid = design.joinery.lid
    if lid not in ("insulation past the rim", "telescoping rim"):
        return
    high = hive.shell.z1 - hive.shell.z0
    down = design.joinery.overlap_m
    if down > high:
        raise DomainError(
            "overlap of the lid", down, f"m is more than the walls are high ({high:.3f} m)"
        )


def covered_openings(design: Design) -> list[str]:
    """Return the names of openings the rim of the lid comes down over."""
    if design.joinery.lid not in ("insulation past the rim", "telescoping rim"):
        return []
    spans, height = design.form.spans_m, design.form.height_m
    low = height - design.joinery.overlap_m
    covered = []
    for opening in design.openings:
        if opening.shape == "lid gap" or opening.level:
            continue
        if any(p.bottom_m + opening.height_m > low for p in opening_parts(opening, spans, height)):
            covered.append(opening.name)
    return covered
