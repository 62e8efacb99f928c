"""A year as a carpet: a column for each day, a row for each hour, a colour for each value."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray
from PySide6.QtGui import QColor, QImage

FloatArray = NDArray[np.float64]
Stops = Sequence[tuple[float, QColor]]


def carpet_image(by_hour: FloatArray, stops: Stops) -> QImage:
    """Return hours [8760] as an image of 365 by 24 pixels, midnight at the bottom."""
    return grid_image(np.flipud(np.asarray(by_hour, dtype=float).reshape(-1, 24).T), stops)


def grid_image(values: FloatArray, stops: Stops) -> QImage:
    """Return values [rows, columns] as an image, its first row at the top.

    Colours run between the ``stops`` and stand still beyond them; what is no number is left clear.
    """
    at = np.array([value for value, _ in stops])
    parts = []
    for part in ("blue", "green", "red"):
        colors = np.array([getattr(color, part)() for _, color in stops], dtype=float)
        parts.append(np.interp(values, at, colors))
    alpha = np.array([color.alpha() for _, color in stops], dtype=float)
    parts.append(np.where(np.isfinite(values), np.interp(values, at, alpha), 0.0))
    pixels = np.ascontiguousarray(np.nan_to_num(np.stack(parts, axis=-1)).astype(np.uint8))
    rows, columns = values.shape
    image = QImage(pixels.data, columns, rows, 4 * columns, QImage.Format.Format_ARGB32)
    return image.copy()  # the pixels belong to NumPy
