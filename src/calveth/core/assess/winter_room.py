"""The winter room month by month, with what its hives give off."""

from __future__ import annotations

from calveth.core.assess.result import MonthlyAssessment
from calveth.core.colony.room import RoomAir, room_air


def room_months(monthly: MonthlyAssessment) -> list[tuple[int, RoomAir]]:
    """Return month (0 to 11) and air of every month the hives stand in the room; none outdoors."""
    place = monthly.place
    room = place.room
    if room is None:
        return []
    balance = monthly.months.balance
    return [
        (
            month,
            room_air(
                room,
                place.months[month],
                place.altitude_m,
                # In the end the room gets all of it: what settles in the hive dries into it.
                water_kg_s=float(
                    balance.ledger.water_kg_s[month]
                    + balance.cooling_kg_s[month]
                    + balance.nectar_kg_s[month]
                ),
                co2_kg_s=float(balance.ledger.co2_kg_s[month]),
                heat_w=float(balance.ledger.dry_heat_w[month]),
            ),
        )
        for month in range(12)
        if room.holds(month)
    ]
