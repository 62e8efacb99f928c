"""The order designs are compared in: a school changes the order, it never hides a value."""

from __future__ import annotations

from collections.abc import Mapping

from calveth.core.advice.dossier import FollowUp
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.hive.design import Design
from calveth.core.project import Project


def ordered_designs(
    project: Project,
    monthly: Mapping[str, MonthlyAssessment | None],
    follow: Mapping[str, FollowUp | None],
) -> list[Design]:
    """Return the candidates, best for the project's school first, then the benchmarks.

    For a school the design that misses fewer of its criteria comes first, those draws of what is
    uncertain disagree on counted by the share that miss; then the thriftier one.
    Until every candidate is worked out they stay in the order of the project.
    """
    own = [d for d in project.designs if not d.benchmark]
    benchmarks = [d for d in project.designs if d.benchmark]
    if any(monthly[d.id] is None or follow[d.id] is None for d in own):
        return own + benchmarks

    def rank(design: Design) -> tuple[float, float]:
        verdicts, year = follow[design.id], monthly[design.id]
        assert verdicts is not None
        assert year is not None
        verdict = next(v for v in verdicts.verdicts if v.school == project.school)
        return round(verdict.missed, 1), year.winter_honey_kg

    return sorted(own, key=rank) + benchmarks
