"""Heat and water of several hives as bars: where each watt and each gram goes."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QBrush, QFontMetricsF, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from calveth.app.theme.theme import current, font
from calveth.core.assess.heat_paths import heat_paths
from calveth.core.assess.result import MonthlyAssessment
from calveth.texts.units import UnitSystem

_LEFT, _ROW, _HEAD = 154.0, 25.0, 44.0
# Fill and brush pattern of each part, told apart by pattern as well as by colour.
_HEAT: dict[str, tuple[str, Qt.BrushStyle]] = {
    "lid": ("heat", Qt.BrushStyle.SolidPattern),
    "walls": ("heat", Qt.BrushStyle.BDiagPattern),
    "floor": ("heat", Qt.BrushStyle.Dense5Pattern),
    "window": ("heat", Qt.BrushStyle.CrossPattern),
    "air": ("accent", Qt.BrushStyle.HorPattern),
}
_WATER: dict[str, tuple[str, Qt.BrushStyle]] = {
    "with the air": ("accent", Qt.BrushStyle.HorPattern),
    "through the shell": ("honey", Qt.BrushStyle.BDiagPattern),
    "on the lid": ("water", Qt.BrushStyle.SolidPattern),
    "on walls and window": ("water", Qt.BrushStyle.Dense4Pattern),
    "on the floor": ("water", Qt.BrushStyle.Dense6Pattern),
    "on combs": ("water", Qt.BrushStyle.VerPattern),
}


@dataclass(frozen=True, slots=True)
class Bar:
    """A hive's ledger: its name, the parts in order, and the sum with its unit."""

    name: str
    parts: tuple[tuple[str, float], ...]
    total: str


def heat_bar(monthly: MonthlyAssessment, month: int) -> Bar:
    """Return the heat of a hive in a month by part [W]."""
    parts = tuple((path.part, max(path.watts, 0.0)) for path in heat_paths(monthly, month))
    return Bar(monthly.design.name, parts, f"{sum(v for _, v in parts):.1f} W")


def water_bar(monthly: MonthlyAssessment, month: int, units: UnitSystem) -> Bar:
    """Return the water of a hive in a month by where it goes [g/day]."""
    ledger = monthly.months.water_ledger_g_day(month)
    walls = sum(ledger[k] for k in ("upper wall", "middle wall", "lower wall", "window"))
    parts = (
        ("with the air", max(ledger["with the air"], 0.0)),
        ("through the shell", max(ledger["through the shell"], 0.0)),
        ("on the lid", ledger["lid middle"] + ledger["lid rim"]),
        ("on walls and window", walls),
        ("on the floor", ledger["floor"]),
        ("on combs", ledger["combs and fog"]),
    )
    return Bar(monthly.design.name, parts, units.write(ledger["released"], "water", 0) + " a day")


class LedgerBars(QWidget):
    """Two blocks of bars, heat above and water below, each to one scale."""

    def __init__(self) -> None:
        super().__init__()
        self._heat: tuple[Bar, ...] = ()
        self._water: tuple[Bar, ...] = ()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("heat and water ledgers")

    def sizeHint(self) -> QSize:
        rows = len(self._heat) + len(self._water)
        return QSize(800, int(2 * _HEAD + rows * _ROW + 12))

    def show_bars(self, heat: tuple[Bar, ...], water: tuple[Bar, ...]) -> None:
        """Show other ledgers."""
        self._heat, self._water = heat, water
        self.setFixedHeight(self.sizeHint().height())
        self.setAccessibleDescription(
            "; ".join(
                f"{bar.name} {bar.total}: " + ", ".join(f"{n} {v:.1f}" for n, v in bar.parts if v)
                for bar in (*heat, *water)
            )
        )
        self.update()

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        y = self._block(painter, 0.0, "Heat: where the watts go", self._heat, _HEAT)
        self._block(painter, y + 8, "Water: where the grams go", self._water, _WATER)

    def _block(
        self,
        painter: QPainter,
        y: float,
        title: str,
        bars: tuple[Bar, ...],
        looks: dict[str, tuple[str, Qt.BrushStyle]],
    ) -> float:
        p = current()
        painter.setFont(font(13, bold=True))
        painter.setPen(p.color("ink"))
        painter.drawText(QRectF(0, y, 300, 20), Qt.AlignmentFlag.AlignVCenter, title)
        self._legend(painter, y + 21, looks, bars)
        most = max((sum(v for _, v in bar.parts) for bar in bars), default=1.0) or 1.0
        width = self.width() - _LEFT - 90
        y += _HEAD
        for bar in bars:
            painter.setFont(font(12))
            painter.setPen(p.color("ink"))
            name = QRectF(0, y, _LEFT - 8, _ROW - 4)
            painter.drawText(name, Qt.AlignmentFlag.AlignVCenter, bar.name)
            x = _LEFT
            for part, value in bar.parts:
                if value <= 0:
                    continue
                w = width * value / most
                self._segment(painter, QRectF(x, y + 3, w, _ROW - 9), part, value, looks)
                x += w
            painter.setPen(p.color("ink"))
            total = QRectF(x + 6, y, 90, _ROW - 4)
            painter.drawText(total, Qt.AlignmentFlag.AlignVCenter, bar.total)
            y += _ROW
        return y

    @staticmethod
    def _segment(
        painter: QPainter,
        rect: QRectF,
        part: str,
        value: float,
        looks: dict[str, tuple[str, Qt.BrushStyle]],
    ) -> None:
        p = current()
        color, style = looks[part]
        painter.fillRect(rect, p.color(color, 46))
        painter.fillRect(
            rect, QBrush(p.color(color, 170 if style == Qt.BrushStyle.SolidPattern else 120), style)
        )
        painter.setPen(QPen(p.color("sheet"), 1))
        painter.drawRect(rect)
        text = f"{value:.1f}"
        painter.setFont(font(11))
        metrics = QFontMetricsF(painter.font())
        if rect.width() > metrics.horizontalAdvance(text) + 8:
            box = QRectF(0, 0, metrics.horizontalAdvance(text) + 6, 14)
            box.moveCenter(rect.center())
            painter.fillRect(box, p.color("sheet", 225))
            painter.setPen(p.color("ink"))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    @staticmethod
    def _legend(
        painter: QPainter,
        y: float,
        looks: dict[str, tuple[str, Qt.BrushStyle]],
        bars: tuple[Bar, ...],
    ) -> None:
        p = current()
        painter.setFont(font(12))
        metrics = QFontMetricsF(painter.font())
        used = {name for bar in bars for name, value in bar.parts if value > 0}
        x = _LEFT
        for part, (color, style) in looks.items():
            if part not in used:
                continue
            swatch = QRectF(x, y + 3, 16, 12)
            painter.fillRect(swatch, p.color(color, 46))
            painter.fillRect(swatch, QBrush(p.color(color, 150), style))
            painter.setPen(p.color("muted"))
            text = QRectF(x + 21, y, 200, 18)
            painter.drawText(text, Qt.AlignmentFlag.AlignVCenter, part)
            x += 34 + metrics.horizontalAdvance(part)
