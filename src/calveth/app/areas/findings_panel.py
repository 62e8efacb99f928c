"""What the hive says: every finding with its cause, and what helps, tried by the program."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial

from PySide6.QtCore import QPointF, QSize, Qt
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QLayout, QPushButton, QVBoxLayout, QWidget

from calveth.app.ribbon.verdict import paint_verdict
from calveth.app.theme.theme import current
from calveth.app.widgets.labels import clear, label, rule
from calveth.app.widgets.pages import LateArea
from calveth.core.advice.remedies import Remedy
from calveth.texts.findings import Sentence
from calveth.texts.remedies import effect, what_is_done
from calveth.texts.units import METRIC, UnitSystem

_MARK = {"good": "dry", "note": "wet ring", "bad": "wet", "no": "no", "danger": "danger"}
_ORDER = {"danger": 0, "bad": 1, "note": 2, "good": 3}


class Mark(QWidget):
    """The sign before a finding: a tick, a ring or a full drop."""

    def __init__(self, tone: str) -> None:
        super().__init__()
        self._tone = tone
        self.setFixedSize(16, 18)
        words = {
            "good": "well",
            "note": "take note",
            "bad": "bad",
            "no": "not met",
            "danger": "danger to the life of the bees",
            "none": "does not apply",
        }
        self.setAccessibleName(words[tone])
        self.setToolTip(words[tone])

    def sizeHint(self) -> QSize:
        return QSize(16, 18)

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self._tone == "none":
            painter.setPen(current().color("muted"))
            painter.drawLine(QPointF(4, 10), QPointF(12, 10))
            return
        paint_verdict(painter, QPointF(8, 10), _MARK[self._tone], current(), 5.0)


def finding_row(finding: Sentence, act: Callable[[Sentence], object] | None = None) -> QLayout:
    """Return a line for a finding; a click on one that speaks of a surface calls ``act``."""
    line = QHBoxLayout()
    line.setSpacing(6)
    line.addWidget(Mark(finding.tone), 0, Qt.AlignmentFlag.AlignTop)
    text = label(finding.text, wrap=True)
    if act is not None and finding.face is not None:
        text.setCursor(Qt.CursorShape.PointingHandCursor)
        text.setToolTip("click: show it on the hive")
        text.mousePressEvent = _acting(act, finding)  # type: ignore[method-assign]
    line.addWidget(text, 1)
    return line


def _acting(act: Callable[[Sentence], object], finding: Sentence) -> Callable[[QMouseEvent], None]:
    def press(_: QMouseEvent) -> None:
        act(finding)

    return press


def worst_first(sentences: Sequence[Sentence]) -> list[Sentence]:
    """Return findings with the bad ones first, else in their order."""
    return sorted(sentences, key=lambda finding: _ORDER[finding.tone])


class FindingsPanel(LateArea):
    """All findings of the month, their causes, and the remedies that were tried."""

    def __init__(
        self, take: Callable[[Remedy], object], show: Callable[[Sentence], object]
    ) -> None:
        super().__init__()
        self._take, self._point = take, show
        self._said: list[Sentence] = []
        self._said_shown: list[Sentence] = []
        self._tried: tuple[Sequence[Remedy] | None, UnitSystem, bool] = (None, METRIC, False)
        self._tried_shown: object = None
        self._findings, self._remedies = QVBoxLayout(), QVBoxLayout()
        self._findings.setSpacing(4)
        self._remedies.setSpacing(5)
        self.buttons: list[QPushButton] = []
        self.state = label(role="muted", wrap=True)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(7)
        column.addLayout(self._findings)
        column.addWidget(rule())
        column.addWidget(label("What helps, tried on this hive", "heading"))
        column.addLayout(self._remedies)
        column.addWidget(self.state)
        column.addStretch()

    def show_findings(self, sentences: Sequence[Sentence]) -> None:
        """Show findings with their causes and what helps."""
        self._said = list(sentences)
        self._show()

    def show_remedies(
        self, tried: Sequence[Remedy] | None, units: UnitSystem, *, working: bool
    ) -> None:
        """Show the remedies; None while they are not known."""
        self._tried = (tried, units, working)
        self._show()

    def _fill(self) -> None:
        if self._said != self._said_shown:
            self._fill_findings()
        if self._tried != self._tried_shown:
            self._fill_remedies(*self._tried)

    def _fill_findings(self) -> None:
        self._said_shown = self._said
        clear(self._findings)
        for finding in worst_first(self._said):
            self._findings.addLayout(finding_row(finding, self._point))
            for word, text in (("because", finding.cause), ("helps:", finding.helps)):
                if text:
                    why = label(f"{word} {text}", "muted", wrap=True)
                    why.setContentsMargins(22, 0, 0, 0)
                    self._findings.addWidget(why)

    def _fill_remedies(
        self, tried: Sequence[Remedy] | None, units: UnitSystem, working: bool
    ) -> None:
        self._tried_shown = self._tried
        clear(self._remedies)
        self.buttons = []
        if tried is None:
            self.state.setText("Trying what helps …" if working else "Not tried yet.")
            self.state.show()
            return
        self.state.setVisible(not tried)
        self.state.setText("Nothing that was tried makes the lid drier or saves honey.")
        for remedy in tried[:5]:
            self._remedies.addLayout(self._remedy(remedy, units))

    def _remedy(self, remedy: Remedy, units: UnitSystem) -> QLayout:
        row = QHBoxLayout()
        done = what_is_done(remedy, units)
        text = label(f"{done}: {effect(remedy, units)}", wrap=True)
        button = QPushButton("Take")
        button.setAccessibleName(f"take as a new version: {done}")
        button.setToolTip("Make a copy of this hive with the change")
        button.clicked.connect(partial(self._taken, remedy))
        self.buttons.append(button)
        row.addWidget(text, 1)
        row.addWidget(button, 0, Qt.AlignmentFlag.AlignTop)
        return row

    def _taken(self, remedy: Remedy, *_: object) -> None:
        self._take(remedy)
