"""What the air of a winter room needs, in words."""

from __future__ import annotations

from calveth.core.assess.result import MonthlyAssessment
from calveth.core.assess.winter_room import room_months
from calveth.core.calendar import MONTH_NAMES
from calveth.texts.units import UnitSystem


def room_sentence(monthly: MonthlyAssessment, units: UnitSystem) -> str:
    """Return the air a winter room needs month by month for hives of a design; empty outdoors."""
    room = monthly.place.room
    if room is None:
        return ""
    parts = []
    for month, air in room_months(monthly):
        humid = (
            "outside too damp to dry it"
            if air.for_humidity_m3_h is None
            else f"{units.write(air.for_humidity_m3_h, 'large flow')} for humidity"
        )
        co2 = units.write(air.for_co2_m3_h, "large flow")
        parts.append(f"{MONTH_NAMES[month][:3]} {humid}, {co2} for CO2")
    return (
        f"Air the room needs for {room.hives} × {monthly.design.name}, to stay at "
        f"{room.relative_humidity:.0%} and under {room.target_co2:.1%} CO2: " + "; ".join(parts)
    )
