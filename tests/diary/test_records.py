"""Hives and inspections: what can be, what is refused by name, and that nothing is lost."""

from __future__ import annotations

import unittest
from dataclasses import replace
from pathlib import Path
from tempfile import TemporaryDirectory

from calveth.core.edits import (
    duplicate_design,
    remove_design,
    rename_design,
    set_layer_thickness,
)
from calveth.core.edits_diary import set_diary
from calveth.core.errors import DomainError
from calveth.core.records.diary import Diary, StandingHive, next_id
from calveth.store.json_file import project_from_json, project_to_json
from calveth.store.project_file import ProjectFile, load_project
from tests.diary.cases import BOARDS, DIARY, KEPT, WARM, WINTER
from tests.store.test_tables_and_lists import OLD
from tests.year.cases import PROJECT


class Records(unittest.TestCase):
    def test_inspections_stand_in_the_order_of_their_hours(self) -> None:
        self.assertEqual([i.id for i in DIARY.inspections], ["look-1", "look-2"])
        self.assertEqual(DIARY.of_hive("hive-2"), ())
        self.assertEqual(DIARY.entries_of("plain-boards"), 2)
        self.assertEqual(next_id({"hive-1", "hive-3"}, "hive"), "hive-2")

    def test_what_cannot_be_is_one_sentence(self) -> None:
        for wrong, said in (
            (lambda: replace(BOARDS, since="2025-02-30"), "is no date"),
            (lambda: replace(BOARDS, until="2024-01-01", fate="lost"), "before it was set up"),
            (lambda: replace(BOARDS, fate="lost"), "needs a last day"),
            (lambda: replace(WINTER, at="2026-13-01T10:00"), "is no date and hour"),
            (lambda: replace(WINTER, at="2026-01-01T10:00+01:00"), "has a time zone"),
            (lambda: replace(WINTER, lid=("wet",) * 8), "it has 9 cells"),
            (lambda: replace(WINTER, lid=("soaked",) * 9), "lid map"),  # type: ignore[arg-type]
            (lambda: replace(WINTER, stores_kg=500.0), "stores"),
            (
                lambda: DIARY.with_inspection(replace(WINTER, id="x", at="2025-04-01T10:00")),
                "not while it stands",
            ),
            (lambda: DIARY.with_inspection(replace(WINTER, id="x", hive="hive-9")), "not there"),
            (lambda: DIARY.with_hive(replace(WARM, colony="A")), "at once"),
            (lambda: Diary(hives=(BOARDS, BOARDS)), "twice"),
            (lambda: DIARY.without_hive("hive-1"), "has inspections"),
            (
                lambda: replace(KEPT, diary=Diary(hives=(replace(BOARDS, design="none"),))),
                "is not in the project",
            ),
        ):
            with self.subTest(said=said), self.assertRaisesRegex(DomainError, said):
                wrong()

    def test_a_colony_may_move_on_a_day(self) -> None:
        gone = replace(BOARDS, until="2026-04-01", fate="moved")
        came = replace(WARM, since="2026-04-01", colony="A")
        self.assertEqual(len(Diary(hives=(gone, came)).hives), 2)

    def test_a_version_with_entries_is_copied_not_changed(self) -> None:
        with self.assertRaisesRegex(DomainError, "duplicate it"):
            set_layer_thickness(KEPT, "plain-boards", "walls", 0, 0.025)
        with self.assertRaisesRegex(DomainError, "in the diary"):
            remove_design(KEPT, "composite")
        named = rename_design(KEPT, "plain-boards", "Boards of the lake")
        self.assertEqual(named.design("plain-boards").name, "Boards of the lake")
        copy, key = duplicate_design(KEPT, "plain-boards")
        thick = set_layer_thickness(copy, key, "walls", 0, 0.025)
        self.assertEqual(thick.design(key).shell.walls[0].thickness_m, 0.025)
        # One that stands but was not looked into may still change.
        set_layer_thickness(KEPT, "composite", "walls", 0, 0.02)

    def test_file_and_json_keep_all_of_it(self) -> None:
        self.assertEqual(project_from_json(project_to_json(KEPT)), KEPT)
        with TemporaryDirectory() as folder:
            path = Path(folder) / "d.calveth"
            with ProjectFile.create(path, PROJECT) as file:
                file.write(PROJECT, KEPT)
                ticked = set_diary(KEPT, DIARY.with_done("2026-01-01/hive-1/heft", True))
                file.write(KEPT, ticked)
            self.assertEqual(load_project(path), ticked)

    def test_a_file_of_version_6_has_an_empty_diary(self) -> None:
        self.assertEqual(load_project(OLD / "version-6.calveth").diary, Diary())

    def test_a_hive_is_replaced_by_its_id(self) -> None:
        more = DIARY.with_hive(replace(BOARDS, name="By the wall"))
        self.assertEqual(more.hive("hive-1").name, "By the wall")
        self.assertEqual(len(more.hives), 2)
        self.assertEqual(len(DIARY.without_inspection("look-1").inspections), 1)
        self.assertEqual(DIARY.without_hive("hive-2").hives, (BOARDS,))
        new = StandingHive(id="hive-3", name="N", design="quilt", since="2026-01-01")
        self.assertEqual(len(DIARY.with_hive(new).hives), 3)


if __name__ == "__main__":
    unittest.main()
