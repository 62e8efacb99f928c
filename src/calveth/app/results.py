"""Assessments of the project's designs: the chosen one at once, the rest in a worker.

A result belongs to the values it was computed from. When these change it goes stale; when a late
answer comes back for values that are gone, it is dropped.
"""

from __future__ import annotations

import contextlib
import logging
from collections.abc import Callable, Iterable
from concurrent.futures import Executor, ThreadPoolExecutor
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Qt, QTimer, Signal

from calveth.app.document import Document
from calveth.app.entries import Entry, key_of, sentence_for
from calveth.app.shell_work import SolvedJoints, SolvedShell, solve_joints, solve_shell
from calveth.catalogue.shipped import shipped_materials
from calveth.core.assess.remedies import Remedy, remedies
from calveth.core.assess.result import (
    MonthlyAssessment,
    NightAssessment,
    assess_months,
    assess_nights,
)
from calveth.core.assess.shells import conduction_in
from calveth.core.assess.whole import DeepAssessment, WholeAssessment, assess_deep
from calveth.core.checkpoint import unless
from calveth.core.compare.table import CompareRow, compare_row
from calveth.core.errors import CalvethError, CancelledError
from calveth.core.heat.correction import as_estimated

if TYPE_CHECKING:
    from calveth.core.conduction.hive import HiveConduction
    from calveth.core.conduction.joints import JointSum

log = logging.getLogger(__name__)

# Nights are worked out when the hand has rested this long [ms].
_REST_MS = 120
# The worker begins this long after the start, when the window stands; both want Python [ms].
_FIRST_MS = 60


