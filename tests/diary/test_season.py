"""A season as it was logged: its hours on the place's clock, and its weather in the year."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date, datetime

import numpy as np

from calveth.core.climate.air import saturation_pressure_unchecked_pa
from calveth.core.climate.year import year_weather
from calveth.core.diary.season import (
    clock_h,
    logged_place,
    logged_seasons,
    season_of,
    trusted,
    utc_hours,
    utc_minute,
)
from calveth.core.diary.series import Series, at_hours
from calveth.core.diary.take_in import take_in
from tests.diary.cases import DIARY
from tests.year.cases import PROJECT

PLACE = PROJECT.place


class Hours(unittest.TestCase):
    def test_every_hour_of_a_season_is_that_of_the_calendar(self) -> None:
        """Against numpy's calendar, over a leap day, north and south."""
        south = replace(PLACE, latitude_deg=-35.0)
        for place, season, month, year in (
            (PLACE, 2023, 7, 2023),
            (PLACE, 2023, 3, 2024),
            (PLACE, 2023, 2, 2024),
            (south, 2024, 3, 2024),
            (south, 2024, 12, 2024),
        ):
            hours = utc_hours(place, season)
            self.assertEqual(len(set(hours.tolist())), 8760)
            when = np.datetime64(f"{year}-{month:02d}-09T15", "h").astype(np.int64)
            index = (date(2023, month, 9).timetuple().tm_yday - 1) * 24 + 15
            self.assertEqual(int(hours[index]), int(when) - clock_h(place))
        leap = int(np.datetime64("2024-02-29T12", "h").astype(np.int64))
        self.assertNotIn(leap, utc_hours(PLACE, 2023).tolist())

    def test_the_clock_follows_the_longitude(self) -> None:
        for longitude, ahead in ((9.0, 1), (-75.0, -5), (0.0, 0), (174.0, 12)):
            place = replace(PLACE, longitude_deg=longitude)
            self.assertEqual(clock_h(place), ahead)
            when = datetime(2024, 12, 3, 13, 10)
            self.assertEqual(utc_minute(place, when) % 1440, (13 - ahead) % 24 * 60 + 10)

    def test_seasons_turn_in_july_and_in_the_south_in_january(self) -> None:
        south = replace(PLACE, latitude_deg=-35.0)
        for place, day, season in (
            (PLACE, date(2024, 6, 30), 2023),
            (PLACE, date(2024, 7, 1), 2024),
            (south, date(2024, 6, 30), 2024),
            (south, date(2024, 1, 1), 2024),
        ):
            self.assertEqual(season_of(place, day), season)

    def test_means_of_hours_by_hand_and_gaps_stay(self) -> None:
        minutes = 60 * 470_000 + np.array([0, 10, 20, 30, 40, 50, 70, 190, 200, 210])
        values = np.array([1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 9.0, 7.0, 8.0, 9.0])
        series = Series(quantity="weight", minutes=minutes.astype(np.int64), values=values)
        got = at_hours(series, np.arange(469_999, 470_005))
        np.testing.assert_allclose(got, [np.nan, 3.5, np.nan, np.nan, 8.0, np.nan])


class Weather(unittest.TestCase):
    def _logged(self, degc: float, first: int = 300 * 24, count: int = 24 * 30):  # type: ignore[no-untyped-def]
        hours = utc_hours(PLACE, 2024)[first : first + count]
        rising = np.argsort(hours)
        made = Series(
            quantity="temperature",
            minutes=60 * hours[rising],
            values=degc + np.sin(np.arange(count)),
        )
        return take_in(DIARY, made, hive="", at="outside", name="out")

    def test_logged_hours_take_the_place_of_the_typical_ones(self) -> None:
        diary = self._logged(-11.0)
        self.assertEqual(logged_seasons(PLACE, diary), [2024])
        found = logged_place(PLACE, diary, 2024)
        self.assertEqual(found.hours, 720)
        was, now = year_weather(PLACE), year_weather(found.place)
        inside = slice(300 * 24, 330 * 24)
        np.testing.assert_allclose(
            now.temperature_degc[inside], -11.0 + np.sin(np.arange(720)), atol=2e-3
        )
        outside = np.r_[0 : 300 * 24, 330 * 24 : 8760]
        np.testing.assert_allclose(
            now.temperature_degc[outside], was.temperature_degc[outside], atol=1e-4
        )
        # As far from saturation as the typical hour: less water in colder air.
        share = [
            w.vapour_pressure_pa / saturation_pressure_unchecked_pa(w.temperature_degc)
            for w in (was, now)
        ]
        np.testing.assert_allclose(share[1], np.minimum(share[0], 1.0), atol=1e-4)

    def test_too_little_is_the_typical_year(self) -> None:
        found = logged_place(PLACE, self._logged(-11.0, count=40), 2024)
        self.assertEqual((found.hours, found.place), (0, PLACE))
        self.assertEqual(logged_place(PLACE, self._logged(-11.0), 2023).hours, 0)

    def test_spikes_and_stuck_runs_are_not_trusted(self) -> None:
        diary = self._logged(3.0)
        log = diary.logs[0]
        series = trusted(log)
        values = series.values.copy()
        values[50] = 85.0
        values[200:240] = values[200]
        bad = take_in(DIARY, replace(series, values=values), hive="", at="outside", name="out")
        kept = trusted(bad.logs[0])
        self.assertEqual(log.samples - kept.minutes.size, 41)
        self.assertEqual(bad.logs[0].samples, log.samples)


if __name__ == "__main__":
    unittest.main()
