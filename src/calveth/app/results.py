"""Assessments of the project's designs: the chosen one at once, the rest in a worker.

A result belongs to the values it was computed from (`engine.graph`). When these change it goes
stale; when a late answer comes back for values that are gone, it is dropped. An answer never
depends on those before it: only the draft under a moving hand does, and it is shown as such.
"""

from __future__ import annotations

import contextlib
import logging
from collections.abc import Iterable
from concurrent.futures import Executor, ThreadPoolExecutor
from dataclasses import replace
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Qt, QTimer, Signal

from calveth.app.document import Document
from calveth.app.engine.graph import Graph, State, Ticket, key_of
from calveth.app.engine.nodes import NODES, Asked, Joints, Node, SolvedMonths
from calveth.core.advice.dossier import Dossier, FollowUp
from calveth.core.advice.remedies import Remedy
from calveth.core.assess.nights import NightAssessment
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.assess.solved_shells import conduction_in
from calveth.core.case import HiveCase, estimated_case
from calveth.core.checkpoint import unless
from calveth.core.compare.table import CompareRow, compare_row
from calveth.core.errors import CalvethError, CancelledError

if TYPE_CHECKING:
    from calveth.core.conduction.hive import HiveConduction
    from calveth.core.conduction.joints import JointSum
    from calveth.core.year.draws import YearBands
    from calveth.core.year.result import YearRun

log = logging.getLogger(__name__)

# What is slow is asked for when the hand has rested this long [ms].
_REST_MS = 120
# The worker begins this long after the start, when the window stands; both want Python [ms].
_FIRST_MS = 60


