"""Hostile and broken input, and files that are gone, replaced, linked or in the way."""

from __future__ import annotations

import json
import os
import sqlite3
import stat
import subprocess
import sys
import tempfile
import time
import unittest
from dataclasses import replace
from pathlib import Path
from unittest import mock

from calveth.catalogue.shipped import demo_project
from calveth.core.assess.result import assess_months
from calveth.core.edits import rename_design, set_layer_thickness
from calveth.core.errors import DomainError, plain
from calveth.core.hive.joinery import Joinery
from calveth.store.atomic_write import atomic_write
from calveth.store.converter import from_document
from calveth.store.errors import DocumentError, FileBusyError, FileError
from calveth.store.json_file import project_to_json, read_json, write_json
from calveth.store.material_file import read_materials
from calveth.store.project_file import ProjectFile, load_project
from calveth.store.records import readings_record
from calveth.store.tables import csv_text
from calveth.store.upgrades import VERSION
from calveth.store.weather import import_weather
from calveth.store.working_copy import unnamed_work, working_copy, working_folder
from tests.cases import hive_case
from tests.core.builders import TABLE, box, steady_place
from tests.core.test_colony import COLONY
from tests.store.test_weather import write_epw

PROJECT = demo_project()
MADE = json.loads(project_to_json(PROJECT))


