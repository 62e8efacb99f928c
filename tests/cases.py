"""Cases for tests: the four parts of a question in their order, and what is known of its shell."""

from __future__ import annotations

import os
import unittest
from collections.abc import Mapping, Sequence
from typing import TypeVar
from unittest import mock

from calveth.core import kept as kept_module
from calveth.core.assess import solved_shells as shells_module
from calveth.core.assess.solved_shells import SolvedShells, solved_shells
from calveth.core.case import HiveCase
from calveth.core.climate.place import Place
from calveth.core.colony.colony import Colony
from calveth.core.diary import calibrate as calibrate_module
from calveth.core.diary import explain as explain_module
from calveth.core.heat.correction import Shells, as_estimated
from calveth.core.hive.design import Design
from calveth.core.kept import code_digest
from calveth.core.materials import Material
from calveth.core.parameters import LIKELY, Parameters

T = TypeVar("T")
_COARSE = 0.45
LONG = bool(os.environ.get("CALVETH_TEST_LONG"))
"""Whether ``./check --long`` asked for the whole of what is long."""


def tenth(cases: Sequence[T]) -> Sequence[T]:
    """Return every tenth of many cases; all of them in a long run.

    >>> list(tenth(range(25))) in ([0, 10, 20], list(range(25)))
    True
    """
    return cases if LONG else cases[::10]


def solve_coarsely(test: unittest.TestCase) -> None:
    """Give shells a grid of a tenth as many cells, while a test of something else runs.

    Figures of conduction are held by tests of their own, which do not ask for this.
    """
    coarse = code_digest() + b"coarse"
    for patch in (
        mock.patch.object(shells_module, "solved_shells", _coarsely),
        # What follows from coarse shells is kept apart from what follows from those that ship.
        mock.patch.object(kept_module, "code_digest", lambda: coarse),
    ):
        patch.start()
        test.addCleanup(patch.stop)


def explain_in_short(test: unittest.TestCase) -> None:
    """Let reasons and factors be sought in a few runs; how well is held by tests/diary."""
    for where, name, few in (
        (explain_module, "_DRAWS", 2),
        (calibrate_module, "_STARTS", (0.7,)),
        (calibrate_module, "_MOST_RUNS", 2),
    ):
        patch = mock.patch.object(where, name, few)
        patch.start()
        test.addCleanup(patch.stop)


def _coarsely(
    design: Design,
    place: Place,
    materials: Mapping[str, Material],
    *,
    finer: float,
    spots: bool,
) -> SolvedShells:
    """Stand in for `solved_shells` where `solved_case` asks it."""
    return solved_shells(design, place, materials, finer=min(finer, _COARSE), spots=spots)


def hive_case(
    design: Design,
    place: Place,
    colony: Colony,
    materials: Mapping[str, Material],
    shells: Shells = as_estimated,
    parameters: Parameters = LIKELY,
) -> HiveCase:
    """Return a case; its shell is estimated unless the test says more."""
    return HiveCase(
        design=design,
        place=place,
        colony=colony,
        materials=materials,
        shells=shells,
        parameters=parameters,
    )
