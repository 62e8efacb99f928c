"""Steady states of the balance, lane by lane, and the sentences for those that have none."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from calveth.core.colony.colony import ColonyState
from calveth.core.errors import CalvethError
from calveth.core.nest.balance import Balance, Outside
from calveth.core.nest.network import NestNetwork


class NotBalancedError(CalvethError):
    """No steady state was found; carries the conditions for the log."""


LaneStatus = Literal["ok", "no rest", "suffocates"]
"""What became of a condition: balanced; its air turns to and fro; no air for the bees."""
_STATUS = np.array(["ok", "no rest", "suffocates"])  # in the order of `kernel_solve.CLOSED`, ...


def solve(
    terms: NestNetwork,
    bees: ColonyState,
    out: Outside,
    names: Sequence[str] = ("",),
) -> Balance:
    """Return the steady balance of a hive at N conditions, or of N hives at one condition each.

    ``names`` are those of the hives for the error, one or N; the rest is as in `solve_lanes`.

    Raises
    ------
    NotBalancedError
        When one of them has no steady state.
    """
    balance, status = solve_lanes(terms, bees, out)
    for fate in ("suffocates", "no rest"):
        bad = np.flatnonzero(status == fate)
        if bad.size:
            raise no_answer(fate, names[bad[0] % len(names)], out.temperature_degc[bad[0]])
    return balance


def no_answer(status: str, name: str, outside_degc: float) -> NotBalancedError:
    """Return the error of a condition without a steady state."""
    if status == "suffocates":
        return NotBalancedError(
            f"design “{name}”: the bees would suffocate, hardly any air "
            "gets in; open an entrance or make it larger"
        )
    return NotBalancedError(
        f"design “{name}”: its air comes to no rest at {outside_degc:.1f} °C "
        "outside, it breathes in and out of the same openings by turns; make the largest "
        "entrance a tenth wider or narrower"
    )


def solve_lanes(
    terms: NestNetwork, bees: ColonyState, out: Outside
) -> tuple[Balance, NDArray[np.str_]]:
    """Return the steady balance of N lanes and the `LaneStatus` of each [N].

    A lane without an answer harms no other; its figures are those of the last try. Every lane
    begins from the same fresh air, so that its figures depend on nothing but itself.
    """
    # The compiler's library takes half a second to load; nothing else waits for it.
    from calveth.core.nest.lanes import balance_lanes

    balance, status = balance_lanes(terms, bees, out)
    return balance, _STATUS[status]
