"""Logs come in: a file is shown, read into the diary, and followed while it grows."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from PySide6.QtCore import QFileSystemWatcher, QObject, QTimer
from PySide6.QtWidgets import QDialog

from calveth.app.commands.context import Context
from calveth.app.dialogs.log_dialog import LogDialog, Taken
from calveth.core.diary.season import clock_h
from calveth.core.edits_diary import set_diary, take_over
from calveth.core.project import Project
from calveth.store.log_csv import DateOrder, LogFile, LogLayout, read_log
from calveth.store.log_into import digest_of, with_columns

_SETTLED_MS = 500


@dataclass(frozen=True, slots=True, kw_only=True)
class Followed:
    """A file that is followed, and how it is read."""

    path: Path
    hive: str
    zone: str
    order: DateOrder | None
    layout: LogLayout
    columns: tuple[Taken, ...]


class Followers(QObject):
    """Reads files again some moments after they grew; one for each window."""

    def __init__(self, context: Context) -> None:
        super().__init__(context.parent)
        self._context = context
        self._known: dict[str, Followed] = {}
        self._watcher = QFileSystemWatcher(self)
        self._watcher.fileChanged.connect(self._changed)
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(_SETTLED_MS)
        self._timer.timeout.connect(self._read)
        self._due: dict[str, None] = {}

    def follow(self, followed: Followed) -> None:
        """Begin to follow a file."""
        self._known[str(followed.path)] = followed
        self._watcher.addPath(str(followed.path))

    def forget(self) -> None:
        """Follow nothing any more."""
        self._known, self._due = {}, {}
        if self._watcher.files():
            self._watcher.removePaths(self._watcher.files())

    def _changed(self, path: str) -> None:
        if path in self._known:
            self._due[path] = None
            self._timer.start()

    def _read(self) -> None:
        """Read the next file that grew, beside the window; a later one when its turn comes."""
        if not self._due:
            return
        if not self._context.log_jobs.idle():
            self._timer.start()
            return
        path = next(iter(self._due))
        del self._due[path]
        followed = self._known[path]
        # A program that writes a file anew gave it another node.
        if path not in self._watcher.files() and followed.path.exists():
            self._watcher.addPath(path)
        say = self._context.frame.say

        def read() -> LogFile:
            return read_log(followed.path, followed.zone, followed.order, followed.layout)

        bring_in(
            self._context,
            followed,
            read,
            "rows of a log",
            "rows",
            lambda: say(f"{followed.path.name} has grown and was read"),
        )
        if self._due:
            self._timer.start()


def bring_in(
    c: Context,
    how: Followed,
    read: Callable[[], LogFile],
    named: str,
    kind: str,
    then: Callable[[], object],
) -> None:
    """Read a file and put its columns into the diary, beside the window; one edit, then ``then``.

    Where the diary was edited meanwhile it is put into that one.
    """
    project = c.document.project

    def done(made: object) -> None:
        assert isinstance(made, Project)
        if c.document.project.diary != project.diary:
            bring_in(c, how, read, named, kind, then)
        elif made.diary != project.diary and c.attempt(
            lambda: c.document.edit(named, lambda p: set_diary(p, made.diary), kind)
        ):
            then()

    def work() -> Project:
        return with_columns(
            project,
            read(),
            how.columns,
            how.hive,
            file=how.path.name,
            sha256=digest_of(how.path),
            zone=how.zone,
        )

    c.log_jobs.run(work, done)


def read_a_log(c: Context, hive: str) -> None:
    """Ask for a logger's file, show it, and read it into the diary."""
    project = c.document.project
    stand = project.diary.hives
    if not stand:
        c.frame.say("No hive stands; set one up in the diary first.")
        return
    path = c.prompts.log_path(c.parent)
    if path is None:
        return
    ahead = clock_h(project.place)
    zone = f"Etc/GMT{-ahead:+d}" if ahead else "UTC"
    dialog = LogDialog(path, stand, hive or stand[0].id, zone, c.log_jobs, c.parent)
    c.prompts.show_dialog(dialog)
    if dialog.result() != QDialog.DialogCode.Accepted or dialog.log is None:
        return
    order = dialog.order.currentData()
    how = Followed(
        path=path,
        hive=str(dialog.hive.currentData()),
        zone=dialog.zone.text().strip(),
        order=order or None,
        layout=dialog.log.layout,
        columns=tuple(dialog.taken()),
    )
    log, watch = dialog.log, dialog.watch.isChecked()

    def then() -> None:
        c.frame.say(f"read {path.name}: {_many(how.columns)}")
        if watch:
            followers_of(c).follow(how)

    bring_in(c, how, lambda: log, "read a log", "", then)


def _many(columns: Sequence[Taken]) -> str:
    return f"{len(columns)} column{'s' if len(columns) > 1 else ''}"


def followers_of(c: Context) -> Followers:
    """Return what follows files for a window."""
    followers = c.parent.findChild(Followers)
    return followers if isinstance(followers, Followers) else Followers(c)


def forget_files(c: Context) -> None:
    """Follow no file any more: another project is looked at."""
    c.log_jobs.cancel()
    followers_of(c).forget()


def drop_log(c: Context, log_id: str) -> None:
    """Take a log out of the diary; Undo brings it back."""
    c.attempt(
        lambda: c.document.edit(
            "take a log out", lambda p: set_diary(p, p.diary.without_log(log_id))
        )
    )


def keep_factors(c: Context, design_id: str, factors: object, note: str) -> None:
    """Keep with a design what logs told of it."""
    assert isinstance(factors, dict)
    if c.attempt(
        lambda: c.document.edit(
            "take over factors", lambda p: take_over(p, design_id, factors, note)
        )
    ):
        name = c.document.project.design(design_id).name
        c.frame.say(f"“{name}” is calibrated now; Undo takes it back")


def forget_factors(c: Context) -> None:
    """Take what logs told off the chosen design."""
    key = c.view.design_id
    if c.document.project.design(key).factors is None:
        c.frame.say("This hive is not calibrated.")
        return

    def change(project: Project) -> Project:
        designs = tuple(replace(d, factors=None) if d.id == key else d for d in project.designs)
        return replace(project, designs=designs)

    c.attempt(lambda: c.document.edit("forget factors", change))
