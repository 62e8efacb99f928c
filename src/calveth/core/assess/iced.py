"""The hive when ice or snow closes its low entrances."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from calveth.core.assess.cases import moments_in_month
from calveth.core.assess.moments import Moments
from calveth.core.assess.solve import NotBalancedError
from calveth.core.climate.place import Place, days_with_snow
from calveth.core.colony.colony import Colony
from calveth.core.hive.by_month import in_month
from calveth.core.hive.design import Design
from calveth.core.hive.opening import Opening
from calveth.core.materials import Material

LOW_M = 0.15
"""Openings lower than this above the floor are closed by snow on the landing board; estimate."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Iced:
    """A month with the low entrances closed.

    ``moments`` is one condition, None when the bees would suffocate; ``shut`` names what ice
    closes and ``left`` what stays open; ``days`` is how many days of the month have snow.
    """

    month: int
    days: float
    moments: Moments | None
    shut: tuple[str, ...]
    left: tuple[str, ...]


def closed_by_ice(opening: Opening) -> bool:
    """Return whether snow and ice close an opening."""
    if opening.shape == "lid gap" or opening.side == "lid":
        return False
    return opening.side == "floor" or opening.bottom_m < LOW_M


def when_iced(
    design: Design,
    place: Place,
    colony: Colony,
    materials: Mapping[str, Material],
    month: int,
) -> Iced:
    """Return the hive in a month (0 to 11) with every low opening closed by ice."""
    now = in_month(design, month)
    openings = [o for o in now.openings if o.open_share > 0]
    shut = tuple(o.name for o in openings if closed_by_ice(o))
    left = tuple(o.name for o in openings if not closed_by_ice(o))
    frozen = replace(
        now,
        openings=tuple(replace(o, free_share=0.0) if closed_by_ice(o) else o for o in now.openings),
    )
    moments: Moments | None
    try:
        moments = moments_in_month([frozen], place, colony, materials, month)[0]
    except NotBalancedError:
        moments = None
    return Iced(
        month=month, days=days_with_snow(place)[month], moments=moments, shut=shut, left=left
    )
