"""Build: the parts drawn apart, layouts, the stack; beside them what to cut, get, lift and do."""

from __future__ import annotations

from concurrent.futures import Executor
from functools import partial
from html import escape

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QAction
from PySide6.QtWidgets import (
    QAbstractItemView,
    QHBoxLayout,
    QHeaderView,
    QMenu,
    QPushButton,
    QStackedWidget,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from calveth.app.areas.build_options import BuildOptions
from calveth.app.document import Document
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import ElidedLabel, html_label, label, plain_tip
from calveth.app.widgets.pages import LateArea, page_scroll, scroll_of, tab_row, top_page
from calveth.app.workshop.drawing_view import DrawingView
from calveth.app.workshop.plans import Plans
from calveth.core.advice.own_offers import OwnOffer
from calveth.core.edits import set_layer_thickness
from calveth.core.workshop.changes import changes_between
from calveth.core.workshop.plan import BuildPlan, listed
from calveth.drawing.shapes import Drawing
from calveth.drawing.sheets_out import hive_drawings, layout_drawings, piece_drawings, stack_of
from calveth.texts.build import parts_text, row_name, size_text, work_text
from calveth.texts.build_html import steps_html, to_get_html, weights_html
from calveth.texts.build_pages import change_lines
from calveth.texts.own_offers import offer_text
from calveth.texts.units import INCH

PICTURES = ("apart", "views", "pieces", "layouts", "stack")
_PICTURE_TEXT = {
    "apart": "Drawn apart",
    "views": "Views",
    "pieces": "Pieces",
    "layouts": "Layouts",
    "stack": "Stack",
}
LISTS = ("cut", "get", "weights", "steps", "change", "how")
_LIST_TEXT = {
    "cut": "Cut list",
    "get": "To get",
    "weights": "Weights",
    "steps": "Steps",
    "change": "Change",
    "how": "How",
}
FORMS = (
    (".pdf", "Workshop sheets (PDF)"),
    (".svg", "Drawings 1:10 (SVG)"),
    (".dxf", "Pieces and layouts (DXF)"),
    (".3mf", "Solids (3MF)"),
    (".stl", "Solids, a file a part (STL)"),
    (".xlsx", "Tables (XLSX)"),
    (".ods", "Tables (ODS)"),
    (".csv", "Cut list (CSV)"),
)
_MOST_OFFERS = 3
LIST_PX = 470
"""Width of the column with the lists [px]."""


class BuildArea(LateArea):
    """The plan of the chosen hive.

    Signals
    -------
    write_wanted(ending)
        The plan is to be written into a file of this kind.
    stock_wanted()
        The stock list is to be edited.
    """

    write_wanted = Signal(str)
    stock_wanted = Signal()

    def __init__(
        self, document: Document, view: ViewState, executor: Executor | None = None
    ) -> None:
        super().__init__()
        self._document, self._view = document, view
        self.plans = Plans(document, view, executor)
        self.plans.changed.connect(self._show_plan)
        self._picture, self._row = "apart", 0
        self.title = ElidedLabel("title")
        self.summary = ElidedLabel("muted")
        self.problem = label(role="wrong", wrap=True)
        self.drawings = DrawingView("drawings of the build")
        self.drawings.row_clicked.connect(self.choose_row)
        self.table = _table()
        self.table.currentCellChanged.connect(self._row_chosen)
        self.get, self.weights, self.steps = (
            html_label(n) for n in ("what to get", "weights and standing", "steps of the work")
        )
        self.how = BuildOptions(document, view)
        self._before = self._before_for = ""
        self.before = Choice("hive it is made from", [], self._choose_before, narrow=24)
        self.changes = html_label("what changes from one hive to the other")
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addLayout(self._left(), 1)
        row.addWidget(self._right())
        for signal in (view.design_changed, view.units_changed, document.changed):
            signal.connect(self._show)
        self.show_picture("apart")
        self.show_list("cut")

    def _left(self) -> QVBoxLayout:
        head = QHBoxLayout()
        head.setContentsMargins(12, 6, 10, 0)
        head.addWidget(self.title, 1)
        texts = [(key, _PICTURE_TEXT[key]) for key in PICTURES]
        self.picture_buttons = tab_row(self, head, texts, "picture", self.show_picture)
        column = QVBoxLayout()
        column.setSpacing(2)
        column.addLayout(head)
        line = QHBoxLayout()
        line.setContentsMargins(12, 0, 10, 0)
        line.addWidget(self.summary, 1)
        column.addLayout(line)
        holder = QHBoxLayout()
        holder.setContentsMargins(12, 0, 10, 0)
        holder.addWidget(self.problem)
        column.addLayout(holder)
        self._scroll = scroll_of(self.drawings)
        self._scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        column.addWidget(self._scroll, 1)
        return column

    def _right(self) -> QWidget:
        body = QWidget()
        body.setFixedWidth(LIST_PX)
        column = QVBoxLayout(body)
        column.setContentsMargins(10, 6, 8, 6)
        column.setSpacing(5)
        tabs = QHBoxLayout()
        tabs.setSpacing(2)
        texts = [(key, _LIST_TEXT[key]) for key in LISTS]
        self.list_buttons = tab_row(self, tabs, texts, "list", self.show_list)
        tabs.addStretch()
        self.write_button = QPushButton("Print, save …")
        self.write_button.setToolTip("Write the plan as sheets, drawings, solids or tables")
        menu = QMenu(self.write_button)
        self.write_actions: dict[str, QAction] = {}
        for ending, text in FORMS:
            action = menu.addAction(text)
            action.triggered.connect(partial(self.write_wanted.emit, ending))
            self.write_actions[ending] = action
        self.write_button.setMenu(menu)
        tabs.addWidget(self.write_button)
        column.addLayout(tabs)
        self._pages = QStackedWidget()
        self._pages.addWidget(self._cut_page())
        for widget in (self.get, self.weights, self.steps):
            self._pages.addWidget(page_scroll(top_page(widget)))
        self._pages.addWidget(self._change_page())
        self._pages.addWidget(page_scroll(top_page(self.how)))
        column.addWidget(self._pages, 1)
        return body

    def _cut_page(self) -> QWidget:
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.table, 1)
        self.work = label(role="figures", wrap=True)
        self.work.setMinimumHeight(54)
        self.work.setAlignment(Qt.AlignmentFlag.AlignTop)
        column.addWidget(self.work)
        self.stock_button = QPushButton("Stock list …")
        self.stock_button.setToolTip("Boards, sheets and blocks there are, with prices and kerf")
        self.stock_button.clicked.connect(lambda *_: self.stock_wanted.emit())
        column.addWidget(self.stock_button, 0, Qt.AlignmentFlag.AlignLeft)
        self._offers = QVBoxLayout()
        self._offers.setSpacing(3)
        column.addLayout(self._offers)
        self.offer_buttons: list[QPushButton] = []
        return page

    def _change_page(self) -> QWidget:
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, 0, 0)
        line = QHBoxLayout()
        line.addWidget(label("make it from", "muted"))
        line.addWidget(self.before, 1)
        column.addLayout(line)
        column.addWidget(page_scroll(top_page(self.changes)), 1)
        return page

    # -- acts ----------------------------------------------------------------------------------
    def _choose_before(self, design_id: str) -> None:
        self._before = design_id
        self._show_changes()

    def show_picture(self, key: str, *_: object) -> None:
        """Show the parts apart, the views, single pieces, the layouts or the stack."""
        self.picture_buttons[key].setChecked(True)
        self._picture = key
        self._draw()

    def show_list(self, key: str, *_: object) -> None:
        """Show the cut list, what to get, weights, steps or how it is built."""
        self.list_buttons[key].setChecked(True)
        self._pages.setCurrentIndex(LISTS.index(key))
        self._show_changes()

    def choose_row(self, number: int) -> None:
        """Mark a row in the list and in the drawings."""
        self.show_list("cut")
        self._row = number
        self.table.setCurrentCell(number - 1, 0)

    def _row_chosen(self, row: int, *_: int) -> None:
        self._row = row + 1
        self._say_work()
        self._draw()

    # -- shows ---------------------------------------------------------------------------------
    def _fill(self) -> None:
        self.title.setText(self._document.project.design(self._view.design_id).name)
        self.how.show_design(self._view.design_id)
        self.plans.want()
        if self.plans.fresh:
            self._show_plan()
            return
        if self.plans.plan is not None and self.plans.plan.design.id != self._view.design_id:
            self._empty()
        self.summary.setText("working it out …")

    def _empty(self) -> None:
        """Show nothing of a hive that is not the one in the title."""
        self.table.setRowCount(0)
        self._show_offers()
        for widget in (self.get, self.weights, self.steps, self.work, self.changes):
            widget.setText("")
        self.drawings.show_drawings(())

    def _plan(self) -> BuildPlan | None:
        """Return the plan of the values there are now; an older one has other materials."""
        return self.plans.plan if self.plans.fresh else None

    def _show_plan(self) -> None:
        if self.plans.plan is not None and not self.plans.fresh:
            return  # what stands there is of before; it is drawn anew when the new plan comes
        plan = self._plan()
        self.problem.setText("\n".join(plan.problems) if plan else self.plans.problem)
        self.problem.setVisible(bool(self.problem.text()))
        if plan is None:
            self.summary.setText("")
            self._empty()
            return
        units, table = self._view.units, self._document.project.material_table()
        currency = self._document.project.workshop.currency
        years = self._document.project.years_of_use
        empty = units.write(sum(v.lift.empty_kg for v in plan.lifts), "mass", 0)
        unit = "mm" if units.name == "metric" else "inches, to 1/32"
        self.summary.setText(
            f"{len(plan.pieces)} pieces of {len(plan.rows)} kinds, {empty} empty; sizes in {unit}"
        )
        self._fill_table(plan)
        self._show_offers()
        self.get.setText(to_get_html(plan, table, units, currency, years))
        self.weights.setText(weights_html(plan, units))
        self.steps.setText(steps_html(plan, units))
        self._show_changes()
        self._say_work()
        self._draw()

    def _show_changes(self) -> None:
        """Show how to make the hive from another one; worked out only where it is looked at."""
        if self._pages.currentIndex() != LISTS.index("change"):
            return
        plan, project = self._plan(), self._document.project
        others = [d for d in project.designs if d.id != self._view.design_id]
        self.before.set_rows([(d.id, d.name) for d in others])
        known = [d.id for d in others]
        of = project.design(self._view.design_id).of
        if of in known and self._before_for != self._view.design_id:
            self._before = of  # a version is made from the one it was copied from
        elif self._before not in known:
            self._before = known[0] if known else ""
        self._before_for = self._view.design_id
        self.before.show_id(self._before)
        if plan is None or not self._before:
            self.changes.setText("")
            return
        old = project.design(self._before)
        rows, _ = listed(old, project.material_table())
        changes = changes_between([p for r in rows for p in r.pieces], plan.pieces)
        lines = change_lines(
            old.name, plan.design.name, changes, self._view.units, project.material_table()
        )
        self.changes.setText("".join(f"<p>{escape(line)}</p>" for line in lines))

    def _show_offers(self) -> None:
        """Show what could be built of what is at hand, each with a button that does it."""
        while (item := self._offers.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.deleteLater()
        self.offer_buttons = []
        for offer in self.plans.offers[:_MOST_OFFERS] if self.plans.fresh else ():
            row = QWidget()
            line = QHBoxLayout(row)
            line.setContentsMargins(0, 0, 0, 0)
            line.addWidget(label(offer_text(offer, self._view.units), "muted", wrap=True), 1)
            button = QPushButton("Change it")
            button.setToolTip("Make the layer as thick as what is at hand; Undo takes it back")
            button.clicked.connect(partial(self.take_offer, offer))
            line.addWidget(button)
            self._offers.addWidget(row)
            self.offer_buttons.append(button)

    def take_offer(self, offer: OwnOffer, *_: object) -> None:
        """Make a layer of the design as thick as what is at hand."""
        design_id, thick = offer.design.id, offer.item.thickness_m
        self._document.edit(
            f"{offer.face} as thick as what is at hand",
            lambda p: set_layer_thickness(p, design_id, offer.face, offer.layer, thick),
        )

    def _fill_table(self, plan: BuildPlan) -> None:
        units, table = self._view.units, self._document.project.material_table()
        self.table.blockSignals(True)
        self.table.setRowCount(len(plan.rows))
        tips = {}
        for at, row in enumerate(plan.rows):
            name = f"{parts_text(row.parts)} · {row_name(row)}"
            material = table[row.piece.material].name
            work = work_text(row, units, plan.panels, plan.joined)
            tip = plain_tip(f"no. {row.number}: {name}, {material}. {work}".strip())
            tips[row.number] = tip
            cells = (str(row.number), str(row.count), size_text(row.piece, units), name, material)
            for column, text in enumerate(cells):
                item = QTableWidgetItem(text)
                item.setToolTip(tip)  # plain already
                if column < 2:
                    item.setTextAlignment(
                        Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
                    )
                self.table.setItem(at, column, item)
        self.drawings.show_tips(tips)
        inch = units is INCH  # fractions take more room than millimetres
        self.table.setColumnWidth(2, 172 if inch else 104)
        self.table.setColumnWidth(4, 64 if inch else 112)
        self._row = min(self._row, len(plan.rows))
        self.table.setCurrentCell(self._row - 1, 0)
        self.table.blockSignals(False)

    def _say_work(self) -> None:
        plan = self._plan()
        if plan is None or not 1 <= self._row <= len(plan.rows):
            self.work.setText("Click a piece, here or in the drawing.")
            return
        row = plan.row_of(self._row)
        work = work_text(row, self._view.units, plan.panels, plan.joined)
        cautions = " ".join(f"! {c}" for c in row.piece.cautions)
        self.work.setText(f"no. {row.number}: {work or 'cut square'}. {cautions}".strip())

    def _draw(self) -> None:
        plan = self._plan()
        if plan is None:
            return
        table, units = self._document.project.material_table(), self._view.units
        shown: list[Drawing]
        if self._picture == "layouts":
            shown = layout_drawings(plan, table, units, self._row)
            self.drawings.show_drawings(shown, flow=True)
        elif self._picture == "stack":
            self.drawings.show_drawings([stack_of(plan, table, units)])
        elif self._picture == "pieces":
            shown = piece_drawings(plan, table, units)
            if self._row:
                shown = [shown[self._row - 1]]
            self.drawings.show_drawings(
                shown, columns=1 if self._row else 2 if units is INCH else 3
            )
        else:
            views = hive_drawings(plan, table, units, self._row)
            shown = [views[4]] if self._picture == "apart" else views[:4]
            self.drawings.show_drawings(shown, columns=1 if len(shown) == 1 else 2)

    def close_plans(self) -> None:
        """Let the work go when the window goes."""
        self.plans.close()


def _table() -> QTableWidget:
    """Return the table of the cut list."""
    table = QTableWidget(0, 5)
    table.setAccessibleName("cut list")
    table.setHorizontalHeaderLabels(["no.", "×", "size", "piece", "material"])
    table.verticalHeader().hide()
    table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
    table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
    table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
    table.setShowGrid(False)
    table.setAlternatingRowColors(False)
    table.setTabKeyNavigation(False)
    table.verticalHeader().setDefaultSectionSize(24)
    head = table.horizontalHeader()
    for column, width in enumerate((30, 26, 104, 0, 112)):
        table.setColumnWidth(column, width)
        mode = QHeaderView.ResizeMode.Interactive if width else QHeaderView.ResizeMode.Stretch
        head.setSectionResizeMode(column, mode)
    head.setMinimumSectionSize(24)
    table.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    return table
