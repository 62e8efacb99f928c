"""The profiles through walls, lid and floor side by side, for the report."""

from __future__ import annotations

from PySide6.QtCore import QPoint
from PySide6.QtGui import QImage, QPainter, QRegion

from calveth.app.theme.theme import current, font
from calveth.app.view_state import ViewState
from calveth.app.widgets.profile_plot import ProfilePlot
from calveth.core.assess.moments import FACE_ZONE
from calveth.core.assess.whole import WholeAssessment
from calveth.core.hive.by_month import in_month
from calveth.core.hive.design import FACES
from calveth.core.project import Project
from calveth.core.units import UnitSystem

_WIDE, _TALL, _HEAD = 300, 300, 24


def profile_image(
    whole: WholeAssessment, project: Project, month: int, units: UnitSystem, scale: float = 1.6
) -> QImage:
    """Return the three profiles of a month as one image."""
    width, height = _WIDE * len(FACES), _TALL + _HEAD
    image = QImage(int(width * scale), int(height * scale), QImage.Format.Format_ARGB32)
    image.setDevicePixelRatio(scale)
    image.fill(current().color("sheet"))
    painter = QPainter(image)
    view = ViewState(whole.monthly.design.id, month)
    view.set_units(units)
    months, table = whole.monthly.months, project.material_table()
    design = in_month(whole.monthly.design, month)
    for number, face in enumerate(FACES):
        plot = ProfilePlot(view)
        plot.resize(_WIDE, _TALL)
        plot.show_profile(
            face,
            design.shell.stack(face),
            table,
            months.profile(face, month, table),
            float(months.outside.temperature_degc[month]),
            float(months.balance.temperature_degc[FACE_ZONE[face], month]),
        )
        painter.setFont(font(13, bold=True))
        painter.setPen(current().color("ink"))
        painter.drawText(number * _WIDE + 40, 17, f"through the {face}")
        plot.render(painter, QPoint(number * _WIDE, _HEAD), QRegion(), ProfilePlot.RenderFlag(0))
        plot.deleteLater()
    painter.end()
    return image
