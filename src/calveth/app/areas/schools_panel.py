"""What each school says of a hive, with every criterion in sight."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from calveth.app.areas.findings_panel import Mark
from calveth.app.widgets.labels import clear, label
from calveth.core.advice.schools import SchoolVerdict
from calveth.core.school import School
from calveth.texts.criteria import criterion_text, meant_for, said_of
from calveth.texts.schools import SCHOOL_TEXT
from calveth.texts.units import UnitSystem


class SchoolsPanel(QWidget):
    """Every school's verdict; the one chosen is written out, the others in a line."""

    def __init__(self) -> None:
        super().__init__()
        self._rows = QVBoxLayout(self)
        self._rows.setContentsMargins(0, 0, 0, 0)
        self._rows.setSpacing(4)
        self._shown: object = None

    def show_verdicts(
        self, verdicts: Sequence[SchoolVerdict] | None, chosen: School, units: UnitSystem
    ) -> None:
        """Show the verdicts; None while they are worked out."""
        key = (verdicts, chosen, units.name)
        if key == self._shown:
            return
        self._shown = key
        clear(self._rows)
        if verdicts is None:
            self._rows.addWidget(label("being worked out …", "muted"))
            return
        for verdict in sorted(verdicts, key=lambda v: v.school != chosen):
            self._add(verdict, units, open_=verdict.school == chosen)
        self._rows.addStretch()

    def _add(self, verdict: SchoolVerdict, units: UnitSystem, *, open_: bool) -> None:
        head = QHBoxLayout()
        head.setSpacing(6)
        meant = meant_for(verdict)
        tone = "good" if verdict.passed else "no" if meant else "none"
        head.addWidget(Mark(tone), 0, Qt.AlignmentFlag.AlignTop)
        title = label(
            f"{verdict.school}: {said_of(verdict)}", "heading" if open_ else "", wrap=True
        )
        title.setToolTip(SCHOOL_TEXT[verdict.school].why)
        head.addWidget(title, 1)
        self._rows.addLayout(head)
        if open_:
            does = label(SCHOOL_TEXT[verdict.school].does, "muted", wrap=True)
            does.setContentsMargins(22, 0, 0, 0)
            self._rows.addWidget(does)
        for criterion in verdict.criteria:
            # What a hive of another way does not meet it was never asked.
            if open_ or (meant and not criterion.passed):
                row = QHBoxLayout()
                row.setSpacing(6)
                row.setContentsMargins(22, 0, 0, 0)
                mark = Mark("good" if criterion.passed else "no" if meant else "none")
                row.addWidget(mark, 0, Qt.AlignmentFlag.AlignTop)
                row.addWidget(label(criterion_text(criterion, units), "muted", wrap=True), 1)
                self._rows.addLayout(row)
