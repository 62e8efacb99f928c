"""What solving a shell changes in its estimate: a few factors the monthly balance is given.

The balance works with an estimate of each face (`shell`). Where the hive is solved in three
dimensions, the factors make the estimate's zones lose what the solved ones lose and the rim as cold
as the solved one. A design that is not solved yet, such as a wall under a moving hand, may take
the factors of its like.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from calveth.core.hive.design import Design


@dataclass(frozen=True, slots=True, kw_only=True)
class ShellCorrection:
    """Factors on the estimate of a shell.

    Attributes
    ----------
    walls, lid, floor : float
        On the conductance of the layers of each face with its edges.
    rim : float
        On the resistance behind the rim of the lid.
    rim_warmer : float
        How much warmer than solved the rim is left by it, as a temperature factor.
    zones : tuple of float
        On the whole conductance of base, nest and crown: what no factor on a face can say, such as
        a metal floor that cools its room by its rim. 1 for almost every hive.
    solved : bool
        Whether they are those of this very shell.
    """

    walls: float = 1.0
    lid: float = 1.0
    floor: float = 1.0
    rim: float = 1.0
    rim_warmer: float = 0.0
    zones: tuple[float, float, float] = (1.0, 1.0, 1.0)
    solved: bool = False


AS_ESTIMATED = ShellCorrection()
Shells = Callable[[Design], ShellCorrection]


def as_estimated(_: Design) -> ShellCorrection:
    """Return no correction."""
    return AS_ESTIMATED
