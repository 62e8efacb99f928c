"""Everything about one design, in the order a reader wants it; for reports, tables and screens."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING

from calveth.core.advice.finding import Depth
from calveth.core.advice.remedies import Remedy, remedies
from calveth.core.advice.schools import Evidence, SchoolVerdict, all_verdicts
from calveth.core.assess.damp import DampYear, damp_year
from calveth.core.assess.nights import NightAssessment, assess_nights
from calveth.core.assess.result import MonthlyAssessment, assess_months
from calveth.core.assess.snowed_in import (
    SnowedIn,
    UnderSnow,
    snow_months,
    under_snow,
    when_snowed_in,
)
from calveth.core.assess.solved_shells import conduction_in, conduction_key, solved_case
from calveth.core.case import HiveCase
from calveth.core.heat.seasons import winter_materials
from calveth.core.hive.by_month import in_month
from calveth.core.materials import Material

if TYPE_CHECKING:
    from calveth.core.conduction.joints import JointSum


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class FollowUp:
    """What follows from the months and nights of a design: damp, schools, ice."""

    nights: NightAssessment
    damp: DampYear
    verdicts: tuple[SchoolVerdict, ...]
    snowed_in: tuple[SnowedIn, ...]

    @property
    def snow(self) -> UnderSnow:
        """The worst that snow does to the hive in its year."""
        return under_snow(self.snowed_in)

    def depth(self, month: int) -> Depth:
        """Return what the findings of a month (0 to 11) look at."""
        snowed_in = next((i for i in self.snowed_in if i.month == month), None)
        return Depth(nights=self.nights, damp=self.damp, snowed_in=snowed_in)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Dossier:
    """A design with everything Calveth knows of it.

    ``remedies`` are empty unless asked for, ``joints`` None where the shell is estimated;
    ``remedies_tried`` tells an empty list from one that was not asked for;
    ``estimated_because`` is the sentence why it is, empty when it is solved.
    """

    monthly: MonthlyAssessment
    follow_up: FollowUp
    remedies: tuple[Remedy, ...]
    joints: JointSum | None = None
    estimated_because: str = ""
    remedies_tried: bool = False


def assess_solved(case: HiveCase) -> MonthlyAssessment:
    """Return the months of a hive with its shell solved, or estimated where that fails.

    Raises
    ------
    NotBalancedError
        When no steady state is found.
    """
    return assess_months(solved_case(case, spots=False)[0])


def follow_up(monthly: MonthlyAssessment, nights: NightAssessment) -> FollowUp:
    """Return damp, verdicts of the schools and the months with snow of an assessed design."""
    damp = damp_year(monthly)
    evidence = Evidence(monthly=monthly, nights=nights, damp=damp)
    return FollowUp(
        nights=nights,
        damp=damp,
        verdicts=all_verdicts(evidence),
        snowed_in=when_snowed_in(monthly, snow_months(monthly.place)),
    )


def joints_in(monthly: MonthlyAssessment) -> JointSum | None:
    """Return the joints of a hive as it stands in the coldest month; None where it is estimated."""
    month = monthly.coldest_month
    solved = conduction_in(monthly.case.shells, monthly.design, month)
    if solved is None:
        return None
    from calveth.core.conduction.joints import joints_of

    key = conduction_key(in_month(monthly.design, month))
    return joints_of(
        key, winter_materials(monthly.materials, monthly.place), solved.conductance_w_k
    )


def make_dossier(
    case: HiveCase,
    *,
    catalogue: Mapping[str, Material] | None = None,
    report: Callable[[float], None] = lambda _: None,
    finer: float = 1.0,
) -> Dossier:
    """Return everything about a hive; with a ``catalogue`` remedies are tried too.

    ``finer`` is how many times as fine as usual the grid of the shell is.

    Raises
    ------
    NotBalancedError
        When no steady state is found.
    """
    case, because = solved_case(case, finer)
    monthly = assess_months(case)
    report(0.1)
    nights = assess_nights(monthly)
    report(0.2)
    follow = follow_up(monthly, nights)
    report(0.3)
    ranked: list[Remedy] = []
    if catalogue is not None:
        ranked = remedies(monthly, catalogue, lambda s: report(0.3 + 0.7 * s))
    return Dossier(
        monthly=monthly,
        follow_up=follow,
        remedies=tuple(ranked),
        joints=joints_in(monthly),
        estimated_because=because,
        remedies_tried=catalogue is not None,
    )