class Results(QObject):
    """Holds the newest assessments and tells when one is ready.

    Signals
    -------
    updated(design_id)
        The monthly or nightly assessment of a design changed, went stale or failed.
    busy(flag)
        Whether the worker has anything to do.
    progress(share)
        How far the remedies of the chosen design are tried, 0 to 1.
    """

    updated = Signal(str)
    busy = Signal(bool)
    progress = Signal(float)
    _answered = Signal(str, str, object, object)

    def __init__(self, document: Document, executor: Executor | None = None) -> None:
        super().__init__()
        self._document = document
        self._own_executor = executor is None
        self._executor = executor or ThreadPoolExecutor(1, thread_name_prefix="assess")
        self._entries: dict[str, Entry] = {}
        self._waiting = 0
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(_REST_MS)
        self._rest.timeout.connect(self._ask_for_more)
        self._begin = QTimer(self)
        self._begin.setSingleShot(True)
        self._begin.timeout.connect(self._start)
        self._answered.connect(self._take_answer, Qt.ConnectionType.QueuedConnection)
        self._trying = ""
        self._anew = False
        self._closed = False
        document.changed.connect(self._project_changed)
        self.current = document.project.designs[0].id

    def start(self) -> None:
        """Begin: everything is asked of the worker, the chosen design first."""
        if self._own_executor:
            self._begin.start(_FIRST_MS)
        else:
            self._refresh(at_once=False)

    def monthly(self, design_id: str) -> MonthlyAssessment | None:
        """Return the monthly assessment, or None when it is missing or stale."""
        entry = self._entries.get(design_id)
        return entry.monthly if entry and entry.monthly_key == entry.key else None

    def conduction(self, design_id: str, month: int) -> HiveConduction | None:
        """Return the solved shell of a design in a month, or None when missing or stale."""
        entry = self._entries.get(design_id)
        if entry is None or entry.shells_key != entry.key or entry.shells is None:
            return None
        return conduction_in(entry.shells, self._document.project.design(design_id), month)

    def shell_error(self, design_id: str) -> str:
        """Return why the shell of a design could not be solved; empty when it could."""
        entry = self._entries.get(design_id)
        return entry.shells_error if entry and entry.shells_key == entry.key else ""

    def nights(self, design_id: str) -> NightAssessment | None:
        """Return the nights, or None when they are missing or stale."""
        entry = self._entries.get(design_id)
        return entry.nights if entry and entry.nights_key == entry.key else None

    def deep(self, design_id: str) -> DeepAssessment | None:
        """Return damp, schools and ice, or None when they are missing or stale."""
        entry = self._entries.get(design_id)
        return entry.deep if entry and entry.deep_key == entry.key else None

    def joints(self, design_id: str) -> JointSum | None:
        """Return the joints in the coldest month; None when missing, stale or not chosen."""
        entry = self._entries.get(design_id)
        return entry.joints if entry and entry.joints_key == entry.key else None

    def remedies(self, design_id: str) -> tuple[Remedy, ...] | None:
        """Return the remedies that were tried, or None when they are missing or stale."""
        entry = self._entries.get(design_id)
        return entry.remedies if entry and entry.remedies_key == entry.key else None

    def choose(self, design_id: str) -> None:
        """Work on another design: its remedies are tried when the hand rests."""
        self.current = design_id
        self._rest.start()

    def forget(self, current: str) -> None:
        """Begin anew for a project that takes the place of this one; ``current`` comes first."""
        self.stop()
        self._entries.clear()
        self.current, self._anew = current, True

    def stop(self) -> bool:
        """Call the trying of remedies off; return whether there was any."""
        trying = self._trying
        self._trying = ""
        return bool(trying)

    @property
    def trying(self) -> bool:
        """Whether remedies are being tried."""
        return bool(self._trying)

    def error(self, design_id: str) -> str:
        """Return why a design could not be worked out; empty when it could."""
        entry = self._entries.get(design_id)
        return entry.error if entry else ""

    def trouble(self, design_id: str) -> str:
        """Return what could not be worked out beside the months; empty when all of it could."""
        entry = self._entries.get(design_id)
        return next(iter(entry.troubles.values()), "") if entry else ""

    def provisional(self, design_id: str) -> bool:
        """Return whether the figures of a design may still change without an edit.

        They do while the shell is only estimated and being solved, and while nights and damp are
        being worked out.
        """
        entry = self._entries.get(design_id)
        if entry is None or entry.error:
            return False
        late = (("shell", entry.shells_key), ("nights", entry.nights_key), ("deep", entry.deep_key))
        return any(key != entry.key and what not in entry.troubles for what, key in late)

    def wanted(self, design_id: str, key: object) -> bool:
        """Return whether an answer for these values would still be of use; asked by the worker."""
        entry = self._entries.get(design_id)
        return not self._closed and entry is not None and entry.key == key

    def whole(self, design_id: str) -> WholeAssessment | None:
        """Return everything that is known of a design; None while something is missing."""
        monthly, deep = self.monthly(design_id), self.deep(design_id)
        if monthly is None or deep is None or self.provisional(design_id):
            return None
        tried = self.remedies(design_id)
        return WholeAssessment(
            monthly=monthly, deep=deep, remedies=tried or (), joints=self.joints(design_id),
            estimated_because=self.shell_error(design_id), remedies_tried=tried is not None,
        )  # fmt: skip

    def keep(self, wholes: Iterable[WholeAssessment]) -> None:
        """Take over what an export has worked out beyond what was known."""
        for whole in wholes:
            design = whole.monthly.design
            entry = self._entries.get(design.id)
            if entry is not None and self.monthly(design.id) is whole.monthly:
                entry.remedies, entry.remedies_key = whole.remedies, entry.key
                entry.joints, entry.joints_key = whole.joints, entry.key

    def row(self, design_id: str, month: int) -> CompareRow | None:
        """Return the compare row of a design in a month, as far as it is known."""
        monthly = self.monthly(design_id)
        if monthly is None:
            return None
        materials = dict(self._document.project.material_table())
        return compare_row(monthly, self.nights(design_id), month, materials)

    def idle(self) -> bool:
        """Return whether nothing is running or about to."""
        return not (self._waiting or self._rest.isActive() or self._begin.isActive())

    def close(self) -> None:
        """Stop the worker without waiting; answers still under way are dropped."""
        self._closed = True
        self._rest.stop()
        self._begin.stop()
        self.stop()
        if self._own_executor:
            # What is being solved asks whether it is wanted and ends by itself.
            self._executor.shutdown(wait=False, cancel_futures=True)

    # ------------------------------------------------------------------------------------------
    def _project_changed(self, _before: object, _after: object) -> None:
        # A project that is opened stands at once; its figures follow from the worker.
        anew, self._anew = self._anew, False
        self._refresh(at_once=not anew)

    def _start(self) -> None:
        # A lambda here would keep every project ever opened alive: Qt holds it, and it the rest.
        self._refresh(at_once=False)

    def _refresh(self, *, at_once: bool) -> None:
        if self._closed:
            return
        project = self._document.project
        ids = [d.id for d in project.designs]
        for gone in set(self._entries) - set(ids):
            del self._entries[gone]
        ids.sort(key=lambda i: i != self.current)
        for design_id in ids:
            design = project.design(design_id)
            entry = self._entries.setdefault(design_id, Entry())
            key = key_of(project, design)
            if key == entry.key:
                continue
            entry.key, entry.error = key, ""
            entry.troubles.clear()
            if design_id == self._trying:
                self._trying = ""
            if at_once and design_id == self.current:
                self._compute_now(design_id, entry)
            elif entry.monthly_key != key:
                self._ask("monthly", design_id)
            self.updated.emit(design_id)
        self._rest.start()

    def _compute_now(self, design_id: str, entry: Entry) -> None:
        project = self._document.project
        try:
            entry.monthly = assess_months(
                project.design(design_id),
                project.place,
                project.colony,
                project.material_table(),
                entry.monthly,
                entry.shells or as_estimated,
            )
            entry.monthly_key = entry.key
        except CalvethError as error:
            entry.error = str(error)

    def _ask_for_more(self) -> None:
        """Ask for what follows: the solved shell, nights, damp and schools, then remedies."""
        if self._closed:
            return
        for design_id in sorted(self._entries, key=lambda i: i != self.current):
            entry = self._entries[design_id]
            if entry.monthly_key != entry.key or entry.error:
                continue
            for what, have, needs in (
                ("shell", entry.shells_key, entry.monthly_key),
                ("nights", entry.nights_key, entry.shells_key),
                ("deep", entry.deep_key, entry.nights_key),
            ):
                if have != entry.key and needs == entry.key and entry.asked.get(what) != entry.key:
                    entry.asked[what] = entry.key
                    self._ask(what, design_id)
        entry = self._entries.get(self.current, Entry())
        if (
            entry.shells is not None
            and entry.shells_key == entry.key != entry.joints_key
            and entry.asked.get("joints") != entry.key
        ):
            entry.asked["joints"] = entry.key
            self._ask("joints", self.current)
        if (
            entry.deep_key == entry.key
            and entry.remedies_key != entry.key
            and entry.asked.get("remedies") != entry.key
        ):
            entry.asked["remedies"] = entry.key
            self._trying = self.current
            self._ask("remedies", self.current)

    def _work(self, what: str, design_id: str) -> Callable[[], object]:
        """Return the work that answers a question; it holds all it needs."""
        entry = self._entries[design_id]
        project = self._document.project
        monthly, nights = entry.monthly, entry.nights
        design, table = project.design(design_id), project.material_table()
        if what == "monthly":
            shells = entry.shells or as_estimated
            return lambda: assess_months(
                design, project.place, project.colony, table, monthly, shells
            )
        assert monthly is not None
        if what == "shell":
            warm = entry.warm
            return lambda: solve_shell(monthly, table, warm)
        if what == "joints":
            return lambda: solve_joints(monthly, table)
        if what == "nights":
            return lambda: assess_nights(monthly, nights)
        if what == "deep":
            assert nights is not None
            return lambda: assess_deep(monthly, nights, table)
        catalogue = {m.id: m for m in shipped_materials()}

        def report(share: float) -> None:
            if self._trying != design_id:
                raise CancelledError("called off")
            self.progress.emit(share)

        return lambda: tuple(remedies(monthly, table, catalogue, report))

    def _ask(self, what: str, design_id: str) -> None:
        key, work = self._entries[design_id].key, self._work(what, design_id)

        def run() -> None:
            answer: object
            try:
                # Values the user has left behind are not worth the work.
                with unless(lambda: not self.wanted(design_id, key)):
                    answer = work() if self.wanted(design_id, key) else None
            except CancelledError:
                answer = None
            except CalvethError as error:
                answer = error
            except Exception as error:
                log.exception("assessment of %s", design_id)
                answer = error
            # The window may be gone by now, and this object with it.
            with contextlib.suppress(RuntimeError):
                self._answered.emit(what, design_id, key, answer)

        self._waiting += 1
        if self._waiting == 1:
            self.busy.emit(True)
        self._executor.submit(run)

    def _take_answer(self, what: str, design_id: str, key: object, answer: object) -> None:
        self._waiting -= 1
        if self._closed:
            return
        if what == "remedies" and self._trying == design_id:
            self._trying = ""
        entry = self._entries.get(design_id)
        if entry is not None and entry.key == key and answer is not None:
            if isinstance(answer, MonthlyAssessment):
                entry.monthly, entry.monthly_key = answer, entry.key
                self._rest.start()
            elif isinstance(answer, SolvedShell):
                entry.shells, entry.shells_error = answer.shells, answer.error
                entry.shells_key = entry.key
                entry.monthly = answer.monthly or entry.monthly
                self._rest.start()
            elif isinstance(answer, NightAssessment):
                entry.nights, entry.nights_key = answer, entry.key
                self._rest.start()
            elif isinstance(answer, DeepAssessment):
                entry.deep, entry.deep_key = answer, entry.key
                self._rest.start()
            elif isinstance(answer, SolvedJoints):
                entry.joints, entry.joints_key = answer.sum, entry.key
            elif isinstance(answer, tuple):
                entry.remedies, entry.remedies_key = answer, entry.key
            elif what == "monthly":
                entry.error = sentence_for(answer, what)
            else:
                # What is known already stands: only this is missing.
                entry.troubles[what] = sentence_for(answer, what)
            self.updated.emit(design_id)
        if self._waiting == 0:
            self.busy.emit(False)
