"""The hours of a hive through a year, as they come out of `run`."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calveth.core.calendar import DAYS_IN_YEAR
from calveth.core.case import HiveCase
from calveth.core.climate.place import Place, winter_days
from calveth.core.climate.year import YearWeather
from calveth.core.colony.colony import ColonyState
from calveth.core.year import columns as cl

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class YearRun:
    """The hours of a hive.

    Attributes
    ----------
    case : HiveCase
        What was asked.
    weather : YearWeather
    series : array [8760, 36]
        Every hour from 1 January on, by the columns of `columns.SERIES`.
    ledger : array [19]
        Sums of the year (`columns.LEDGER_COLUMNS`).
    held_change : tuple of 3 float
        What the hive holds at the end more than at the beginning: heat [J], water and CO2 [kg].
    bees : ColonyState
        The colony of every hour [8760].
    areas_m2 : array [7]
        Of the inner surfaces.
    fan_limit_m3_s : array [8760]
        Most air that bees drive through the openings as they are set [m³/s].
    replay : object
        What `run.moments_at` needs to look at an hour.
    """

    case: HiveCase
    weather: YearWeather
    series: FloatArray
    ledger: FloatArray
    held_change: tuple[float, float, float]
    bees: ColonyState
    areas_m2: FloatArray
    fan_limit_m3_s: FloatArray
    replay: object

    def column(self, name: str) -> FloatArray:
        """Return a column of the series by its name [8760]."""
        hours: FloatArray = self.series[:, cl.SERIES.index(name)]
        return hours

    @property
    def unsettled_hours(self) -> int:
        """Hours whose balances were left open."""
        return int(self.ledger[cl.L_UNSETTLED])


def is_winter(place: Place) -> NDArray[np.bool_]:
    """Return which days lie between the last and the first forage week [365]."""
    return np.isin(np.arange(DAYS_IN_YEAR), winter_days(place))
