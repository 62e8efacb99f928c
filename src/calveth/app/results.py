"""Assessments of the project's designs: the chosen one at once, the rest in a worker.

A result belongs to the values it was computed from. When these change it goes stale; when a late
answer comes back for values that are gone, it is dropped.
"""

from __future__ import annotations

import logging
from collections.abc import Callable
from concurrent.futures import Executor, ThreadPoolExecutor
from dataclasses import dataclass

from PySide6.QtCore import QObject, Qt, QTimer, Signal

from calveth.app.document import Document
from calveth.core.assess.result import (
    MonthlyAssessment,
    NightAssessment,
    assess_months,
    assess_nights,
)
from calveth.core.compare.table import CompareRow, compare_row
from calveth.core.errors import CalvethError
from calveth.core.hive.design import FACES, Design
from calveth.core.project import Project

log = logging.getLogger(__name__)

# Nights are worked out when the hand has rested this long [ms].
_REST_MS = 120

_Key = tuple[object, ...]


def _key(project: Project, design: Design) -> _Key:
    """Return what an assessment depends on."""
    materials = project.material_table()
    used = {layer.material for face in FACES for layer in design.shell.stack(face)}
    return (design, project.place, project.colony, *(materials[m] for m in sorted(used)))


@dataclass(slots=True)
class _Entry:
    key: _Key = ()
    monthly_key: _Key = ()
    nights_key: _Key = ()
    monthly: MonthlyAssessment | None = None
    nights: NightAssessment | None = None
    error: str = ""
    nights_asked: _Key = ()


class Results(QObject):
    """Holds the newest assessments and tells when one is ready.

    Signals
    -------
    updated(design_id)
        The monthly or nightly assessment of a design changed, went stale or failed.
    busy(flag)
        Whether the worker has anything to do.
    """

    updated = Signal(str)
    busy = Signal(bool)
    _answered = Signal(str, str, object, object)

    def __init__(self, document: Document, executor: Executor | None = None) -> None:
        super().__init__()
        self._document = document
        self._own_executor = executor is None
        self._executor = executor or ThreadPoolExecutor(1, thread_name_prefix="assess")
        self._entries: dict[str, _Entry] = {}
        self._waiting = 0
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(_REST_MS)
        self._rest.timeout.connect(self._ask_for_nights)
        self._answered.connect(self._take_answer, Qt.ConnectionType.QueuedConnection)
        document.changed.connect(self._project_changed)
        self.current = document.project.designs[0].id

    def start(self) -> None:
        """Begin: everything is asked of the worker, the chosen design first."""
        self._refresh(at_once=False)

    def monthly(self, design_id: str) -> MonthlyAssessment | None:
        """Return the monthly assessment, or None when it is missing or stale."""
        entry = self._entries.get(design_id)
        return entry.monthly if entry and entry.monthly_key == entry.key else None

    def nights(self, design_id: str) -> NightAssessment | None:
        """Return the nights, or None when they are missing or stale."""
        entry = self._entries.get(design_id)
        return entry.nights if entry and entry.nights_key == entry.key else None

    def error(self, design_id: str) -> str:
        """Return why a design could not be worked out; empty when it could."""
        entry = self._entries.get(design_id)
        return entry.error if entry else ""

    def row(self, design_id: str, month: int) -> CompareRow | None:
        """Return the compare row of a design in a month, as far as it is known."""
        monthly = self.monthly(design_id)
        if monthly is None:
            return None
        materials = dict(self._document.project.material_table())
        return compare_row(monthly, self.nights(design_id), month, materials)

    def idle(self) -> bool:
        """Return whether nothing is running or about to."""
        return self._waiting == 0 and not self._rest.isActive()

    def close(self) -> None:
        """Stop the worker; answers still under way are dropped."""
        self._rest.stop()
        if self._own_executor:
            self._executor.shutdown(wait=True, cancel_futures=True)

    # ------------------------------------------------------------------------------------------
    def _project_changed(self, _before: object, _after: object) -> None:
        self._refresh(at_once=True)

    def _refresh(self, *, at_once: bool) -> None:
        project = self._document.project
        ids = [d.id for d in project.designs]
        for gone in set(self._entries) - set(ids):
            del self._entries[gone]
        ids.sort(key=lambda i: i != self.current)
        for design_id in ids:
            design = project.design(design_id)
            entry = self._entries.setdefault(design_id, _Entry())
            key = _key(project, design)
            if key == entry.key:
                continue
            entry.key, entry.error = key, ""
            if at_once and design_id == self.current:
                self._compute_now(design_id, entry)
            elif entry.monthly_key != key:
                self._ask("monthly", design_id)
            self.updated.emit(design_id)
        self._rest.start()

    def _compute_now(self, design_id: str, entry: _Entry) -> None:
        project = self._document.project
        try:
            entry.monthly = assess_months(
                project.design(design_id),
                project.place,
                project.colony,
                project.material_table(),
                entry.monthly,
            )
            entry.monthly_key = entry.key
        except CalvethError as error:
            entry.error = str(error)

    def _ask_for_nights(self) -> None:
        for design_id, entry in self._entries.items():
            known = entry.key in (entry.nights_key, entry.nights_asked)
            if not known and entry.monthly_key == entry.key:
                entry.nights_asked = entry.key
                self._ask("nights", design_id)

    def _ask(self, what: str, design_id: str) -> None:
        entry = self._entries[design_id]
        key, project = entry.key, self._document.project
        monthly, nights = entry.monthly, entry.nights
        work: Callable[[], object]
        if what == "monthly":
            design, table = project.design(design_id), project.material_table()

            def work() -> object:
                return assess_months(design, project.place, project.colony, table, monthly)
        else:
            assert monthly is not None

            def work() -> object:
                return assess_nights(monthly, nights)

        def run() -> None:
            answer: object
            try:
                # Values the user has left behind are not worth the work.
                current = self._entries.get(design_id)
                answer = work() if current is not None and current.key == key else None
            except CalvethError as error:
                answer = error
            except Exception as error:
                log.exception("assessment of %s", design_id)
                answer = error
            self._answered.emit(what, design_id, key, answer)

        self._waiting += 1
        if self._waiting == 1:
            self.busy.emit(True)
        self._executor.submit(run)

    def _take_answer(self, what: str, design_id: str, key: object, answer: object) -> None:
        self._waiting -= 1
        entry = self._entries.get(design_id)
        if entry is not None and entry.key == key and answer is not None:
            if isinstance(answer, MonthlyAssessment):
                entry.monthly, entry.monthly_key = answer, entry.key
                self._rest.start()
            elif isinstance(answer, NightAssessment):
                entry.nights, entry.nights_key = answer, entry.key
            elif isinstance(answer, CalvethError):
                entry.error = str(answer)
            else:
                entry.error = f"could not be worked out ({what}); the log says why"
            self.updated.emit(design_id)
        if self._waiting == 0:
            self.busy.emit(False)
