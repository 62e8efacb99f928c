"""Real hourly files reduced to months, and bad ones refused in a sentence.

The TMY3 files ship with pvlib. An EPW file is written here from one of them, column by column as
the format has it, so that both readers must agree on the same hours.
"""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path

import numpy as np
import pvlib
from pvlib.iotools import read_tmy3

from calveth.store.errors import FileError
from calveth.store.weather import forage_weeks, import_weather

DATA = Path(pvlib.__file__).parent / "data"
GREEN = DATA / "723170TYA.CSV"


def write_epw(path: Path, rows: int = 8760, **spoil: dict[int, float]) -> None:
    """Write the hours of a TMY3 file as EPW; ``spoil`` puts other values at some hours."""
    table, meta = read_tmy3(str(GREEN), map_variables=True)
    columns = {
        "temp_air": np.array(table["temp_air"], dtype=float),
        "temp_dew": np.array(table["temp_dew"], dtype=float),
        "relative_humidity": np.array(table["relative_humidity"], dtype=float),
        "wind_direction": np.array(table["wind_direction"], dtype=float),
        "wind_speed": np.array(table["wind_speed"], dtype=float),
    }
    for name, changes in spoil.items():
        for hour, value in changes.items():
            columns[name][hour] = value
    lines = [
        f"LOCATION,TESTTOWN,-,NOWHERE,TMY3,000000,{meta['latitude']},{meta['longitude']},-5.0,"
        f"{meta['altitude']}",
        "DESIGN CONDITIONS,0",
        "TYPICAL/EXTREME PERIODS,0",
        "GROUND TEMPERATURES,0",
        "HOLIDAYS/DAYLIGHT SAVINGS,No,0,0,0",
        "COMMENTS 1,written by a test",
        "COMMENTS 2,",
        "DATA PERIODS,1,1,Data,Sunday, 1/ 1,12/31",
    ]
    month_day = [
        (m, d + 1)
        for m, n in enumerate((31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31), start=1)
        for d in range(n)
    ]
    for hour in range(rows):
        m, d = month_day[hour // 24]
        values = ",".join(
            f"{columns[k][hour]:.1f}" for k in ("temp_air", "temp_dew", "relative_humidity")
        )
        lines.append(
            f"1999,{m},{d},{hour % 24 + 1},60,?9?9?9,{values},97500,0,0,300,0,0,0,0,0,0,0,"
            f"{columns['wind_direction'][hour]:.0f},{columns['wind_speed'][hour]:.1f},"
            "5,5,20,77777,9,999999999,10,0.1,0,88,0,0,0"
        )
    path.write_text("\n".join(lines) + "\n", encoding="utf-8")


class RealFiles(unittest.TestCase):
    def test_tmy3_against_its_own_hours(self) -> None:
        table, _ = read_tmy3(str(GREEN), map_variables=True)
        place = import_weather(GREEN).place
        t = np.array(table["temp_air"])
        for month, (start, end) in enumerate(((0, 744), (744, 1416))):
            with self.subTest(month=month):
                got = place.months[month]
                self.assertAlmostEqual(got.temperature_degc, float(t[start:end].mean()), places=2)
                days = t[start:end].reshape(-1, 24)
                swing = float((days.max(axis=1) - days.min(axis=1)).mean())
                self.assertAlmostEqual(got.daily_swing_k, swing, places=2)
                wind = float(np.array(table["wind_speed"])[start:end].mean())
                self.assertAlmostEqual(got.wind_m_s, wind, places=2)

    def test_place_of_the_file(self) -> None:
        result = import_weather(GREEN)
        self.assertEqual((result.kind, result.hours), ("TMY3", 8760))
        self.assertAlmostEqual(result.place.latitude_deg, 36.1, places=1)
        self.assertAlmostEqual(result.place.altitude_m, 273.0, delta=5)

    def test_monthly_humidity_is_near_the_hourly_mean(self) -> None:
        table, _ = read_tmy3(str(GREEN), map_variables=True)
        rh = np.array(table["relative_humidity"])
        got = import_weather(GREEN).place.months[6].relative_humidity
        # Vapour over saturation at the mean is not the mean of the ratios; they stay close.
        self.assertAlmostEqual(got, float(rh[4344:5088].mean()) / 100, delta=0.06)

    def test_epw_and_tmy3_agree(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "town.epw"
            write_epw(path)
            epw = import_weather(path)
        tmy = import_weather(GREEN).place
        self.assertEqual(epw.kind, "EPW")
        self.assertEqual(epw.place.name, "Testtown")
        for a, b in zip(epw.place.months, tmy.months, strict=True):
            self.assertAlmostEqual(a.temperature_degc, b.temperature_degc, places=1)
            self.assertAlmostEqual(a.relative_humidity, b.relative_humidity, places=2)
            self.assertAlmostEqual(a.wind_m_s, b.wind_m_s, places=1)
        self.assertEqual(epw.place.wind_from_deg, tmy.wind_from_deg)


class Gaps(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "gaps.epw"

    def test_short_gaps_are_filled_and_said(self) -> None:
        write_epw(self.path, temp_air=dict.fromkeys(range(100, 104), 99.9))
        result = import_weather(self.path)
        said = next(n for n in result.notes if n.startswith("temperature"))
        self.assertIn("4 hours missing, 4 filled", said)
        whole = import_weather(GREEN).place.months[0].temperature_degc
        self.assertAlmostEqual(result.place.months[0].temperature_degc, whole, delta=0.05)

    def test_longer_gaps_are_left_out_and_said(self) -> None:
        write_epw(self.path, wind_speed=dict.fromkeys(range(200, 230), 999.0))
        said = next(n for n in import_weather(self.path).notes if n.startswith("wind:"))
        self.assertIn("30 hours missing, 0 filled between neighbours, 30 left out", said)

    def test_too_many_gaps_are_refused(self) -> None:
        write_epw(self.path, temp_dew=dict.fromkeys(range(300), 99.9))
        with self.assertRaises(FileError) as caught:
            import_weather(self.path)
        self.assertIn("January", str(caught.exception))
        self.assertIn("humidity", str(caught.exception))

    def test_half_a_year_is_refused(self) -> None:
        write_epw(self.path, rows=5000)
        with self.assertRaises(FileError) as caught:
            import_weather(self.path)
        self.assertIn("5000 hours", str(caught.exception))


class BadFiles(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def refused(self, content: bytes) -> str:
        path = self.folder / "bad.epw"
        path.write_bytes(content)
        with self.assertRaises(FileError) as caught:
            import_weather(path)
        return str(caught.exception)

    def test_each_in_a_sentence(self) -> None:
        rows: tuple[tuple[bytes, str], ...] = (
            (b"", "neither an EPW nor a TMY3"),
            (b"\x89PNG\r\n\x1a\n" + bytes(range(256)) * 20, "neither an EPW nor a TMY3"),
            (b"LOCATION,x\n", "cannot be read on"),
            (b"LOCATION," + b"\xff\xfe" * 50 + b"\n" * 20, "cannot be read on"),
            (b"LOCATION,a,b,c,d,e,95,0,0,0\n" + b"x\n" * 30, "cannot be read on"),
            (b'1,"X"\nDate (MM/DD/YYYY),Time\n1,2\n', "cannot be read on"),
        )
        for content, part in rows:
            with self.subTest(content=content[:20]):
                said = self.refused(content)
                self.assertTrue(said.startswith("bad.epw:"))
                self.assertIn(part, said)

    def test_missing_and_folder(self) -> None:
        for path, part in (
            (self.folder / "none.epw", "does not exist"),
            (self.folder, "is a folder"),
        ):
            with self.assertRaises(FileError) as caught:
                import_weather(path)
            self.assertIn(part, str(caught.exception))


class ForageWeeks(unittest.TestCase):
    """A guess; common practice, no source."""

    def test_north(self) -> None:
        last, first = forage_weeks([-4, -3, 2, 7, 13, 16, 18, 18, 13, 8, 3, -2])
        self.assertTrue(38 <= last <= 42)
        self.assertTrue(15 <= first <= 19)

    def test_south_winters_in_july(self) -> None:
        last, first = forage_weeks([18, 18, 15, 11, 8, 5, 4, 6, 9, 12, 15, 17])
        self.assertTrue(15 <= last <= 19)
        self.assertTrue(35 <= first <= 41)

    def test_always_warm_has_no_winter_and_always_cold_no_summer(self) -> None:
        last, first = forage_weeks([26.0] * 6 + [24.0] * 6)
        self.assertEqual(first, last + 1)
        last, first = forage_weeks([-10.0] * 12)
        self.assertEqual(first, last)


if __name__ == "__main__":
    unittest.main()
