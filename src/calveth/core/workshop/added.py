"""Pieces the solids do not have: what frames hang on, bars, cleats."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from calveth.core import constants_building as cb
from calveth.core.constants import BEE_SPACE_LOW
from calveth.core.hive.design import Design
from calveth.core.hive.forms import BarTrough, StackedBoxes
from calveth.core.materials import Material
from calveth.core.solids.parts import HiveSolids, PartId, Solid, inset_timber
from calveth.core.solids.plates import RING_SIDES, ring_of_boards
from calveth.core.solids.shapes import Cuboid
from calveth.core.workshop.edge_work import hangs_frames, rests_in_rebate, strip_in_wall
from calveth.core.workshop.piece import Piece

# A cleat is no longer than this share of its board, and sits this high on it, where hands are.
_CLEAT_SHARE, _CLEAT_AT = 0.8, 0.6

_TIMBERS = ("board", "sheet")
_WOODS = ("wood", "wood board")


def added_pieces(
    design: Design, hive: HiveSolids, materials: Mapping[str, Material], pieces: Sequence[Piece]
) -> tuple[Piece, ...]:
    """Return strips under frames, top bars and cleats."""
    timber = _timber(design, materials)
    return (
        *_strips(design, hive, timber, pieces),
        *_bars(design, hive, timber),
        *_cleats(design, timber, pieces),
        *_lid_frame(design, hive, timber, materials),
    )


def spare_timber(design: Design, materials: Mapping[str, Material]) -> tuple[str, ...]:
    """Return the id of a timber for small pieces where the hive itself has none of wood.

    The first wood of the table that is bought as boards; an empty tuple where the hive has
    wood of its own, or nobody has any.
    """
    if any(materials[key].group in _WOODS for key in design.material_ids):
        return ()
    woods = (m.id for m in materials.values() if m.group == "wood" and m.bought_as == "board")
    return tuple(woods)[:1]


def _timber(design: Design, materials: Mapping[str, Material]) -> Material:
    """Return what small pieces are made of: the timber of the joints, else any wood there is."""
    material = materials[inset_timber(design.shell.walls, design.joinery.timber)]
    if material.group in _WOODS:
        return material
    own = [materials[key] for key in design.material_ids if materials[key].group in _WOODS]
    # Boards before sheets; in the order of the table, so that a plan never changes by itself.
    woods = sorted(own, key=lambda m: _WOODS.index(m.group)) or [
        materials[key] for key in sorted(materials) if materials[key].group == "wood"
    ]
    return woods[0] if woods else material


def needs_strips(design: Design, pieces: Sequence[Piece]) -> bool:
    """Return whether frames hang on strips: asked for, or walls too thin or too soft."""
    if not design.form.has_frames:
        return False
    walls = [
        p for p in pieces if p.role == "box" and p.side == "front" and p.place in ("whole", "inner")
    ]
    return any(not rests_in_rebate(design, p.thickness_m) for p in walls)


def _strips(
    design: Design, hive: HiveSolids, timber: Material, pieces: Sequence[Piece]
) -> list[Piece]:
    if not needs_strips(design, pieces):
        return []
    high, wide = cb.FRAME_REST_HIGH.value, cb.FRAME_REST_WIDE.value
    into = -wide
    if not strip_in_wall(design):
        # A rail on the inside, so thin that bees still pass between it and the frames.
        assert isinstance(design.form, StackedBoxes)
        wide = design.form.end_clearance_m - BEE_SPACE_LOW.value
        if wide < cb.LEAST_RAIL.value - 1e-9:
            return []
        into = 0.0
    strips = []
    for solid in hive.solids:
        place = next(
            (p.place for p in pieces if p.shape == solid.shape and p.role == "box"), "middle"
        )
        if not hangs_frames(design, solid, place) or not isinstance(solid.shape, Cuboid):
            continue
        width, length = hive.shell.x1, hive.shell.y1
        # Under the lugs of the frames: its top is the frames' rest.
        z1 = solid.shape.z1 - high
        y0 = into if solid.side == "front" else length - into - wide
        shape = Cuboid(x0=0.0, x1=width, y0=y0, y1=y0 + wide, z0=z1 - cb.STRIP_HIGH.value, z1=z1)
        strips.append(
            _added(solid, "frame strip", timber, shape, (width, cb.STRIP_HIGH.value, wide))
        )
    return strips


def _bars(design: Design, hive: HiveSolids, timber: Material) -> list[Piece]:
    form = design.form
    if not isinstance(form, BarTrough):
        return []
    top = form.section[-1][0]
    long = top + 2 * cb.BAR_REST.value
    part = Solid(id=PartId(role="trough"), material=timber.id, shape=hive.shell)
    y0 = form.spans_m[1] / 2 - long / 2
    return [
        _added(
            part,
            "top bar",
            timber,
            Cuboid(
                x0=k * form.bar_width_m,
                x1=(k + 1) * form.bar_width_m,
                y0=y0,
                y1=y0 + long,
                z0=form.height_m,
                z1=form.height_m + cb.BAR_HIGH.value,
            ),
            (long, form.bar_width_m, cb.BAR_HIGH.value),
        )
        for k in range(form.bar_count)
    ]


def _cleats(design: Design, timber: Material, pieces: Sequence[Piece]) -> list[Piece]:
    """Return cleats to lift boxes by, on front and back; as long as they fit."""
    if design.details.grips != "cleats":
        return []
    cleats = []
    for piece in pieces:
        box = piece.shape
        outer = piece.role == "box" and piece.place in ("whole", "outer")
        if not outer or piece.side not in ("front", "back") or not isinstance(box, Cuboid):
            continue
        long, high, deep = cb.CLEAT_LONG.value, cb.CLEAT_HIGH.value, cb.CLEAT_DEEP.value
        long = min(long, _CLEAT_SHARE * (box.x1 - box.x0))
        middle, z = (box.x0 + box.x1) / 2, box.z0 + _CLEAT_AT * (box.z1 - box.z0)
        y0 = box.y0 - deep if piece.side == "front" else box.y1
        shape = Cuboid(
            x0=middle - long / 2, x1=middle + long / 2, y0=y0, y1=y0 + deep, z0=z, z1=z + high
        )
        solid = Solid(id=piece.part, material=timber.id, shape=shape, side=piece.side)
        cleats.append(_added(solid, "cleat", timber, shape, (long, high, deep)))
    return cleats


def _lid_frame(
    design: Design, hive: HiveSolids, timber: Material, materials: Mapping[str, Material]
) -> list[Piece]:
    """Return the timber round the top course of a block wall; it carries the lid and its hinges."""
    outer = design.shell.walls[0]
    if materials[outer.material].bought_as != "block" or not isinstance(hive.cavity, Cuboid):
        return []
    wall = design.shell.thickness_m("walls")
    wide, thick = cb.LID_FRAME_WIDE.value, cb.LID_FRAME_THICK.value
    room = ((hive.shell.x0, hive.shell.x1), (hive.shell.y0, hive.shell.y1))
    top = hive.shell.z1
    pieces = []
    for side, shape in zip(
        RING_SIDES, ring_of_boards(room, wall, wall + thick, top - wide, top), strict=True
    ):
        long = max(shape.x1 - shape.x0, shape.y1 - shape.y0)
        solid = Solid(id=PartId(role="box"), material=timber.id, shape=shape, side=side)
        pieces.append(_added(solid, "lid frame", timber, shape, (long, wide, thick)))
    return pieces


def _added(
    solid: Solid, role: str, timber: Material, shape: Cuboid, size: tuple[float, float, float]
) -> Piece:
    length, width, thickness = size
    bought = timber.bought_as if timber.bought_as in _TIMBERS else "board"
    return Piece(
        part=solid.lifted_with,
        role=role,
        face=None,
        side=solid.side,
        place="fitting",
        material=timber.id,
        bought_as=bought,
        length_m=length,
        width_m=width,
        thickness_m=thickness,
        net_length_m=length,
        net_width_m=width,
        net_m3=length * width * thickness,
        shape=shape,
        added=True,
        has_grain=timber.has_grain,
    )