class Results(QObject):
    """Holds the newest answers and tells when one is ready.

    Signals
    -------
    updated(design_id)
        A node of a design has an answer, or failed. What goes stale by an edit is not told here:
        `Document.changed` follows, when both the project and the answers are new.
    busy(flag)
        Whether the worker has anything to do.
    progress(share)
        How far the remedies of the chosen design are tried, 0 to 1.
    year_progress(share)
        How far the ranges of its year are, 0 to 1.
    """

    updated = Signal(str)
    busy = Signal(bool)
    progress = Signal(float)
    year_progress = Signal(float)
    _answered = Signal(object, object)
    _told = Signal(object, float)

    def __init__(
        self,
        document: Document,
        executor: Executor | None = None,
        nodes: tuple[Node, ...] = NODES,
    ) -> None:
        super().__init__()
        self._document = document
        self._own_executor = executor is None
        self._executor = executor or ThreadPoolExecutor(1, thread_name_prefix="assess")
        # What somebody looks at does not wait behind what is tried beside it.
        self._in_sight = executor or ThreadPoolExecutor(1, thread_name_prefix="in-sight")
        self._graph = Graph(nodes)
        self._node = {node.name: node for node in nodes}
        self._waiting = 0
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(_REST_MS)
        self._rest.timeout.connect(self._ask_for_more)
        self._begin = QTimer(self)
        self._begin.setSingleShot(True)
        self._begin.timeout.connect(self._start)
        self._answered.connect(self._take_answer, Qt.ConnectionType.QueuedConnection)
        self._told.connect(self._take_share, Qt.ConnectionType.QueuedConnection)
        self._anew = False
        self._closed = False
        self._looked_at: dict[str, frozenset[str]] = {}
        document.edited.connect(self._project_edited)
        self.current = document.project.designs[0].id

    def start(self) -> None:
        """Begin: everything is asked of the worker, the chosen design first."""
        if self._own_executor:
            self._begin.start(_FIRST_MS)
        else:
            self._start()

    # -- what is known --------------------------------------------------------------------------
    def state(self, node: str, design_id: str) -> State:
        """Return the state of a node for a design."""
        return self._graph.state(node, design_id)

    def _months(self, design_id: str) -> SolvedMonths | None:
        solved: SolvedMonths | None = self._graph.value("months", design_id)
        return solved

    def monthly(self, design_id: str) -> MonthlyAssessment | None:
        """Return the months, or their draft; None when both are missing or stale."""
        solved = self._months(design_id)
        if solved is not None:
            return solved.monthly
        draft: MonthlyAssessment | None = self._graph.value("draft", design_id)
        return draft

    def conduction(self, design_id: str, month: int) -> HiveConduction | None:
        """Return the solved shell of a design in a month, or None when missing or stale."""
        solved = self._months(design_id)
        if solved is None:
            return None
        return conduction_in(
            solved.monthly.case.shells, self._document.project.design(design_id), month
        )

    def values_of(self, design_id: str) -> tuple[object, ...]:
        """Return what the answers of a design depend on now, and whether its shell is solved."""
        return self._graph.keys.get(design_id, ()), self._months(design_id) is not None

    def shell_error(self, design_id: str) -> str:
        """Return why the shell of a design could not be solved; empty when it could."""
        solved = self._months(design_id)
        return solved.estimated_because if solved is not None else ""

    def nights(self, design_id: str) -> NightAssessment | None:
        """Return the nights, or None when they are missing or stale."""
        nights: NightAssessment | None = self._graph.value("nights", design_id)
        return nights

    def follow_up(self, design_id: str) -> FollowUp | None:
        """Return damp, schools and ice, or None when they are missing or stale."""
        follow_up: FollowUp | None = self._graph.value("damp", design_id)
        return follow_up

    def joints(self, design_id: str) -> JointSum | None:
        """Return the joints in the coldest month; None when missing, stale or not chosen."""
        joints: Joints | None = self._graph.value("joints", design_id)
        return joints.sum if joints is not None else None

    def remedies(self, design_id: str) -> tuple[Remedy, ...] | None:
        """Return the remedies that were tried, or None when they are missing or stale."""
        remedies: tuple[Remedy, ...] | None = self._graph.value("remedies", design_id)
        return remedies

    def error(self, design_id: str) -> str:
        """Return why a design could not be worked out; empty when it could."""
        return self.state("draft", design_id).sentence

    def trouble(self, design_id: str) -> str:
        """Return what could not be worked out beside the draft; empty when all of it could."""
        sentences = (self.state(n, design_id).sentence for n in self._node if n != "draft")
        return next((sentence for sentence in sentences if sentence), "")

    def provisional(self, design_id: str) -> bool:
        """Return whether the figures of a design may still change without an edit."""
        if self.state("draft", design_id).kind in ("absent", "failed"):
            return False
        late = [n for n in self._node.values() if n.provisional]
        # What follows from a node that failed will not come.
        failed = {n.name for n in late if self.state(n.name, design_id).kind == "failed"}
        for node in late:
            if failed & set(node.needs):
                failed.add(node.name)
        return any(
            self.state(n.name, design_id).kind != "ready" for n in late if n.name not in failed
        )

    def dossier(self, design_id: str) -> Dossier | None:
        """Return everything that is known of a design; None while something is missing."""
        months, follow_up = self._months(design_id), self.follow_up(design_id)
        if months is None or follow_up is None:
            return None
        tried = self.remedies(design_id)
        return Dossier(
            monthly=months.monthly,
            follow_up=follow_up,
            remedies=tried or (),
            joints=self.joints(design_id),
            estimated_because=months.estimated_because,
            remedies_tried=tried is not None,
        )

    def keep(self, wholes: Iterable[Dossier]) -> None:
        """Take over what an export has worked out beyond what was known."""
        for assessment in wholes:
            design_id = assessment.monthly.design.id
            if self.monthly(design_id) is not assessment.monthly:
                continue
            for node, answer in (
                ("remedies", assessment.remedies),
                ("joints", Joints(assessment.joints)),
            ):
                ticket = Ticket(self._node[node], design_id, self._graph.keys[design_id])
                self._graph.put(ticket, answer)

    def row(self, design_id: str, month: int) -> CompareRow | None:
        """Return the compare row of a design in a month, as far as it is known."""
        monthly = self.monthly(design_id)
        if monthly is None:
            return None
        follow_up = self.follow_up(design_id)
        snow = None if follow_up is None else follow_up.snow
        return compare_row(monthly, self.nights(design_id), month, snow)

    # -- acts ------------------------------------------------------------------------------------
    def choose(self, design_id: str) -> None:
        """Work on another design: what is for the chosen one is asked when the hand rests."""
        for node in self._node.values():
            if node.chosen and design_id != self.current:
                self._graph.give_up(node.name, self.current, for_good=False)
        self.current = design_id
        self._rest.start()

    def forget(self, current: str) -> None:
        """Begin anew for a project that takes the place of this one; ``current`` comes first."""
        self._graph.clear()
        self.current, self._anew = current, True

    def look_at(self, nodes: Iterable[str], needed: bool, who: str = "seasons") -> None:
        """Ask for nodes that are worked out only in sight, or take what was asked back.

        ``who`` looks; a node is worked on while anybody does.
        """
        before = self._in_sight_now()
        self._looked_at[who] = frozenset(nodes) if needed else frozenset()
        now = self._in_sight_now()
        if now - before:
            self._rest.start()
        for name in before - now:
            for design_id in self._graph.keys:
                self._graph.give_up(name, design_id, for_good=False)

    def _in_sight_now(self) -> frozenset[str]:
        return frozenset().union(*self._looked_at.values())

    def year(self, design_id: str) -> YearRun | None:
        """Return the hours of the year, or None when they are missing or stale."""
        run: YearRun | None = self._graph.value("year", design_id)
        return run

    def year_ranges(self, design_id: str) -> YearBands | None:
        """Return the figures of the year with their ranges, or None."""
        bands: YearBands | None = self._graph.value("year ranges", design_id)
        return bands

    def year_share(self, design_id: str) -> float | None:
        """Return how far the ranges of the year are, 0 to 1; None when nobody works on them."""
        state = self.state("year ranges", design_id)
        return state.share if state.kind == "working" else None

    def stop(self) -> bool:
        """Call the trying of remedies off; return whether there was any."""
        trying = self.trying
        if trying:
            self._graph.give_up("remedies", self.current, for_good=True)
        return trying

    @property
    def trying(self) -> bool:
        """Whether remedies are being tried."""
        return self.state("remedies", self.current).kind == "working"

    def idle(self) -> bool:
        """Return whether nothing is running or about to."""
        return not (self._waiting or self._rest.isActive() or self._begin.isActive())

    def close(self) -> None:
        """Stop the worker without waiting; answers still under way are dropped."""
        self._closed = True
        self._rest.stop()
        self._begin.stop()
        if self._own_executor:
            # What is being solved asks whether it is wanted and ends by itself.
            for each in (self._executor, self._in_sight):
                each.shutdown(wait=False, cancel_futures=True)

    # ------------------------------------------------------------------------------------------
    def _project_edited(self, _before: object, _after: object) -> None:
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
        keys = {d.id: key_of(project, d) for d in project.designs}
        changed = self._graph.put_keys(keys)
        for design_id in sorted(changed, key=lambda i: i != self.current):
            # Values that come back by undo may have their answer still.
            if self.state("draft", design_id).kind == "ready":
                continue
            ticket = self._graph.ask(self._node["draft"], design_id)
            if at_once and design_id == self.current:
                self._graph.put(ticket, self._answer(ticket, self._asked(ticket)))
            else:
                self._submit(ticket)
        self._rest.start()

    def _ask_for_more(self) -> None:
        """Ask for all that can be worked out now, the chosen design first."""
        if self._closed:
            return
        order = sorted(self._graph.keys, key=lambda i: i != self.current)
        queue = self._graph.wanting(order, self.current, self._in_sight_now())
        for node, design_id in list(queue):
            self._submit(self._graph.ask(node, design_id))

    def _asked(self, ticket: Ticket) -> Asked:
        """Return all a piece of work needs; nothing of it changes."""
        design_id, project = ticket.design_id, self._document.project
        case: HiveCase = estimated_case(project, project.design(design_id))
        last: SolvedMonths | None = self._graph.last("months", design_id)
        if last is not None:
            case = replace(case, shells=last.monthly.case.shells)

        def report(share: float) -> None:
            if not self._wanted(ticket):
                raise CancelledError("called off")
            self._told.emit(ticket, share)

        needed = {n: self._graph.value(n, design_id) for n in ticket.node.needs}
        return Asked(case=case, known=needed, report=report)

    def _wanted(self, ticket: Ticket) -> bool:
        """Return whether an answer would still be of use; asked by the worker."""
        return not self._closed and self._graph.wants(ticket)

    def _answer(self, ticket: Ticket, asked: Asked) -> object:
        """Return the answer of a node or the error it ended in; None when it is not wanted."""
        try:
            # Values the user has left behind are not worth the work.
            with unless(lambda: not self._wanted(ticket)):
                return ticket.node.work(asked) if self._wanted(ticket) else None
        except CancelledError:
            return None
        except CalvethError as error:
            return error
        except Exception as error:
            log.exception("assessment of %s", ticket.design_id)
            return error

    def _submit(self, ticket: Ticket) -> None:
        asked = self._asked(ticket)

        def run() -> None:
            answer = self._answer(ticket, asked)
            # The window may be gone by now, and this object with it.
            with contextlib.suppress(RuntimeError):
                self._answered.emit(ticket, answer)

        self._waiting += 1
        if self._waiting == 1:
            self.busy.emit(True)
        (self._in_sight if ticket.node.in_sight else self._executor).submit(run)

    def _take_share(self, ticket: Ticket, share: float) -> None:
        if self._wanted(ticket):
            self._graph.put_share(ticket, share)
            if ticket.node.name == "remedies":
                self.progress.emit(share)
            elif ticket.node.in_sight:
                self.year_progress.emit(share)

    def _take_answer(self, ticket: Ticket, answer: object) -> None:
        self._waiting -= 1
        if self._closed:
            return
        if answer is not None and self._graph.put(ticket, answer):
            self.updated.emit(ticket.design_id)
        self._rest.start()
        if self._waiting == 0:
            self.busy.emit(False)
