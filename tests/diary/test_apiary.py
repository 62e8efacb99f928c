"""The apiary that ships: what its generator says, and that there is something true to find."""

from __future__ import annotations

import importlib.util
import unittest
from datetime import date
from pathlib import Path
from types import ModuleType

from calveth.catalogue.apiary import apiary_project, with_logs
from calveth.core.assess.solved_shells import solved_case
from calveth.core.case import estimated_case
from calveth.core.diary.expected import agreement, expected_at, survival
from calveth.core.parameters import LIKELY
from calveth.core.year.run import run_year
from calveth.store.json_file import project_from_json, project_to_json

ROOT = Path(__file__).resolve().parents[2]


def tool() -> ModuleType:
    """Return the generator."""
    spec = importlib.util.spec_from_file_location("make_apiary", ROOT / "tools" / "make_apiary.py")
    assert spec is not None and spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    return module


class Apiary(unittest.TestCase):
    def test_it_is_what_its_generator_makes(self) -> None:
        made = tool().made()
        self.assertEqual(with_logs(made), apiary_project().diary)

    def test_two_winters_of_six_hives_with_one_lost_and_a_version_two(self) -> None:
        project = apiary_project()
        self.assertEqual(len(project.diary.hives), 6)
        self.assertEqual({i.when.year for i in project.diary.inspections}, {2023, 2024, 2025})
        found = {s.design: (s.alive, s.winters) for s in survival(project.diary, date(2025, 6, 1))}
        # Winters somebody looked after: seen alive once forage began, or dead.
        self.assertEqual(found["plain-boards"], (1, 2))
        self.assertEqual(found["composite"], (2, 2))
        self.assertIn("wet under the lid", project.design("warm-lid-boards").note)
        self.assertEqual(project_from_json(project_to_json(project)), project)

    def test_the_truth_is_another_than_the_designs_take(self) -> None:
        truth = tool().TRUTH
        self.assertNotEqual(truth, LIKELY)
        project = apiary_project()
        case, _ = solved_case(estimated_case(project, project.design("plain-boards")), spots=False)
        run = run_year(case)
        looks = [i for h in ("hive-1", "hive-2") for i in project.diary.of_hive(h)]
        found = agreement([(i, expected_at(run, i.when)) for i in looks])
        self.assertGreaterEqual(found.count, 6)
        self.assertGreater(found.wet_and_wet + found.dry_but_wet, 0)


if __name__ == "__main__":
    unittest.main()
