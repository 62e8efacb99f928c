"""Every shipped place, cavity, construction, kind of opening and side, through everything.

    .venv/bin/python -m tests.core.test_matrix --all

runs the whole product by pairs of cavity and construction, kind and side (an hour or two); the
tests run a part of it in which every cavity meets every kind of opening, every construction and
every place, and every kind every wall.
"""

from __future__ import annotations

import contextlib
import itertools
import sys
import unittest
from collections.abc import Iterator
from dataclasses import replace
from unittest import mock

from calveth.catalogue.library import (
    OPENING_KINDS,
    make_design,
    opening_of_kind,
    shipped_frames,
    shipped_make_ups,
    shipped_places,
)
from calveth.core.advice.dossier import make_dossier
from calveth.core.advice.findings import findings
from calveth.core.assess import bands as bands_module
from calveth.core.climate.place import coldest_month
from calveth.core.colony.curves import curves_for
from calveth.core.errors import CalvethError, DomainError
from calveth.core.hive.design import Design
from calveth.core.hive.forms import LittleBoxes
from calveth.core.hive.opening import WALL_SIDES
from calveth.core.project import Project
from calveth.texts.findings import finding_text
from tests.cases import hive_case, tenth
from tests.random_hives import TABLE, open_ledgers, random_project, whole_of

GRID = 0.3
"""Grid of the tests, against the usual one: what crashes on it crashes on any."""
_FRAMES, _MAKE_UPS, _PLACES = shipped_frames(), shipped_make_ups(), shipped_places()


def cases(*, whole: bool = False) -> Iterator[tuple[int, int, int, int, int]]:
    """Return numbers of cavity, construction, place, kind of opening and side."""
    sizes = [len(x) for x in (_FRAMES, _MAKE_UPS, _PLACES, OPENING_KINDS, WALL_SIDES)]
    if whole:
        for f, m, k, s in itertools.product(*(range(sizes[n]) for n in (0, 1, 3, 4))):
            yield f, m, (f + m + k) % sizes[2], k, s
        return
    # A step for each pair of cavity and kind; the others run along, each with a stride of its own.
    for number, (f, k) in enumerate(itertools.product(range(sizes[0]), range(sizes[3]))):
        yield f, number % sizes[1], number % sizes[2], k, (f + k) % sizes[4]


def project_of(case: tuple[int, int, int, int, int]) -> Project:
    """Return a project of one hive; an opening that does not fit is left out."""
    f, m, at, k, s = case
    place = _PLACES[at].place
    design = make_design(_MAKE_UPS[m], _FRAMES[f])
    opening = opening_of_kind(OPENING_KINDS[k], design.form)
    if not opening.level:
        opening = replace(opening, side=WALL_SIDES[s])
    opening = replace(opening, id="more", name="one more")
    with contextlib.suppress(DomainError):
        design = replace(design, openings=(*design.openings, opening))
    little = isinstance(design.form, LittleBoxes)
    return Project(
        name="matrix",
        place=place,
        materials=tuple(TABLE.values()),
        designs=(design,),
        colony=curves_for(place, "small stingless bees" if little else "normal"),
    )


def run(project: Project) -> str:
    """Run a project through everything; return the sentence it is refused with, or nothing.

    Raises
    ------
    AssertionError
        When a ledger is open or a finding says nothing.
    """
    design: Design = project.designs[0]
    try:
        whole = make_dossier(
            hive_case(design, project.place, project.colony, project.material_table()), finer=GRID
        )
    except CalvethError as error:
        return str(error)
    worst = max(open_ledgers(whole).values())
    assert worst <= 1e-6, f"a ledger is open by {worst:.0e}"
    month = coldest_month(project.place)
    for at in (month, (month + 6) % 12):
        said = findings(whole.monthly, at, depth=whole.follow_up.depth(at))
        assert said and all(finding_text(f).strip() for f in said)
    return whole.estimated_because


def names_a_field_and_a_remedy(sentence: str) -> bool:
    """Return whether a refusal says where the fault is and what can be done: «field: …; remedy»."""
    where, colon, rest = sentence.partition(": ")
    remedy = rest.rpartition(";")[2] if ";" in rest else ""
    return bool(where and colon and len(remedy.split()) >= 2)


def setUpModule() -> None:
    """Draw three times instead of thirty-two: what is asked here is that everything comes out."""
    patch = mock.patch.object(bands_module, "DRAWS", 3)
    patch.start()
    unittest.addModuleCleanup(patch.stop)


class Matrix(unittest.TestCase):
    def test_the_part_meets_what_it_says(self) -> None:
        found = list(cases())
        self.assertEqual(len({(f, k) for f, _, _, k, _ in found}), len(found))
        self.assertEqual({m for _, m, _, _, _ in found}, set(range(len(_MAKE_UPS))))
        self.assertEqual({p for _, _, p, _, _ in found}, set(range(len(_PLACES))))
        pairs = {(k, s) for _, _, _, k, s in found}
        self.assertEqual(len(pairs), len(OPENING_KINDS) * len(WALL_SIDES))

    def test_all_of_it_comes_out(self) -> None:
        for case in tenth(list(cases())):
            project = project_of(case)
            with self.subTest(case=case, design=project.designs[0].name):
                refused = run(project)
                self.assertTrue(not refused or names_a_field_and_a_remedy(refused), refused)


class RandomProjects(unittest.TestCase):
    def test_any_valid_project_comes_out_or_is_refused_by_name(self) -> None:
        for seed in tenth(range(7000, 7040)):
            project = random_project(seed)
            with self.subTest(seed=seed):
                try:
                    whole = whole_of(project, GRID)
                except CalvethError as error:
                    self.assertTrue(names_a_field_and_a_remedy(str(error)), str(error))
                    continue
                self.assertLessEqual(max(open_ledgers(whole).values()), 1e-6)
                because = whole.estimated_because
                self.assertTrue(not because or names_a_field_and_a_remedy(because), because)

    def test_places_without_snow_are_among_them(self) -> None:
        snow = [random_project(seed).place.first_snow_week for seed in range(7000, 7040)]
        self.assertGreater(snow.count(0), 5)
        self.assertLess(snow.count(0), 35)


def main() -> int:
    """Run the whole product and say what failed."""
    bad = 0
    for number, case in enumerate(cases(whole="--all" in sys.argv)):
        try:
            refused = run(project_of(case))
            if refused and not names_a_field_and_a_remedy(refused):
                raise AssertionError(f"no field or remedy: {refused}")
        except Exception as error:
            bad += 1
            print(case, repr(error))
        if number % 500 == 499:
            print(number + 1, "done,", bad, "failed", flush=True)
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main())
