"""Random designs and random hands at the window; the long runs are `python -m tests.monkey`."""

from __future__ import annotations

import gc
import os
import unittest
from unittest import mock

from PySide6.QtCore import QEvent

from calveth.app.commands.file import begin
from calveth.app.report.pdf import write_report
from calveth.core.advice.dossier import make_dossier
from calveth.core.assess import bands as bands_module
from calveth.core.case import estimated_case
from calveth.core.project import Project
from tests.app.base import WindowTest, with_work
from tests.cases import LONG
from tests.core.test_matrix import GRID, cases, project_of
from tests.monkey import Monkey, resident_mb, tour
from tests.random_hives import random_project

# The window shows every so many of the cases of the matrix; `tests.monkey --tour` shows more.
_EVERY = 47
# What a leak of a window or of a project's panels would grow by is tens of MB each.
_MAY_GROW_MB = 60.0


# What helps is tried on many shells of each hive; the remedies have tests of their own.
_WITHOUT_REMEDIES = with_work("remedies", lambda _: ())


class Tours(WindowTest):
    def test_cases_of_the_matrix_through_every_view(self) -> None:
        chosen = list(cases())[:: _EVERY if LONG else 3 * _EVERY]
        self.assertGreater(len({case[0] for case in chosen}), 1)
        for case in chosen:
            with self.subTest(case=case):
                window = self.window(project_of(case), nodes=_WITHOUT_REMEDIES)
                self.assertGreater(tour(window, self.app), 25)
                self._close_all()

    def test_random_designs_in_the_report(self) -> None:
        for seed in (3, 10):
            with self.subTest(seed=seed):
                project = random_project(seed)
                whole = make_dossier(
                    estimated_case(project, project.designs[0]),
                    finer=GRID,
                )
                path = self.folder / f"{seed}.pdf"
                write_report(path, project, (whole,))
                self.assertTrue(path.read_bytes().startswith(b"%PDF"))

    def test_opening_projects_one_after_another_keeps_nothing(self) -> None:
        window = self.window(nodes=_WITHOUT_REMEDIES)
        held = []
        before = _projects()
        for seed in range(6 if LONG else 4):
            begin(window.context, random_project(seed))
            window.go_to("compare")
            window.go_to("seasons")
            window.choose(window.document.project.designs[0].id)
            self.settle(window)
            self.app.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
            gc.collect()
            held.append(resident_mb())
        # The one that is open, and what the demo and the catalogue keep for everybody.
        self.assertLessEqual(_projects(), before + 2)
        self.assertLess(held[-1] - held[2], _MAY_GROW_MB)


def _projects() -> int:
    """Return how many projects are held in memory."""
    gc.collect()
    return sum(isinstance(o, Project) for o in gc.get_objects())


class RandomHands(WindowTest):
    def test_nothing_random_hands_do_raises(self) -> None:
        """The threads and timers are the real ones; an exception in a slot fails the test."""
        # Two draws instead of thirty-two: hands are what is tried here, and nothing is remembered.
        with (
            mock.patch.dict(os.environ, {"XDG_CONFIG_HOME": str(self.folder)}),
            mock.patch.object(bands_module, "DRAWS", 2),
        ):
            monkey = Monkey(self.app, self.folder, seed=5)
            for _ in range(700 if LONG else 50):
                monkey.act()
            self.assertGreater(len(monkey.done), 5)
            monkey.end()


if __name__ == "__main__":
    unittest.main()
