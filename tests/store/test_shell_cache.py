"""Solved shells kept from run to run: the same figures bit by bit, and never a wrong one."""

from __future__ import annotations

import io
import os
import pickle
import tempfile
import unittest
from dataclasses import replace
from hashlib import blake2b
from pathlib import Path
from unittest import mock

import numpy as np

from calveth.cli import compare as compare_command
from calveth.core import kept as kept_module
from calveth.core.assess.solved_shells import conduction_key
from calveth.core.conduction import hive as hive_module
from calveth.core.conduction.hive import HiveConduction, _hive_conduction, hive_conduction
from calveth.core.conduction.joints import JointSum
from calveth.core.conduction.solve import NotSolvedError
from calveth.core.kept import keep_with, kept
from calveth.store.answer_file import to_bytes
from calveth.store.records import compare_record
from calveth.store.shell_cache import ShellCache
from tests.year.cases import PROJECT

DESIGN = conduction_key(PROJECT.design("plain-boards"))
TABLE = PROJECT.material_table()


class Kept(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name) / "shells"
        self.begin_anew()
        self.addCleanup(keep_with, None)

    def begin_anew(self) -> None:
        """Begin as another run of the program does: nothing in memory."""
        _hive_conduction.cache_clear()
        cache = ShellCache(self.folder)
        self.addCleanup(cache.close)
        keep_with(cache)

    def without_solver(self) -> mock._patch[mock.MagicMock]:
        return mock.patch.object(hive_module, "solve_hive", side_effect=AssertionError("solved"))

    def test_the_same_bit_by_bit_without_the_solver(self) -> None:
        first = hive_conduction(DESIGN, TABLE, 0.5)
        spots = first.coldest
        self.begin_anew()
        with self.without_solver():
            again = hive_conduction(DESIGN, TABLE, 0.5)
            self.assertIsNot(again, first)
            self.assertEqual(again.coldest, spots)
        self.assertEqual(again.zone_w_k.tolist(), first.zone_w_k.tolist())
        self.assertEqual(again.part_w_k, first.part_w_k)
        self.assertEqual(again.rim_factor, first.rim_factor)
        np.testing.assert_array_equal(again.beads.factor, first.beads.factor)

    def test_a_comparison_is_read_again_and_another_month_or_material_is_another(self) -> None:
        design = PROJECT.design("plain-boards")
        first = compare_command.row_of(PROJECT, design, 0)
        self.begin_anew()
        with mock.patch.object(compare_command, "_worked_out", side_effect=AssertionError("asked")):
            again = compare_command.row_of(PROJECT, design, 0)
            self.assertEqual(compare_record(again), compare_record(first))
            board = design.shell.walls[0].material
            dearer = replace(TABLE[board], price_eur_m3=1e4)
            known = (m for m in PROJECT.materials if m.id != board)
            other = replace(PROJECT, materials=(*known, dearer))
            for project, month in ((PROJECT, 1), (other, 0)):
                with self.assertRaisesRegex(AssertionError, "asked"):
                    compare_command.row_of(project, design, month)

    def test_another_grid_material_or_code_is_another_shell(self) -> None:
        hive_conduction(DESIGN, TABLE, 0.5)
        used = [TABLE[key] for key in sorted(DESIGN.material_ids)]
        other = tuple(replace(m, conductivity_w_mk=1.01 * m.conductivity_w_mk) for m in used)
        self.begin_anew()
        with self.without_solver():
            for grid in (0.6, 0.7):
                with self.assertRaisesRegex(AssertionError, "solved"):
                    hive_conduction(DESIGN, TABLE, grid)
            with self.assertRaisesRegex(AssertionError, "solved"):
                _hive_conduction(DESIGN, other, 0.5, True)
            with (
                mock.patch.object(kept_module, "code_digest", return_value=b"other"),
                self.assertRaisesRegex(AssertionError, "solved"),
            ):
                hive_conduction(DESIGN, TABLE, 0.5)

    def test_what_is_damaged_is_solved_again(self) -> None:
        first = hive_conduction(DESIGN, TABLE, 0.5)
        self.begin_anew()
        damaged = 0
        for path in self.folder.rglob("*"):
            if path.is_file():
                path.write_bytes(b"rubbish" * 3)
                damaged += 1
        self.assertGreater(damaged, 0)
        with self.assertLogs("calveth.store.shell_cache", "WARNING"):
            again = hive_conduction(DESIGN, TABLE, 0.5)
        self.assertEqual(again.zone_w_k.tolist(), first.zone_w_k.tolist())

    def test_nothing_in_it_is_run_and_others_may_not_look(self) -> None:
        class Evil:
            def __reduce__(self) -> tuple[object, tuple[str]]:
                return Path.touch, (Path(self.mark),)  # type: ignore[return-value]

            mark = str(self.folder.parent / "run")

        hive_conduction(DESIGN, TABLE, 0.5)
        self.assertEqual(self.folder.stat().st_mode & 0o777, 0o700)
        files = [p for p in self.folder.iterdir() if p.is_file()]
        self.assertTrue(files)
        for path in files:
            self.assertEqual(path.stat().st_mode & 0o777, 0o600)
            archive = io.BytesIO()
            np.savez(archive, json=np.array([Evil()], dtype=object))
            for content in (pickle.dumps(Evil()), archive.getvalue()):
                path.write_bytes(blake2b(content, digest_size=32).digest() + content)
                self.begin_anew()
                with self.assertLogs("calveth.store.shell_cache", "WARNING"):
                    hive_conduction(DESIGN, TABLE, 0.5)
        self.assertFalse(Path(Evil.mark).exists())

    def test_other_figures_without_their_digest_are_not_believed(self) -> None:
        first = hive_conduction(DESIGN, TABLE, 0.5)
        self.begin_anew()
        for path in self.folder.iterdir():
            content = bytearray(path.read_bytes())
            content[len(content) // 2] ^= 1
            path.write_bytes(content)
        with self.assertLogs("calveth.store.shell_cache", "WARNING"):
            again = hive_conduction(DESIGN, TABLE, 0.5)
        self.assertEqual(again.zone_w_k.tolist(), first.zone_w_k.tolist())

    def test_what_was_longest_not_asked_for_goes_first(self) -> None:
        answers = {f"k{n}": JointSum(faces_w_k=float(n), joints=(), rest_w_k=0.0) for n in range(9)}
        size = len(to_bytes(answers["k0"]))
        cache = ShellCache(self.folder, most_bytes=5 * size)
        for n, (key, answer) in enumerate(answers.items()):
            cache.put(key, answer)
            os.utime(self.folder / f"{key}.answer", ns=(n, n))
        left = [key for key in answers if cache.get(key, JointSum) is not None]
        self.assertLessEqual(len(left), 5)
        self.assertIn("k8", left)
        self.assertNotIn("k0", left)

    def test_a_folder_that_cannot_be_is_no_error(self) -> None:
        self.folder.write_text("a file where the folder should be", encoding="utf-8")
        with self.assertLogs("calveth.store.shell_cache", "WARNING"):
            found = hive_conduction(DESIGN, TABLE, 0.5)
        self.assertGreater(found.conductance_w_k, 0.0)

    def test_errors_and_answers_of_another_kind_are_not_kept(self) -> None:
        asked: list[int] = []

        def fail() -> JointSum:
            asked.append(1)
            raise NotSolvedError("no answer")

        for _ in range(2):
            with self.assertRaises(NotSolvedError):
                kept(JointSum, ("a",), fail)
        self.assertEqual(len(asked), 2)
        one = JointSum(faces_w_k=1.0, joints=(), rest_w_k=0.0)
        self.assertEqual(kept(JointSum, ("b",), lambda: one), one)
        with self.assertRaises(NotSolvedError):
            kept(HiveConduction, ("b",), fail)  # type: ignore[arg-type]


if __name__ == "__main__":
    unittest.main()
