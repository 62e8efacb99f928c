"""Every logged quantity goes all the way: header, file, record, faults, strip, sentence, export."""

import csv
import tempfile
import unittest
from dataclasses import fields as dataclass_fields
from pathlib import Path
from typing import get_args

import numpy as np

from calveth.catalogue.shipped import demo_project
from calveth.core.diary.channels import TOLD_INSIDE, TOLD_OUTSIDE
from calveth.core.diary.samples import packed, unpacked
from calveth.core.diary.season import logged_place
from calveth.core.diary.sensor_readings import SensorReadings
from calveth.core.diary.series import Series, find_faults
from calveth.core.records.diary import Diary
from calveth.core.records.log import Log
from calveth.core.records.quantity import QUANTITIES, WHERE, Quantity, quantities_at
from calveth.store.log_csv import log_rows, read_log
from calveth.texts.log_curves import drawn, strip_title
from calveth.texts.logs import series_sentence
from calveth.texts.units import INCH, METRIC, header_meanings


def _values(quantity: Quantity) -> np.ndarray[tuple[int], np.dtype[np.float64]]:
    """Return two days of half hours that a probe of it may read."""
    facts = QUANTITIES[quantity]
    low = max(facts.limits[0], 0.0)
    wave = np.sin(np.arange(96) / 7.0) + 1.2
    size = min(0.2 * (facts.limits[1] - low), 4 * facts.coarse_step)
    return low + size * wave + facts.kept_step


class EveryQuantity(unittest.TestCase):
    def test_each_has_its_row_in_the_order_of_the_type(self) -> None:
        self.assertEqual(tuple(QUANTITIES), get_args(Quantity))

    def test_every_place_measures_something(self) -> None:
        for where in WHERE:
            with self.subTest(where=where):
                self.assertTrue(quantities_at(where))

    def test_a_column_of_it_is_read_kept_judged_shown_and_written(self) -> None:
        for quantity, facts in QUANTITIES.items():
            with self.subTest(quantity=quantity), tempfile.TemporaryDirectory() as folder:
                unit, (factor, offset) = next(iter(facts.units.items()))
                values = _values(quantity)
                path = Path(folder) / "log.csv"
                with path.open("w", newline="", encoding="utf-8") as stream:
                    writer = csv.writer(stream)
                    writer.writerow(["time UTC", f"{facts.words[0]} ({unit})"])
                    for k, value in enumerate(values):
                        day, minute = divmod(30 * k, 1440)
                        stamp = f"2025-01-{6 + day:02d} {minute // 60:02d}:{minute % 60:02d}"
                        writer.writerow([stamp, repr(float((value - offset) / factor))])
                series = read_log(path, "UTC").columns[0].series
                assert series is not None
                self.assertEqual(series.quantity, quantity)
                np.testing.assert_allclose(series.values, values, atol=1e-9)
                self.assertEqual(find_faults(series), [])
                log = Log(
                    id="one",
                    name=facts.words[0],
                    hive="" if facts.places[0] == "outside" else "hive",
                    at=facts.places[0],
                    quantity=quantity,
                    file="log.csv",
                    sha256="0" * 64,
                    zone="UTC",
                    chunks=packed(series),
                )
                again = unpacked(log.chunks, quantity)
                np.testing.assert_allclose(again.values, values, atol=0.51 * facts.kept_step)
                self.assertIn(facts.unit, series_sentence("column", series))
                rows = log_rows([log])
                self.assertEqual(len(rows), 97)
                written = float(rows[1][1]) / facts.file_factor
                self.assertAlmostEqual(written, values[0], delta=10.0 ** -(facts.file_digits - 1))
                self.assertEqual(
                    header_meanings(rows[0][1].split(" ", 2)[-1])[0].quantity, quantity
                )
                for units in (METRIC, INCH):
                    self.assertIn(facts.title, strip_title(quantity, units))
                    self.assertEqual(drawn(quantity, values, units).shape, values.shape)

    def test_the_year_says_something_of_every_probe_but_scale_and_heater(self) -> None:
        fields = {f.name for f in dataclass_fields(SensorReadings)}
        for quantity, facts in QUANTITIES.items():
            for place in set(facts.places) - {"scale", "heater"}:
                with self.subTest(quantity=quantity, place=place):
                    table = TOLD_OUTSIDE if place == "outside" else TOLD_INSIDE
                    self.assertIn(table[quantity], fields)

    def test_what_is_logged_outside_reaches_the_year(self) -> None:
        place = demo_project().place
        diary = Diary()
        for quantity, facts in QUANTITIES.items():
            if facts.weather is None:
                self.assertNotIn("outside", facts.places)
                continue
            minutes = np.arange(96, dtype=np.int64) * 60 + 29_461_000 // 60 * 60
            values = np.full(96, 10.0 if quantity == "temperature" else 0.43)
            values[::2] += 0.01
            log = Log(
                id=quantity,
                name=quantity,
                hive="",
                at="outside",
                quantity=quantity,
                file="log.csv",
                sha256="0" * 64,
                zone="UTC",
                chunks=packed(Series(quantity=quantity, minutes=minutes, values=values)),
            )
            diary = diary.with_log(log)
        made = logged_place(place, diary, 2025)
        assert made.place.hours is not None
        self.assertEqual(made.hours, 96)
        for facts in QUANTITIES.values():
            if facts.weather is not None:
                column = np.asarray(made.place.hours.columns[facts.weather])
                self.assertGreaterEqual(int(((column == 10.0) | (column == 0.43)).sum()), 40)


if __name__ == "__main__":
    unittest.main()
