"""What hills and trees leave of sky and sun, in words."""

from __future__ import annotations

import numpy as np

from calveth.core.climate.shade import Shade, height_deg, sky_share
from calveth.core.climate.sun import OBLIQUITY_DEG, sun_path_deg


def shade_sentence(shade: Shade, latitude_deg: float) -> str:
    """Return what is left of the sky over the lid and of the sun on the shortest day."""
    south = latitude_deg < 0
    winter, summer = (6, 0) if south else (0, 6)
    sky = [100.0 * sky_share(shade, shade.through[m]) for m in (winter, summer)]
    course = np.array(sun_path_deg(latitude_deg, OBLIQUITY_DEG if south else -OBLIQUITY_DEG))
    text = f"The lid sees {sky[0]:.0f} % of the sky in winter and {sky[1]:.0f} % in summer. "
    if course.size == 0:
        return text + "The sun does not rise on the shortest day."
    hills = course[:, 0] >= height_deg(shade.hills_deg, course[:, 1])
    free = hills & (course[:, 0] >= height_deg(shade.trees_deg, course[:, 1]))
    return (
        f"{text}On the shortest day the sun is up for {len(course) / 4:.1f} h; it reaches the hive "
        f"for {free.sum() / 4:.1f} h, and for {(hills & ~free).sum() / 4:.1f} h through trees."
    )
