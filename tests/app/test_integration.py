"""Menu entry, icon and kind of file: written, known by content, taken away to the last file."""

from __future__ import annotations

import configparser
import os
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from xml.etree import ElementTree

from calveth.app.integration import desktop_files, integrate, remove
from calveth.catalogue.shipped import demo_project
from calveth.cli.main import main
from calveth.store.project_file import ProjectFile

_KIND = """
import sys
from PySide6.QtCore import QMimeDatabase
mode = QMimeDatabase.MatchMode.MatchContent
print(QMimeDatabase().mimeTypeForFile(sys.argv[1], mode).name())
"""


class Desktop(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.data = Path(folder.name) / "share"
        self.data.mkdir()

    def entry(self, command: str) -> configparser.SectionProxy:
        parser = configparser.ConfigParser(interpolation=None)
        parser.optionxform = str  # type: ignore[assignment, method-assign]
        parser.read_string(desktop_files(command)["applications/calveth.desktop"])
        return parser["Desktop Entry"]

    def test_all_of_it_is_written_and_taken_away(self) -> None:
        other = self.data / "applications" / "other.desktop"
        other.parent.mkdir()
        other.write_text("[Desktop Entry]\n", encoding="utf-8")
        made = integrate(self.data, "/opt/calveth")
        self.assertEqual(len(made), 4)
        self.assertTrue(all(path.is_file() for path in made))
        self.assertEqual(integrate(self.data, "/opt/calveth"), made)  # twice does no harm
        self.assertEqual(sorted(remove(self.data)), sorted(made))
        self.assertFalse(any(path.exists() for path in made))
        self.assertTrue(other.exists())
        self.assertEqual(remove(self.data), [])

    def test_a_project_is_known_by_its_content_and_others_are_not_taken(self) -> None:
        """By Qt's reading of the database of the freedesktop.org shared MIME-info specification."""
        integrate(self.data, "calveth")
        project = Path(self.data) / "without an ending"
        ProjectFile.create(self.data / "p.calveth", demo_project()).close()
        (self.data / "p.calveth").rename(project)
        import sqlite3

        other = self.data / "other"
        with sqlite3.connect(other) as db:
            db.execute("CREATE TABLE t (a)")
        folders = {"XDG_DATA_HOME": str(self.data), "XDG_DATA_DIRS": "/usr/share"}
        kinds = []
        for path in (project, other):
            run = subprocess.run(
                [sys.executable, "-c", _KIND, str(path)],
                capture_output=True,
                text=True,
                check=True,
                env={**os.environ, **folders},
            )
            kinds.append(run.stdout.strip())
        self.assertEqual(kinds[0], "application/x-calveth")
        self.assertNotEqual(kinds[1], "application/x-calveth")

    def test_the_entry_quotes_what_needs_it(self) -> None:
        """Desktop Entry Specification 1.5, The Exec key."""
        self.assertEqual(self.entry("/usr/bin/calveth")["Exec"], "/usr/bin/calveth %f")
        odd = self.entry("/srv/a b/100%/calveth")
        self.assertEqual(odd["Exec"], '"/srv/a b/100%%/calveth" %f')
        self.assertEqual(odd["TryExec"], "/srv/a b/100%/calveth")

    def test_the_software_centre_reads_what_is_said(self) -> None:
        """AppStream 1.0: the parts a desktop application must have."""
        text = desktop_files("calveth")["metainfo/calveth.metainfo.xml"]
        root = ElementTree.fromstring(text)
        parts = ("id", "name", "summary", "metadata_license", "project_license", "description/p")
        for part in (*parts, "launchable", "provides/mediatype", "content_rating"):
            self.assertIsNotNone(root.find(part), part)
        release = root.find("releases/release")
        assert release is not None
        self.assertRegex(release.get("version", ""), r"^\d+\.\d+\.\d+$")
        self.assertNotIn("@", text)

    def test_the_command(self) -> None:
        self.assertEqual(main(["integrate", "--data", str(self.data)]), 0)
        exec_ = (self.data / "applications" / "calveth.desktop").read_text(encoding="utf-8")
        self.assertIn("calveth", exec_)
        self.assertEqual(main(["integrate", "--data", str(self.data), "--remove"]), 0)
        blocked = self.data / "blocked"
        blocked.write_text("a file", encoding="utf-8")
        self.assertEqual(main(["integrate", "--data", str(blocked)]), 2)
