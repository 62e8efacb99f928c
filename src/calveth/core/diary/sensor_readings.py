"""What a year tells of the places probes hang at: small enough to keep a dozen of them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calveth.core.climate.air import saturation_pressure_unchecked_pa
from calveth.core.year import columns as cl
from calveth.core.year.figures import honey_by_day
from calveth.core.year.result import YearRun

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SensorReadings:
    """Hours of a year at the probes.

    Attributes
    ----------
    degc, humidity : array [3, 8760]
        Air of base, nest and crown [°C], and its share of saturation.
    co2 : array [2, 8760]
        Of nest and crown, by volume.
    honey_day : array [365]
        Honey burnt [kg].
    outside_degc, outside_humidity : array [8760]
    south : bool
        Whether its season begins in January.
    """

    degc: FloatArray
    humidity: FloatArray
    co2: FloatArray
    honey_day: FloatArray
    outside_degc: FloatArray
    outside_humidity: FloatArray
    south: bool


def sensor_readings(run: YearRun | SensorReadings) -> SensorReadings:
    """Return what a year tells; what is told already stays as it is."""
    if isinstance(run, SensorReadings):
        return run
    s = run.series
    degc = s[:, cl.S_T : cl.S_T + 3].T
    outside = run.weather.temperature_degc
    saturated = saturation_pressure_unchecked_pa(outside)
    return SensorReadings(
        degc=degc.copy(),
        humidity=s[:, cl.S_P : cl.S_P + 3].T / saturation_pressure_unchecked_pa(degc),
        co2=s[:, cl.S_CO2 : cl.S_CO2 + 2].T.copy(),
        honey_day=honey_by_day(run),
        outside_degc=outside,
        outside_humidity=run.weather.vapour_pressure_pa / saturated,
        south=run.case.place.latitude_deg < 0,
    )
