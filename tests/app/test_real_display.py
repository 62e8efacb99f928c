"""The main path once more in a real X window, under Xvfb."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
import time
import unittest
from pathlib import Path
from typing import ClassVar

ROOT = Path(__file__).resolve().parents[2]


def wait_until(done: object, seconds: float = 30.0) -> bool:
    """Return whether ``done()`` became true in time."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if done():  # type: ignore[operator]
            return True
        time.sleep(0.05)
    return False


@unittest.skipUnless(shutil.which("Xvfb"), "Xvfb is not installed (apt-get install xvfb)")
class UnderXvfb(unittest.TestCase):
    server: ClassVar[subprocess.Popen[bytes]]
    display: ClassVar[str]

    @classmethod
    def setUpClass(cls) -> None:
        read, write = os.pipe()
        cls.server = subprocess.Popen(
            ["Xvfb", "-displayfd", str(write), "-screen", "0", "1280x800x24", "-nolisten", "tcp"],
            pass_fds=(write,),
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
        )
        os.close(write)
        with os.fdopen(read) as stream:
            cls.display = ":" + stream.readline().strip()

    @classmethod
    def tearDownClass(cls) -> None:
        cls.server.terminate()
        cls.server.wait()

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.environment = {
            **{k: v for k, v in os.environ.items() if not k.startswith("QT_")},
            "DISPLAY": self.display,
            "XDG_DATA_HOME": str(self.folder),
            "XDG_STATE_HOME": str(self.folder),
        }

    def test_start_change_a_wall_move_the_month_compare_undo_save_reopen(self) -> None:
        done = subprocess.run(
            [
                sys.executable,
                "-m",
                "tests",
                "tests.app.test_window.MainPath",
                "tests.app.test_build.MainPath",
            ],
            cwd=ROOT,
            capture_output=True,
            encoding="utf-8",
            check=False,
            timeout=300,
            env={**self.environment, "CALVETH_REAL_DISPLAY": "1"},
        )
        self.assertEqual(done.returncode, 0, done.stdout + done.stderr)
        self.assertIn("2 passed, 0 failed", done.stdout)

    def test_the_demo_opens_and_keeps_a_working_copy(self) -> None:
        process = subprocess.Popen(
            [sys.executable, "-m", "calveth.cli.entry", "demo"],
            env=self.environment,
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
            encoding="utf-8",
        )
        try:
            working = self.folder / "calveth" / "working"
            appeared = wait_until(
                lambda: (
                    process.poll() is not None
                    or (working.is_dir() and list(working.glob("*.calveth")))
                )
            )
            self.assertTrue(appeared)
            self.assertIsNone(process.poll(), "the window closed by itself")
        finally:
            process.terminate()
            _, errors = process.communicate(timeout=30)
        self.assertNotIn("Traceback", errors)


if __name__ == "__main__":
    unittest.main()
