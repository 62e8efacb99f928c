"""What a cutaway is asked to show, and where metres lie on the screen."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from PySide6.QtCore import QPointF, QRectF

from calveth.core.assess.result import MonthlyAssessment
from calveth.core.colony.colony import Colony
from calveth.core.hive.by_month import in_month
from calveth.core.hive.design import Design, Face
from calveth.core.hive.section import Rect, Section, section_of
from calveth.core.materials import Material
from calveth.core.units import METRIC, UnitSystem

Lens = Literal["make-up", "warmth", "wet", "air"]
LENSES: tuple[Lens, ...] = ("make-up", "warmth", "wet", "air")


@dataclass(frozen=True, eq=False)
class Scene:
    """A design with everything its picture needs; ``assessed`` is None while it is worked out."""

    design: Design
    section: Section
    materials: Mapping[str, Material]
    colony: Colony
    assessed: MonthlyAssessment | None
    month: int
    lens: Lens
    chosen: Face | None = None
    units: UnitSystem = METRIC


def scene(
    design: Design,
    materials: Mapping[str, Material],
    colony: Colony,
    assessed: MonthlyAssessment | None,
    month: int,
    lens: Lens,
    chosen: Face | None = None,
    units: UnitSystem = METRIC,
) -> Scene:
    """Return the scene of a design as it is set in a month."""
    design = in_month(design, month)
    section = section_of(design)
    return Scene(design, section, materials, colony, assessed, month, lens, chosen, units)


@dataclass(frozen=True, slots=True)
class Mapping2D:
    """Metres of the section to pixels: one scale for both directions, so it is true to scale."""

    scale: float
    left: float
    bottom: float
    y0: float
    z0: float

    @classmethod
    def fit(cls, outline: Rect, area: QRectF, largest: float = 1e9) -> Mapping2D:
        """Return the mapping that centres ``outline`` in ``area``."""
        width, height = outline.y1 - outline.y0, outline.z1 - outline.z0
        scale = max(1.0, min(area.width() / width, area.height() / height, largest))
        left = area.center().x() - width * scale / 2
        bottom = area.center().y() + height * scale / 2
        return cls(scale, left, bottom, outline.y0, outline.z0)

    def point(self, y: float, z: float) -> QPointF:
        """Return the pixel of a point of the section."""
        return QPointF(
            self.left + (y - self.y0) * self.scale, self.bottom - (z - self.z0) * self.scale
        )

    def rect(self, r: Rect) -> QRectF:
        """Return the pixels of a rectangle of the section."""
        return QRectF(self.point(r.y0, r.z1), self.point(r.y1, r.z0))
