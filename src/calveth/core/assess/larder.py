"""The larder through the winter."""

from __future__ import annotations

from calveth.core.assess.result import MonthlyAssessment
from calveth.core.calendar import DAYS_IN_MONTH, day_after_week, month_of_day
from calveth.core.climate.place import days_without_forage


def larder_kg(assessed: MonthlyAssessment) -> dict[int, float]:
    """Return what is left of the stores [kg] at the end of each month without forage (0 to 11).

    The months follow one another from the last forage week on; a month partly with forage counts
    with its days without.
    """
    days = days_without_forage(assessed.place)
    if not any(days):
        return {}
    first = month_of_day(day_after_week(assessed.place.last_forage_week))
    left, larder = assessed.colony.stores_kg, {}
    for step in range(12):
        k = (first + step) % 12
        if days[k] <= 0:
            continue
        left -= float(assessed.honey_kg_month[k]) * days[k] / DAYS_IN_MONTH[k]
        larder[k] = left
    return larder
