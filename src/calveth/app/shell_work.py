"""What the worker does for a solved shell: shell and months, and the joints of the chosen hive."""

from __future__ import annotations

import logging
from collections.abc import Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING

from calveth.core.assess.result import MonthlyAssessment, assess_months
from calveth.core.assess.shells import SolvedShells, solved_shells
from calveth.core.assess.whole import joints_in
from calveth.core.errors import CalvethError
from calveth.core.materials import Material

log = logging.getLogger(__name__)

if TYPE_CHECKING:
    from calveth.core.conduction.joints import JointSum
    from calveth.core.conduction.linear import WarmHive


@dataclass(frozen=True, slots=True)
class SolvedShell:
    """A solved shell with the months that follow from it, or why it could not be solved."""

    shells: SolvedShells | None
    monthly: MonthlyAssessment | None
    error: str = ""


@dataclass(frozen=True, slots=True)
class SolvedJoints:
    """The joints of a design; none where its shell is estimated."""

    sum: JointSum | None


def solve_shell(
    monthly: MonthlyAssessment,
    table: Mapping[str, Material],
    warm: dict[int, WarmHive] | None = None,
) -> SolvedShell:
    """Return the solved shell of a design and its months; a shell that cannot be solved says why.

    The figures then stay those of the estimate.
    """
    design, place = monthly.design, monthly.place
    try:
        shells = solved_shells(design, place, table, warm=warm)
    except CalvethError as error:
        return SolvedShell(None, None, str(error))
    except Exception:
        # The months stand without it: an estimate is better than no answer.
        log.exception("shell of %s", design.id)
        return SolvedShell(None, None, "the shell could not be solved; the log says why")
    again = assess_months(design, place, monthly.colony, table, monthly, shells)
    return SolvedShell(shells, again)


def solve_joints(monthly: MonthlyAssessment, table: Mapping[str, Material]) -> SolvedJoints:
    """Return the joints of a hive as it stands in the coldest month."""
    return SolvedJoints(joints_in(monthly, table))
