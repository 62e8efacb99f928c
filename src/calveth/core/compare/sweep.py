"""What each centimetre of a layer brings: honey saved against what it costs."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from calveth.core.assess.readings import LID_MIDDLE, LID_RIM, CrownVerdict, crown_verdict
from calveth.core.assess.result import MonthlyAssessment, assess_many
from calveth.core.assess.solved_shells import solved_case
from calveth.core.case import HiveCase
from calveth.core.errors import DomainError
from calveth.core.hive.design import Design, Face
from calveth.core.materials import Layer, Material
from calveth.core.solids.cost import material_cost_eur
from calveth.core.solids.quantities import part_weights_kg


@dataclass(frozen=True, slots=True, kw_only=True)
class SweepPoint:
    """One thickness of the layer that is swept.

    ``saved_kg_cm`` and ``cost_eur_cm`` compare it with the next thinner one, per centimetre (None
    for the first); ``pays`` tells whether the honey of the years of use is worth more than the
    centimetre costs.
    """

    thickness_m: float
    conductance_w_k: float
    winter_honey_kg: float
    lid_margin_k: float
    rim_margin_k: float
    crown: CrownVerdict
    weight_kg: float
    cost_eur: float
    saved_kg_cm: float | None
    cost_eur_cm: float | None
    pays: bool | None


def stock_range_m(material: Material) -> tuple[float, ...]:
    """Return the thicknesses worth trying [m]: stock sizes, or steps of 10 mm.

    >>> from calveth.catalogue.shipped import shipped_materials
    >>> xps = next(m for m in shipped_materials() if m.id == "xps")
    >>> stock_range_m(xps)[:3]
    (0.01, 0.02, 0.025)
    """
    # Two or three stock sizes make no curve; any thickness is tried then.
    if len(material.stock_m) >= 4:
        return material.stock_m
    return tuple(k / 100 for k in range(1, 16))


def with_thickness(design: Design, face: Face, index: int, thickness_m: float) -> Design:
    """Return the design with one layer of another thickness.

    Raises
    ------
    DomainError
        When the layer does not exist or the thickness is refused.
    """
    stack = design.shell.stack(face)
    if not 0 <= index < len(stack):
        raise DomainError(f"{face} layer", index + 1, f"does not exist; there are {len(stack)}")
    layer = replace(stack[index], thickness_m=thickness_m)
    changed = (*stack[:index], layer, *stack[index + 1 :])
    return replace(design, shell=replace(design.shell, **{face: changed}))


def sweep(
    case: HiveCase,
    face: Face,
    index: int,
    thicknesses_m: Sequence[float],
    *,
    honey_price_eur_kg: float,
    years_of_use: float,
    solve: bool,
    report: Callable[[float], None] = lambda _: None,
) -> list[SweepPoint]:
    """Return a layer at every thickness, thinnest first.

    With ``solve`` the shell of every thickness is solved, so that each point is what Compare says
    of that very hive; without it they take the shell of the case. ``report`` is told the share
    that is done; it may raise to stop.
    """
    sizes = sorted(set(thicknesses_m))
    cases = [case.of(with_thickness(case.design, face, index, size)) for size in sizes]
    if solve:
        solved = []
        for number, each in enumerate(cases):
            solved.append(solved_case(each, spots=False)[0])
            # The balances of all sizes, worked side by side, are the last step.
            report((number + 1) / (len(cases) + 1))
        cases = solved
    assessed = assess_many(cases)
    report(1.0)
    points: list[SweepPoint] = []
    for size, year in zip(sizes, assessed, strict=True):
        points.append(
            _point(size, year, points[-1] if points else None, honey_price_eur_kg * years_of_use)
        )
    return points


def _point(
    size: float,
    year: MonthlyAssessment,
    thinner: SweepPoint | None,
    honey_worth_eur_kg: float,
) -> SweepPoint:
    m, k, materials = year.months, year.coldest_month, year.materials
    cost = material_cost_eur(year.design, materials, year.model.hive)
    saved = price = None
    pays = None
    if thinner is not None:
        centimetres = 100 * (size - thinner.thickness_m)
        saved = (thinner.winter_honey_kg - year.winter_honey_kg) / centimetres
        price = (cost - thinner.cost_eur) / centimetres
        pays = saved * honey_worth_eur_kg > price
    return SweepPoint(
        thickness_m=size,
        conductance_w_k=year.conductance_w_k,
        winter_honey_kg=year.winter_honey_kg,
        lid_margin_k=float(m.margin_k[LID_MIDDLE, k]),
        rim_margin_k=float(m.margin_k[LID_RIM, k]),
        crown=crown_verdict(m, k),
        weight_kg=sum(part_weights_kg(year.model.hive, materials).values()),
        cost_eur=cost,
        saved_kg_cm=saved,
        cost_eur_cm=price,
        pays=pays,
    )


DOUBT_SHARE = 0.03
"""Differences of winter honey under this share of it are within the doubt of the estimate with the
same bees; an estimate."""


def within_doubt(thinner: SweepPoint, point: SweepPoint) -> bool:
    """Return whether a step saves no more honey than the estimate is good for."""
    less = abs(thinner.winter_honey_kg - point.winter_honey_kg)
    return less < DOUBT_SHARE * thinner.winter_honey_kg


def doubt_from(points: Sequence[SweepPoint]) -> SweepPoint | None:
    """Return the thinnest point beyond which all that is left saves less than the doubt.

    None when the last step itself is beyond doubt.
    """
    for k, point in enumerate(points[:-1]):
        if point.winter_honey_kg - points[-1].winter_honey_kg < (
            DOUBT_SHARE * point.winter_honey_kg
        ):
            return points[k]
    return None


def insulation_of(stack: Sequence[Layer], materials: Mapping[str, Material]) -> int:
    """Return the layer of a face that insulates best, where another centimetre counts most."""
    solid = [k for k, y in enumerate(stack) if materials[y.material].kind == "solid"]
    return min(solid, key=lambda k: materials[stack[k].material].conductivity_w_mk, default=0)


def last_that_pays(points: Sequence[SweepPoint]) -> SweepPoint | None:
    """Return the thickest point up to which every step pays; None when not even the first does."""
    paying = None
    for point in points[1:]:
        if not point.pays:
            break
        paying = point
    return paying
