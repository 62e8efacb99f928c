"""The stock list: sizes at hand or for sale with their prices, and the tools; out and in as CSV."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any, get_args

from PySide6.QtWidgets import (
    QAbstractItemView,
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from calveth.app.document import Document
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import label
from calveth.app.widgets.quantity import QuantityField
from calveth.catalogue.library import shipped_stock, workshop_of
from calveth.core.edits import set_workshop
from calveth.core.errors import CalvethError, DomainError
from calveth.core.workshop.stock import Currency, StockItem, Workshop
from calveth.store.stock_file import read_stock, stock_rows
from calveth.store.tables import write_csv
from calveth.texts.units import parse_quantity, sentence_of, to_unit

_COLUMNS = (
    "name",
    "kind",
    "fits",
    "length",
    "width",
    "thickness",
    "price",
    "have",
    "buy more",
)
_PRICE = _COLUMNS.index("price")
_LENGTHS = {"length": "length_m", "width": "width_m", "thickness": "thickness_m"}
_TOOLS: tuple[tuple[str, str, str], ...] = (
    ("kerf_m", "kerf of the saw", "saw cut"),
    ("block_kerf_m", "kerf of the block saw", "block saw cut"),
    ("trim_m", "trim", "trimmed off ends and edges"),
    ("tolerance_m", "tolerance of the tools", "tools exact to"),
)


class StockDialog(QDialog):
    """Edits the stock list of the project; every change is an edit that can be undone."""

    def __init__(
        self,
        document: Document,
        view: ViewState,
        ask_open: Callable[[], Path | None],
        ask_save: Callable[[], Path | None],
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self._document, self._view = document, view
        self._ask_open, self._ask_save = ask_open, ask_save
        self.setWindowTitle("Stock list of this project")
        self.resize(900, 580)
        self.problem = label(role="wrong", wrap=True)
        self.table = QTableWidget(0, len(_COLUMNS))
        self.table.setAccessibleName("sizes that can be bought or are at hand")
        self.table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.table.verticalHeader().hide()
        self.table.verticalHeader().setDefaultSectionSize(24)
        head = self.table.horizontalHeader()
        for number, width in enumerate((200, 60, 96, 86, 80, 104, 76, 56)):
            self.table.setColumnWidth(number, width)
            head.setSectionResizeMode(number, QHeaderView.ResizeMode.Interactive)
        head.setStretchLastSection(True)
        self.table.cellChanged.connect(self._cell_changed)
        self.fields: dict[str, QuantityField] = {}
        column = QVBoxLayout(self)
        column.addWidget(
            label(
                "“fits” is a material or a group (wood, wood board, foam, plant and wool, mineral, "
                "metal, glass and plastic); thickness 0 is any the material is sold in; without a "
                "price the material's price by volume counts. What you have is cut first and costs "
                "nothing; “buy more: no” is what you have and cannot get again.",
                "muted",
                wrap=True,
            )
        )
        column.addLayout(self._tools())
        column.addWidget(self.table, 1)
        column.addWidget(self.problem)
        column.addLayout(self._buttons())
        for button in self.findChildren(QPushButton):
            button.setAutoDefault(False)  # Return in a cell takes it, it presses nothing
        document.changed.connect(self._fill)
        self._fill()

    def _tools(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        for at, (field, name, heading) in enumerate(_TOOLS):
            made = QuantityField(name, "length", self._view, self._setter(field), digits=1)
            made.refused.connect(self.problem.setText)
            self.fields[field] = made
            grid.addWidget(label(heading, "muted"), 0, at)
            grid.addWidget(made, 1, at)
        rows = [(c, c) for c in get_args(Currency)]
        self.currency = Choice("currency of the prices", rows, self._set_currency)
        grid.addWidget(label("prices in", "muted"), 0, len(_TOOLS))
        grid.addWidget(self.currency, 1, len(_TOOLS))
        return grid

    def _buttons(self) -> QHBoxLayout:
        line = QHBoxLayout()
        for text, act in (
            ("Add a size", self.add),
            ("Remove", self.remove),
            ("Metric list", lambda: self.take_list(0)),
            ("Inch list", lambda: self.take_list(1)),
            ("Import …", self.import_file),
            ("Export …", self.export_file),
        ):
            button = QPushButton(text)
            button.clicked.connect(lambda _=False, act=act: act())
            line.addWidget(button)
        line.addStretch()
        close = QPushButton("Close")
        close.clicked.connect(self.accept)
        line.addWidget(close)
        return line

    def _workshop(self) -> Workshop:
        return workshop_of(self._document.project)

    def _put(self, text: str, workshop: Workshop) -> None:
        self._document.edit(text, lambda p: set_workshop(p, workshop))
        self.problem.setText("")

    def _try(self, text: str, change: Callable[[Workshop], Workshop]) -> None:
        """Change the list; a refusal is said and the cells go back."""
        try:
            self._put(text, change(self._workshop()))
        except CalvethError as error:
            self.problem.setText(sentence_of(error, self._view.units))
            self._fill()

    def _setter(self, field: str) -> Callable[[float], None]:
        def put(value: float) -> None:
            changed: dict[str, Any] = {field: value}
            self._put(field, replace(self._workshop(), **changed))

        return put

    def _set_currency(self, key: str) -> None:
        self._try("currency", lambda w: replace(w, currency=key))  # type: ignore[arg-type]

    # -- acts ----------------------------------------------------------------------------------
    def add(self) -> None:
        """Add a size like the one that is chosen."""
        items = self._workshop().items
        at = max(self.table.currentRow(), 0)
        like = (
            items[at]
            if items
            else StockItem(name="board", kind="board", fits="wood", length_m=2.0, width_m=0.145)
        )
        new = replace(like, name=f"{like.name}, own", have=1)
        self._try(
            "new size", lambda w: replace(w, items=(*w.items[: at + 1], new, *w.items[at + 1 :]))
        )
        self.table.setCurrentCell(at + 1, 0)

    def remove(self) -> None:
        """Take the selected sizes out of the list; one stays."""
        gone = {index.row() for index in self.table.selectionModel().selectedRows()}
        items = self._workshop().items
        kept = tuple(item for at, item in enumerate(items) if at not in gone)
        if not gone or not kept:
            self.problem.setText("Select the sizes to remove; one has to stay in the list.")
            return
        self._try("sizes removed", lambda w: replace(w, items=kept))
        self.table.clearSelection()
        self.problem.setText(f"removed {len(gone)} of {len(items)}; Undo brings them back")

    def import_file(self) -> None:
        """Take the sizes of a CSV file in the place of this list."""
        path = self._ask_open()
        if path is None:
            return
        try:
            items = read_stock(path)
        except CalvethError as error:
            self.problem.setText(str(error))
            return
        self._try("stock list", lambda w: replace(w, items=items))
        if not self.problem.text():
            self.problem.setText(f"read {len(items)} sizes from {path.name}")

    def take_list(self, number: int) -> None:
        """Take a shipped list in the place of this one."""
        self._try("stock list", lambda _: shipped_stock()[number].workshop)

    def export_file(self) -> None:
        """Write the list as CSV."""
        path = self._ask_save()
        if path is None:
            return
        try:
            write_csv(path, stock_rows(self._workshop()))
            self.problem.setText(f"wrote {path.name}")
        except CalvethError as error:
            self.problem.setText(str(error))

    def _cell_changed(self, row: int, column: int) -> None:
        item = self.table.item(row, column)
        text = "" if item is None else item.text().strip()
        name = _COLUMNS[column]

        def change(workshop: Workshop) -> Workshop:
            changed: dict[str, Any]
            if name in _LENGTHS:
                unit = self._view.units.unit("length")
                value = parse_quantity(text, "length", unit, f"{name} of the stock")
                changed = {_LENGTHS[name]: value}
            elif name == "price":
                price = parse_quantity(text, "number", "", "price of the stock") if text else None
                changed = {"price": price}
            elif name == "have":
                count = parse_quantity(text or "0", "number", "", "number you have")
                changed = {"have": int(count) if count == int(count) else count}
            elif name == "buy more":
                changed = {"more": _yes(text)}
            else:
                changed = {name: text}
            items = list(workshop.items)
            items[row] = replace(items[row], **changed)
            return replace(workshop, items=tuple(items))

        self._try(f"{name} of the stock", change)

    # -- shows ---------------------------------------------------------------------------------
    def _fill(self, *_: object) -> None:
        workshop, units = self._workshop(), self._view.units
        unit = units.unit("length")
        heads = [f"{c} [{unit}]" if c in _LENGTHS else c for c in _COLUMNS]
        heads[_PRICE] = f"price [{workshop.currency}]"
        self.table.blockSignals(True)
        self.table.setHorizontalHeaderLabels(heads)
        self.table.setRowCount(len(workshop.items))
        for row, item in enumerate(workshop.items):
            cells = [item.name, item.kind, item.fits]
            cells += [
                f"{round(to_unit(getattr(item, field), 'length', unit), 3):g}"
                for field in _LENGTHS.values()
            ]
            cells.append("" if item.price is None else f"{item.price:g}")
            cells += [str(item.have) if item.have else "", "yes" if item.more else "no"]
            for column, text in enumerate(cells):
                known = self.table.item(row, column)
                if known is None:
                    self.table.setItem(row, column, QTableWidgetItem(text))
                elif known.text() != text:
                    known.setText(text)
        self.table.blockSignals(False)
        for field, widget in self.fields.items():
            widget.set_value(getattr(workshop, field))
        self.currency.show_id(workshop.currency)


def _yes(text: str) -> bool:
    """Return what a cell of yes or no says.

    Raises
    ------
    DomainError
        When it says neither.
    """
    answer = text.lower()
    if answer not in ("yes", "y", "no", "n"):
        raise DomainError("buy more", text, "is neither yes nor no; type one of them")
    return answer.startswith("y")
