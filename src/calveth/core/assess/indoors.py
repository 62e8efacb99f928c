"""The winter room month by month, with what its hives give off."""

from __future__ import annotations

from collections.abc import Mapping

from calveth.core.assess.result import MonthlyAssessment
from calveth.core.assess.whole import assess_solved
from calveth.core.climate.place import Place
from calveth.core.colony.colony import Colony
from calveth.core.colony.room import RoomAir, room_air
from calveth.core.hive.design import Design
from calveth.core.materials import Material


def room_months(
    design: Design,
    place: Place,
    colony: Colony,
    materials: Mapping[str, Material],
    monthly: MonthlyAssessment | None = None,
) -> list[tuple[int, RoomAir]]:
    """Return month (0 to 11) and air of every month the hives stand in the room; none outdoors."""
    room = place.room
    if room is None:
        return []
    year = monthly or assess_solved(design, place, colony, materials)
    balance = year.months.balance
    return [
        (
            month,
            room_air(
                room,
                place.months[month],
                place.altitude_m,
                water_kg_s=float(
                    balance.vapour_carried_kg_s[month] + balance.vapour_diffused_kg_s[month]
                ),
                co2_kg_s=float(balance.ledger.co2_kg_s[month]),
                heat_w=float(balance.shell_w[:, month].sum() + balance.air_w[month]),
            ),
        )
        for month in range(12)
        if room.holds(month)
    ]
