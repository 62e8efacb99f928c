"""Logger files as people have them: dates, commas, units, clocks that change; the command."""

from __future__ import annotations

import contextlib
import io
import json
import os
import tempfile
import unittest
from pathlib import Path

import numpy as np

from calveth.cli.main import main
from calveth.core.diary.series import find_faults
from calveth.core.errors import DomainError
from calveth.store.csv_in import first_rows
from calveth.store.errors import FileError
from calveth.store.log_csv import LogFile, LogLayout, read_log
from calveth.texts.logs import moment


class Base(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def read(self, text: str, zone: str = "UTC", **more: str) -> LogFile:
        path = self.folder / "log.csv"
        path.write_text(text, encoding="utf-8")
        return read_log(path, zone, **more)  # type: ignore[arg-type]


class Dialects(Base):
    def test_german_dates_commas_and_units(self) -> None:
        log = self.read(
            "Zeit;Beute °C;Feuchte %;Waage kg\n"
            "03.02.2026 14:30;21,5;86,0;31,25\n03.02.2026 14:40;21,6;;31,20\n"
            "13.02.2026 14:40;n/a;85;31,1\n"
        )
        hive, humid, scale = (c.series for c in log.columns)
        self.assertEqual(moment(int(hive.minutes[0])), "2026-02-03 14:30")
        self.assertEqual(hive.values.tolist(), [21.5, 21.6])
        np.testing.assert_allclose(humid.values, [0.86, 0.85])
        self.assertEqual((scale.quantity, scale.values[-1]), ("weight", 31.1))
        self.assertIn("day first", " ".join(log.notes))

    def test_fahrenheit_pounds_and_parts_per_million(self) -> None:
        log = self.read(
            "time,hive °F,scale lb,CO2 ppm\n2026-02-03 14:30,70.7,68.9,4200\n"
            "2026-02-03 14:40,50,68.8,5000\n"
        )
        hive, scale, co2 = (c.series for c in log.columns)
        np.testing.assert_allclose(hive.values, [21.5, 10.0])
        self.assertAlmostEqual(float(scale.values[0]), 31.25, delta=0.01)
        self.assertAlmostEqual(float(co2.values[0]), 0.0042)

    def test_a_date_that_may_be_read_in_two_ways_is_asked_for(self) -> None:
        text = "time,hive °C\n03/02/2026 14:30,21\n04/02/2026 14:40,22\n"
        with self.assertRaisesRegex(DomainError, "day first or month first"):
            self.read(text)
        first = self.read(text, order="month first").columns[0].series
        self.assertEqual(moment(int(first.minutes[0])), "2026-03-02 14:30")
        seen = self.read("time,hive °C\n03/02/2026 14:30,21\n03/13/2026 14:40,22\n")
        self.assertIn("month first", " ".join(seen.notes))

    def test_the_later_of_two_rows_of_a_minute_counts_and_is_told(self) -> None:
        log = self.read(
            "time,hive °C\n2026-02-03 14:30,21\n2026-02-03 14:30,22\n2026-02-03 14:20,20\n"
        )
        self.assertEqual(log.columns[0].series.values.tolist(), [20.0, 22.0])
        self.assertIn("came twice", " ".join(log.notes))


class Shapes(Base):
    """Files as loggers and their owners make them."""

    def values(self, text: str) -> list[float]:
        return [float(v) for v in self.read(text).columns[0].series.values]

    def test_two_lines_of_the_device_a_date_and_a_time_apart_and_latin_letters(self) -> None:
        path = self.folder / "device.csv"
        path.write_bytes(
            "Gerät;Logger 3\nSeriennummer;00471\nDatum;Uhrzeit;Beute [°C];Außen [°C]\n"
            "01.11.2025;08:00;21,5;4,5\n01.11.2025;08:10;21,6;4,4\nEnd of file\n".encode("cp1252")
        )
        log = read_log(path, "UTC")
        self.assertEqual([c.name for c in log.columns], ["Beute [°C]", "Außen [°C]"])
        self.assertEqual(log.columns[0].series.values.tolist(), [21.5, 21.6])
        self.assertEqual(moment(int(log.columns[0].series.minutes[0])), "2025-11-01 08:00")
        self.assertEqual((log.layout.header, log.layout.times), (2, (0, 1)))
        self.assertIn("1 line at the end", " ".join(log.notes))

    def test_a_line_of_units_under_the_names(self) -> None:
        text = "time,hive °C\n,°C\n2026-02-03 14:30,21\n2026-02-03 14:40,22\n"
        self.assertEqual(self.values(text), [21.0, 22.0])

    def test_half_days_offsets_and_seconds(self) -> None:
        log = self.read("time,hive °C\n13/02/2026 03:00 PM,21\n13/02/2026 11:30:20 am,22\n")
        self.assertEqual(
            [moment(int(m))[11:] for m in log.columns[0].series.minutes], ["11:30", "15:00"]
        )
        text = "time,a °C\n2026-02-03T14:30:00+02:00,21\n2026-02-03T13:00:00Z,22\n"
        for zone in ("UTC", "Europe/Berlin"):
            own = self.read(text, zone)
            told = [moment(int(m))[11:] for m in own.columns[0].series.minutes]
            self.assertEqual(told, ["12:30", "13:00"], zone)
            self.assertIn("their own offset", " ".join(own.notes))

    def test_what_is_no_time_is_named_by_its_line(self) -> None:
        good = "2026-02-03 14:30,21\n2026-02-03 14:40,22\n"
        for row, line in (("2026-02-03 14:50 PPM,1\n", 4), ("2026-02-03 27:50,1\n", 4)):
            with self.assertRaisesRegex(FileError, f"line {line}"):
                self.read(f"time,a °C\n{good}{row}{good}")

    def test_a_torn_last_line_waits_and_a_footer_is_left_out(self) -> None:
        good = "time,a °C\n2026-02-03 14:30,21\n2026-02-03 14:40,22\n"
        for end, said in (
            ("2026-02-04T0", "next reading"),
            ("2026-02-03 14:50", "next reading"),
            ("End of file\n", "1 line at the end"),
        ):
            log = self.read(good + end)
            self.assertEqual(log.columns[0].series.values.tolist(), [21.0, 22.0])
            self.assertIn(said, " ".join(log.notes))

    def test_values_no_probe_has_are_gaps_that_are_told(self) -> None:
        rows = "".join(f"2026-02-03 {h:02d}:00,{20 + h % 3}\n" for h in range(20))
        log = self.read(f"time,hive °C\n{rows}2026-02-03 21:00,-127\n2026-02-03 22:00,-9999\n")
        self.assertEqual(log.columns[0].series.values.size, 20)
        self.assertIn("2 values no probe has, such as -127", " ".join(log.notes))

    def test_a_quote_that_is_never_closed_swallows_nothing(self) -> None:
        rows = "".join(f'2026-02-03 {h:02d}:00,{h},"abc\n' for h in range(20))
        log = self.read(f"time,hive °C,note\n{rows}")
        self.assertEqual(log.columns[0].series.values.size, 20)
        with self.assertRaisesRegex(FileError, "line 3 cannot be read"):
            self.read(f"time,hive °C\n2026-02-03 14:30,2\n2026-02-03 14:40,{'9' * 200_000}\n")

    def test_units_are_whole_words_and_two_meanings_are_asked(self) -> None:
        rows = "2026-02-03 14:30,40\n2026-02-03 14:40,41\n"
        for header, quantity, first in (
            ("Weight of hive (kg)", "weight", 40.0),
            ("Gewicht auf Waage kg", "weight", 40.0),
            ("Humidity of roof (%)", "humidity", 0.4),
            ("A/C %", "humidity", 0.4),
            ("CO2 (%)", "co2", 0.4),
            ("Roof °C", "temperature", 40.0),
            ("Shelf temp °C", "temperature", 40.0),
            ("Weight (lbs)", "weight", 18.1437),
            ("Attic humidity %", "humidity", 0.4),
            ("Basic weight kg", "weight", 40.0),
            ("Power mW", "power", 0.04),
            ("Weight [g]", "weight", 0.04),
            ("CO2", "co2", 4e-5),
            ("Temp (F)", "temperature", 4.4444),
        ):
            column = self.read(f"time,{header}\n{rows}").columns[0]
            self.assertEqual(column.series.quantity, quantity, header)
            self.assertAlmostEqual(float(column.series.values[0]), first, places=3, msg=header)
        for header in ("Battery %", "RSSI dBm", "Akku %"):
            with self.assertRaisesRegex(FileError, "no column"):
                self.read(f"time,{header}\n{rows}")
        log = self.read(f"time,Temp\n{rows}")
        self.assertEqual(log.columns, ())
        self.assertEqual([m.unit for m in log.asked[0][1]], ["°c", "°f"])
        told = self.read(f"time,Temp\n{rows}", layout=LogLayout(units={"Temp": "temperature °f"}))  # type: ignore[arg-type]
        self.assertAlmostEqual(float(told.columns[0].series.values[0]), 4.444, places=2)
        two = self.read("time,a °C,a °C\n2026-02-03 14:30,1,5\n2026-02-03 14:40,2,6\n")
        self.assertEqual([c.name for c in two.columns], ["a °C", "a °C (2)"])
        self.assertEqual(two.columns[1].series.values.tolist(), [5.0, 6.0])

    def test_the_keeper_says_where_names_and_times_stand(self) -> None:
        text = (
            "x,y,z\n1,2,3\nread,taken,hive °C\n2026-01-01 01:00,2026-02-03 14:30,21\n"
            "2026-01-01 02:00,2026-02-03 14:40,22\n"
        )
        seen = self.read(text)
        self.assertEqual(moment(int(seen.columns[0].series.minutes[0])), "2026-01-01 01:00")
        told = self.read(text, layout=LogLayout(header=2, times=(1,)))  # type: ignore[arg-type]
        self.assertEqual(moment(int(told.columns[0].series.minutes[0])), "2026-02-03 14:30")
        path = self.folder / "first.csv"
        path.write_text(text, encoding="utf-8")
        self.assertEqual(first_rows(path, 1), (("x", "y", "z"),))

    def test_pipes_and_endless_files_are_refused_before_they_are_opened(self) -> None:
        pipe = self.folder / "pipe.csv"
        os.mkfifo(pipe)
        zero = self.folder / "zero.csv"
        zero.symlink_to("/dev/zero")
        for path in (pipe, zero):
            with self.assertRaisesRegex(FileError, "pipe or a device"):
                read_log(path, "UTC")


class Clocks(Base):
    def test_autumn_has_an_hour_twice(self) -> None:
        """Berlin leaves summer time on 2025-10-26 at 03:00, 01:00 UTC (any almanac)."""
        rows = ["01:30", "02:10", "02:50", "02:10", "02:50", "03:10"]
        log = self.read(
            "time,a °C\n" + "".join(f"2025-10-26 {t},{k}\n" for k, t in enumerate(rows)),
            "Europe/Berlin",
        )
        told = [moment(int(m))[8:] for m in log.columns[0].series.minutes]
        self.assertEqual(
            told, ["25 23:30", "26 00:10", "26 00:50", "26 01:10", "26 01:50", "26 02:10"]
        )
        self.assertEqual(log.columns[0].series.values.tolist(), [0, 1, 2, 3, 4, 5])

    def test_spring_skips_an_hour(self) -> None:
        """02:30 on 2025-03-30 is no time in Berlin."""
        text = "time,a °C\n2025-03-30 01:30,1\n2025-03-30 02:30,2\n2025-03-30 03:30,3\n"
        with self.assertRaisesRegex(FileError, "standard time all year"):
            self.read(text, "Europe/Berlin")
        log = self.read(text, "Etc/GMT-1")
        self.assertEqual(moment(int(log.columns[0].series.minutes[1])), "2025-03-30 01:30")
        winter = self.read("time,a °C\n2025-01-30 12:00,1\n2025-07-30 12:00,2\n", "Europe/Berlin")
        times = [moment(int(m))[11:] for m in winter.columns[0].series.minutes]
        self.assertEqual(times, ["11:00", "10:00"])

    def test_what_is_no_log_is_one_sentence(self) -> None:
        for text, said in (
            ("", "less than three lines"),
            ("time\n1\n2\n", "one column"),
            ("time,a °C\nyesterday,1\ntoday,2\n", "is no time"),
            ("time,a\n2026-01-01 10:00,1\n2026-01-01 11:00,2\n", "name the units"),
            ("time,a °C\n2026-13-01 10:00,1\n2026-01-01 11:00,2\n", "does not exist"),
        ):
            with self.subTest(said=said), self.assertRaisesRegex(FileError, said):
                self.read(text)
        with self.assertRaisesRegex(DomainError, "time zone"):
            self.read("time,a °C\n2026-01-01 10:00,1\n2026-01-01 11:00,2\n", "Mars/Base")


class Command(Base):
    def call(self, *arguments: object) -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            code = main([str(a) for a in arguments])
        return code, out.getvalue(), err.getvalue()

    def test_the_stand_in_through_the_file_path(self) -> None:
        path = self.folder / "probe.csv"
        self.assertEqual(self.call("log", "stand-in", path, "--faults", "stuck,gap")[0], 0)
        code, out, _ = self.call(
            "log", "check", path, "--outside", "outside °C", "--format", "json"
        )
        self.assertEqual(code, 0)
        kinds = {f["kind"] for f in json.loads(out)["columns"][0]["faults"]}
        self.assertEqual(kinds, {"stuck", "gap"})
        text = self.call("log", "check", path)[1]
        self.assertIn("look at the probe", text)
        series = read_log(path, "UTC").columns[0].series
        self.assertEqual({f.kind for f in find_faults(series)}, {"stuck", "gap"})

    def test_a_heater_test_and_a_decay(self) -> None:
        rng = np.random.default_rng(1)
        path, lines = self.folder / "heat.csv", ["time,in °C,out °C,lamp W"]
        inside = 10.0
        for k in range(90 * 6):
            outside = 10.0 + 3.0 * np.sin(k / 22.9)
            inside += (20.0 - 1.6 * (inside - outside)) / 2e4 * 600.0
            day, minute = divmod(10 * k, 1440)
            noisy = inside + 0.1 * rng.standard_normal()
            lines.append(
                f"2026-01-{day + 1:02d} {minute // 60:02d}:{minute % 60:02d},"
                f"{noisy:.3f},{outside:.3f},20.0"
            )
        path.write_text("\n".join(lines), encoding="utf-8")
        code, out, _ = self.call("log", "heater", path, "--outside", "out °C", "--format", "json")
        self.assertEqual(code, 0)
        self.assertAlmostEqual(json.loads(out)["loss_w_k"], 1.6, delta=0.05)
        self.assertIn(
            "residual current", self.call("log", "heater", path, "--outside", "out °C")[1]
        )
        self.assertIn("are missing", self.call("log", "heater", path)[2])
        path.write_text(
            "time,CO2 ppm\n"
            + "".join(
                f"2026-01-01 1{h}:00,{420 + 19580 * np.exp(-0.726 * h):.0f}\n" for h in range(4)
            ),
            encoding="utf-8",
        )
        self.assertIn("0.73 times an hour", self.call("log", "decay", path)[1])

    def test_rubbish_on_the_line(self) -> None:
        path = self.folder / "x.csv"
        for arguments, said in (
            (("stand-in", path, "--faults", "rust"), "choose of"),
            (("stand-in", path, "--seed", "one"), "whole number"),
            (("check", self.folder / "none.csv"), "does not exist"),
        ):
            code, _, err = self.call("log", *arguments)
            self.assertEqual(code, 2)
            self.assertIn(said, err)


if __name__ == "__main__":
    unittest.main()
