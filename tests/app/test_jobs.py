"""Slow work off the interface thread: answered in it, called off, never late."""

from __future__ import annotations

import subprocess
import sys
import threading
import time
import unittest
from unittest import mock

from PySide6.QtCore import QCoreApplication, QEvent, QProcess
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel

from calveth.app.first_compile import DONE, FAILED, SAYS, FirstCompile, must_compile
from calveth.app.jobs import Jobs
from calveth.core import compiled
from calveth.core.errors import DomainError
from tests.app.base import WindowTest
from tests.app.test_mended import only


class InAThread(WindowTest):
    def setUp(self) -> None:
        super().setUp()
        self.jobs = Jobs()
        self.addCleanup(self.jobs.close)
        self.answers: list[object] = []
        self.answer: list[str] = []
        self.jobs.refused.connect(self.answer.append)

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

    def test_every_job_ends_in_one_of_three_and_its_owner_hears_it(self) -> None:
        gate, ends = threading.Event(), []

        def gone(name: str) -> object:
            return lambda: ends.append(f"{name} called off")

        rested: list[bool] = []
        self.jobs.rested.connect(lambda: rested.append(True))
        self.jobs.run(lambda: gate.wait(10), self.answers.append, gone("one"))  # type: ignore[arg-type]
        self.jobs.run(lambda: gate.wait(10), self.answers.append, gone("two"))  # type: ignore[arg-type]
        self.assertEqual(ends, ["one called off"])
        self.jobs.cancel()
        self.assertEqual(ends, ["one called off", "two called off"])
        self.jobs.run(lambda: "three", self.answers.append, gone("three"))  # type: ignore[arg-type]
        gate.set()
        self.wait()
        self.assertEqual((self.answers, len(ends), rested), (["three"], 2, [True]))

    def test_pages_of_compare_that_take_turns_all_come_to_an_end(self) -> None:
        """The year under way, a page beside it asks, and both are answered in the end."""
        w = self.window(only("composite"))
        w.go_to("compare")
        held: list[object] = []
        run = w.jobs._executor.submit
        w.jobs._executor.submit = held.append  # type: ignore[method-assign,assignment]
        w.compare.show_view("year")
        self.assertTrue(w.compare.year._working)
        # Something else takes the worker: the page hears it, and says so.
        w.jobs.run(lambda: 1, self.answers.append)
        self.assertFalse(w.compare.year._working)
        self.assertEqual(w.compare.year._of, ())
        w.compare.show_view("sweep")
        self.assertIn("waits", w.compare.sweep.state.text())
        w.jobs._executor.submit = run  # type: ignore[method-assign]
        for act in held:
            act()  # type: ignore[operator]
        self.settle(w)
        self.assertTrue(w.compare.sweep.points)
        w.compare.show_view("year")
        self.settle(w)
        self.assertEqual(len(w.compare.year.rows), 1)
        self.assertFalse(w.compare.year._working)

    def test_errors_are_sentences(self) -> None:
        def refuse() -> None:
            raise DomainError("wind", 99.0, "is outside 0 to 30 m/s")

        self.jobs.run(refuse, self.answers.append)
        self.wait()
        self.assertIn("wind: 99", self.answer[0])

        def broken() -> None:
            raise ZeroDivisionError("x")

        with self.assertLogs("calveth.app.jobs", "ERROR"):
            self.jobs.run(broken, self.answers.append)
            self.wait()
        self.assertIn("the log says more", self.answer[1])
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


class FirstCompiles(WindowTest):
    def test_the_window_says_so_and_takes_it_up(self) -> None:
        taken: list[bool] = []
        for code, said, times in ((0, DONE, 1), (3, FAILED, 0)):
            taken.clear()
            w = self.window()
            compiling = FirstCompile((sys.executable, "-c", f"raise SystemExit({code})"), w)
            with mock.patch.object(compiled, "take_up", lambda: taken.append(True)):
                w.follow_compiling(compiling)
                tags = [x for x in w.statusBar().findChildren(QLabel) if x.text() == SAYS]
                self.assertEqual(len(tags), 1)
                end = time.monotonic() + 30
                while w.statusBar().currentMessage() != said and time.monotonic() < end:
                    QApplication.processEvents()
            self.assertEqual(w.statusBar().currentMessage(), said)
            self.assertEqual(len(taken), times)
            QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
            self.assertNotIn(SAYS, [x.text() for x in w.statusBar().findChildren(QLabel)])

    def test_it_ends_with_the_window(self) -> None:
        w = self.window()
        compiling = FirstCompile((sys.executable, "-c", "import time; time.sleep(60)"), w)
        w.follow_compiling(compiling)
        compiling.stop()
        self.assertEqual(compiling._process.state(), QProcess.ProcessState.NotRunning)
        self.assertNotIn(w.statusBar().currentMessage(), (DONE, FAILED))

    def test_it_is_asked_for_only_where_nothing_is_there(self) -> None:
        with mock.patch.object(compiled, "is_kept", return_value=True):
            self.assertFalse(must_compile())
        with (
            mock.patch.object(compiled, "is_kept", return_value=False),
            mock.patch.object(compiled, "stay_plain") as plain,
        ):
            self.assertTrue(must_compile())
        plain.assert_called_once()


if __name__ == "__main__":
    unittest.main()
