"""The open project: every edit undoable, every edit on disk at once."""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtGui import QUndoCommand, QUndoStack

from calveth.catalogue.naming import follow_make
from calveth.core.errors import CalvethError
from calveth.core.project import Project
from calveth.store.errors import FileBusyError, FileError
from calveth.store.project_file import ProjectFile, same_file

# Edits of the same value closer together than this are one step back [s].
_MERGE_WINDOW_S = 1.5
_COMMAND_ID = 1
# A file another program holds is tried again after this long [ms].
_AGAIN_MS = 400


class _Snapshot(QUndoCommand):
    """One edit: the project before and after; consecutive edits with one key become one."""

    def __init__(
        self, document: Document, before: Project, after: Project, text: str, merge: str
    ) -> None:
        super().__init__(text)
        self._document = document
        self._before, self._after = before, after
        self._merge = merge
        self._time = time.monotonic()

    def id(self) -> int:
        return _COMMAND_ID if self._merge else -1

    def redo(self) -> None:
        self._document.show(self._after)

    def undo(self) -> None:
        self._document.show(self._before)

    def mergeWith(self, other: QUndoCommand) -> bool:
        if not isinstance(other, _Snapshot) or other._merge != self._merge:
            return False
        if other._time - self._time > _MERGE_WINDOW_S:
            return False
        self._after, self._time = other._after, other._time
        self.setObsolete(self._after == self._before)
        return True


class Document(QObject):
    """The project being worked on, its file and its history.

    Signals
    -------
    edited(before, after)
        The project is another one; for what works figures out, before any view hears of it.
    changed(before, after)
        The project is another one; both are `Project` values.
    file_changed()
        Path or saved state differ.
    refused(error)
        An edit was not made (`attempt`); what shows a value has to show the old one again.
    write_failed(sentence)
        An edit is in memory but not on disk.
    """

    edited = Signal(object, object)
    changed = Signal(object, object)
    file_changed = Signal()
    refused = Signal(object)
    write_failed = Signal(str)

    def __init__(
        self,
        project: Project,
        file: ProjectFile | None = None,
        *,
        named: bool = False,
        disposable: bool = True,
    ) -> None:
        super().__init__()
        # A working copy that only holds what anybody can begin with anew.
        self._disposable = disposable
        self._project = project
        self._file = file
        self._named = named
        self._written: Project | None = project if file is not None else None
        self.write_problem = ""  # why the last edit is not on disk, until one is
        self.undo_stack = QUndoStack(self)
        self._again = QTimer(self)
        self._again.setSingleShot(True)
        self._again.setInterval(_AGAIN_MS)
        self._again.timeout.connect(self._write)

    @property
    def project(self) -> Project:
        """The project as it is now."""
        return self._project

    @property
    def path(self) -> Path | None:
        """Where the user saved it; None for a working copy that has no name yet."""
        return self._file.path if self._file is not None and self._named else None

    @property
    def on_disk(self) -> bool:
        """Whether the last edit is written."""
        return self._file is not None and self._written is self._project

    def edit(self, text: str, change: Callable[[Project], Project], merge: str = "") -> None:
        """Apply an edit as one step that can be undone.

        ``merge`` names the value; edits of it in quick succession become one step. Errors of the
        edit (`DomainError`) pass through and nothing changes.
        """
        before = self._project
        after = follow_make(before, change(before))
        if after != before:
            self.undo_stack.push(_Snapshot(self, before, after, text, merge))

    def attempt(self, text: str, change: Callable[[Project], Project], merge: str = "") -> bool:
        """Apply an edit as `edit` does; a refusal is told to all who listen. Return whether it was.

        What a button, a list or a drag does goes this way; a field that takes typed text says a
        refusal itself and calls `edit`.
        """
        try:
            self.edit(text, change, merge)
        except CalvethError as error:
            self.refused.emit(error)
            return False
        return True

    def show(self, project: Project) -> None:
        """Make ``project`` the current one; for the undo commands."""
        before, self._project = self._project, project
        self._write()
        self.edited.emit(before, project)
        self.changed.emit(before, project)

    @property
    def would_lose(self) -> bool:
        """Whether closing now would lose an edit that could not be written."""
        return self._file is not None and not self.on_disk

    def _write(self) -> None:
        if self._file is None:
            return
        try:
            self._file.write(self._written, self._project)
            self._written = self._project
            self.write_problem = ""
        except FileError as error:
            self.write_problem = str(error)
            if isinstance(error, FileBusyError):
                self._again.start()
            else:
                self.write_failed.emit(str(error))
        self.file_changed.emit()

    def save(self) -> None:
        """Have the file hold the project, whatever became of it meanwhile.

        A file that is gone is written anew; one that another program put in its place is not
        touched.

        Raises
        ------
        FileError
            When the file does not hold the project afterwards.
        """
        assert self._file is not None
        if self._file.is_missing():
            self._go_on_in(ProjectFile.create(self._file.path, self._project), named=self._named)
            return
        try:
            self._file.write(self._written, self._project, patient=True)
        except FileError as error:
            self.write_problem = str(error)
            self.file_changed.emit()
            raise
        self._written, self.write_problem = self._project, ""
        self.file_changed.emit()

    def save_as(self, path: Path) -> None:
        """Write the project to a named file and go on there.

        Raises
        ------
        FileError
            When it cannot be written; the document stays where it was.
        """
        if self._file is not None and (self._file.path == path or same_file(self._file.path, path)):
            self.save()
            self._named = True
            self.file_changed.emit()
            return
        self._go_on_in(ProjectFile.create(path, self._project), named=True)

    def _go_on_in(self, file: ProjectFile, *, named: bool) -> None:
        old, was_named = self._file, self._named
        self._file, self._named, self._written = file, named, self._project
        self.write_problem = ""
        if old is not None:
            old.close()
            if not was_named and old.path != file.path:
                old.path.unlink(missing_ok=True)
        self.file_changed.emit()

    def take_over(self, other: Document) -> None:
        """Go on with the project and the file of ``other`` in place of this one's.

        The views stay and are told; the history begins anew. ``other`` is left without a file.
        """
        self.close()
        before, self._project = self._project, other._project
        self._file, self._written, self._named = other._file, other._written, other._named
        self._disposable, self.write_problem = other._disposable, ""
        other._file = None
        self.edited.emit(before, self._project)
        self.changed.emit(before, self._project)
        self.file_changed.emit()

    def close(self) -> None:
        """Close the file. A working copy that was begun here and not changed is removed."""
        self._again.stop()
        untouched = self.undo_stack.count() == 0
        # Its commands hold the document, and it them.
        self.undo_stack.clear()
        if self._file is None:
            return
        self._file.close()
        if not self._named and self._disposable and untouched:
            self._file.path.unlink(missing_ok=True)
        self._file = None
