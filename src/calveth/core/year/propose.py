"""Designs from limits: what stays dry, may be lifted and paid for, tried on the year.

All that is proposed is weighed and priced first; what is within the limits goes through the months
in one batch; the best of it through the year as likely, and what is not worse in everything through
the year with its ranges.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calveth.core.assess.readings import LID_MIDDLE, LID_RIM
from calveth.core.assess.result import MonthlyAssessment, assess_each
from calveth.core.case import HiveCase
from calveth.core.climate.place import days_without_forage
from calveth.core.errors import CalvethError, require_between
from calveth.core.solids.build import build_solids
from calveth.core.solids.cost import material_cost_eur
from calveth.core.solids.quantities import outer_size_m
from calveth.core.workshop.weights import lifts_of
from calveth.core.year.draws import YearBands, year_bands

_MOST_THROUGH_THE_YEAR, _MOST_WITH_RANGES = 60, 12
# Differences of the months that are none: the year will tell.
_HONEY_KG, _COST_EUR, _LIFT_KG, _MARGIN_K = 0.1, 5.0, 1.0, 0.3
# Drier under the lid than this is no better, wetter no worse.
_DRY_K, _WET_K = 1.2, -0.6


@dataclass(frozen=True, slots=True, kw_only=True)
class Limits:
    """What a hive must keep to; infinite where there is no limit.

    Attributes
    ----------
    lift_kg : float
        Heaviest lift, full [kg].
    cost_eur : float
        Material [€].
    outer_m : float
        Outer width and length [m].
    dry_of_ten : int
        In how many of ten draws it stays dry above the cluster all winter, at least.
    materials : frozenset of str
        Ids it may be made of; empty: any.
    """

    lift_kg: float = float("inf")
    cost_eur: float = float("inf")
    outer_m: float = float("inf")
    dry_of_ten: int = 9
    materials: frozenset[str] = frozenset()

    def __post_init__(self) -> None:
        for name, value, low, high, unit in (
            ("heaviest lift", self.lift_kg, 0.5, 1000.0, "kg"),
            ("cost", self.cost_eur, 0.0, 1e5, "€"),
            ("outer size", self.outer_m, 0.1, 10.0, "m"),
        ):
            if value != float("inf"):
                require_between(name, value, low, high, unit)
        require_between("dry hives of ten", self.dry_of_ten, 0, 10)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Proposal:
    """A design within the limits.

    ``dry_of_ten`` is in how many of ten draws the lid stays dry above the cluster.
    """

    bands: YearBands
    lift_kg: float
    cost_eur: float
    outer_m: float
    dry_of_ten: float

    @property
    def measures(self) -> tuple[float, float, float, float]:
        """Honey, cost, weight and wet nights of the rim: less is better in each."""
        f = self.bands.likely
        return f.winter_honey_kg, self.cost_eur, self.lift_kg, f.rim_wet_nights


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Search:
    """What was found, and what was searched.

    Of all that was ``tried`` so many were ``within`` weight, cost, size and materials and so many
    went ``through_year``. ``front`` are proposals none of which is worse than another in
    everything, the thriftiest first.
    ``nearest`` says what misses least where nothing keeps to the limits, ``missed`` by what.
    """

    tried: int
    within: int
    through_year: int
    front: tuple[Proposal, ...]
    nearest: str
    missed: str


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Weighed:
    case: HiveCase
    lift_kg: float
    cost_eur: float
    outer_m: float


def propose(
    cases: Sequence[HiveCase],
    limits: Limits,
    *,
    draws: int = 10,
    report: Callable[[float], None] = lambda _: None,
) -> Search:
    """Return the front of designs within the limits."""
    weighed = [w for w in (_weighed(case) for case in cases) if w is not None]
    within = [w for w in weighed if not _misses(w, limits)]
    if not within:
        near = min(weighed, key=lambda w: _excess(w, limits), default=None)
        return Search(
            tried=len(cases),
            within=0,
            through_year=0,
            front=(),
            nearest=near.case.design.name if near else "",
            missed=", ".join(_misses(near, limits)) if near else "no design can be built",
        )
    report(0.05)
    taken = _best_by_months(within)
    report(0.1)
    likely = year_bands([w.case for w in taken], 0, lambda s: report(0.1 + 0.4 * s))
    # Those in which bees would suffocate are none.
    alive = [(w, b) for w, b in zip(taken, likely, strict=True) if not b.trouble]
    first = [_proposal(w, bands) for w, bands in alive]
    best = _some_of(_front(first), limits)
    order = {id(p.bands): w for p, (w, _) in zip(first, alive, strict=True)}
    chosen = [order[id(p.bands)] for p in best]
    ranged = year_bands([w.case for w in chosen], draws, lambda s: report(0.5 + 0.5 * s))
    ranked = [_proposal(w, bands) for w, bands in zip(chosen, ranged, strict=True)]
    dry = [p for p in ranked if p.dry_of_ten >= limits.dry_of_ten]
    if not dry and not ranked:
        return Search(
            tried=len(cases),
            within=len(within),
            through_year=len(taken),
            front=(),
            nearest=within[0].case.design.name,
            missed="the bees would suffocate",
        )
    if not dry:
        near_dry = max(ranked, key=lambda p: p.dry_of_ten)
        return Search(
            tried=len(cases),
            within=len(within),
            through_year=len(taken),
            front=(),
            nearest=near_dry.bands.case.design.name,
            missed=f"dry in {near_dry.dry_of_ten:.0f} of 10 built alike",
        )
    return Search(
        tried=len(cases),
        within=len(within),
        through_year=len(taken),
        front=tuple(_front(dry)),
        nearest="",
        missed="",
    )


def _best_by_months(within: Sequence[_Weighed]) -> list[_Weighed]:
    """Return those the months find best in honey, cost, weight and margins under the lid.

    Fronts one behind the other, so that what is nearly as good is there too, and of each the best
    in every measure by turns; where bees would suffocate in a month, none.
    """
    if len(within) <= _MOST_THROUGH_THE_YEAR:
        return list(within)
    months = assess_each([w.case for w in within])
    balanced = [
        (w, m) for w, m in zip(within, months, strict=True) if isinstance(m, MonthlyAssessment)
    ]
    keys = np.array([_coarse(w, m) for w, m in balanced]).reshape(len(balanced), -1)
    left, taken = np.arange(len(balanced)), list[int]()
    while left.size and len(taken) < _MOST_THROUGH_THE_YEAR:
        own = keys[left]
        beaten = [
            bool((np.all(own <= key, axis=1) & np.any(own < key, axis=1)).any()) for key in own
        ]
        front = left[~np.array(beaten)]
        taken += [int(front[k]) for k in _by_turns(keys[front])]
        left = left[np.array(beaten)]
    return [balanced[k][0] for k in taken[:_MOST_THROUGH_THE_YEAR]]


def _some_of(front: Sequence[Proposal], limits: Limits) -> list[Proposal]:
    """Return those of a front that are worth their ranges: the best in every measure by turns.

    Where it has to stay dry, those that do as likely come first.
    """
    dry = [p for p in front if limits.dry_of_ten == 0 or p.dry_of_ten >= 1.0]
    proposals: list[Proposal] = []
    for part in (dry, [p for p in front if p not in dry]):
        if part:
            proposals += [part[k] for k in _by_turns(np.array([p.measures for p in part]))]
    return proposals[:_MOST_WITH_RANGES]


def _by_turns(keys: NDArray[np.generic]) -> list[int]:
    """Return the rows [N, K] in an order that takes the least of each column in turn."""
    queues = [list(np.argsort(column, kind="stable")) for column in keys.T]
    order: dict[int, None] = {}
    for rows in zip(*queues, strict=True):
        order.update(dict.fromkeys(int(row) for row in rows))
    return list(order)


def _coarse(w: _Weighed, m: MonthlyAssessment) -> tuple[int, ...]:
    """Return what a hive is sieved by, less being better, in steps the months can tell apart."""
    winter = np.array(days_without_forage(w.case.place)) > 0
    worst = np.full(2, _DRY_K)
    if winter.any():
        margin = m.months.seen_margin_k[[LID_MIDDLE, LID_RIM]][:, winter].min(axis=1)
        worst = np.clip(margin, _WET_K, _DRY_K)
    steps = (
        m.winter_honey_kg / _HONEY_KG,
        w.cost_eur / _COST_EUR,
        w.lift_kg / _LIFT_KG,
        *(-worst / _MARGIN_K),
    )
    return tuple(round(float(step)) for step in steps)


def _weighed(case: HiveCase) -> _Weighed | None:
    """Return a design weighed and priced; None where it cannot be built."""
    try:
        hive = build_solids(case.design)
        lifts = lifts_of(case.design, hive, case.materials, case.colony)
        cost = material_cost_eur(case.design, case.materials, hive)
        wide, long, _ = outer_size_m(hive)
    except CalvethError:
        return None
    heaviest = max(lift.full_kg for lift in lifts)
    return _Weighed(case=case, lift_kg=heaviest, cost_eur=cost, outer_m=max(wide, long))


def _misses(w: _Weighed, limits: Limits) -> list[str]:
    """Return which limits a design does not keep to, in words."""
    misses = []
    if w.lift_kg > limits.lift_kg:
        misses.append(f"heaviest lift {w.lift_kg:.0f} kg")
    if w.cost_eur > limits.cost_eur:
        misses.append(f"material {w.cost_eur:.0f} €")
    if w.outer_m > limits.outer_m:
        misses.append(f"outer size {1000 * w.outer_m:.0f} mm")
    other = _not_at_hand(w, limits)
    if other:
        misses.append(f"needs {', '.join(sorted(other))}")
    return misses


def _not_at_hand(w: _Weighed, limits: Limits) -> set[str]:
    """Return the materials of a design that are not at hand; air is everywhere."""
    if not limits.materials:
        return set()
    needed = {k for k in w.case.design.material_ids if w.case.materials[k].kind != "air gap"}
    return needed - limits.materials


def _excess(w: _Weighed, limits: Limits) -> float:
    """Return by how much a design misses its limits, as a sum of shares."""
    over = max(w.lift_kg / limits.lift_kg - 1, 0.0) + max(w.outer_m / limits.outer_m - 1, 0.0)
    over += max(w.cost_eur / max(limits.cost_eur, 1e-9) - 1, 0.0)
    if limits.materials:
        over += len(_not_at_hand(w, limits))
    return over


def _proposal(w: _Weighed, bands: YearBands) -> Proposal:
    dry = bands.share("lid_wet_nights", lambda nights: nights < 1.0)
    if not bands.values.size:
        dry = float(bands.likely.lid_wet_nights < 1.0)
    return Proposal(
        bands=bands,
        lift_kg=w.lift_kg,
        cost_eur=w.cost_eur,
        outer_m=w.outer_m,
        dry_of_ten=10.0 * dry,
    )


def _front(proposals: Sequence[Proposal]) -> list[Proposal]:
    """Return those than which none other is as good in everything and better in something.

    The wettest above the cluster count as worse: nights there come before all else.
    """

    def key(p: Proposal) -> tuple[float, ...]:
        return (-p.dry_of_ten, *p.measures)

    kept = [
        p
        for p in proposals
        if not any(
            all(a <= b for a, b in zip(key(q), key(p), strict=True)) and key(q) != key(p)
            for q in proposals
        )
    ]
    return sorted(kept, key=lambda p: (-p.dry_of_ten, p.measures[0]))
