"""What helps: changes the program tries itself and quotes with their effect."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from calveth.core.assess.bands import dry_of_ten
from calveth.core.assess.readings import VISIBLE_G_DAY, CrownVerdict, crown_verdict
from calveth.core.assess.result import MonthlyAssessment, assess_months
from calveth.core.assess.solved_shells import solved_case
from calveth.core.case import HiveCase
from calveth.core.errors import CalvethError, CancelledError, DomainError
from calveth.core.hive.by_month import in_month
from calveth.core.hive.design import Design, Face
from calveth.core.hive.forms import cavity_height_m
from calveth.core.hive.opening import Opening, is_high
from calveth.core.hive.zones import NEST
from calveth.core.kept import kept
from calveth.core.materials import Layer, Material
from calveth.core.message import Message, Value, message
from calveth.core.solids.cost import material_cost_eur

# What is tried, in sizes that are sold; common practice, no source [m].
_MORE_M = 0.03
_FOAM_M, _BOARD_M, _QUILT_GAP_M = 0.04, 0.006, 0.02
_UNDER_THE_RIM_M = 0.07
# An entrance narrowed as far as this is not narrowed again [-].
_NARROWED = 0.2
_MIDDLING_LAMBDA = 0.06
_QUILT_M = 0.05
_QUILT_VENTS_M2_M = 0.001
_UPPER_HOLE_M = 0.019
# What saves less is not told as a saving [kg].
_LITTLE_HONEY_KG = 0.1


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Remedy:
    """A change that was tried.

    Attributes
    ----------
    done : Message
        What is done.
    design : Design
        The design with it; materials it needs are in ``materials``.
    crown : str
        The crown in the wettest winter month with it.
    wet_months_less : int
        Winter months the lid is no longer wet in.
    dry_of_ten : int
        In how many of ten draws of what is uncertain the lid is dry all year with it.
    dry_of_ten_more : int
        By how many that is more than without it.
    honey_kg : float
        Change of the winter honey [kg], negative is less.
    cost_eur : float
        Change of the cost of material [€].
    co2_share : float
        CO2 in the nest of the coldest month with it.
    """

    done: Message
    design: Design
    materials: tuple[Material, ...]
    crown: CrownVerdict
    wet_months_less: int
    dry_of_ten: int
    dry_of_ten_more: int
    honey_kg: float
    cost_eur: float
    co2_share: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Outcome:
    """What is kept of a change that was tried: the figures of the changed hive, as in `Remedy`."""

    crown: CrownVerdict
    wet_months: int
    dry_of_ten: int
    winter_honey_kg: float
    co2_share: float


_Made = tuple[Message, Design, tuple[Material, ...]]


def remedies(
    monthly: MonthlyAssessment,
    catalogue: Mapping[str, Material],
    report: Callable[[float], None] = lambda _: None,
) -> list[Remedy]:
    """Return the changes that make the lid drier or save honey, the best first.

    ``catalogue`` offers materials the project does not have yet. Each change is worked out through
    the year and drawn as the verdicts are; changes that help nothing, and those that save honey and
    make the lid wetter, are left out. A change of the
    shell is solved like the hive itself, so that what is promised is what comes out.
    """
    materials = monthly.materials
    candidates = list(_candidates(monthly, {**catalogue, **materials}))
    tried: list[Remedy] = []
    before, sure = _wet_months(monthly), dry_of_ten(monthly.case)
    cost = material_cost_eur(monthly.design, materials)
    for number, (done, design, new) in enumerate(candidates):
        table = {**materials, **{m.id: m for m in new}}
        case = replace(monthly.case, design=design, materials=table)
        try:
            asked = (*case.key, monthly.solved)
            after = kept(Outcome, asked, partial(_outcome, case, solved=monthly.solved))
        except CancelledError:
            raise
        except CalvethError:
            continue
        finally:
            report((number + 1) / len(candidates))
        tried.append(
            Remedy(
                done=done,
                design=design,
                materials=new,
                crown=after.crown,
                wet_months_less=len(before) - after.wet_months,
                dry_of_ten=after.dry_of_ten,
                dry_of_ten_more=after.dry_of_ten - sure,
                honey_kg=after.winter_honey_kg - monthly.winter_honey_kg,
                cost_eur=material_cost_eur(design, table) - cost,
                co2_share=after.co2_share,
            )
        )
    useful = [
        r
        for r in tried
        if r.wet_months_less > 0
        or (r.dry_of_ten_more > 1 and r.wet_months_less >= 0)
        or (r.honey_kg < -_LITTLE_HONEY_KG and r.wet_months_less >= 0 and r.dry_of_ten_more > -2)
    ]
    return sorted(useful, key=lambda r: (-r.wet_months_less, -r.dry_of_ten, r.honey_kg))


def _outcome(case: HiveCase, *, solved: bool) -> Outcome:
    """Return what a changed hive comes to."""
    after = assess_months(solved_case(case, spots=False)[0] if solved else case)
    return Outcome(
        crown=crown_verdict(after.months, _wettest(after)),
        wet_months=len(_wet_months(after)),
        dry_of_ten=dry_of_ten(after.case),
        winter_honey_kg=after.winter_honey_kg,
        co2_share=float(after.months.co2_volume_share[NEST, after.coldest_month]),
    )


def _wettest(monthly: MonthlyAssessment) -> int:
    return int(np.argmax(monthly.months.lid_g_day))


def _wet_months(monthly: MonthlyAssessment) -> list[int]:
    return [int(k) for k in np.flatnonzero(monthly.months.lid_g_day >= VISIBLE_G_DAY)]


def _candidates(monthly: MonthlyAssessment, table: Mapping[str, Material]) -> Iterator[_Made]:
    """Yield what is done, changed design and materials of every change worth trying."""
    design = monthly.design
    tries: tuple[Callable[[Design, Mapping[str, Material]], _Made | None], ...] = (
        _thicker_lid,
        _thicker_walls,
        _quilt,
        lambda d, _: _upper_hole(d),
        lambda d, _: _shut_above(d, monthly.coldest_month),
        lambda d, _: _narrow(d),
        lambda d, _: _wider(d),
        lambda d, _: _tighter(d),
        lambda d, _: _past_the_rim(d),
        lambda d, _: _floor_within(d),
    )
    for attempt in tries:
        try:
            made = attempt(design, table)
        except DomainError:
            continue  # it does not fit this hive
        if made is not None:
            yield made


def _thicker(design: Design, face: Face, table: Mapping[str, Material]) -> _Made | None:
    """Make the best insulating layer thicker, or add foam behind a board where there is none.

    None for a face of nothing but gaps and films: there is nothing to carry the foam.
    """
    stack = design.shell.stack(face)
    solid = [k for k, y in enumerate(stack) if table[y.material].kind == "solid"]
    if not solid:
        return None
    best = min(solid, key=lambda k: table[stack[k].material].conductivity_w_mk)
    if table[stack[best].material].conductivity_w_mk <= _MIDDLING_LAMBDA:
        layer = replace(stack[best], thickness_m=stack[best].thickness_m + _MORE_M)
        new = (*stack[:best], layer, *stack[best + 1 :])
        what = message(
            "thicker layer",
            material=Value(table[layer.material].name.lower(), "name"),
            face=Value(face, "surface"),
            more=Value(_MORE_M, "length"),
        )
        return what, replace(design, shell=replace(design.shell, **{face: new})), ()
    foam, board = table["xps"], table["plywood"]
    new = (
        *stack[:1],
        Layer(material=foam.id, thickness_m=_FOAM_M),
        *(stack[1:] or (Layer(material=board.id, thickness_m=_BOARD_M),)),
    )
    what = message("foam under a board", face=Value(face, "surface"), foam=Value(_FOAM_M, "length"))
    return what, replace(design, shell=replace(design.shell, **{face: new})), (foam, board)


def _thicker_lid(design: Design, table: Mapping[str, Material]) -> _Made | None:
    return _thicker(design, "lid", table)


def _thicker_walls(design: Design, table: Mapping[str, Material]) -> _Made | None:
    return _thicker(design, "walls", table)


def _quilt(design: Design, table: Mapping[str, Material]) -> _Made | None:
    lid = design.shell.lid
    if any(layer.fitting == "quilt" for layer in lid):
        return None
    shavings, cloth, gap = table["shavings"], table["canvas"], table["air-gap"]
    new = (
        *lid,
        Layer(
            material=gap.id, thickness_m=_QUILT_GAP_M, vents_m2_m=_QUILT_VENTS_M2_M, fitting="quilt"
        ),
        Layer(material=shavings.id, thickness_m=_QUILT_M, fitting="quilt"),
        Layer(material=cloth.id, thickness_m=0.001, fitting="quilt"),
    )
    changed = replace(design, shell=replace(design.shell, lid=new))
    return message("lay a quilt", deep=Value(_QUILT_M, "length")), changed, (shavings, cloth, gap)


def _upper_hole(design: Design) -> _Made | None:
    height = cavity_height_m(design.form)
    if any(is_high(o, height) for o in design.openings):
        return None
    hole = Opening(
        id="high-1",
        name="upper hole",
        shape="hole",
        bottom_m=round(max(height - _UNDER_THE_RIM_M, 0.0), 3),
        width_m=_UPPER_HOLE_M,
        height_m=_UPPER_HOLE_M,
    )
    return (
        message("drill a hole high", wide=Value(_UPPER_HOLE_M, "length")),
        _with(design, (*design.openings, hole)),
        (),
    )


def _shut_above(design: Design, month: int) -> _Made | None:
    height = cavity_height_m(design.form)
    now = in_month(design, month)
    high = [o.id for o in now.openings if is_high(o, height) and o.open_share > 0]
    low = any(not is_high(o, height) and o.open_share > 0 for o in now.openings)
    if not high or not low:
        return None
    for opening in high:
        design = _scaled(design, opening, 0.0)
    return message("shut the opening above"), design, ()


def _main_low(design: Design) -> Opening | None:
    height = cavity_height_m(design.form)
    low = [o for o in design.openings if not is_high(o, height) and o.shape in ("slot", "hole")]
    return max(low, key=lambda o: o.width_m * o.height_m, default=None)


def _narrow(design: Design) -> _Made | None:
    low = _main_low(design)
    if low is None or low.free_share <= _NARROWED:
        return None
    return (
        message("narrow to half", opening=Value(low.name, "name")),
        _scaled(design, low.id, 0.5),
        (),
    )


def _wider(design: Design) -> _Made | None:
    low = _main_low(design)
    if low is None or low.shape != "slot":
        return None
    wide = replace(low, width_m=2 * low.width_m)
    openings = tuple(wide if o.id == low.id else o for o in design.openings)
    return message("twice as wide", opening=Value(low.name, "name")), _with(design, openings), ()


def _scaled(design: Design, opening_id: str, factor: float) -> Design:
    """Return the design with an opening's slider moved, in the design and in its plan."""
    openings = tuple(
        replace(o, free_share=o.free_share * factor) if o.id == opening_id else o
        for o in design.openings
    )
    before = next(o.free_share for o in design.openings if o.id == opening_id)
    seasons = design.seasons.each(
        lambda s: s.with_share(opening_id, s.share(opening_id, before) * factor)
    )
    return replace(design, openings=openings, seasons=seasons)


def _tighter(design: Design) -> _Made | None:
    if design.joints in ("filled", "propolised") or not design.form.has_frames:
        return None
    return message("seal the joints"), replace(design, joints="propolised"), ()


def _past_the_rim(design: Design) -> _Made | None:
    """Take the cold bridge out of the rim: what lies outside of the inner boards meets."""
    if design.joinery.lid == "insulation past the rim" or not _has_core(design, "lid"):
        return None
    joinery = replace(design.joinery, lid="insulation past the rim")
    return message("insulation past the rim"), replace(design, joinery=joinery), ()


def _floor_within(design: Design) -> _Made | None:
    if design.joinery.floor == "walls past the floor" or not _has_core(design, "walls"):
        return None
    joinery = replace(design.joinery, floor="walls past the floor")
    return message("insulation past the floor"), replace(design, joinery=joinery), ()


def _has_core(design: Design, face: Face) -> bool:
    """Tell whether a face has anything outside of its inner board."""
    return design.form.of_boards and len(design.shell.stack(face)) > 1


def _with(design: Design, openings: tuple[Opening, ...]) -> Design:
    return replace(design, openings=openings)
