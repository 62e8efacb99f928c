"""Cases for tests: the four parts of a question in their order, and what is known of its shell."""

from __future__ import annotations

import os
from collections.abc import Mapping, Sequence
from typing import TypeVar

from calveth.core.case import HiveCase
from calveth.core.climate.place import Place
from calveth.core.colony.colony import Colony
from calveth.core.heat.correction import Shells, as_estimated
from calveth.core.hive.design import Design
from calveth.core.materials import Material
from calveth.core.parameters import LIKELY, Parameters

T = TypeVar("T")
LONG = bool(os.environ.get("CALVETH_TEST_LONG"))
"""Whether ``./check --long`` asked for the whole of what is long."""


def tenth(cases: Sequence[T]) -> Sequence[T]:
    """Return every tenth of many cases; all of them in a long run.

    >>> list(tenth(range(25))) in ([0, 10, 20], list(range(25)))
    True
    """
    return cases if LONG else cases[::10]


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
