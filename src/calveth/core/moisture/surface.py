"""Surfaces: what condensed water does there, and whether mould may grow."""

from __future__ import annotations

from typing import Literal

from calveth.core import constants as c

Fate = Literal["drips", "runs to the rim", "runs down", "pools", "drains forward"]


def ceiling_fate(lid_slope_deg: float, tilt_deg: float) -> Fate:
    """Return what water under the lid does: it runs from a slope of about 10° on, else drips.

    A ceiling that is flat in itself leans with the hive. Common practice, no source.

    Parameters
    ----------
    lid_slope_deg : float
        Slope of the lid and its ceiling [°].
    tilt_deg : float
        How far the hive leans forward [°].
    """
    slope = max(lid_slope_deg, tilt_deg)
    return "runs to the rim" if slope >= c.RUNNING_SLOPE.value else "drips"


def floor_fate(tilt_deg: float, *, screened: bool) -> Fate:
    """Return what water on the floor does: a screen or a forward tilt drains it.

    Parameters
    ----------
    tilt_deg : float
        How far the hive leans forward [°].
    screened : bool
        Whether the floor is a screen.
    """
    return "drains forward" if screened or tilt_deg >= c.DRAINING_TILT.value else "pools"


def surface_humidity(vapour_pressure_pa: float, saturation_pa: float) -> float:
    """Return the relative humidity at a surface, 0 to 1.

    Parameters
    ----------
    vapour_pressure_pa : float or array
        Partial pressure of the water vapour, any shape [Pa].
    saturation_pa : float
        Saturation pressure at the surface [Pa].
    """
    return min(1.0, vapour_pressure_pa / saturation_pa)


def mould_risk(mean_surface_humidity: float, surface_degc: float) -> bool:
    """Return whether mould may grow: over 80 % as a monthly mean, EN ISO 13788:2012, 5.3.

    Below the freezing point it does not grow (common practice).

    Parameters
    ----------
    mean_surface_humidity : float
        Monthly mean at the surface [-].
    surface_degc : float
        Monthly mean of the surface [°C].
    """
    return mean_surface_humidity > c.MOULD_HUMIDITY.value and surface_degc > 0.0
