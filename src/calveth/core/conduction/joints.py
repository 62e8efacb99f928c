"""What every joint costs: linear and point thermal transmittances, EN ISO 10211:2017.

ψ = L2D − Σ U·l with lengths inside, L2D of a section through the joint that ends where heat goes
straight; χ of an opening's way from a piece of wall with and without it. Negative values are those
of inner lengths at an outer corner of thin walls: the edge adds less than it takes from the films.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import TypeVar

from calveth.core import constants as c
from calveth.core.conduction.grid import NO_SHARP, Fineness, make_grid
from calveth.core.conduction.hive_model import (
    common,
    hive_parts,
)
from calveth.core.conduction.joint_section import JointSection, section_conduction
from calveth.core.conduction.parts import AirSpace, Body, ConductionModel
from calveth.core.conduction.solve import solve_conduction
from calveth.core.heat.shell import DIRECTIONS
from calveth.core.heat.slab import INNER_FILM_M2K_W, plane_layers
from calveth.core.hive.design import Design, Face
from calveth.core.hive.forms import BarTrough, StackedBoxes
from calveth.core.hive.season_plan import NO_PLAN
from calveth.core.kept import kept
from calveth.core.materials import Material
from calveth.core.remembered import remembered
from calveth.core.solids.build import build_solids
from calveth.core.solids.parts import HiveSolids
from calveth.core.solids.quantities import face_areas, follower_board
from calveth.core.solids.shapes import Cuboid, SectionMap

_PATCH_M = 0.12
Part = TypeVar("Part", Body, AirSpace)


@dataclass(frozen=True, slots=True, kw_only=True)
class JointHeat:
    """A joint of a hive.

    Attributes
    ----------
    name, choice : str
        What meets, and how (`Joinery`); the choice is empty where there is none.
    length_m : float
        Length of the joint inside; 0 for a point.
    psi : float
        ψ [W/(m·K)], or χ of a point [W/K].
    whole_w_k : float
        What the joint adds to the heat loss [W/K].
    factor, plain_factor : float or None
        Coldest temperature factor at the joint, and that of the colder face as if the joint were
        not there, both with Rsi 0.25; None where it is not looked for.
    """

    name: str
    choice: str
    length_m: float
    psi: float
    whole_w_k: float
    factor: float | None = None
    plain_factor: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class JointSum:
    """Faces and joints of a hive, which add up to its solved conductance.

    ``faces_w_k`` is Σ U·A of the inner areas; ``rest_w_k`` what corners and ends of joints make,
    and what goes through a follower board.
    """

    faces_w_k: float
    joints: tuple[JointHeat, ...]
    rest_w_k: float
    behind_a_board: bool = False


def joints_of(
    design: Design, materials: Mapping[str, Material], conductance_w_k: float
) -> JointSum:
    """Return the joints of a hive whose solved conductance [W/K] is given; none for a tree.

    Remembered, as `hive.hive_conduction` is.
    """
    used = tuple(materials[key] for key in sorted(set(design.material_ids)))
    return _joints_of(design, used, conductance_w_k)


@remembered(48)
def _joints_of(design: Design, used: tuple[Material, ...], conductance_w_k: float) -> JointSum:
    asked = (design, used, conductance_w_k)
    return kept(JointSum, asked, lambda: _solved_joints(*asked))


def _solved_joints(design: Design, used: tuple[Material, ...], conductance_w_k: float) -> JointSum:
    materials = {m.id: m for m in used}
    hive = build_solids(design)
    areas = face_areas(hive)
    glass = design.window.area_m2 if design.window is not None else 0.0
    u = {face: _u(design, materials, face) for face in areas}
    board = follower_board(hive)
    faces = sum(u[face] * area.inner_m2 for face, area in areas.items())
    faces -= u["walls"] * (glass + board.area_m2)
    if design.window is not None:
        faces += _window_u(design, materials) * glass
    joints: list[JointHeat] = []
    if design.form.of_boards:
        joints = [
            _edge(design, materials, hive, "lid", areas["lid"].edge_m - board.top_m),
            _edge(design, materials, hive, "floor", areas["floor"].edge_m - board.foot_m),
            _corner(design, materials, hive, 4 - 2 * len(hive.beyond)),
        ]
        joints += _battens(design, materials, hive) + _window(design, materials, hive)
        joints += [_way(design, materials, hive, hole.opening) for hole in hive.holes]
    rest = conductance_w_k - faces - sum(j.whole_w_k for j in joints)
    return JointSum(
        faces_w_k=faces, joints=tuple(joints), rest_w_k=rest, behind_a_board=bool(hive.beyond)
    )


def _u(
    design: Design, materials: Mapping[str, Material], face: Face, rsi: float | None = None
) -> float:
    """Return U of a face [W/(m²·K)], EN ISO 6946, with screws that go through it."""
    stack = design.shell.stack(face)
    layers = plane_layers(stack, materials, DIRECTIONS[face])
    films = INNER_FILM_M2K_W[DIRECTIONS[face]] if rsi is None else rsi
    plain = hive_parts(_bare(design), materials, "heat", holes=False)
    resistance = 0.0
    for index, (layer, r) in enumerate(zip(stack, layers.resistances_m2k_w, strict=True)):
        if r > 0:
            resistance += layer.thickness_m / _lambda(plain.model, face, index)
    outer = float(layers.outer_film_m2k_w())
    if face == "floor" and design.joinery.stand == "slab":
        outer = 0.0
    return 1 / (films + resistance + outer)


def _lambda(model: ConductionModel, face: Face, index: int) -> float:
    """Return the conductivity a layer has in the model [W/(m·K)]."""
    return next(b.conductivity_w_mk for b in model.bodies if b.face == face and b.layer == index)


def _window_u(design: Design, materials: Mapping[str, Material]) -> float:
    assert design.window is not None
    layers = plane_layers(design.window.stack, materials, "horizontal")
    outer = float(layers.outer_film_m2k_w())
    return 1 / (INNER_FILM_M2K_W["horizontal"] + sum(layers.resistances_m2k_w) + outer)


def _bare(design: Design, **joinery: str) -> Design:
    """Return a hive without window, openings and follower board, the joints as they are."""
    form = design.form
    if isinstance(form, StackedBoxes | BarTrough):
        form = replace(form, frames_in_use=0, beyond="empty room")
    return replace(
        design,
        form=form,
        window=None,
        openings=(),
        seasons=NO_PLAN,
        joinery=replace(design.joinery, **joinery),  # type: ignore[arg-type]
    )


def _edge(
    design: Design, materials: Mapping[str, Material], hive: HiveSolids, face: Face, length: float
) -> JointHeat:
    """Return the joint of lid or floor with the front wall."""
    shell = hive.shell
    plain = _bare(design)
    middle_y, middle_z = 0.5 * (shell.y0 + shell.y1), 0.5 * (shell.z0 + shell.z1)

    def region(shape: Cuboid) -> Cuboid:
        cut = replace(shape, y1=min(shape.y1, middle_y))
        if face == "lid":
            return replace(cut, z0=max(cut.z0, middle_z))
        return replace(cut, z1=min(cut.z1, middle_z))

    at = 0.5 * (shell.x0 + shell.x1) - 1e-6
    heat = section_conduction(plain, materials, "heat", "x", at, region)
    damp = section_conduction(plain, materials, "damp", "x", at, region)
    end = shell.z1 if face == "lid" else shell.z0
    bend = hive.bend or SectionMap(
        middle_m=middle_y,
        half_m=middle_y - shell.y0,
        knots=((middle_y - shell.y0, shell.z0), (middle_y - shell.y0, shell.z1)),
    )
    wall_m = bend.length_m((shell.y0, min(middle_z, end)), (shell.y0, max(middle_z, end)))
    plate_m = bend.length_m((shell.y0, end), (middle_y, end))
    psi = heat.through_w_k - _u(design, materials, "walls") * wall_m
    psi -= _u(design, materials, face) * plate_m
    worst = max(_u(design, materials, f, c.RSI_EDGE.value) for f in ("walls", face))
    return JointHeat(
        name=f"{face} to wall",
        choice=getattr(design.joinery, face),
        length_m=length,
        psi=psi,
        whole_w_k=psi * length,
        factor=damp.coldest,
        plain_factor=1 - worst * c.RSI_EDGE.value,
    )


def _level_region(hive: HiveSolids) -> Callable[[Cuboid], Cuboid]:
    shell = hive.shell
    x, y = 0.5 * (shell.x0 + shell.x1), 0.5 * (shell.y0 + shell.y1)
    return lambda shape: replace(shape, x1=min(shape.x1, x), y1=min(shape.y1, y))


def _corner(
    design: Design, materials: Mapping[str, Material], hive: HiveSolids, count: int
) -> JointHeat:
    """Return the upright corner of two walls."""
    shell = hive.shell
    at = _between_joints(hive)
    region = _level_region(hive)
    heat = section_conduction(_bare(design), materials, "heat", "z", at, region, ("battens",))
    damp = section_conduction(_bare(design), materials, "damp", "z", at, region, ("battens",))
    inner = 0.5 * (shell.x1 - shell.x0 + shell.y1 - shell.y0)
    psi = heat.through_w_k - _u(design, materials, "walls") * inner
    bend = hive.bend
    high = (
        bend.length_m((shell.y0, shell.z0), (shell.y0, shell.z1)) if bend else (shell.z1 - shell.z0)
    )
    plain = 1 - _u(design, materials, "walls", c.RSI_EDGE.value) * c.RSI_EDGE.value
    return JointHeat(
        name="corner of the walls",
        choice=design.joinery.corner,
        length_m=count * high,
        psi=psi,
        whole_w_k=count * high * psi,
        factor=damp.coldest,
        plain_factor=plain,
    )


def _between_joints(hive: HiveSolids) -> float:
    """Return a height where the walls are whole [m]."""
    return hive.shell.z0 + 0.47 * (hive.shell.z1 - hive.shell.z0)


def _battens(
    design: Design, materials: Mapping[str, Material], hive: HiveSolids
) -> list[JointHeat]:
    """Return the battens that hold the outer layers."""
    if not any(s.role == "battens" for s in hive.inset):
        return []
    at, region = _between_joints(hive), _level_region(hive)
    plain = _bare(design)
    with_them = section_conduction(plain, materials, "heat", "z", at, region)
    without = section_conduction(plain, materials, "heat", "z", at, region, ("battens",))
    psi = (with_them.through_w_k - without.through_w_k) / 2
    length = 8 * (hive.shell.z1 - hive.shell.z0)
    return [
        JointHeat(
            name="battens",
            choice=design.joinery.fixing,
            length_m=length,
            psi=psi,
            whole_w_k=psi * length,
        )
    ]


def _window(design: Design, materials: Mapping[str, Material], hive: HiveSolids) -> list[JointHeat]:
    """Return the edge of the window, from a level section through its middle."""
    window = design.window
    if window is None:
        return []
    at = window.bottom_m + window.height_m / 2
    seen = replace(_bare(design), window=window)

    def region(shape: Cuboid) -> Cuboid:
        return shape

    pair = [
        section_conduction(d, materials, "heat", "z", at, region, ("battens",))
        for d in (
            seen,
            replace(seen, window=None, joinery=replace(seen.joinery, window_frame="none")),
        )
    ]
    # The section without a window is a quarter or a half of the one with it.
    x1, y1 = 0.5 * (hive.shell.x0 + hive.shell.x1), 0.5 * (hive.shell.y0 + hive.shell.y1)
    window_w_k = _times(pair[0].field.model, x1, y1) * pair[0].through_w_k
    plain = _times(pair[1].field.model, x1, y1) * pair[1].through_w_k
    more = (_window_u(design, materials) - _u(design, materials, "walls")) * window.width_m
    psi = (window_w_k - plain - more) / 2
    length = 2 * (window.width_m + window.height_m)
    damp = section_conduction(seen, materials, "damp", "z", at, region, ("battens",))
    layers = plane_layers(window.stack, materials, "horizontal")
    r = sum(layers.resistances_m2k_w) + float(layers.outer_film_m2k_w())
    return [
        JointHeat(
            name="edge of the window",
            choice=design.joinery.window_frame,
            length_m=length,
            psi=psi,
            whole_w_k=psi * length,
            factor=damp.coldest,
            plain_factor=r / (c.RSI_EDGE.value + r),
        )
    ]


def _times(model: ConductionModel, x1: float, y1: float) -> int:
    """Return how many of a level section make the hive."""
    space = model.outside[0].shape
    return (2 if abs(space.x1 - x1) < 1e-6 else 1) * (2 if abs(space.y1 - y1) < 1e-6 else 1)


def _cut(parts: tuple[Part, ...], box: Cuboid) -> tuple[Part, ...]:
    """Return what of bodies or spaces lies in a block."""
    cut = [(part, common(part.shape, box)) for part in parts]
    return tuple(replace(part, shape=shape) for part, shape in cut if shape is not None)


def _way(
    design: Design, materials: Mapping[str, Material], hive: HiveSolids, opening_id: str
) -> JointHeat:
    """Return the way of an opening and what lines it, from the piece of shell round it."""
    opening = next(o for o in design.openings if o.id == opening_id)
    hole = next(h for h in hive.holes if h.opening == opening_id).shape
    grown = {
        "front": "xz",
        "back": "xz",
        "left": "yz",
        "right": "yz",
        "lid": "xy",
        "floor": "xy",
    }[opening.side]
    box = hole
    room = hive.shell
    for axis in "xyz":
        low, high = getattr(box, f"{axis}0"), getattr(box, f"{axis}1")
        if axis in grown:
            low, high = low - _PATCH_M, high + _PATCH_M
            low = max(low, getattr(room, f"{axis}0"))
            high = min(high, getattr(room, f"{axis}1"))
        else:
            low, high = low - 0.02, high + 0.02
        box = replace(box, **{f"{axis}0": low, f"{axis}1": high})
    flows = []
    for openings in ((opening,), ()):
        one = replace(_bare(design), openings=openings)
        # Whole, for a hive without its hole is alike on both sides and would end at its middle.
        model = hive_parts(one, materials, "heat", halves=False).model
        small = ConductionModel(
            outside=_cut(model.outside, box),
            bodies=_cut(model.bodies, box),
            inside=_cut(model.inside, box),
        )
        field = solve_conduction(small, make_grid(small, Fineness(first_m=0.008, least=2)))
        flows.append(JointSection(field=field, room_m=NO_SHARP).through_w_k)
    chi = flows[0] - flows[1]
    return JointHeat(
        name=f"way of the {opening.name}",
        choice=design.joinery.entrance,
        length_m=0.0,
        psi=chi,
        whole_w_k=chi,
    )
