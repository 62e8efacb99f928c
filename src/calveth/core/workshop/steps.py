"""The order of the work, each act with the caution that belongs to it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from calveth.core.hive.design import Design
from calveth.core.hive.forms import LittleBoxes, is_divided
from calveth.core.materials import Material
from calveth.core.message import Message, Value, message
from calveth.core.workshop.block_walls import BlockWall
from calveth.core.workshop.casting import CastPart
from calveth.core.workshop.panels import Panel
from calveth.core.workshop.piece import Bulk, Row


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """One act, the rows it is about, and the cautions beside it."""

    act: Message
    rows: tuple[int, ...] = ()
    cautions: tuple[str, ...] = ()


DUST = "Silica dust harms the lungs: cut wet or outdoors, with a mask that is rated for dust."
FIBRE = "Cut fibre and wool with a sharp knife, outdoors or with a dust mask, and keep them dry."
FOAM = "Cut foam cold, with a knife or a fine saw; keep it from flame and smoker."
PAINT = "Paint and oil on outer faces only, and cured before bees move in."
BLADE = "Guard, push stick, ears and eyes: the saw does not forgive."
GLASS = "Glass edges cut: gloves, and edges ground."
LIFTED = "Lift with two, or comb by comb: see the weights."
ANCHORED = "Legs bolted, wider than the body; a strap against wind."
STRAPPED = "Pull it tight, and anchor what stands in the open: a lid in a gale hurts whom it hits."
HINGED = "A lid that falls hurts hands and bees: the stay must hold it open by itself."
ROOM = "A trunk is heavy and rolls: wedge it before you cut, and keep the saw's path free."


def steps_of(
    design: Design,
    materials: Mapping[str, Material],
    rows: Sequence[Row],
    bulk: Sequence[Bulk],
    panels: Mapping[int, Panel],
    walls: Sequence[BlockWall],
    casts: Sequence[CastPart],
) -> tuple[Step, ...]:
    """Return the assembly in steps."""
    if not design.form.of_boards:
        messages = [b.message for b in bulk if b.what == "trunk" and b.message is not None]
        return tuple(Step(act=m, cautions=(ROOM,)) for m in messages)
    return (
        *_cutting(materials, rows, panels),
        *_mineral(design, walls, casts),
        *_joining(design, rows),
        *_filling(materials, rows, bulk),
        *_closing(design, rows, bulk),
    )


def _numbers(rows: Sequence[Row], way: str) -> tuple[int, ...]:
    return tuple(r.number for r in rows if r.piece.bought_as == way)


def _cutting(
    materials: Mapping[str, Material], rows: Sequence[Row], panels: Mapping[int, Panel]
) -> list[Step]:
    steps = []
    glued = tuple(n for n, p in panels.items() if p.strips > 1)
    if glued:
        steps.append(Step(act=message("glue panels"), rows=glued))
    boards = _numbers(rows, "board")
    if boards:
        steps.append(Step(act=message("cut boards"), rows=boards, cautions=(BLADE,)))
    for name, groups, caution in (
        ("cut sheets", ("wood board",), BLADE),
        ("cut foam", ("foam",), FOAM),
        ("cut fibre", ("plant and wool",), FIBRE),
        ("cut mineral sheets", ("mineral",), DUST),
        ("cut metal", ("metal",), BLADE),
        ("order panes", ("glass and plastic",), GLASS),
    ):
        some = tuple(
            r.number
            for r in rows
            if r.piece.bought_as == "sheet" and materials[r.piece.material].group in groups
        )
        if some:
            steps.append(Step(act=message(name), rows=some, cautions=(caution,)))
    edged = tuple(r.number for r in rows if r.piece.work)
    if edged:
        steps.append(Step(act=message("work edges"), rows=edged))
    drilled = tuple(r.number for r in rows if r.piece.cutouts)
    if drilled:
        steps.append(Step(act=message("drill and saw openings"), rows=drilled))
    return steps


def _mineral(design: Design, walls: Sequence[BlockWall], casts: Sequence[CastPart]) -> list[Step]:
    steps = []
    if walls:
        dust = sum(w.dust_g for w in walls)
        steps.append(
            Step(act=message("saw blocks", dust=Value(dust / 1000, "mass", 1, 1)), cautions=(DUST,))
        )
        steps.append(Step(act=message("lay base")))
        name = "lay dry" if design.joinery.blocks == "dry-laid" else "glue courses"
        steps.append(Step(act=message(name)))
        steps.append(Step(act=message("lid frame on blocks")))
    if casts:
        steps.append(Step(act=message("make moulds")))
        steps.append(Step(act=message("mix and cast"), cautions=(DUST,)))
        steps.append(Step(act=message("strike moulds"), cautions=(LIFTED,)))
    return steps


def _joining(design: Design, rows: Sequence[Row]) -> list[Step]:
    form, steps = design.form, []

    def of(*roles: str) -> tuple[int, ...]:
        return tuple(
            r.number
            for r in rows
            if r.piece.part.role in roles
            and r.piece.bought_as in ("board", "sheet")
            and r.piece.place != "fitting"
        )

    for name, roles in (
        ("join floor", ("floor",)),
        ("join boxes", ("box",)),
        ("join trough", ("trough",)),
        ("join eke", ("eke",)),
        ("join lid", ("lid",)),
        ("join quilt", ("quilt",)),
        ("join cover", ("cover", "cover lid")),
    ):
        if of(*roles):
            steps.append(Step(act=message(name), rows=of(*roles)))
    rest = tuple(r.number for r in rows if r.piece.role == "frame strip")
    if rest:
        steps.append(Step(act=message("screw strips"), rows=rest))
    if is_divided(form):
        boards = tuple(r.number for r in rows if r.piece.role in ("divider", "follower board"))
        steps.append(Step(act=message("fit divider"), rows=boards))
    if isinstance(form, LittleBoxes):
        steps.append(Step(act=message("lay plates")))
    return steps


def _filling(
    materials: Mapping[str, Material], rows: Sequence[Row], bulk: Sequence[Bulk]
) -> list[Step]:
    steps = []
    middle = [r for r in rows if r.piece.place == "middle" and r.piece.bought_as == "sheet"]
    if middle:
        groups = {materials[r.piece.material].group for r in middle}
        fillings = ((FOAM, "foam"), (FIBRE, "plant and wool"))
        cautions = tuple(caution for caution, group in fillings if group in groups)
        steps.append(Step(act=message("fit insulation"), cautions=cautions))
    if any(b.what == "fill" for b in bulk):
        steps.append(Step(act=message("fill quilt")))
    if any(b.what == "mesh" for b in bulk):
        steps.append(Step(act=message("staple mesh")))
    if any(b.what == "coat" for b in bulk):
        steps.append(Step(act=message("paint"), cautions=(PAINT,)))
    return steps


def _closing(design: Design, rows: Sequence[Row], bulk: Sequence[Bulk]) -> list[Step]:
    steps = []
    legs = tuple(r.number for r in rows if r.piece.role == "legs")
    if legs:
        steps.append(Step(act=message("bolt stand"), rows=legs, cautions=(ANCHORED,)))
    if design.details.hinge:
        steps.append(Step(act=message("hang lid"), cautions=(HINGED,)))
    if any(b.what == "frames" for b in bulk):
        steps.append(Step(act=message("hang frames")))
    if design.details.strap != "none":
        steps.append(Step(act=message("strap it"), cautions=(STRAPPED,)))
    steps.append(Step(act=message("try it dry"), cautions=(LIFTED,)))
    return steps
