"""The profiles through walls, lid and floor side by side, for the report."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QPainter

from calveth.app.theme.palette import LIGHT
from calveth.app.theme.theme import font
from calveth.app.view_state import ViewState
from calveth.app.widgets.profile_plot import ProfilePlot
from calveth.core.advice.dossier import Dossier
from calveth.core.assess.readings import FACE_ZONE
from calveth.core.hive.by_month import in_month
from calveth.core.hive.design import FACES
from calveth.core.project import Project
from calveth.texts.units import UnitSystem

_WIDE, _TALL, _HEAD = 300, 300, 24
PROFILES_SIZE = (_WIDE * len(FACES), _TALL + _HEAD)
"""Width and height the profiles are drawn at [px]."""


def paint_profiles(
    painter: QPainter, dossier: Dossier, project: Project, month: int, units: UnitSystem
) -> None:
    """Draw the three profiles of a month side by side."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.fillRect(QRectF(0, 0, *PROFILES_SIZE), LIGHT.color("sheet"))
    view = ViewState(dossier.monthly.design.id, month)
    view.set_units(units)
    months, table = dossier.monthly.months, project.material_table()
    design = in_month(dossier.monthly.design, month)
    for number, face in enumerate(FACES):
        plot = ProfilePlot(view)
        plot.show_profile(
            face,
            design.shell.stack(face),
            table,
            months.profile(face, month),
            float(months.outside.temperature_degc[month]),
            float(months.balance.temperature_degc[FACE_ZONE[face], month]),
        )
        painter.setFont(font(13, bold=True))
        painter.setPen(LIGHT.color("ink"))
        painter.drawText(QPointF(number * _WIDE + 40, 17), f"through the {face}")
        painter.save()
        painter.translate(number * _WIDE, _HEAD)
        plot.paint(painter, _WIDE, _TALL, LIGHT)
        painter.restore()
        plot.deleteLater()
