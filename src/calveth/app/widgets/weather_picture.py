"""The weather of a place by day and hour: four carpets under the table of its months."""

from __future__ import annotations

from concurrent.futures import Executor

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QImage, QPainter, QPaintEvent, QPen, QShowEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from calveth.app.jobs import Jobs
from calveth.app.theme.theme import current, font
from calveth.app.widgets.carpet import carpet_image
from calveth.core.climate.air import dew_point_unchecked_degc
from calveth.core.climate.place import Place
from calveth.core.climate.year import YearWeather
from calveth.texts.units import METRIC, UnitSystem

_LEFT, _RIGHT, _CARPET, _GAP = 168.0, 2.0, 23.0, 4.0


class WeatherPicture(QWidget):
    """Works the hours of a place out beside the interface, and paints them."""

    def __init__(self, executor: Executor | None = None) -> None:
        super().__init__()
        self.jobs = Jobs(executor)
        self._wanted: Place | None = None
        self._weather: YearWeather | None = None
        self._units = METRIC
        self._rows: tuple[tuple[str, QImage], ...] = ()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(self.sizeHint().height())
        self.setAccessibleName("weather of the year by day and hour")

    def sizeHint(self) -> QSize:
        return QSize(700, int(4 * (_CARPET + _GAP) + 4))

    @property
    def weather(self) -> YearWeather | None:
        """The hours that are shown."""
        return self._weather

    def show_place(self, place: Place, units: UnitSystem) -> None:
        """Show the hours of a place as soon as they are known, and once they are in sight."""
        if units is not self._units:
            self._units = units
            self.repaint_all()
        if place != self._wanted:
            self._wanted, self._weather, self._rows = place, None, ()
            self.update()
            if self.isVisible():
                self._ask()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        if self._weather is None and self._wanted is not None:
            self._ask()

    def _ask(self) -> None:
        place = self._wanted
        assert place is not None

        def work() -> object:
            from calveth.core.climate.year import year_weather

            return year_weather(place)

        def done(answer: object) -> None:
            assert isinstance(answer, YearWeather)
            self._weather = answer
            self.repaint_all()

        self.jobs.run(work, done)

    def repaint_all(self) -> None:
        """Paint anew, after the look or the units have changed."""
        if self._weather is None:
            return
        p, w, u = current(), self._weather, self._units
        sheet, water, heat = p.color("sheet"), p.color("water"), p.color("heat")

        def t(degc: float) -> str:
            return u.write(degc, "temperature", 0)

        low, high = float(w.temperature_degc.min()), float(w.temperature_degc.max())
        dew = dew_point_unchecked_degc(w.vapour_pressure_pa)
        rain = float(w.rain_mm.sum())
        self._rows = (
            (
                f"outside {t(low)} to {t(high)}",
                carpet_image(w.temperature_degc, [(-15.0, water), (8.0, sheet), (32.0, heat)]),
            ),
            (
                f"sun to {w.global_sun_w_m2.max():.0f} W/m²",
                carpet_image(w.global_sun_w_m2, [(0.0, sheet), (900.0, p.color("honey"))]),
            ),
            (
                f"dew point {t(float(dew.min()))} to {t(float(dew.max()))}",
                carpet_image(dew, [(-10.0, sheet), (20.0, water)]),
            ),
            (
                f"rain {u.write(rain, 'rain', 0)}, and wind",
                carpet_image(
                    w.station_wind_m_s + 20.0 * (w.rain_mm > 0.05),
                    [
                        (0.0, sheet),
                        (10.0, p.color("muted")),
                        (19.9, p.color("muted")),
                        (20.0, water),
                        (30.0, water),
                    ],
                ),
            ),
        )
        made = "made up from the months" if "temperature_degc" in w.made_up else "from the file"
        self.setToolTip(f"Hours {made}; a column is a day, midnight at the foot")
        self.setAccessibleDescription("; ".join(name for name, _ in self._rows))
        self.update()

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        p = current()
        painter.setFont(font(12))
        for k in range(4):
            body = QRectF(_LEFT, 2 + k * (_CARPET + _GAP), self.width() - _LEFT - _RIGHT, _CARPET)
            painter.fillRect(body, p.color("sheet"))
            text = "" if k else "Working out the hours …"
            if self._rows:
                text, image = self._rows[k]
                painter.drawImage(body, image)
            painter.setPen(QPen(p.color("line"), 1))
            painter.drawRect(body)
            painter.setPen(p.color("muted"))
            box = QRectF(6, body.top(), _LEFT - 10, _CARPET)
            painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, text)
