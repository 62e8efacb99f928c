"""Slow work off the interface thread: answered in it, called off, never late."""

from __future__ import annotations

import subprocess
import sys
import threading
import unittest

from PySide6.QtTest import QTest

from calveth.app.jobs import Jobs
from calveth.core.errors import DomainError
from tests.app.base import WindowTest


class InAThread(WindowTest):
    def setUp(self) -> None:
        super().setUp()
        self.jobs = Jobs()
        self.addCleanup(self.jobs.close)
        self.answers: list[object] = []
        self.said: list[str] = []
        self.jobs.refused.connect(self.said.append)

    def wait(self) -> None:
        for _ in range(400):
            if self.jobs.idle():
                return
            QTest.qWait(5)
        self.fail("no answer")

    def test_the_work_is_elsewhere_and_the_answer_here(self) -> None:
        here = threading.get_ident()
        answered_in: list[int] = []

        def done(answer: object) -> None:
            self.answers.append(answer)
            answered_in.append(threading.get_ident())

        self.jobs.run(threading.get_ident, done)
        self.wait()
        self.assertNotEqual(self.answers, [here])
        self.assertEqual(answered_in, [here])

    def test_a_job_called_off_is_not_answered(self) -> None:
        gate = threading.Event()
        self.jobs.run(lambda: gate.wait(10), self.answers.append)
        self.assertFalse(self.jobs.idle())
        self.assertTrue(self.jobs.cancel())
        gate.set()
        QTest.qWait(50)
        self.assertEqual(self.answers, [])
        self.assertFalse(self.jobs.cancel())

    def test_a_newer_job_replaces_an_older_one(self) -> None:
        gate = threading.Event()

        def slow() -> str:
            gate.wait(10)
            return "old"

        self.jobs.run(slow, self.answers.append)
        self.jobs.run(lambda: "new", self.answers.append)
        gate.set()
        self.wait()
        self.assertEqual(self.answers, ["new"])

    def test_errors_are_sentences(self) -> None:
        def refuse() -> None:
            raise DomainError("wind", 99.0, "is outside 0 to 30 m/s")

        self.jobs.run(refuse, self.answers.append)
        self.wait()
        self.assertIn("wind: 99", self.said[0])

        def broken() -> None:
            raise ZeroDivisionError("x")

        with self.assertLogs("calveth.app.jobs", "ERROR"):
            self.jobs.run(broken, self.answers.append)
            self.wait()
        self.assertIn("the log says more", self.said[1])
        self.assertEqual(self.answers, [])


class Loaded(unittest.TestCase):
    def test_the_window_waits_for_no_library_of_numbers(self) -> None:
        """The compiler's library and the solvers' take half a second each; workers load them."""
        code = (
            "import sys, calveth.app.main_window; "
            "print([m for m in ('numba', 'scipy.sparse', 'scipy.optimize', 'pyamg', 'skfem') "
            "if m in sys.modules])"
        )
        made = subprocess.run(
            [sys.executable, "-c", code], capture_output=True, encoding="utf-8", check=True
        )
        self.assertEqual(made.stdout.strip(), "[]")


if __name__ == "__main__":
    unittest.main()
