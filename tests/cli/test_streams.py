"""Ctrl-C, closed pipes, full disks, odd letters and folders that may not be read: one sentence."""

from __future__ import annotations

import contextlib
import os
import signal
import subprocess
import sys
import tempfile
import time
import unittest
from dataclasses import replace
from pathlib import Path

from calveth.catalogue.shipped import demo_project
from calveth.store.json_file import write_json
from tests.cases import LONG


class Base(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.file = self.folder / "demo.json"
        demo = demo_project()
        two = tuple(d for d in demo.designs if d.id in ("timber", "plain-boards"))
        write_json(self.file, replace(demo, designs=two))

    def run_it(self, *arguments: object, **more: object) -> subprocess.CompletedProcess[bytes]:
        command = [sys.executable, "-m", "calveth.cli.entry", *map(str, arguments)]
        return subprocess.run(command, capture_output=True, timeout=120, check=False, **more)  # type: ignore[call-overload, no-any-return]

    def one_sentence(self, error: bytes) -> str:
        text = error.decode("utf-8", "replace").strip()
        self.assertEqual(len(text.splitlines()), 1, text)
        self.assertNotIn("Traceback", text)
        self.assertLess(len(text), 400)
        return text


def at_work(pid: int, seconds: float) -> None:
    """Wait until a process has had so much of a processor, however busy the machine is."""
    stat = Path(f"/proc/{pid}/stat")
    while True:
        user, system = stat.read_text(encoding="ascii").rpartition(")")[2].split()[11:13]
        if (int(user) + int(system)) / os.sysconf("SC_CLK_TCK") >= seconds:
            return
        time.sleep(0.05)


class Streams(Base):
    def test_ctrl_c(self) -> None:
        # A test run in the background of a shell has the signal switched off for its children too.
        child = subprocess.Popen(
            [
                "env",
                "--default-signal=INT",
                sys.executable,
                "-m",
                "calveth.cli.entry",
                "report",
                str(self.file),
                "-o",
                str(self.folder / "r.pdf"),
            ],
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
        )
        at_work(child.pid, 1.5)
        # Pressed again where the first fell into the loading of a library that swallows it.
        for _ in range(10):
            child.send_signal(signal.SIGINT)
            with contextlib.suppress(subprocess.TimeoutExpired):
                _, error = child.communicate(timeout=15)
                break
        self.assertEqual(child.returncode, 130)
        self.assertIn("stopped", self.one_sentence(error))
        self.assertEqual([p.name for p in self.folder.iterdir()], ["demo.json"])

    def test_ctrl_c_in_a_call_back_is_not_lost(self) -> None:
        # A library calls back from machine code; what is raised there Python can only report.
        code = (
            "import ctypes, sys, time\n"
            "from calveth.cli.entry import deliver_again\n"
            "sys.unraisablehook = deliver_again\n"
            "@ctypes.CFUNCTYPE(None)\n"
            "def call_back():\n"
            "    raise KeyboardInterrupt\n"
            "try:\n"
            "    call_back()\n"
            "    for _ in range(40): time.sleep(0.05)\n"
            "except KeyboardInterrupt:\n"
            "    print('stopped')\n"
        )
        # A test run in the background of a shell has the signal switched off for its children too.
        made = subprocess.run(
            ["env", "--default-signal=INT", sys.executable, "-c", code],
            capture_output=True,
            encoding="utf-8",
            check=False,
        )
        self.assertEqual((made.stdout, made.stderr), ("stopped\n", ""))

    def test_output_that_is_closed_or_full(self) -> None:
        command = f"{sys.executable} -m calveth.cli.entry places --format json"
        closed = subprocess.run(["sh", "-c", f"{command} >&-"], capture_output=True, check=False)
        self.assertEqual((closed.returncode, closed.stderr), (0, b""))
        full = subprocess.run(
            ["sh", "-c", f"{command} >/dev/full"], capture_output=True, check=False
        )
        self.assertEqual(full.returncode, 2)
        self.assertIn("No space left", self.one_sentence(full.stderr))
        head = subprocess.run(
            ["sh", "-c", f"{command} | head -1"], capture_output=True, check=False
        )
        self.assertEqual(head.stderr, b"")

    def test_letters_the_terminal_does_not_have(self) -> None:
        for encoding in ("latin-1", "ascii"):
            env = {**os.environ, "PYTHONIOENCODING": encoding}
            for arguments in (("places",), ("--help",), ("compare", self.file, "--month", "1")):
                with self.subTest(encoding=encoding, arguments=arguments[0]):
                    done = self.run_it(*arguments, env=env)
                    self.assertEqual((done.returncode, done.stderr), (0, b""))

    def test_paths_that_lead_nowhere(self) -> None:
        lead_nowhere = (
            ("assess", self.folder / ("x" * 300 + ".json")),
            ("assess", f"{self.file}/x.json"),
            ("new", f"{self.file}/x.calveth"),
            ("new", ""),
            ("export", self.file, "-o", "."),
            ("export", self.file, "-o", "/"),
            ("export", self.file, "-o", "/dev/null"),
            ("import", self.file, "-o", ""),
            ("report", self.file, "-o", self.folder / "no" / "r.pdf"),
            ("demo", "-o", self.folder),
            ("assess", self.file, "--design", "\x1b[31m"),
            ("sweep", self.file, "--design", "timber", "--sizes", "1/" + "9" * 5000),
        )
        for arguments in lead_nowhere if LONG else lead_nowhere[::3]:
            with self.subTest(arguments=str(arguments)[:60]):
                done = self.run_it(*arguments)
                self.assertEqual(done.returncode, 2)
                self.assertNotIn("\x1b", self.one_sentence(done.stderr))

    def test_a_name_that_is_no_utf8(self) -> None:
        path = os.fsencode(self.folder) + b"/n\xe9.calveth"
        command = [sys.executable.encode(), b"-m", b"calveth.cli.entry", b"new", path]
        done = subprocess.run(command, capture_output=True, check=False)
        self.assertNotIn(b"Traceback", done.stderr)
        self.assertEqual(done.returncode, 0)
        self.assertTrue(Path(os.fsdecode(path)).exists())


if __name__ == "__main__":
    unittest.main()
