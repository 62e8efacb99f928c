"""Shell: the cutaway with its lenses, the chosen face and what the hive says this month."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QHideEvent, QResizeEvent, QShowEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from calveth.app.areas.findings_panel import FindingsPanel, finding_row, worst_first
from calveth.app.areas.hive_panel import HivePanel
from calveth.app.areas.joints_panel import JointsPanel
from calveth.app.areas.layers_panel import FACE_TITLE, LayersPanel
from calveth.app.areas.lens_row import lens_row
from calveth.app.areas.openings_panel import OpeningsPanel
from calveth.app.cutaway.view import CUT_TEXT, CUTS, SECTIONS, scene
from calveth.app.cutaway.widget import CutawayWidget
from calveth.app.document import Document
from calveth.app.hour_view import HourView, hour_view, moment_text, month_sun
from calveth.app.results import Results
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import ElidedLabel, clear, label, rule, small_button
from calveth.app.widgets.pages import page_scroll, scroll_of, tab_row, top_page
from calveth.app.widgets.profile_plot import ProfilePlot
from calveth.core.advice.findings import findings
from calveth.core.assess.readings import FACE_ZONE
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.edits import set_layer_thickness, set_opening
from calveth.core.hive.by_month import in_month, layers_on, setting_of
from calveth.core.hive.design import FACES, Design, Face
from calveth.core.hive.season_plan import Setting
from calveth.texts.findings import Sentence, in_words

TABS = ("says", "lid", "walls", "floor", "joints", "openings", "hive")
_TAB_TEXT: dict[str, str] = {
    "says": "Findings",
    "lid": FACE_TITLE["lid"],
    "walls": FACE_TITLE["walls"],
    "floor": FACE_TITLE["floor"],
    "joints": "Joints",
    "openings": "Openings",
    "hive": "Box",
}
_TAB_TIPS: dict[str, str] = {
    "says": "All that is good or wrong with this hive, why, and what helps",
    "lid": "The layers of the lid",
    "walls": "The layers of the walls",
    "floor": "The layers of the floor",
    "joints": "How lid, floor, corners and entrance meet the walls, and how tight",
    "openings": "Entrances, vents and screens",
    "hive": "Frames, boxes, window, weight and bee space",
}
_MOST_ABOVE = 6
# Height of the sentences over a page and the most of the column they take, of the profile, and
# of what else stands round the layers [px].
_ABOVE_PX, _ABOVE_SHARE, _PROFILE_PX, _AROUND_LAYERS_PX = 112, 0.45, 214, 40
_NOT_SETTLED = "≈ Not settled yet: the shell, the nights and the damp are being worked out."
INSPECTOR_PX = 396
"""Width of the right column [px]."""


class ShellArea(QWidget):
    """The middle and right of the window while a hive is shaped.

    Signals
    -------
    remedy_taken(remedy)
        A remedy is to become a new version.
    refused(sentence)
        A drag on the hive is not accepted.
    key_wanted()
        The key to the marks was asked for.
    """

    remedy_taken = Signal(object)
    refused = Signal(str)
    copy_wanted = Signal()
    key_wanted = Signal()

    def __init__(self, document: Document, results: Results, view: ViewState) -> None:
        super().__init__()
        self._document, self._results, self._view = document, results, view
        self.cutaway = CutawayWidget()
        self.cut = Choice("look at it", [(c, CUT_TEXT[c]) for c in CUTS], self._cut)
        self.title = ElidedLabel("title")
        self.moment = ElidedLabel("muted")
        self.layers = LayersPanel(document, view)
        self.joints = JointsPanel(document, view)
        self.openings = OpeningsPanel(document, view)
        self.hive = HivePanel(document, view)
        self.says = FindingsPanel(self.remedy_taken.emit, self._show_on_hive)
        self.profile = ProfilePlot(view)
        self.face_buttons: dict[str, QPushButton] = {}
        self._findings = QVBoxLayout()
        self._findings.setSpacing(5)
        self.finding_texts: list[str] = []
        self._hourly = False
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        self._column = self._middle()
        row.addLayout(self._column, 1)
        self._fit = QTimer(self)
        self._fit.setSingleShot(True)
        self._fit.timeout.connect(self._fit_now)
        row.addWidget(self._inspector())
        self.cutaway.face_chosen.connect(view.set_face)
        self.cutaway.thickness_dragged.connect(self._dragged)
        self.cutaway.opening_chosen.connect(self._show_opening)
        self.cutaway.opening_dragged.connect(self._opening_dragged)
        view.design_changed.connect(self._show_all)
        view.design_changed.connect(self._give_room)
        view.month_changed.connect(self._show_results)
        # The hand may move many times before there is time to draw.
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.timeout.connect(self._show_results)
        view.hour_changed.connect(self._hour_moved)
        view.lens_changed.connect(self._show_results)
        view.face_changed.connect(self._show_face)
        view.units_changed.connect(self._show_results)
        # What was refused is shown as it is.
        document.refused.connect(self._show_all)
        document.changed.connect(self._show_all)
        results.updated.connect(self._updated)
        self._show_face()

    def _middle(self) -> QVBoxLayout:
        bar = QHBoxLayout()
        bar.setContentsMargins(10, 6, 10, 0)
        bar.addWidget(self.title, 1)
        bar.addWidget(self.moment, 1)
        bar.addSpacing(12)
        self.key_button = small_button("?", "what the marks in the drawing mean", self._key)
        bar.addWidget(self.key_button)
        self.lens_buttons = lens_row(self, bar, self._view)
        column = QVBoxLayout()
        column.setSpacing(0)
        column.addLayout(bar)
        column.addWidget(self.cutaway, 1)
        # In the corner of the drawing, where no word of a lens comes.
        corner = QVBoxLayout(self.cutaway)
        corner.setContentsMargins(8, 8, 8, 6)
        corner.addStretch()
        corner.addWidget(self.cut, 0, Qt.AlignmentFlag.AlignLeft)
        return column

    def hold(self, foot: QWidget) -> None:
        """Take what stands under the drawing: the year."""
        self._column.addWidget(foot)

    def _inspector(self) -> QWidget:
        """Return the right column: tabs that stay, sentences that push nothing, the page."""
        body = QWidget()
        body.setFixedWidth(INSPECTOR_PX)
        self._inspector_body = body
        column = QVBoxLayout(body)
        column.setContentsMargins(12, 8, 6, 6)
        column.setSpacing(6)
        tabs = QHBoxLayout()
        tabs.setSpacing(2)
        texts = [(key, _TAB_TEXT[key]) for key in TABS]
        self.face_buttons = tab_row(self, tabs, texts, "inspector", self._choose_tab)
        for key, button in self.face_buttons.items():
            button.setToolTip(_TAB_TIPS[key])
        tabs.addStretch()
        column.addLayout(tabs)
        column.addWidget(self._built_note())
        above = QWidget()
        above.setLayout(self._findings)
        self._findings.setContentsMargins(0, 0, 6, 0)
        # A fixed height: what comes in later must not move a button from under the pointer.
        self._above = scroll_of(above)
        self._above.setMinimumHeight(_ABOVE_PX)
        self._above.setMaximumHeight(_ABOVE_PX)
        self._above.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        column.addWidget(self._above, 100)
        column.addWidget(rule())
        self._pages = QStackedWidget()
        self._page_list: tuple[QWidget, ...] = (
            page_scroll(self.says),
            self._face_page(),
            page_scroll(top_page(self.openings)),
            page_scroll(top_page(self.hive)),
            page_scroll(top_page(self.joints)),
        )
        for page in self._page_list:
            self._pages.addWidget(page)
        column.addWidget(self._pages, 1)
        return body

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._give_room()

    def _give_room(self, *_: object) -> None:
        # What a page needs is known once its rows are laid out.
        self._fit.start()

    def _fit_now(self) -> None:
        """Give the sentences what the page below leaves free; what comes in later moves nothing."""
        page = self._pages.currentIndex()
        needs = (
            0,
            *(w.sizeHint().height() for w in (self.layers, self.openings, self.hive, self.joints)),
        )[page]
        if page == 1:
            needs += _PROFILE_PX + _AROUND_LAYERS_PX
        free = self._above.height() + self._pages.height() - needs
        most = int(_ABOVE_SHARE * self._inspector_body.height())
        self._above.setMaximumHeight(max(_ABOVE_PX, min(free, most)))

    def _built_note(self) -> QWidget:
        """Return the line that says that hives with entries in the diary were built so."""
        self.built = QWidget()
        self.built_text = label(role="note", wrap=True)
        self.copy_button = QPushButton("Duplicate to change")
        self.copy_button.clicked.connect(lambda *_: self.copy_wanted.emit())
        row = QHBoxLayout(self.built)
        row.setContentsMargins(0, 0, 6, 0)
        row.addWidget(self.built_text, 1)
        row.addWidget(self.copy_button)
        return self.built

    def _show_built(self, design: Design) -> None:
        entries = self._document.project.diary.entries_of(design.id)
        self.built.setVisible(entries > 0)
        several = "entries" if entries > 1 else "entry"
        self.built_text.setText(f"Built: {entries} {several} in the diary. It stays as it is.")

    def _face_page(self) -> QWidget:
        """Return the layers, which scroll when there are many, and the profile, which stays."""
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(label("from the outside in", "muted"))
        column.addWidget(page_scroll(top_page(self.layers)), 1)
        self.profile.setFixedHeight(_PROFILE_PX)
        self.profile.setToolTip(
            "Through the face: temperature and vapour pressure; where the dashed line meets the "
            "full one water gathers"
        )
        column.addWidget(self.profile)
        return page

    # -- acts ----------------------------------------------------------------------------------
    def show_tab(self, key: str) -> None:
        """Show what the hive says, the layers of a face, the openings or the hive."""
        self.face_buttons[key].setChecked(True)
        self._choose_tab(key)

    def _choose_tab(self, key: str, *_: object) -> None:
        if key in FACES:
            self._pages.setCurrentIndex(1)
            face: Face = key
            self._view.set_face(face)
        else:
            self._pages.setCurrentIndex({"says": 0, "openings": 2, "hive": 3, "joints": 4}[key])
        # What it says in full needs no summary above it.
        self._above.setVisible(key != "says")
        self._give_room()

    def _key(self) -> None:
        """Show what the marks mean."""
        self.key_wanted.emit()

    def _cut(self, key: str) -> None:
        self._view.set_cut(next(cut for cut in CUT_TEXT if cut == key))

    def _dragged(self, face: Face, layer: int, thickness_m: float) -> None:
        design = self._document.project.design(self._view.design_id)
        index = layers_on(design, self._setting(design), face)[layer]
        self._document.attempt(
            f"thickness of {face} layer {index + 1}",
            lambda p: set_layer_thickness(p, design.id, face, index, thickness_m),
            merge=f"{design.id}/{face}/{index}/drag",
        )

    def _setting(self, design: Design) -> Setting:
        """Return how the hive that is drawn is set: in the hour looked at, or the month."""
        view = self._view
        if view.by_hour and self._results.year(design.id) is not None:
            return design.seasons.on(view.hour // 24)
        return setting_of(design, view.month)

    def _show_opening(self, opening_id: str) -> None:
        """Turn to an opening that was clicked."""
        self.show_tab("openings")
        self.openings.open_more(opening_id)

    def _opening_dragged(self, opening_id: str, along: float, bottom: float) -> None:
        design = self._document.project.design(self._view.design_id)
        opening = next((o for o in design.openings if o.id == opening_id), None)
        if opening is None:
            return
        self._document.attempt(
            f"place of {opening.name}",
            lambda p: set_opening(p, design.id, replace(opening, along_m=along, bottom_m=bottom)),
            merge=f"{design.id}/{opening_id}/drag",
        )

    def _show_on_hive(self, finding: Sentence) -> None:
        """Turn to the lens and the face a finding speaks of."""
        self._view.set_lens("wet")
        if finding.face is not None:
            self._view.set_face(finding.face)

    # -- shows ---------------------------------------------------------------------------------
    def _updated(self, design_id: str) -> None:
        if design_id == self._view.design_id:
            self._show_results()

    def _show_all(self, *_: object) -> None:
        design = self._document.project.design(self._view.design_id)
        self.title.setText(design.name)
        self._show_built(design)
        self.layers.show_face(design.id, self._view.face)
        self.openings.show_design(design.id)
        self.hive.show_design(design.id)
        self.joints.show_design(design.id)
        self._show_results()

    def _show_face(self, *_: object) -> None:
        """Turn to the layers of the face that was chosen."""
        self._pages.setCurrentIndex(1)
        self._above.setVisible(True)
        self.face_buttons[self._view.face].setChecked(True)
        self._show_all()
        self._give_room()

    def _hour_moved(self, *_: object) -> None:
        if self._view.by_hour or self._hourly:
            self._soon.start(0)

    def _look(self) -> HourView | None:
        """Ask for the hours where they are looked at; return the one under the hand."""
        view = self._view
        needs_year = self.isVisible() and (view.by_hour or view.lens == "sun")
        self._results.look_at(("year",), needs_year, "shell")
        self._hourly = view.by_hour
        if not view.by_hour:
            return None
        return hour_view(self._results, self._document.project.design(view.design_id), view)

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self._show_results()

    def hideEvent(self, event: QHideEvent) -> None:
        super().hideEvent(event)
        self._results.look_at(("year",), needed=False, who="shell")

    def _show_results(self, *_: object) -> None:
        project, view = self._document.project, self._view
        design = project.design(view.design_id)
        hour = self._look()
        assessed = hour.monthly if hour is not None else self._results.monthly(design.id)
        table = project.material_table()
        self.moment.setText(moment_text(project.place, view, hour))
        sun = hour.sun if hour else month_sun(self._results, design.id, view.month)
        self.cutaway.set_scene(
            scene(
                design,
                table,
                project.colony,
                assessed,
                view.month,
                view.lens,
                view.face,
                view.units,
                self._results.conduction(design.id, view.month),
                view.cut,
                sun,
                as_set=hour.design if hour else None,
                films_g=hour.films_g if hour else None,
            )
        )
        self._offer_cuts()
        self.lens_buttons[view.lens].setChecked(True)
        self.joints.show_heat(self._results.joints(design.id), self._results.shell_error(design.id))
        stack = in_month(design, view.month).shell.stack(view.face)
        if assessed is None:
            error = self._results.error(design.id)
            self._say([Sentence(text=error or "Working it out …", tone="bad" if error else "note")])
            self.says.show_remedies(None, view.units, working=False)
            self.profile.show_profile(view.face, stack, table, None, 0, 0)
            return
        sentences = hour.sentences if hour is not None else self._of_the_month(assessed)
        fault = self._results.shell_error(design.id)
        if fault:
            sentences = [Sentence(text=f"Estimated only. {fault}.", tone="bad"), *sentences]
        trouble = self._results.trouble(design.id)
        if trouble:
            sentences = [Sentence(text=trouble, tone="bad"), *sentences]
        if self._results.provisional(design.id):
            sentences = [*sentences, Sentence(text=_NOT_SETTLED, tone="note")]
        self._say(sentences)
        self.says.show_remedies(
            self._results.remedies(design.id), view.units, working=self._results.trying
        )
        months = assessed.months
        self.profile.show_profile(
            view.face,
            stack,
            table,
            months.profile(view.face, view.month),
            float(months.outside.temperature_degc[view.month]),
            float(months.balance.temperature_degc[FACE_ZONE[view.face], view.month]),
        )

    def _of_the_month(self, assessed: MonthlyAssessment) -> list[Sentence]:
        """Return what is to be said of the month; an hour says what stands in it alone."""
        view = self._view
        follow = self._results.follow_up(view.design_id)
        depth = follow.depth(view.month) if follow is not None else None
        return [in_words(f, view.units) for f in findings(assessed, view.month, depth)]

    def _offer_cuts(self) -> None:
        """Offer the ways a lens can look at the hive; Wet and Air have one."""
        lens, cut = self._view.lens, self._view.cut
        offered = {"warmth": CUTS, "make-up": SECTIONS}.get(lens, ())
        rows = [(c, CUT_TEXT[c]) for c in offered]
        if [self.cut.itemData(k) for k in range(self.cut.count())] != [c for c, _ in rows]:
            self.cut.set_rows(rows)
        self.cut.show_id(cut if cut in offered else "upright")
        self.cut.setVisible(bool(offered))

    def says_texts(self) -> list[str]:
        """Return all sentences that are said of the hive."""
        return list(self.finding_texts)

    def _say(self, sentences: list[Sentence]) -> None:
        self.says.show_findings(sentences)
        texts = [finding.text for finding in sentences]
        if texts == self.finding_texts:
            return
        self.finding_texts = texts
        clear(self._findings)
        for finding in worst_first(sentences)[:_MOST_ABOVE]:
            self._findings.addLayout(finding_row(finding, self._show_on_hive))
        self._findings.addStretch()