class Base(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.path = self.folder / "hive.calveth"
        self.json = self.folder / "hive.json"

    def said(self, document: object) -> str:
        """Return the sentence a JSON document is refused with."""
        text = document if isinstance(document, str) else json.dumps(document)
        self.json.write_text(text, encoding="utf-8", errors="surrogatepass")
        with self.assertRaises(FileError) as caught:
            read_json(self.json)
        sentence = str(caught.exception)
        self.assertEqual(sentence, plain(sentence), "one printable line that ends")
        self.assertNotRegex(sentence, r"typing|Literal\[|NoneType|Traceback|<class")
        return sentence


class Documents(Base):
    def spoilt(self, change) -> str:  # type: ignore[no-untyped-def]
        document = json.loads(json.dumps(MADE))
        change(document["project"])
        return self.said(document)

    def test_long_lists_and_many_faults_end_at_once(self) -> None:
        started = time.process_time()
        lid = [0] * 200_000
        self.assertIn("too long", self.spoilt(lambda p: p["designs"][0]["shell"].update(lid=lid)))
        self.assertIn(
            "lid[0]", self.spoilt(lambda p: p["designs"][0]["shell"].update(lid=[0] * 1000))
        )
        # Not a measurement: before the first wrong item ended it, this took minutes.
        self.assertLess(time.process_time() - started, 30)

    def test_a_number_of_thousands_of_digits(self) -> None:
        text = json.dumps(MADE).replace(
            '"first_forage_week": ', '"first_forage_week": 9' + "9" * 5000
        )
        self.assertIn("digits", self.said(text))
        text = json.dumps(MADE).replace('"altitude_m": ', '"altitude_m": 1' + "0" * 200)
        self.assertIn("altitude", self.said(text))

    def test_half_a_letter_and_control_characters(self) -> None:
        self.assertIn("name", self.said(json.dumps(MADE).replace("Lake Velm", "\\ud800", 1)))
        for evil in ("\u001b[2J", "\u009b1m", "\u202e", "a\u0000b"):
            with self.subTest(evil=repr(evil)):
                said = self.spoilt(lambda p, e=evil: p["designs"][0].update(note=e))
                self.assertIn("cannot be shown", said)

    def test_texts_are_no_lists_and_lists_no_texts(self) -> None:
        for field, value in (("cautions", "hot"), ("cautions", {"a": 1}), ("stock_m", "")):
            with self.subTest(field=field, value=value):
                said = self.spoilt(lambda p, f=field, v=value: p["materials"][0].update({f: v}))
                self.assertIn("is not a list", said)
        said = self.spoilt(lambda p: p["designs"][0].update(openings={}))
        self.assertIn("is not a list", said)

    def test_a_wrong_choice_names_the_choices(self) -> None:
        said = self.spoilt(lambda p: p["designs"][0].update(joints="loose"))
        self.assertRegex(said, r"“?loose.* is not known; choose one of filled, propolised")

    def test_a_key_twice_and_a_schema_that_is_no_whole_number(self) -> None:
        text = json.dumps(MADE)
        self.assertIn("stands twice", self.said(text.replace('"name":', '"name": "x", "name":', 1)))
        for schema in (3.0, True, "3", 0, 99):
            with self.subTest(schema=schema):
                self.assertIn("schema", self.said({**MADE, "schema": schema}))

    def test_true_is_no_number_and_no_count(self) -> None:
        said = self.spoilt(lambda p: p["designs"][0]["form"].update(frame_count=True))
        self.assertIn("whole number", said)
        with self.assertRaises(DocumentError):
            from_document(True, int)

    def test_a_byte_order_mark_is_no_fault(self) -> None:
        self.json.write_text("\ufeff" + project_to_json(PROJECT), encoding="utf-8")
        self.assertEqual(read_json(self.json), PROJECT)

    def test_timber_that_is_not_there_is_refused_with_its_field(self) -> None:
        wrong = replace(PROJECT.designs[0], joinery=Joinery(timber="nowhere"))
        with self.assertRaisesRegex(DomainError, "timber of the joints: nowhere"):
            replace(PROJECT, designs=(wrong,))

    def test_a_range_is_told_with_its_unit(self) -> None:
        said = self.spoilt(lambda p: p["designs"][0]["shell"]["lid"][0].update(thickness_m=5))
        self.assertIn("5 is outside 0.0001 to 1 m", said)


class SpecialFiles(Base):
    def test_pipes_and_devices_are_refused_before_they_are_opened(self) -> None:
        pipe = self.folder / "pipe.json"
        os.mkfifo(pipe)
        endless = self.folder / "zero.json"
        endless.symlink_to("/dev/zero")
        for path in (pipe, endless):
            for read in (read_json, read_materials, load_project, import_weather):
                with (
                    self.subTest(path=path.name, read=read.__name__),
                    self.assertRaisesRegex(FileError, "pipe or a device"),
                ):
                    read(path)

    def test_names_no_file_can_have(self) -> None:
        for name in ("x" * 300 + ".json", "hive.json/x.json", "a\0b.json"):
            self.json.write_text("{}")
            with self.subTest(name=name[:12]), self.assertRaises(FileError):
                read_json(self.folder / name)
            with self.subTest(write=name[:12]), self.assertRaises(FileError):
                write_json(self.folder / name, PROJECT)

    def test_outputs_keep_links_and_rights_and_refuse_devices(self) -> None:
        target, link = self.folder / "real.json", self.folder / "link.json"
        target.write_text("old")
        target.chmod(0o600)
        link.symlink_to(target)
        write_json(link, PROJECT)
        self.assertTrue(link.is_symlink())
        self.assertEqual(read_json(target), PROJECT)
        self.assertEqual(stat.S_IMODE(target.stat().st_mode), 0o600)
        with self.assertRaisesRegex(FileError, "device"):
            write_json(Path("/dev/null"), PROJECT)
        self.assertTrue(stat.S_ISCHR(Path("/dev/null").stat().st_mode))

    def test_a_users_own_part_file_is_left_alone(self) -> None:
        own = self.folder / "x.part.json"
        own.write_text("mine")
        write_json(self.folder / "x.json", PROJECT)
        ProjectFile.create(self.path, PROJECT).close()
        self.assertEqual(own.read_text(), "mine")
        self.assertEqual(
            sorted(p.name for p in self.folder.iterdir()), ["hive.calveth", "x.json", "x.part.json"]
        )

    def test_what_a_killed_process_left_is_cleared_away_later(self) -> None:
        left = self.folder / ".x.abcdef.calveth-part.json"
        left.write_text("half")
        os.utime(left, (1, 1))
        write_json(self.folder / "x.json", PROJECT)
        self.assertFalse(left.exists())

    def test_nothing_remains_of_what_failed(self) -> None:
        with self.assertRaises(FileError), atomic_write(self.json) as part:
            part.write_text("half")
            raise OSError(28, "No space left on device")
        self.assertEqual(list(self.folder.iterdir()), [])


class Projects(Base):
    def sql(self, *statements: str) -> None:
        connection = sqlite3.connect(self.path)
        for statement in statements:
            connection.execute(statement)
        connection.commit()
        connection.close()

    def refused(self) -> str:
        with self.assertRaises(FileError) as caught:
            load_project(self.path)
        return str(caught.exception)

    def test_only_its_own_two_tables_and_no_trigger(self) -> None:
        for statement in (
            "CREATE TRIGGER t BEFORE INSERT ON design BEGIN SELECT RAISE(IGNORE); END",
            "CREATE TRIGGER t AFTER INSERT ON document BEGIN DELETE FROM design; END",
            "CREATE TABLE more (a TEXT)",
            "CREATE INDEX i ON design (position)",
            "CREATE VIEW v AS WITH RECURSIVE x(n) AS (SELECT 1 UNION ALL SELECT n FROM x) "
            "SELECT n FROM x",
        ):
            self.path.unlink(missing_ok=True)
            ProjectFile.create(self.path, PROJECT).close()
            self.sql(statement)
            with self.subTest(statement=statement[:32]):
                self.assertIn("not Calveth's", self.refused())

    def test_an_endless_view_in_place_of_a_table(self) -> None:
        ProjectFile.create(self.path, PROJECT).close()
        rows = "(SELECT 'a', '1' UNION ALL SELECT name, json FROM x) SELECT * FROM x"
        endless = f"CREATE VIEW document AS WITH RECURSIVE x(name, json) AS {rows}"
        self.sql("DROP TABLE document", endless)
        self.assertIn("not Calveth's", self.refused())

    def test_a_row_goes_by_the_id_of_its_design(self) -> None:
        ProjectFile.create(self.path, PROJECT).close()
        self.sql("UPDATE design SET id = 'other' WHERE id = 'timber'")
        self.assertIn("another id", self.refused())

    def test_a_version_below_one_and_nesting_without_end(self) -> None:
        ProjectFile.create(self.path, PROJECT).close()
        self.sql("PRAGMA user_version = -5")
        self.assertIn("damaged", self.refused())
        self.sql(f"PRAGMA user_version = {VERSION}")
        self.sql(f"UPDATE document SET json = '{'[' * 100_000}' WHERE name = 'place'")
        self.assertIn("nested", self.refused())

    def test_reading_an_old_file_writes_nothing(self) -> None:
        old = (Path(__file__).parents[1] / "projects" / "version-1.calveth").read_bytes()
        self.path.write_bytes(old)
        project = load_project(self.path)
        self.assertEqual(self.path.read_bytes(), old)
        # Its first edit makes all of it a file of this version.
        first = project.designs[0].id
        with ProjectFile.open(self.path) as file:
            file.write(file.read(), rename_design(project, first, "renamed"))
        self.assertEqual(load_project(self.path).design(first).name, "renamed")
        connection = sqlite3.connect(self.path)
        self.assertEqual(connection.execute("PRAGMA user_version").fetchone()[0], VERSION)
        connection.close()

    def test_a_reader_that_holds_the_file_breaks_nothing(self) -> None:
        after = set_layer_thickness(PROJECT, "timber", "lid", 0, 0.05)
        with ProjectFile.create(self.path, PROJECT) as file:
            reader = sqlite3.connect(self.path, isolation_level=None)
            reader.execute("BEGIN")
            reader.execute("SELECT * FROM design").fetchone()
            with self.assertRaises(FileBusyError):
                file.write(PROJECT, after)
            reader.close()
            file.write(PROJECT, after)
        self.assertEqual(load_project(self.path), after)

    def test_a_full_disk_says_so_and_not_that_the_file_is_damaged(self) -> None:
        big = replace(PROJECT, name="x" * 150)
        with ProjectFile.create(self.path, PROJECT) as file:
            pages = file._connection.execute("PRAGMA page_count").fetchone()[0]
            file._connection.execute(f"PRAGMA max_page_count = {pages}")
            many = replace(
                big,
                designs=tuple(
                    replace(d, id=f"{d.id}-{k}") for k in range(9) for d in PROJECT.designs
                ),
            )
            with self.assertRaisesRegex(FileError, "disk is full"):
                file.write(PROJECT, many)
        self.assertEqual(load_project(self.path), PROJECT)

    def test_an_old_journal_is_not_played_into_a_new_file(self) -> None:
        """A child is killed in a transaction; what takes the file's name later stays as it is."""
        ProjectFile.create(self.path, PROJECT).close()
        script = (
            "import os, sqlite3, sys\n"
            "c = sqlite3.connect(sys.argv[1], isolation_level=None)\n"
            "c.execute('PRAGMA cache_size = 1'); c.execute('BEGIN IMMEDIATE')\n"
            "c.execute(\"UPDATE design SET json = json || ' '\")\n"
            "c.execute('UPDATE document SET json = json || zeroblob(200000)')\n"
            "os.kill(os.getpid(), 9)\n"
        )
        subprocess.run([sys.executable, "-c", script, str(self.path)], check=False)
        journal = self.path.with_name(self.path.name + "-journal")
        self.assertTrue(journal.exists() and journal.stat().st_size > 0)
        other = rename_design(PROJECT, "timber", "The new one")
        ProjectFile.create(self.path, other).close()
        self.assertFalse(journal.exists())
        self.assertEqual(load_project(self.path), other)

    def test_a_file_moved_or_replaced_underneath_is_noticed(self) -> None:
        after = rename_design(PROJECT, "timber", "After")
        with ProjectFile.create(self.path, PROJECT) as file:
            self.path.unlink()
            self.assertTrue(file.is_missing())
            with self.assertRaisesRegex(FileError, "moved, deleted or replaced"):
                file.write(PROJECT, after)
            ProjectFile.create(self.path, PROJECT).close()
            self.assertFalse(file.is_ours())
            with self.assertRaisesRegex(FileError, "moved, deleted or replaced"):
                file.write(PROJECT, after)


class Unnamed(Base):
    def setUp(self) -> None:
        super().setUp()
        data = mock.patch.dict(os.environ, {"XDG_DATA_HOME": str(self.folder)})
        data.start()
        self.addCleanup(data.stop)

    def test_two_working_copies_of_one_second_are_two(self) -> None:
        with mock.patch("calveth.store.working_copy.time.strftime", return_value="20260101-000000"):
            one, two = working_copy(PROJECT), working_copy(PROJECT)
        self.assertNotEqual(one.path, two.path)
        one.close()
        two.close()
        self.assertEqual(len(list(working_folder().glob("*.calveth"))), 2)

    def test_work_of_sessions_that_ended_is_found_the_newest_first(self) -> None:
        for number, name in enumerate(("older", "newer")):
            path = working_folder() / f"2026010{number}-000000-1-{name}.calveth"
            ProjectFile.create(path, replace(PROJECT, name=name)).close()
            os.utime(path, (1e9 + number, 1e9 + number))
        (working_folder() / "20260103-000000-1-bad.calveth").write_text("no")
        working_copy(PROJECT).close()  # of this process: in use
        self.assertEqual([w.project.name for w in unnamed_work()], ["newer", "older"])


class Figures(Base):
    def test_honey_of_a_day_in_grams(self) -> None:
        monthly = assess_months(hive_case(box(), steady_place(), COLONY, TABLE))
        record = readings_record(monthly.months, 0)
        # 86 400 s of the ledger's kg/s.
        expected = 86_400_000 * float(monthly.months.balance.ledger.honey_kg_s[0])
        self.assertAlmostEqual(record["honey_g_day"], expected, places=2)

    def test_no_cell_is_taken_for_a_formula(self) -> None:
        for start in "=+-@\t\r":
            with self.subTest(start=repr(start)):
                self.assertIn(f"'{start}1", csv_text([{"a": f"{start}1"}]))


class WeatherCells(Base):
    def test_a_cell_that_is_no_number_is_a_gap(self) -> None:
        path = self.folder / "x.epw"
        write_epw(path)
        lines = path.read_text().splitlines()
        cells = lines[100].split(",")
        cells[6] = "4x2"
        path.write_text("\n".join([*lines[:100], ",".join(cells), *lines[101:]]) + "\n")
        found = import_weather(path)
        self.assertTrue(any("temperature: 1 hours missing, 1 filled" in n for n in found.notes))

    def test_gaps_of_six_hours_are_filled_and_of_seven_left(self) -> None:
        for hours, filled in ((6, 6), (7, 0)):
            path = self.folder / f"{hours}.epw"
            write_epw(path, temp_air={100 + k: 99.9 for k in range(hours)})
            said = next(n for n in import_weather(path).notes if n.startswith("temperature"))
            with self.subTest(hours=hours):
                self.assertIn(f"{hours} hours missing, {filled} filled", said)

    def test_four_fifths_of_a_month_are_enough_and_no_less(self) -> None:
        # January has 744 hours: 595 are 80.0 %, 594 are 79.8 %.
        for missing, fine in ((148, True), (150, False)):
            path = self.folder / f"{missing}.epw"
            write_epw(path, temp_air=dict.fromkeys(range(24, 24 + missing), 99.9))
            with self.subTest(missing=missing):
                if fine:
                    self.assertEqual(import_weather(path).kind, "EPW")
                else:
                    with self.assertRaisesRegex(FileError, "80%"):
                        import_weather(path)

    def test_the_winter_wind_comes_from_where_it_blows(self) -> None:
        # Wind from 100° all year: east and a little south, not its mirror image.
        path = self.folder / "x.epw"
        write_epw(path, wind_direction=dict.fromkeys(range(8760), 100.0))
        self.assertAlmostEqual(import_weather(path).place.wind_from_deg, 100.0, delta=1.0)

    def test_a_quote_that_is_never_closed_and_a_column_twice(self) -> None:
        path = self.folder / "x.csv"
        path.write_text('month,temperature_degc\n1,"' + "x" * 200_000)
        with self.assertRaisesRegex(FileError, "CSV"):
            import_weather(path)
        path.write_text("month,temperature_degc,temperature_degc\n1,2,3\n")
        with self.assertRaisesRegex(FileError, "twice"):
            import_weather(path)


if __name__ == "__main__":
    unittest.main()
