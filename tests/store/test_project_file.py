"""The project file: whole, strict, and never half-written."""

from __future__ import annotations

import itertools
import json
import os
import signal
import sqlite3
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from calveth.catalogue.shipped import demo_project
from calveth.core.edits import (
    duplicate_design,
    remove_design,
    set_layer_thickness,
    set_month,
)
from calveth.store.errors import FileBusyError, FileError
from calveth.store.file_tables import APPLICATION_ID
from calveth.store.project_file import ProjectFile, load_project
from calveth.store.upgrades import VERSION

PROJECT = demo_project()


class Base(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.path = self.folder / "hive.calveth"

    def refused(self, path: Path) -> str:
        with self.assertRaises(FileError) as caught:
            load_project(path)
        return str(caught.exception)


class RoundTrip(Base):
    def test_what_is_written_is_read(self) -> None:
        ProjectFile.create(self.path, PROJECT).close()
        self.assertEqual(load_project(self.path), PROJECT)

    def test_edits_are_stored_as_they_are_made(self) -> None:
        with ProjectFile.create(self.path, PROJECT) as file:
            steps = [PROJECT]
            steps.append(set_layer_thickness(steps[-1], "timber", "lid", 0, 0.05))
            steps.append(duplicate_design(steps[-1], "aircrete")[0])
            steps.append(remove_design(steps[-1], "polystyrene"))
            month = PROJECT.place.months[0]
            steps.append(set_month(steps[-1], 3, month))
            steps.append(steps[1])  # as undo does
            for before, after in itertools.pairwise(steps):
                file.write(before, after)
                with self.subTest(step=steps.index(after)):
                    self.assertEqual(load_project(self.path), after)

    def test_only_what_changed_is_written(self) -> None:
        with ProjectFile.create(self.path, PROJECT) as file:
            after = set_layer_thickness(PROJECT, "timber", "lid", 0, 0.05)
            seen: list[str] = []
            file._connection.set_trace_callback(seen.append)
            file.write(PROJECT, after)
        writes = [s for s in seen if s.startswith("INSERT")]
        self.assertEqual(len(writes), 1)
        self.assertIn("timber", writes[0])

    def test_it_says_what_it_is(self) -> None:
        ProjectFile.create(self.path, PROJECT).close()
        connection = sqlite3.connect(self.path)
        self.addCleanup(connection.close)
        self.assertEqual(connection.execute("PRAGMA application_id").fetchone()[0], APPLICATION_ID)
        self.assertEqual(connection.execute("PRAGMA user_version").fetchone()[0], VERSION)
        for (text,) in connection.execute("SELECT json FROM design"):
            self.assertIn("shell", json.loads(text))

    def test_create_replaces_and_leaves_no_scrap(self) -> None:
        self.path.write_text("something else", encoding="utf-8")
        ProjectFile.create(self.path, PROJECT).close()
        self.assertEqual(load_project(self.path), PROJECT)
        self.assertEqual([p.name for p in self.folder.iterdir()], ["hive.calveth"])


class Refusals(Base):
    def test_missing_folder_and_strange_files(self) -> None:
        self.assertIn("does not exist", self.refused(self.folder / "nothing.calveth"))
        self.assertIn("is a folder", self.refused(self.folder))
        picture = self.folder / "picture.calveth"
        picture.write_bytes(b"\x89PNG\r\n\x1a\n" + b"0" * 500)
        self.assertIn("not a Calveth project", self.refused(picture))
        empty = self.folder / "empty.calveth"
        empty.touch()
        self.assertIn("not a Calveth project", self.refused(empty))

    def test_another_programs_database(self) -> None:
        connection = sqlite3.connect(self.path)
        connection.execute("CREATE TABLE t (x)")
        connection.commit()
        connection.close()
        self.assertIn("another program", self.refused(self.path))

    def test_a_newer_file(self) -> None:
        ProjectFile.create(self.path, PROJECT).close()
        connection = sqlite3.connect(self.path)
        connection.execute("PRAGMA user_version = 99")
        connection.close()
        said = self.refused(self.path)
        self.assertIn("newer Calveth", said)
        self.assertIn("update", said)

    def test_cut_short_at_any_length(self) -> None:
        ProjectFile.create(self.path, PROJECT).close()
        whole = self.path.read_bytes()
        for share in (0.05, 0.3, 0.6, 0.9):
            cut = self.folder / f"cut{share}.calveth"
            cut.write_bytes(whole[: int(len(whole) * share)])
            with self.subTest(share=share):
                self.assertIn("cut", self.refused(cut))

    def test_a_field_out_of_range_is_named(self) -> None:
        ProjectFile.create(self.path, PROJECT).close()
        connection = sqlite3.connect(self.path)
        text = connection.execute("SELECT json FROM design WHERE id='timber'").fetchone()[0]
        spoilt = text.replace('"thickness_m": 0.032', '"thickness_m": -0.032', 1)
        self.assertNotEqual(text, spoilt)
        connection.execute("UPDATE design SET json=? WHERE id='timber'", (spoilt,))
        connection.commit()
        connection.close()
        said = self.refused(self.path)
        self.assertIn("thickness", said)
        self.assertIn("-0.032", said)
        self.assertNotIn("Traceback", said)

    def test_json_that_is_no_json(self) -> None:
        ProjectFile.create(self.path, PROJECT).close()
        connection = sqlite3.connect(self.path)
        connection.execute("UPDATE document SET json='{' WHERE name='place'")
        connection.commit()
        connection.close()
        self.assertIn("not whole JSON", self.refused(self.path))

    def test_a_folder_that_is_not_there(self) -> None:
        with self.assertRaises(FileError) as caught:
            ProjectFile.create(self.folder / "no" / "where.calveth", PROJECT)
        self.assertRegex(str(caught.exception), "folder")

    def test_a_full_disk_keeps_the_old_file(self) -> None:
        ProjectFile.create(self.path, PROJECT).close()
        other = duplicate_design(PROJECT, "timber")[0]
        full = sqlite3.OperationalError("database or disk is full")
        with (
            mock.patch.object(ProjectFile, "_write_documents", side_effect=full),
            self.assertRaises(FileError) as caught,
        ):
            ProjectFile.create(self.path, other)
        self.assertIn("disk is full", str(caught.exception))
        self.assertEqual(load_project(self.path), PROJECT)
        self.assertEqual([p.name for p in self.folder.iterdir()], ["hive.calveth"])

    def test_a_failed_edit_leaves_the_state_before(self) -> None:
        after = set_layer_thickness(PROJECT, "timber", "lid", 0, 0.05)
        with ProjectFile.create(self.path, PROJECT) as file:
            full = sqlite3.OperationalError("database or disk is full")
            with (
                mock.patch.object(ProjectFile, "_write_designs", side_effect=full),
                self.assertRaises(FileError),
            ):
                file.write(PROJECT, after)
            self.assertEqual(load_project(self.path), PROJECT)
            file.write(PROJECT, after)
        self.assertEqual(load_project(self.path), after)

    def test_locked_by_another_writer(self) -> None:
        with ProjectFile.create(self.path, PROJECT) as file:
            file._connection.execute("PRAGMA busy_timeout = 10")
            other = sqlite3.connect(self.path, isolation_level=None)
            other.execute("BEGIN IMMEDIATE")
            try:
                with self.assertRaises(FileError) as caught:
                    file.write(PROJECT, duplicate_design(PROJECT, "timber")[0])
            finally:
                other.execute("ROLLBACK")
                other.close()
            self.assertIsInstance(caught.exception, FileBusyError)
            self.assertIn("another program", str(caught.exception))


class Killed(Base):
    def test_a_killed_process_loses_nothing_that_was_done(self) -> None:
        """A child writes edit after edit and is killed in the middle of it."""
        ProjectFile.create(self.path, PROJECT).close()
        script = (
            "import sys; from pathlib import Path\n"
            "from calveth.store.project_file import ProjectFile\n"
            "from calveth.core.edits import set_layer_thickness\n"
            "file = ProjectFile.open(Path(sys.argv[1])); before = file.read()\n"
            "for k in range(1, 100000):\n"
            "    after = set_layer_thickness(before, 'timber', 'lid', 0, 0.02 + k * 1e-6)\n"
            "    file.write(before, after); before = after\n"
            "    print(k, flush=True)\n"
        )
        child = subprocess.Popen(
            [sys.executable, "-c", script, str(self.path)], stdout=subprocess.PIPE, encoding="utf-8"
        )
        assert child.stdout is not None
        for _ in range(25):
            child.stdout.readline()
        os.kill(child.pid, signal.SIGKILL)
        rest = child.stdout.read().split()
        child.stdout.close()
        child.wait()
        last_said = int(rest[-1]) if rest else 25
        project = load_project(self.path)
        steps = (project.design("timber").shell.lid[0].thickness_m - 0.02) / 1e-6
        # All that was said to be done is there; the one under way is there or not, never half.
        self.assertIn(round(steps), (last_said, last_said + 1))
        self.assertAlmostEqual(steps, round(steps), places=4)


if __name__ == "__main__":
    unittest.main()
