"""What shortens other tests takes effect: a patch that nobody asks shortens nothing."""

from __future__ import annotations

import unittest

from calveth.catalogue.shipped import demo_project
from calveth.core.assess.solved_shells import SolvedShells, solved_case
from calveth.core.case import HiveCase, estimated_case
from tests.cases import solve_coarsely


def conductance_w_k(case: HiveCase) -> float:
    shells = solved_case(case, spots=False)[0].shells
    assert isinstance(shells, SolvedShells)
    return next(iter(shells.solved.values())).conductance_w_k


class Coarsely(unittest.TestCase):
    def test_a_coarse_shell_is_another_and_near(self) -> None:
        project = demo_project()
        case = estimated_case(project, project.design("composite"))
        usual = conductance_w_k(case)
        solve_coarsely(self)
        coarse = conductance_w_k(case)
        self.assertNotEqual(coarse, usual)
        self.assertAlmostEqual(coarse / usual, 1.0, delta=0.05)
