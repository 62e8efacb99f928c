"""Designs from limits: what stays dry, may be lifted and paid for, tried on the year.

All that is proposed is weighed and priced first; what is within the limits is taken through the
year as likely, and what is not worse in everything is taken through it with its ranges.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from calveth.core.build.weights import lifts_of
from calveth.core.case import HiveCase
from calveth.core.errors import CalvethError, require_between
from calveth.core.hive.cost import material_cost_eur
from calveth.core.hive.quantities import outer_size_m
from calveth.core.hive.solids import build_solids
from calveth.core.year.draws import YearBands, year_bands

_MOST_WITH_RANGES = 12


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

    ``front`` are proposals none of which is worse than another in everything, the thriftiest first.
    ``nearest`` says what misses least where nothing keeps to the limits, ``missed`` by what.
    """

    tried: int
    within: int
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
            tried=len(cases), within=0, front=(),
            nearest=near.case.design.name if near else "",
            missed=", ".join(_misses(near, limits)) if near else "no design can be built",
        )  # fmt: skip
    likely = year_bands([w.case for w in within], 0, lambda s: report(0.4 * s))
    # Those in which bees would suffocate are none.
    alive = [(w, b) for w, b in zip(within, likely, strict=True) if not b.trouble]
    first = [_proposal(w, bands) for w, bands in alive]
    best = _front(first)[:_MOST_WITH_RANGES]
    order = {id(p.bands): w for p, (w, _) in zip(first, alive, strict=True)}
    chosen = [order[id(p.bands)] for p in best]
    ranged = year_bands([w.case for w in chosen], draws, lambda s: report(0.4 + 0.6 * s))
    found = [_proposal(w, bands) for w, bands in zip(chosen, ranged, strict=True)]
    dry = [p for p in found if p.dry_of_ten >= limits.dry_of_ten]
    if not dry and not found:
        return Search(
            tried=len(cases), within=len(within), front=(), nearest=within[0].case.design.name,
            missed="the bees would suffocate",
        )  # fmt: skip
    if not dry:
        near_dry = max(found, key=lambda p: p.dry_of_ten)
        return Search(
            tried=len(cases), within=len(within), front=(),
            nearest=near_dry.bands.case.design.name,
            missed=f"dry in {near_dry.dry_of_ten:.0f} of 10 built alike",
        )  # fmt: skip
    return Search(
        tried=len(cases), within=len(within), front=tuple(_front(dry)), nearest="", missed=""
    )


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
    found = []
    if w.lift_kg > limits.lift_kg:
        found.append(f"heaviest lift {w.lift_kg:.0f} kg")
    if w.cost_eur > limits.cost_eur:
        found.append(f"material {w.cost_eur:.0f} €")
    if w.outer_m > limits.outer_m:
        found.append(f"outer size {1000 * w.outer_m:.0f} mm")
    other = set(w.case.design.material_ids) - limits.materials if limits.materials else set()
    if other:
        found.append(f"needs {', '.join(sorted(other))}")
    return found


def _excess(w: _Weighed, limits: Limits) -> float:
    """Return by how much a design misses its limits, as a sum of shares."""
    over = max(w.lift_kg / limits.lift_kg - 1, 0.0) + max(w.outer_m / limits.outer_m - 1, 0.0)
    over += max(w.cost_eur / max(limits.cost_eur, 1e-9) - 1, 0.0)
    if limits.materials:
        over += len(set(w.case.design.material_ids) - limits.materials)
    return over


def _proposal(w: _Weighed, bands: YearBands) -> Proposal:
    dry = bands.share("lid_wet_nights", lambda nights: nights < 1.0)
    if not bands.values.size:
        dry = float(bands.likely.lid_wet_nights < 1.0)
    return Proposal(
        bands=bands, lift_kg=w.lift_kg, cost_eur=w.cost_eur, outer_m=w.outer_m,
        dry_of_ten=10.0 * dry,
    )  # fmt: skip


def _front(found: Sequence[Proposal]) -> list[Proposal]:
    """Return those than which none other is as good in everything and better in something.

    The wettest above the cluster count as worse: nights there come before all else.
    """

    def key(p: Proposal) -> tuple[float, ...]:
        return (-p.dry_of_ten, *p.measures)

    kept = [
        p for p in found
        if not any(
            all(a <= b for a, b in zip(key(q), key(p), strict=True)) and key(q) != key(p)
            for q in found
        )
    ]  # fmt: skip
    return sorted(kept, key=lambda p: (-p.dry_of_ten, p.measures[0]))
