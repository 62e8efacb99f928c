"""The plane a solid is cut out of: its length, width and thickness, and rectangles in it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from calveth.core.solids.parts import Axis, Solid
from calveth.core.solids.shapes import Cuboid

_TOUCH_M = 1e-6


@dataclass(frozen=True, slots=True)
class Plane:
    """The axes of a piece: ``u`` along its length, ``v`` its width, ``w`` its thickness."""

    u: Axis
    v: Axis
    w: Axis

    def low(self, box: Cuboid, axis: Axis) -> float:
        """Return the lower end of a block along an axis [m]."""
        value: float = getattr(box, f"{axis}0")
        return value

    def high(self, box: Cuboid, axis: Axis) -> float:
        """Return the upper end of a block along an axis [m]."""
        value: float = getattr(box, f"{axis}1")
        return value

    def size(self, box: Cuboid, axis: Axis) -> float:
        """Return the extent of a block along an axis [m]."""
        return self.high(box, axis) - self.low(box, axis)


def plane_of(solid: Solid, thickness_m: float | None, *, in_wall: bool = False) -> Plane:
    """Return the axes of a solid that is a block.

    Walls lie along their wall with the grain level, plates with it along the longer side; posts,
    battens and legs are as long, wide and thick as they are. What is drilled ``in_wall`` lies in
    the plane of its wall however thick that is: the hole goes through its thickness.
    """
    box = solid.shape
    assert isinstance(box, Cuboid)
    size: dict[Axis, float] = {
        "x": box.x1 - box.x0,
        "y": box.y1 - box.y0,
        "z": box.z1 - box.z0,
    }
    if solid.face is not None and solid.side in ("front", "back"):
        return Plane("x", "z", "y")
    if solid.face is not None and solid.side is not None:
        return Plane("y", "z", "x")
    if in_wall and solid.side is not None:
        through: Axis = "y" if solid.side in ("front", "back") else "x"
        rest = sorted((a for a in size if a != through), key=lambda a: -size[a])
        return Plane(rest[0], rest[1], through)
    if solid.face is not None or solid.role in ("window", "divider plate"):
        # A plate may be thicker than it is wide: its build-up says which way it lies.
        flat = min(size, key=lambda a: abs(size[a] - thickness_m) if thickness_m else size[a])
        rest = sorted((a for a in size if a != flat), key=lambda a: -size[a])
        return Plane(rest[0], rest[1], flat)
    order = sorted(size, key=lambda a: -size[a])
    return Plane(order[0], order[1], order[2])


def common(a: Cuboid, b: Cuboid) -> Cuboid | None:
    """Return what two blocks share, None where they do not overlap."""
    shape = Cuboid(
        x0=max(a.x0, b.x0),
        x1=min(a.x1, b.x1),
        y0=max(a.y0, b.y0),
        y1=min(a.y1, b.y1),
        z0=max(a.z0, b.z0),
        z1=min(a.z1, b.z1),
    )
    sizes = (shape.x1 - shape.x0, shape.y1 - shape.y0, shape.z1 - shape.z0)
    return shape if min(sizes) > _TOUCH_M else None


def split_by(
    box: Cuboid, insets: Sequence[Cuboid], plane: Plane
) -> list[tuple[Cuboid, tuple[Cuboid, ...]]]:
    """Return what insets leave of a board: boards beside those that run across it, with recesses.

    An inset as wide and as thick as the board parts it; any other is a recess or a hole.
    """
    boards: list[tuple[Cuboid, tuple[Cuboid, ...]]] = [(box, ())]
    # What one inset leaves is cut by the next; a recess falls to the board it lies in.
    for inset in insets:
        after: list[tuple[Cuboid, tuple[Cuboid, ...]]] = []
        for board, recesses in boards:
            shared = common(board, inset)
            if shared is None:
                after.append((board, recesses))
                continue
            parted = _parted(board, shared, plane)
            if parted is None:
                after.append((board, (*recesses, shared)))
            else:
                for rest in parted:
                    kept = tuple(c for r in recesses if (c := common(rest, r)) is not None)
                    after.append((rest, kept))
        boards = after
    return boards


def _parted(board: Cuboid, shared: Cuboid, plane: Plane) -> list[Cuboid] | None:
    """Return the boards on both sides of what runs across a board, None where nothing does."""

    def spans(axis: Axis) -> bool:
        return plane.size(shared, axis) >= plane.size(board, axis) - _TOUCH_M

    if not spans(plane.w):
        return None
    for across, along in ((plane.v, plane.u), (plane.u, plane.v)):
        if not spans(across):
            continue
        parts = []
        for low, high in (
            (plane.low(board, along), plane.low(shared, along)),
            (plane.high(shared, along), plane.high(board, along)),
        ):
            if high - low > _TOUCH_M:
                parts.append(replace(board, **{f"{along}0": low, f"{along}1": high}))
        return parts
    return None
