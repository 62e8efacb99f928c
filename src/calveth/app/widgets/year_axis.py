"""The axis of a figure of the year: round figures of its unit, or days of the year in words."""

from __future__ import annotations

from calveth.app.widgets.axis import Axis
from calveth.texts.units import UnitSystem
from calveth.texts.year import WORDS, day_words, shown


def year_axis(name: str, ends: tuple[float, float], units: UnitSystem) -> Axis:
    """Return the axis of a figure of the year between two values of it."""
    label = day_words if WORDS[name].unit == "day" else None
    return Axis.of(*ends, lambda v: shown(name, v, units), label)
