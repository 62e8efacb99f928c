"""A whole picture of a hive: for the screen, for print and for files, without a window."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter

from calveth.app.cutaway.air import paint_air, paint_air_arrows
from calveth.app.cutaway.around import paint_level, paint_outside, skin_ends
from calveth.app.cutaway.lenses import paint_make_up, paint_wet, paint_wet_marks
from calveth.app.cutaway.painting import paint_hive
from calveth.app.cutaway.sections import paint_section
from calveth.app.cutaway.sun import paint_sun, paint_sun_marks
from calveth.app.cutaway.view import CUT_TEXT, CUTS, Mapping2D, Scene, frame_mapping
from calveth.app.cutaway.warmth import (
    paint_scale,
    paint_warmth,
    paint_warmth_field,
    scale_ends,
)
from calveth.app.cutaway.weight import paint_weight, paint_weight_marks
from calveth.app.theme.palette import Palette
from calveth.app.theme.theme import font

# Room left and right for the words beside the hive, above it, and below [px].
_LEFT, _RIGHT, _ABOVE, _BELOW = 164, 186, 14, 34
# Through the lens Warmth heat leaves by arrows, and a scale lies below.
_ARROW, _SCALE = 44, 74
_WORDS_SHARE = 0.29
_Paint = Callable[[QPainter, Scene, Mapping2D, QRectF, Palette], list[QRectF]]
_WORDS: dict[str, _Paint] = {
    "make-up": paint_make_up,
    "warmth": paint_warmth,
    "wet": paint_wet,
    "air": paint_air,
    "sun": paint_sun,
    "weight": paint_weight,
}


def mapping_of(scene: Scene, area: QRectF, *, small: bool = False, limit: float = 1e9) -> Mapping2D:
    """Return where the metres of a scene lie in an area; ``limit`` is the largest scale [px/m]."""
    if small:
        return frame_mapping(scene, area.adjusted(4, 4, -4, -4), limit)
    warm = scene.lens == "warmth"
    above, below = (_ARROW, _SCALE) if warm else (_ABOVE, _BELOW)
    # In a small window words give way to the hive.
    left, right = (min(most, _WORDS_SHARE * area.width()) for most in (_LEFT, _RIGHT))
    return frame_mapping(scene, area.adjusted(left, above, -right, -below), limit)


def paint_cutaway(
    painter: QPainter,
    scene: Scene,
    area: QRectF,
    p: Palette,
    *,
    small: bool = False,
    limit: float = 1e9,
    ratio: float = 1.0,
) -> list[QRectF]:
    """Draw a scene; return where words stand beside the hive [px].

    ``ratio`` is how many dots of the device a pixel has.
    """
    if scene.way in ("front", "plan") and not small:
        paint_section(painter, scene, area, p, ratio)
        return []
    if scene.way != "upright" and not small:
        _paint_around(painter, scene, area, p)
        return []
    m = mapping_of(scene, area, small=small, limit=limit)
    paint_hive(painter, scene, m, p, ratio)
    if scene.lens == "warmth":
        paint_warmth_field(painter, scene, m, p, small=small)
    if small:
        if scene.lens == "wet":
            paint_wet_marks(painter, scene, m, p, small=True)
        elif scene.lens == "air":
            paint_air_arrows(painter, scene, m, p, small=True)
        elif scene.lens == "sun":
            paint_sun_marks(painter, scene, m, p, small=True)
        elif scene.lens == "weight":
            paint_weight_marks(painter, scene, m, p)
        return []
    _paint_state(painter, scene, area, p)
    return _WORDS[scene.lens](painter, scene, m, area, p)


def _paint_state(painter: QPainter, scene: Scene, area: QRectF, p: Palette) -> None:
    """Say above the hive what is still being worked out."""
    text = ""
    if scene.assessed is None:
        text = "working it out …"
    elif scene.lens == "warmth" and scene.cut in CUTS[1:]:
        text = f"“{CUT_TEXT[scene.cut]}” follows when the shell is worked out"
    if text:
        painter.setPen(p.color("muted"))
        painter.setFont(font(12))
        painter.drawText(area.adjusted(8, 0, 0, 0), Qt.AlignmentFlag.AlignTop, text)


def _paint_around(painter: QPainter, scene: Scene, area: QRectF, p: Palette) -> None:
    """Draw the level cut or the outside, with its scale."""
    level = scene.way == "level"
    ends = scale_ends(scene) if level else skin_ends(scene)
    if level:
        paint_level(painter, scene, area, p, ends)
    else:
        paint_outside(painter, scene, area, p)
    paint_scale(painter, scene, area, p, ends)
