"""The unknowns of a lane by name: where each stands in a state [10, N]."""

from __future__ import annotations

TEMPERATURE = slice(0, 3)
"""Of base, nest and crown [°C]."""
VAPOUR = slice(3, 6)
"""Vapour pressure of base, nest and crown [Pa]."""
CO2 = slice(6, 9)
"""CO2 of base, nest and crown, by mass [-]."""
FLOOR_PRESSURE = 9
"""Outside less inside at the floor [Pa]."""
UNKNOWNS = 10
