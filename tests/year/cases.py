"""Years shared by the tests: demo hives at the demo's place, and weather that stands still."""

from __future__ import annotations

from dataclasses import replace
from functools import cache

import numpy as np

from calveth.catalogue.shipped import demo_project
from calveth.core.assess.readings import NestReadings
from calveth.core.assess.result import assess_months
from calveth.core.case import HiveCase, estimated_case
from calveth.core.climate.year import OWN_WIND, YearWeather
from calveth.core.hive.season_plan import NO_PLAN
from calveth.core.parameters import LIKELY
from calveth.core.year.result import YearRun
from calveth.core.year.run import run_year

PROJECT = demo_project()
NOUGHT = np.zeros(8760)


def case_of(key: str) -> HiveCase:
    """Return a demo hive without a plan."""
    return estimated_case(PROJECT, replace(PROJECT.design(key), seasons=NO_PLAN))


@cache
def year_of(key: str, **changed: float) -> YearRun:
    """Return the year of a demo hive with parameters changed."""
    return run_year(replace(case_of(key), parameters=replace(LIKELY, **changed)))


@cache
def months_of(key: str) -> NestReadings:
    """Return its months."""
    return assess_months(case_of(key)).months


def still_weather(degc: float, pascal: float, wind: float) -> YearWeather:
    """Return a year that stands still, without sun, sky and rain."""

    def one(value: float) -> np.ndarray:
        return np.full(8760, value)

    return YearWeather(
        temperature_degc=one(degc),
        vapour_pressure_pa=one(pascal),
        wind_m_s=one(wind),
        station_wind_m_s=NOUGHT,
        sector=np.full(8760, OWN_WIND),
        rain_mm=NOUGHT,
        global_sun_w_m2=NOUGHT,
        diffuse_sun_w_m2=NOUGHT,
        clock_h=0,
        sun_lid_w_m2=NOUGHT,
        sun_side_w_m2=np.zeros((4, 8760)),
        sky_w_m2=NOUGHT,
        sky_side_w_m2=NOUGHT,
        snow_m=NOUGHT,
        snow_falls_kg_m2=NOUGHT,
        ground_degc=one(degc),
        made_up=(),
    )
