"""What is bought by litre, area, length or count: fill, paint, cloth, mesh, screws, straps."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from math import ceil

from calveth.core import constants_building as cb
from calveth.core.constants_building import STUD_WIDE
from calveth.core.hive.design import FACES, Design
from calveth.core.hive.forms import StackedBoxes
from calveth.core.hive.joinery import BLOCK_JOINT_SHARE
from calveth.core.materials import Material, SoldAs
from calveth.core.message import Value, message
from calveth.core.solids.parts import HiveSolids, Solid
from calveth.core.solids.quantities import face_areas, overlap_m3
from calveth.core.solids.shapes import Ring, volume_m3
from calveth.core.workshop.piece import Bulk, Piece


def bulk_of(
    design: Design, hive: HiveSolids, materials: Mapping[str, Material], pieces: Sequence[Piece]
) -> tuple[Bulk, ...]:
    """Return all that is not cut to a size, in the order of the work."""
    return (
        *_trunk(design, hive, materials),
        *_fills(hive, materials),
        *_coats(design, hive, materials),
        *_mixed(hive, materials),
        *_mesh(design),
        *_frames(design),
        *_fixings(design, pieces),
    )


def _trunk(design: Design, hive: HiveSolids, materials: Mapping[str, Material]) -> list[Bulk]:
    """Return the one line of a hollow trunk: how to hollow it."""
    form = design.form
    if form.of_boards:
        return []
    wall, lid = design.shell.thickness_m("walls"), design.shell.thickness_m("lid")
    outer = form.spans_m[0] + 2 * wall
    long = form.height_m + lid + design.shell.thickness_m("floor")
    note = message(
        "hollow a trunk",
        across=Value(outer, "length"),
        long=Value(long, "length"),
        hollow=Value(form.spans_m[0], "length"),
        deep=Value(form.height_m, "length"),
        foot=Value(design.shell.thickness_m("floor"), "length"),
        top=Value(lid, "length"),
    )
    kilos = sum(
        volume_m3(s.shape, hive.bend) * materials[s.material].density_kg_m3
        for s in hive.solids
        if isinstance(s.shape, Ring)
    )
    return [
        Bulk(
            what="trunk",
            material=design.shell.walls[0].material,
            amount=kilos,
            unit="mass",
            message=note,
        )
    ]


def _fills(hive: HiveSolids, materials: Mapping[str, Material]) -> list[Bulk]:
    """Return fill by litres, a little more than the room for it, and render by mass."""
    fills: dict[tuple[SoldAs, str], list[Solid]] = {}
    for solid in hive.solids:
        way = materials[solid.material].bought_as
        if way in ("fill", "render", "cloth") and materials[solid.material].kind == "solid":
            fills.setdefault((way, solid.material), []).append(solid)
    rows = []
    for (way, key), solids in fills.items():
        material = materials[key]
        volume = sum(_free_m3(hive, s) for s in solids)
        shapes = tuple(s.shape for s in solids)
        if way == "fill":
            litres = 1000 * volume * cb.FILL_SETTLES.value
            rows.append(
                Bulk(
                    what="fill",
                    material=key,
                    part=solids[0].lifted_with,
                    amount=litres,
                    unit="litres",
                    price=litres / 1000 * material.price_eur_m3,
                    shapes=shapes,
                )
            )
        elif way == "render":
            rows.append(
                Bulk(
                    what="render",
                    material=key,
                    part=solids[0].lifted_with,
                    amount=volume * material.density_kg_m3,
                    unit="mass",
                    price=volume * material.price_eur_m3,
                    shapes=shapes,
                )
            )
        else:
            area = sum(_free_m3(hive, s) / _thickness(s) for s in solids)
            rows.append(
                Bulk(
                    what="cloth",
                    material=key,
                    part=solids[0].lifted_with,
                    amount=area,
                    unit="area",
                    price=volume * material.price_eur_m3,
                    shapes=shapes,
                )
            )
    return rows


def _free_m3(hive: HiveSolids, solid: Solid) -> float:
    volume = volume_m3(solid.shape, hive.bend)
    if isinstance(solid.shape, Ring):
        return volume
    return volume - sum(overlap_m3(solid.shape, s.shape, hive.bend) for s in hive.inset)


def _thickness(solid: Solid) -> float:
    box = solid.shape
    if isinstance(box, Ring):
        sizes = (box.z1 - box.z0, box.outer_radius_m - box.inner_radius_m)
        return min(sizes)
    return min(box.x1 - box.x0, box.y1 - box.y0, box.z1 - box.z0)


def _coats(design: Design, hive: HiveSolids, materials: Mapping[str, Material]) -> list[Bulk]:
    """Return paint and oil by litres, foils and papers by area, by the outer area of the face."""
    areas = face_areas(hive)
    coats = []
    for face in FACES:
        stack = design.shell.stack(face)
        for index, layer in enumerate(stack):
            material = materials[layer.material]
            if material.kind != "film" or material.bought_as == "nothing":
                continue
            outside = index < len(stack) / 2
            area = areas[face].outer_m2 if outside else areas[face].inner_m2
            if material.bought_as == "coat":
                litres = area * cb.COAT_LITRES.value * cb.COATS.value
                coats.append(
                    Bulk(
                        what="coat",
                        material=layer.material,
                        amount=litres,
                        unit="litres",
                        price=area * material.price_eur_m3,
                        message=message("on a face", face=Value(face, "name")),
                    )
                )
            else:
                coats.append(
                    Bulk(
                        what="cloth",
                        material=layer.material,
                        amount=area,
                        unit="area",
                        price=area * material.price_eur_m3,
                        message=message("on a face", face=Value(face, "name")),
                    )
                )
    return coats


def _mixed(hive: HiveSolids, materials: Mapping[str, Material]) -> list[Bulk]:
    """Return studs and spacers that have a share and no place, as metres of batten."""
    bulk: dict[str, tuple[float, float]] = {}
    for solid in hive.solids:
        if solid.second_share <= 0 or isinstance(solid.shape, Ring):
            continue
        if solid.second == "mortar" and solid.second_share in BLOCK_JOINT_SHARE.values():
            continue  # what is between blocks is counted with the courses
        net = solid.second_share * volume_m3(solid.shape, hive.bend)
        metres, was = bulk.get(solid.second, (0.0, 0.0))
        bulk[solid.second] = (metres + net / _thickness(solid) / STUD_WIDE.value, was + net)
    return [
        Bulk(
            what="battens by share",
            material=key,
            amount=metres,
            unit="length",
            price=net * materials[key].price_eur_m3,
        )
        for key, (metres, net) in bulk.items()
    ]


def _mesh(design: Design) -> list[Bulk]:
    area = sum(o.width_m * o.height_m * o.count for o in design.openings if o.mesh_share < 1.0)
    return [Bulk(what="mesh", amount=area, unit="area")] if area > 0 else []


def _frames(design: Design) -> list[Bulk]:
    """Return the frames a hive of boxes is filled with; they are bought, or made apart."""
    form = design.form
    if not isinstance(form, StackedBoxes):
        return []
    count = form.frame_count * form.box_count
    note = message(
        "frames of",
        long=Value(form.frame_length_m, "length"),
        high=Value(form.frame_height_m, "length"),
    )
    return [Bulk(what="frames", amount=float(count), unit="count", message=note)]


def _fixings(design: Design, pieces: Sequence[Piece]) -> list[Bulk]:
    """Return screws, bolts, hinges, straps and the like; numbers are estimates."""
    details, counted = design.details, []
    screws = _screws(pieces)
    if screws:
        counted.append(Bulk(what="screws", amount=float(screws), unit="count"))
    if any(p.role == "lid frame" for p in pieces):
        counted.append(Bulk(what="plugs", amount=8.0, unit="count"))
    if any(p.role == "legs" for p in pieces):
        counted.append(Bulk(what="bolts", amount=8.0, unit="count"))
    foam = [p for p in pieces if p.bought_as == "sheet" and p.place == "middle"]
    if foam:
        metres = sum(2 * (p.length_m + p.width_m) for p in foam) / 2
        counted.append(Bulk(what="tape", amount=metres, unit="length"))
    for fixings, what, count in (
        (details.hinge, "hinges", 2.0),
        (details.hinge, "stay", 1.0),
        (details.strap == "round hive and stand", "strap", 1.0),
        (details.strap == "to ground anchors", "strap", 1.0),
        (details.strap == "to ground anchors", "anchors", 2.0),
        (details.grease_cups and design.joinery.stand == "legs", "grease cups", 4.0),
        (design.has_tray, "tray", 1.0),
    ):
        if fixings:
            counted.append(Bulk(what=what, amount=count, unit="count"))
    gap = [o for o in design.openings if o.shape == "lid gap"]
    if gap:
        note = message("as high as", high=Value(gap[0].height_m, "length", 1, 3))
        counted.append(Bulk(what="spacers", amount=4.0, unit="count", message=note))
    return counted


def _screws(pieces: Sequence[Piece]) -> int:
    """Return the screws of corners and plates of timber, one every so many millimetres."""
    pitch, count = cb.SCREW_PITCH.value, 0
    for piece in pieces:
        timber = piece.bought_as == "board" or (piece.has_grain and piece.bought_as == "sheet")
        if not timber or piece.added or piece.place == "middle":
            continue
        if piece.face == "walls" and piece.side in ("left", "right"):
            count += 2 * (ceil(piece.net_width_m / pitch) + 1)
        elif piece.face in ("lid", "floor") and piece.side is None:
            count += 2 * ceil((piece.net_length_m + piece.net_width_m) / (2 * pitch))
    return count
