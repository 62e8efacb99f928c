"""The plan of the chosen design, worked out beside the window; late plans are dropped."""

from __future__ import annotations

from concurrent.futures import Executor

from PySide6.QtCore import QObject, QTimer, Signal

from calveth.app.document import Document
from calveth.app.jobs import Jobs
from calveth.app.view_state import ViewState
from calveth.catalogue.library import workshop_of
from calveth.core.advice.own_offers import OwnOffer, own_offers
from calveth.core.case import estimated_case
from calveth.core.workshop.plan import BuildPlan, build_plan

# A plan is asked for when the hand has rested this long [ms].
_REST_MS = 60


class Plans(QObject):
    """Holds the newest plan and says whether it is of today's values.

    Signals
    -------
    changed()
        There is a plan, or why there is none; later, what could be built of what is at hand.
    """

    changed = Signal()

    def __init__(
        self, document: Document, view: ViewState, executor: Executor | None = None
    ) -> None:
        super().__init__()
        self._document, self._view = document, view
        self._jobs = Jobs(executor)
        self._jobs.refused.connect(self._refused)
        self._key: tuple[object, ...] | None = None
        self._asked: tuple[object, ...] | None = None
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(_REST_MS)
        self._rest.timeout.connect(self._ask)
        self.plan: BuildPlan | None = None
        self.offers: tuple[OwnOffer, ...] = ()
        self.problem = ""

    @property
    def fresh(self) -> bool:
        """Whether the plan is of the values the project has now."""
        return self.plan is not None and self._key == self._key_now()

    def _key_now(self) -> tuple[object, ...]:
        project = self._document.project
        design = project.design(self._view.design_id)
        table = project.material_table()
        used = tuple(table[m] for m in sorted(design.material_ids))
        return (design, used, project.colony, project.place, project.workshop)

    def want(self) -> None:
        """Ask for the plan of the values there are now, unless it is known or on its way."""
        key = self._key_now()
        if self.fresh or key == self._asked:
            return
        self._rest.start()

    def _ask(self) -> None:
        project, key = self._document.project, self._key_now()
        design, workshop = project.design(self._view.design_id), workshop_of(project)
        self._asked = key

        def done(answer: object) -> None:
            assert isinstance(answer, BuildPlan)
            self.plan, self._key, self.problem, self._asked = answer, key, "", None
            self.offers = ()
            self.changed.emit()
            if any(item.have for item in workshop.items):
                self._jobs.run(lambda: own_offers(estimated_case(project, design), workshop), offer)

        def offer(answer: object) -> None:
            assert isinstance(answer, tuple)
            self.offers = answer
            self.changed.emit()

        self._jobs.run(
            lambda: build_plan(
                design, project.material_table(), project.colony, project.place, workshop
            ),
            done,
        )

    def _refused(self, sentence: str) -> None:
        self.plan, self._key, self.problem, self.offers = None, None, sentence, ()
        self.changed.emit()

    def idle(self) -> bool:
        """Return whether no plan is waited for."""
        return self._jobs.idle() and not self._rest.isActive()

    def close(self) -> None:
        """Let the work go."""
        self._rest.stop()
        self._jobs.close()
