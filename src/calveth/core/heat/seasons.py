"""λ of the materials as moist and cold as the seasons of a place make a wall (EN ISO 10456)."""

from __future__ import annotations

from collections.abc import Mapping

from calveth.core import constants as c
from calveth.core.climate.place import Place, coldest_month, warm_months
from calveth.core.materials import Material, materials_at


def winter_materials(materials: Mapping[str, Material], place: Place) -> dict[str, Material]:
    """Return the materials with λ at the middle of a winter wall and its humidity.

    The mean of the coldest month and 10 °C inside; for all months that are not `warm_months`. Where
    every month is warm the coldest has a summer wall too: it is the one all other months have.
    """
    if all(warm_months(place)):
        return summer_materials(materials, place)
    coldest = place.months[coldest_month(place)].temperature_degc
    mean = 0.5 * (coldest + c.DESIGN_TEMPERATURE.value)
    return materials_at(materials, mean, c.WINTER_HUMIDITY.value)


def summer_materials(materials: Mapping[str, Material], place: Place) -> dict[str, Material]:
    """Return the materials with λ at the middle of a wall in the warm months and their humidity.

    The mean outside and `SUMMER_INSIDE`; as a winter wall where no month is warm.
    """
    warm = [m for m, is_warm in zip(place.months, warm_months(place), strict=True) if is_warm]
    if not warm:
        return winter_materials(materials, place)
    outside = sum(m.temperature_degc for m in warm) / len(warm)
    humidity = sum(m.relative_humidity for m in warm) / len(warm)
    return materials_at(materials, 0.5 * (outside + c.SUMMER_INSIDE.value), humidity)
