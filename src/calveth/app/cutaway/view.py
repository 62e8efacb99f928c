"""What a cutaway is asked to show, and where metres lie on the screen."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QPolygonF

from calveth.core.assess.result import MonthlyAssessment
from calveth.core.colony.colony import Colony
from calveth.core.hive.by_month import in_month
from calveth.core.hive.design import Design, Face
from calveth.core.materials import Material
from calveth.core.solids.section import Rect, Section, section_of
from calveth.core.solids.shapes import SectionMap
from calveth.texts.units import METRIC, UnitSystem

Lens = Literal["make-up", "warmth", "wet", "air", "sun", "weight"]
LENSES: tuple[Lens, ...] = ("make-up", "warmth", "wet", "air", "sun", "weight")
LENS_TEXT: dict[Lens, str] = {
    "make-up": "Layers",
    "warmth": "Warmth",
    "wet": "Wet",
    "air": "Air",
    "sun": "Sun",
    "weight": "Weight",
}
LENS_TIPS: dict[Lens, str] = {
    "make-up": "What it is made of: layers, sizes, openings",
    "warmth": "How warm the shell is, and where the heat leaves",
    "wet": "Where water or frost gathers, and how far all else is from it",
    "air": "What flows through each opening, and CO2",
    "sun": "What falls on lid and sides, and what a clear sky takes",
    "weight": "What each part weighs, where the hive balances, and what tips it",
}
Cut = Literal["upright", "level", "outside", "front", "plan"]
CUTS: tuple[Cut, ...] = ("upright", "level", "outside")
"""Ways to look at a solved shell through Warmth."""
SECTIONS: tuple[Cut, ...] = ("upright", "front", "plan")
"""Ways to look at the layers."""
CUT_TEXT: dict[Cut, str] = {
    "upright": "cut open",
    "level": "cut level",
    "outside": "from outside",
    "front": "across the frames",
    "plan": "from above",
}

if TYPE_CHECKING:
    from calveth.core.conduction.hive import HiveConduction
    from calveth.core.year.faces import FaceSun


@dataclass(frozen=True, eq=False)
class Scene:
    """A design with everything its picture needs.

    ``assessed`` is None while it is worked out, ``solved`` while the shell is. ``cut`` says how a
    solved shell is looked at through the lens Warmth: cut open, cut level, or from outside.
    ``sun`` is what the faces feel, None while the hours are worked out; ``by_hour`` whether the
    month stands for one hour of it, and ``films_g`` what then stands on each surface [g].
    """

    design: Design
    section: Section
    materials: Mapping[str, Material]
    colony: Colony
    assessed: MonthlyAssessment | None
    month: int
    lens: Lens
    chosen: Face | None = None
    units: UnitSystem = METRIC
    solved: HiveConduction | None = None
    cut: Cut = "upright"
    sun: FaceSun | None = None
    by_hour: bool = False
    films_g: tuple[float, ...] | None = None

    @property
    def way(self) -> Cut:
        """How the hive is cut in the picture; Layers, and Warmth when it is solved, may choose."""
        if self.lens == "make-up":
            return self.cut if self.cut in SECTIONS else "upright"
        solved = self.lens == "warmth" and self.solved and self.assessed
        return self.cut if solved and self.cut in CUTS else "upright"


def scene(
    design: Design,
    materials: Mapping[str, Material],
    colony: Colony,
    assessed: MonthlyAssessment | None,
    month: int,
    lens: Lens,
    chosen: Face | None = None,
    units: UnitSystem = METRIC,
    solved: HiveConduction | None = None,
    cut: Cut = "upright",
    sun: FaceSun | None = None,
    *,
    as_set: Design | None = None,
    films_g: tuple[float, ...] | None = None,
) -> Scene:
    """Return the scene of a design as it is set in a month, or ``as_set`` at one hour of it."""
    shown = in_month(design, month) if as_set is None else as_set
    return Scene(
        shown,
        section_of(shown),
        materials,
        colony,
        assessed,
        month,
        lens,
        chosen,
        units,
        solved,
        cut,
        sun,
        as_set is not None,
        films_g,
    )


def frame_mapping(scene: Scene, area: QRectF, largest: float = 1e9) -> Mapping2D:
    """Return where the metres of a scene lie in an area."""
    return Mapping2D.fit(scene.section.frame(), area, largest, scene.section.bend)


@dataclass(frozen=True, slots=True)
class Mapping2D:
    """Metres of the section to pixels: one scale for both directions, so it is true to scale.

    Points are those of the box the hive is described as; ``bend`` puts them where they are.
    """

    scale: float
    left: float
    bottom: float
    y0: float
    z0: float
    bend: SectionMap | None = None

    @classmethod
    def fit(
        cls, outline: Rect, area: QRectF, largest: float = 1e9, bend: SectionMap | None = None
    ) -> Mapping2D:
        """Return the mapping that centres ``outline``, as it lies in the hive, in ``area``."""
        width, height = outline.y1 - outline.y0, outline.z1 - outline.z0
        scale = max(1.0, min(area.width() / width, area.height() / height, largest))
        left = area.center().x() - width * scale / 2
        bottom = area.center().y() + height * scale / 2
        return cls(scale, left, bottom, outline.y0, outline.z0, bend)

    def placed(self, y: float, z: float) -> QPointF:
        """Return the pixel of a point that is where it lies in the hive."""
        return QPointF(
            self.left + (y - self.y0) * self.scale, self.bottom - (z - self.z0) * self.scale
        )

    def point(self, y: float, z: float) -> QPointF:
        """Return the pixel of a point of the section."""
        if self.bend is not None:
            y, z = (float(v) for v in self.bend.place(y, z))
        return self.placed(y, z)

    def shape(self, r: Rect) -> QPolygonF:
        """Return the outline of a rectangle of the section as it lies in the hive."""
        if self.bend is None:
            return QPolygonF(self.rect(r))
        return QPolygonF(
            [self.placed(y, z) for y, z in self.bend.outline_m(r.y0, r.y1, r.z0, r.z1).tolist()]
        )

    def rect(self, r: Rect) -> QRectF:
        """Return the pixels of a rectangle of the section, or those round its shape."""
        if self.bend is not None:
            return self.shape(r).boundingRect()
        return QRectF(self.placed(r.y0, r.z1), self.placed(r.y1, r.z0))
