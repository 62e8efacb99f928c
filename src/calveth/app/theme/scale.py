"""The colour scale of temperatures: evenly lighter from cold to warm, so it reads in grey too."""

from __future__ import annotations

from PySide6.QtGui import QColor

# Stops whose lightness (CIE L*) rises in even steps from 26 to 92; a test holds it.
_STOPS = ("#2b3a67", "#3f5c8c", "#5f7f9f", "#8aa0a8", "#bcbba6", "#e3cf9b", "#f9e7b6")


def temperature_color(degc: float, low: float, high: float) -> QColor:
    """Return the colour of a temperature between the two ends of the scale [°C]."""
    span = max(high - low, 1e-6)
    at = min(max((degc - low) / span, 0.0), 1.0) * (len(_STOPS) - 1)
    k = min(int(at), len(_STOPS) - 2)
    a, b, share = QColor(_STOPS[k]), QColor(_STOPS[k + 1]), at - k
    return QColor(
        round(a.red() + share * (b.red() - a.red())),
        round(a.green() + share * (b.green() - a.green())),
        round(a.blue() + share * (b.blue() - a.blue())),
    )


def ink_on(color: QColor) -> QColor:
    """Return black or white, whichever reads better on a colour."""
    light = 0.2126 * color.redF() + 0.7152 * color.greenF() + 0.0722 * color.blueF()
    return QColor("#14181b") if light > 0.42 else QColor("#ffffff")
