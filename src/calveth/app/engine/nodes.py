"""The nodes: what is worked out of a case, from what, and in which order.

A new stage (calibration, say) is one function and one row of `NODES`.
"""

from __future__ import annotations

import logging
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any

from calveth.catalogue.shipped import shipped_materials
from calveth.core.advice.dossier import FollowUp, follow_up, joints_in
from calveth.core.advice.remedies import Remedy, remedies
from calveth.core.assess.nights import NightAssessment, assess_nights
from calveth.core.assess.result import MonthlyAssessment, assess_months
from calveth.core.assess.solved_shells import solved_case
from calveth.core.case import HiveCase
from calveth.core.errors import CalvethError
from calveth.core.heat.correction import as_estimated
from calveth.core.year.draws import DRAWS as YEAR_DRAWS

if TYPE_CHECKING:
    from calveth.core.conduction.joints import JointSum
    from calveth.core.year.draws import YearBands
    from calveth.core.year.result import YearRun

log = logging.getLogger(__name__)
Report = Callable[[float], None]


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """What a node is given.

    Attributes
    ----------
    case : HiveCase
        The question; its shells are those last solved for this design, or the estimate.
    known : Mapping of str to object
        Answers of the nodes it needs, by name.
    report : callable
        Takes the share that is done.
    """

    case: HiveCase
    known: Mapping[str, Any]
    report: Report


@dataclass(frozen=True, slots=True)
class SolvedMonths:
    """Months with the shell solved, or with the estimate and the sentence why."""

    monthly: MonthlyAssessment
    estimated_because: str


@dataclass(frozen=True, slots=True)
class Joints:
    """The joints of a design; none where its shell is estimated."""

    sum: JointSum | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Node:
    """One stage.

    Attributes
    ----------
    name : str
        Its name in the graph.
    words : str
        What it is called in a sentence.
    needs : tuple of str
        Nodes whose answers it is given.
    work : callable
        Pure; raises `CalvethError` with a sentence.
    chosen : bool
        Whether it is asked for the chosen design alone.
    provisional : bool
        Whether figures on the screen are provisional as long as it has no answer.
    in_sight : bool
        Whether it is asked for only while somebody looks at it (`Results.look_at`).
    """

    name: str
    words: str
    work: Callable[[Asked], object]
    needs: tuple[str, ...] = ()
    chosen: bool = False
    provisional: bool = False
    in_sight: bool = False


def draft(asked: Asked) -> MonthlyAssessment:
    """Return the months at once, for a moving hand: the last shell, from the last state."""
    return assess_months(asked.case)


def months(asked: Asked) -> SolvedMonths:
    """Return the months as everybody gets them: shell solved for itself, begun from nothing."""
    try:
        case, because = solved_case(asked.case)
    except CalvethError:
        raise
    except Exception:
        # The months stand without it: an estimate is better than no answer.
        log.exception("shell of %s", asked.case.design.id)
        case = replace(asked.case, shells=as_estimated)
        because = "the shell could not be solved; the log says why"
    return SolvedMonths(assess_months(case), because)


def nights(asked: Asked) -> NightAssessment:
    """Return the nights and the range of the honey."""
    return assess_nights(asked.known["months"].monthly)


def damp(asked: Asked) -> FollowUp:
    """Return damp, schools and ice."""
    return follow_up(asked.known["months"].monthly, asked.known["nights"])


def joints(asked: Asked) -> Joints:
    """Return the joints in the coldest month."""
    return Joints(joints_in(asked.known["months"].monthly))


def what_helps(asked: Asked) -> tuple[Remedy, ...]:
    """Return the remedies that help."""
    catalogue = {m.id: m for m in shipped_materials()}
    return tuple(remedies(asked.known["months"].monthly, catalogue, asked.report))


def year(asked: Asked) -> YearRun:
    """Return every hour of the year."""
    from calveth.core.year.run import run_year

    return run_year(asked.known["months"].monthly.case)


def year_ranges(asked: Asked) -> YearBands:
    """Return the figures of the year with their ranges."""
    from calveth.core.year.draws import year_bands

    case = asked.known["months"].monthly.case
    return year_bands([case], YEAR_DRAWS, asked.report)[0]


NODES = (
    Node(name="draft", words="the year", work=draft),
    Node(name="months", words="the shell", work=months, needs=("draft",), provisional=True),
    Node(name="nights", words="the nights", work=nights, needs=("months",), provisional=True),
    Node(
        name="damp",
        words="damp and schools",
        work=damp,
        needs=("months", "nights"),
        provisional=True,
    ),
    Node(name="joints", words="the joints", work=joints, needs=("months",), chosen=True),
    Node(
        name="year",
        words="the hours of the year",
        work=year,
        needs=("months",),
        chosen=True,
        in_sight=True,
    ),
    Node(
        name="year ranges",
        words="the ranges of the year",
        work=year_ranges,
        needs=("months", "year"),
        chosen=True,
        in_sight=True,
    ),
    Node(
        name="remedies", words="what helps", work=what_helps, needs=("months", "damp"), chosen=True
    ),
)
