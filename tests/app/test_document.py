"""Undo, merging, and every edit on disk at once."""

from __future__ import annotations

import contextlib
import tempfile
import unittest
from functools import partial
from pathlib import Path
from unittest import mock

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from calveth.app.document import Document
from calveth.catalogue.shipped import demo_project
from calveth.core.edits import set_layer_thickness
from calveth.core.errors import DomainError
from calveth.core.project import Project
from calveth.store.errors import FileError
from calveth.store.project_file import ProjectFile, load_project
from tests.app.base import WindowTest
from tests.cases import LONG
from tests.core.test_edits import ANY_EDITS, EDITS

PROJECT = demo_project()


def thicken(mm: float, design: str = "timber") -> object:
    return lambda p: set_layer_thickness(p, design, "lid", 0, mm / 1000)


class History(WindowTest):
    def setUp(self) -> None:
        super().setUp()
        self.document = Document(PROJECT)
        self.seen: list[tuple[Project, Project]] = []
        self.document.changed.connect(lambda a, b: self.seen.append((a, b)))

    def edit(self, mm: float, merge: str = "") -> None:
        self.document.edit("lid", thicken(mm), merge)  # type: ignore[arg-type]

    def lid(self) -> float:
        return self.document.project.design("timber").shell.lid[0].thickness_m

    def test_edit_undo_redo(self) -> None:
        self.edit(50)
        self.assertEqual(self.lid(), 0.05)
        self.document.undo_stack.undo()
        self.assertIs(self.document.project, PROJECT)
        self.document.undo_stack.redo()
        self.assertEqual(self.lid(), 0.05)
        self.assertEqual(len(self.seen), 3)

    def test_a_drag_is_one_step(self) -> None:
        for mm in (33, 34, 35, 36):
            self.edit(mm, merge="timber/lid/0")
        self.assertEqual(self.document.undo_stack.count(), 1)
        self.document.undo_stack.undo()
        self.assertEqual(self.document.project, PROJECT)

    def test_other_values_are_other_steps(self) -> None:
        self.edit(33, merge="a")
        self.edit(34, merge="b")
        self.edit(35)
        self.edit(36)
        self.assertEqual(self.document.undo_stack.count(), 4)

    def test_a_pause_ends_the_drag(self) -> None:
        with mock.patch("calveth.app.document.time.monotonic", side_effect=[0.0, 5.0]):
            self.edit(33, merge="a")
            self.edit(34, merge="a")
        self.assertEqual(self.document.undo_stack.count(), 2)

    def test_dragged_back_to_the_start_nothing_remains(self) -> None:
        self.edit(40, merge="a")
        self.edit(32, merge="a")
        self.assertEqual(self.document.undo_stack.count(), 0)
        self.assertEqual(self.document.project, PROJECT)

    def test_a_refused_edit_leaves_no_trace(self) -> None:
        with self.assertRaises(DomainError):
            self.edit(-5)
        self.assertEqual(self.document.undo_stack.count(), 0)
        self.assertEqual(self.seen, [])

    def test_an_edit_that_changes_nothing_is_no_step(self) -> None:
        self.edit(32)
        self.assertEqual(self.document.undo_stack.count(), 0)


def _apply(which: int, design_id: str, x: float, project: Project) -> Project:
    return EDITS[which](project, design_id, x)


class AnySequence(unittest.TestCase):
    @settings(
        max_examples=30 if LONG else 10, deadline=None, suppress_health_check=[HealthCheck.too_slow]
    )
    @given(ANY_EDITS, st.booleans())
    def test_undo_ends_at_the_start_and_redo_at_the_end(
        self, steps: list[tuple[int, int, float]], merge: bool
    ) -> None:
        """In memory and in the file, whatever was edited."""
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "a.calveth"
            document = Document(PROJECT, ProjectFile.create(path, PROJECT), named=True)
            for which, number, x in steps:
                ids = [d.id for d in document.project.designs]
                change = partial(_apply, which, ids[number % len(ids)], x)
                with contextlib.suppress(DomainError, ValueError, OverflowError, IndexError):
                    document.edit("any", change, "drag" if merge else "")
            end = document.project
            self.assertEqual(load_project(path), end)
            while document.undo_stack.canUndo():
                document.undo_stack.undo()
            self.assertEqual(document.project, PROJECT)
            self.assertEqual(load_project(path), PROJECT)
            while document.undo_stack.canRedo():
                document.undo_stack.redo()
            self.assertEqual(load_project(path), end)
            document.close()


class OnDisk(WindowTest):
    def setUp(self) -> None:
        super().setUp()
        self.path = self.folder / "a.calveth"
        self.document = Document(PROJECT, ProjectFile.create(self.path, PROJECT), named=True)
        self.addCleanup(self.document.close)

    def test_every_edit_and_undo_is_written(self) -> None:
        self.document.edit("lid", thicken(50))  # type: ignore[arg-type]
        self.assertEqual(load_project(self.path), self.document.project)
        self.document.undo_stack.undo()
        self.assertEqual(load_project(self.path), PROJECT)
        self.assertTrue(self.document.on_disk)

    def test_a_failed_write_is_said_and_made_good(self) -> None:
        said: list[str] = []
        self.document.write_failed.connect(said.append)
        broken = FileError(self.path, "cannot be written, the disk is full")
        with mock.patch.object(ProjectFile, "write", side_effect=broken):
            self.document.edit("lid", thicken(50))  # type: ignore[arg-type]
        self.assertIn("disk is full", said[0])
        self.assertFalse(self.document.on_disk)
        self.document.edit("lid", thicken(60))  # type: ignore[arg-type]
        self.assertTrue(self.document.on_disk)
        self.assertEqual(load_project(self.path), self.document.project)

    def test_save_as_goes_on_in_the_new_file(self) -> None:
        other = self.folder / "b.calveth"
        self.document.save_as(other)
        self.document.edit("lid", thicken(50))  # type: ignore[arg-type]
        self.assertEqual(load_project(self.path), PROJECT)
        self.assertEqual(load_project(other), self.document.project)
        self.assertEqual(self.document.path, other)

    def test_save_as_to_nowhere_stays(self) -> None:
        with self.assertRaises(FileError):
            self.document.save_as(self.folder / "no" / "b.calveth")
        self.assertEqual(self.document.path, self.path)


class WorkingCopies(WindowTest):
    def test_named_it_moves_and_unchanged_it_goes(self) -> None:
        path = self.folder / "w.calveth"
        document = Document(PROJECT, ProjectFile.create(path, PROJECT))
        self.assertIsNone(document.path)
        document.save_as(self.folder / "mine.calveth")
        self.assertFalse(path.exists())
        document.close()
        untouched = Document(PROJECT, ProjectFile.create(path, PROJECT))
        untouched.close()
        self.assertFalse(path.exists())

    def test_a_changed_working_copy_stays_for_next_time(self) -> None:
        path = self.folder / "w.calveth"
        document = Document(PROJECT, ProjectFile.create(path, PROJECT))
        document.edit("lid", thicken(50))  # type: ignore[arg-type]
        document.close()
        self.assertEqual(load_project(path).design("timber").shell.lid[0].thickness_m, 0.05)


if __name__ == "__main__":
    unittest.main()
