"""Boards, sheets and blocks at hand that would do if the design were a little other: what it does.

A thickness the stock list has to be bought for is easily changed in the design to the one that
stands in the shed; what that costs in honey and saves in weight is worked out like any change.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from calveth.core import constants_building as cb
from calveth.core.assess.result import MonthlyAssessment, assess_months
from calveth.core.assess.solved_shells import solved_case
from calveth.core.case import HiveCase
from calveth.core.errors import CalvethError, CancelledError
from calveth.core.hive.design import Design, Face
from calveth.core.materials import Material
from calveth.core.solids.build import build_solids
from calveth.core.workshop.plan import listed
from calveth.core.workshop.stock import StockItem, Workshop

FACES: tuple[Face, ...] = ("walls", "lid", "floor")
_LEAST_SHARE, _MOST_SHARE = 0.5, 2.0
"""A layer is offered half to twice what it is; what is further off is another hive."""
_MOST_OFFERS = 6


@dataclass(frozen=True, slots=True, kw_only=True)
class OwnOffer:
    """A layer made as thick as something at hand.

    Attributes
    ----------
    item : StockItem
        What is at hand.
    face, layer : Face, int
        Which layer; 0 is the outermost.
    was_m : float
        How thick the layer is in the design [m].
    design : Design
        The design with it.
    weight_kg : float
        Change of the weight of all pieces [kg].
    honey_kg : float or None
        Change of what a winter takes, by the months [kg]; None where it cannot be worked out.
    """

    item: StockItem
    face: Face
    layer: int
    was_m: float
    design: Design
    weight_kg: float
    honey_kg: float | None


def own_offers(
    case: HiveCase, workshop: Workshop, monthly: MonthlyAssessment | None = None
) -> tuple[OwnOffer, ...]:
    """Return what could be built of what is at hand, the walls first, six at the most.

    ``monthly`` is the assessment of the case where it is known already.
    """
    tries = list(_tries(case.design, case, workshop))[:_MOST_OFFERS]
    if not tries:
        return ()
    before = _weight_kg(case.design, case)
    now = monthly or _honey(case)
    need = now.winter_honey_kg if now is not None else None
    offers = []
    for item, face, index, was, design in tries:
        after = _honey(replace(case, design=design))
        honey = None if after is None or need is None else after.winter_honey_kg - need
        offers.append(
            OwnOffer(
                item=item,
                face=face,
                layer=index,
                was_m=was,
                design=design,
                weight_kg=_weight_kg(design, case) - before,
                honey_kg=honey,
            )
        )
    return tuple(offers)


def _tries(
    design: Design, case: HiveCase, workshop: Workshop
) -> Iterator[tuple[StockItem, Face, int, float, Design]]:
    """Yield every layer another thickness is at hand for, with the design that has it."""
    at_hand = sorted((i for i in workshop.items if i.have and i.thickness_m), key=lambda i: i.name)
    for face in FACES:
        stack = design.shell.stack(face)
        for index, layer in enumerate(stack):
            material = case.materials[layer.material]
            fitting = [i for i in at_hand if _fits(i, material)]
            play = cb.SAME_THICKNESS.value + 1e-9
            if any(abs(i.thickness_m - layer.thickness_m) <= play for i in fitting):
                continue  # what is at hand is as thick as the layer already
            seen: set[float] = set()
            for item in fitting:
                share = item.thickness_m / layer.thickness_m
                if item.thickness_m in seen or not _LEAST_SHARE <= share <= _MOST_SHARE:
                    continue
                seen.add(item.thickness_m)
                try:
                    new = replace(layer, thickness_m=item.thickness_m)
                    changed = (*stack[:index], new, *stack[index + 1 :])
                    shell = replace(design.shell, **{face: changed})
                    made = replace(design, shell=shell)
                    build_solids(made)
                except CalvethError:
                    continue  # frames or joints have no room for it
                yield item, face, index, layer.thickness_m, made


def _fits(item: StockItem, material: Material) -> bool:
    return item.kind == material.bought_as and item.fits in (material.id, material.group)


def _weight_kg(design: Design, case: HiveCase) -> float:
    rows, _ = listed(design, case.materials)
    return sum(p.left_m3 * case.materials[p.material].density_kg_m3 for r in rows for p in r.pieces)


def _honey(case: HiveCase) -> MonthlyAssessment | None:
    try:
        return assess_months(solved_case(case, spots=False)[0])
    except CancelledError:
        raise
    except CalvethError:
        return None
