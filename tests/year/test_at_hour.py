"""An hour looked at again is the hour that was, and stands in the place of its month."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from calveth.catalogue.library import shipped_places
from calveth.core import constants_year as y
from calveth.core.advice.findings import findings
from calveth.core.assess.result import assess_months
from calveth.core.climate.hours import HourlyWeather
from calveth.core.colony.curves import curves_for
from calveth.core.errors import DomainError
from calveth.core.year import columns as cl
from calveth.core.year.figures import side_films_kg_m2
from calveth.core.year.in_month import with_hour
from calveth.core.year.run import moments_at, run_year
from calveth.texts.units import METRIC
from calveth.texts.year_hours import hour_lines
from tests.year.cases import PROJECT, case_of, year_of


class AtHour(unittest.TestCase):
    def test_an_hour_is_what_the_series_says(self) -> None:
        for key in ("composite", "plain-boards", "quilt"):
            run = year_of(key)
            for hour in (0, 12, 1000, 4344, 5000, 8759):
                with self.subTest(key=key, hour=hour):
                    m = moments_at(run, hour)
                    row = run.series[hour]
                    b = m.balance
                    self.assertEqual(b.temperature_degc[:, 0].tolist(), row[0:3].tolist())
                    self.assertEqual(b.vapour_pressure_pa[:, 0].tolist(), row[3:6].tolist())
                    surfaces = row[cl.S_TS : cl.S_TS + 6].tolist()
                    self.assertEqual(b.surface_degc[:6, 0].tolist(), surfaces)
                    self.assertEqual(float(m.co2_volume_share[1, 0]), row[cl.S_CO2])
                    self.assertEqual(
                        float(m.outside.temperature_degc[0]),
                        float(run.weather.temperature_degc[hour]),
                    )
                    # As much air enters as leaves.
                    flows = b.flows
                    into = flows.opening_in.sum() + flows.joint_in.sum()
                    out = flows.opening_out.sum() + flows.joint_out.sum()
                    self.assertAlmostEqual(float(into / out), 1.0, places=5)

    def test_hours_that_do_not_exist(self) -> None:
        for hour in (-1, 8760):
            with self.assertRaisesRegex(DomainError, "hour of the year"):
                moments_at(year_of("composite"), hour)

    def test_it_takes_the_place_of_its_month_and_leaves_the_others(self) -> None:
        case = case_of("plain-boards")
        monthly, run = assess_months(case), year_of("plain-boards")
        cold = int(np.argmin(run.weather.temperature_degc))
        shown = with_hour(monthly, 0, moments_at(run, cold))
        balance = shown.months.balance
        self.assertEqual(float(balance.temperature_degc[1, 0]), run.series[cold, 1])
        np.testing.assert_array_equal(
            balance.temperature_degc[:, 1:], monthly.months.balance.temperature_degc[:, 1:]
        )
        self.assertEqual(
            float(shown.months.outside.temperature_degc[0]),
            float(run.weather.temperature_degc[cold]),
        )
        self.assertTrue(findings(shown, 0, None))
        ledger = shown.months.heat_ledger_w(0)
        self.assertAlmostEqual(ledger["metabolic"], run.column("heat_w")[cold])

    def test_where_the_wind_turns_joints_are_put_together(self) -> None:
        hours = HourlyWeather({"wind_from_deg": np.tile(np.arange(24) * 15.0, 365)})
        case = replace(case_of("composite"), place=replace(PROJECT.place, hours=hours))
        monthly, run = assess_months(case), run_year(case)
        hour = moments_at(run, 30)
        shown = with_hour(monthly, 0, hour)
        self.assertAlmostEqual(
            float(shown.months.balance.flows.joint_in[:, 0].sum()),
            float(hour.balance.flows.joint_in.sum()),
        )


class Sentence(unittest.TestCase):
    def test_what_stands_in_an_hour_is_said(self) -> None:
        run = year_of("plain-boards")
        wet = int(np.argmax(run.column("lid_middle_kg")))
        lines = hour_lines(run, wet, moments_at(run, wet), METRIC)
        grams = round(1000 * float(run.column("lid_middle_kg")[wet]))
        self.assertTrue(any(f"Lid middle: {grams} g" in text for _, text in lines), lines)
        self.assertEqual(lines[0][0], "bad")
        hot = int(np.argmax(run.column("nest_degc")))
        said = " ".join(text for _, text in hour_lines(run, hot, moments_at(run, hot), METRIC))
        self.assertNotIn("hang out", said)
        bayou = next(p.place for p in shipped_places() if p.place.name.startswith("Pell Bayou"))
        case = replace(case_of("plain-boards"), place=bayou, colony=curves_for(bayou, "normal"))
        muggy = run_year(case)
        hot = int(np.argmax(muggy.column("nest_degc")))
        front = hour_lines(muggy, hot, moments_at(muggy, hot), METRIC)
        self.assertIn("hang out", " ".join(text for _, text in front))
        nest = muggy.column("nest_degc")
        warm = int(np.flatnonzero((nest > y.BROOD_HARMED.value) & (nest < y.BEARDING.value))[0])
        lines = hour_lines(muggy, warm, moments_at(muggy, warm), METRIC)
        self.assertIn("Too warm for brood", " ".join(text for _, text in lines))
        tight = year_of("composite")
        dry = int(np.argmin(tight.series[:, cl.S_FILM : cl.S_FILM + 6].sum(axis=1)))
        lines = hour_lines(tight, dry, moments_at(tight, dry), METRIC)
        self.assertIn("Nothing inside is wet.", [text for _, text in lines])
        self.assertIn("Sun in W/m²: lid", said)
        snowy = int(np.argmax(run.column("snow_on_lid_kg_m2")))
        lines = hour_lines(run, snowy, moments_at(run, snowy), METRIC)
        self.assertIn("Snow on the lid, ", " ".join(text for _, text in lines))
        icy = int(np.argmax(run.column("entrance_iced")))
        lines = hour_lines(run, icy, moments_at(run, icy), METRIC)
        share = 100 * float(run.column("entrance_iced")[icy])
        self.assertIn(f"Ice closes {share:.0f} %", " ".join(text for _, text in lines))
        night = 200 * 24 + 1
        lines = hour_lines(run, night, moments_at(run, night), METRIC)
        self.assertIn("No sun", lines[-1][1])
        films = side_films_kg_m2(run) > y.SEEN_FILM.value
        apart = int(np.flatnonzero(films.any(axis=0) & ~films.all(axis=0))[0])
        lines = hour_lines(run, apart, moments_at(run, apart), METRIC)
        wall = next(text for _, text in lines if text.startswith("Upper wall"))
        self.assertIn(" alone.", wall)
        drip = int(np.argmax(run.column("dripped_kg")))
        said = hour_lines(run, drip, moments_at(run, drip), METRIC)[0][1]
        self.assertIn("drip from the lid", said)
