"""The colours of paper, by name; the light window has the same."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType

PRINT: Mapping[str, str] = MappingProxyType(
    {
        "ground": "#f4f3ee",
        "sheet": "#fcfcfa",
        "ink": "#20262b",
        "muted": "#59616a",
        "line": "#cfcdc4",
        "accent": "#0e5f6b",
        "on_accent": "#ffffff",
        "chosen": "#dcebec",
        "water": "#1a63ad",
        "heat": "#a8481a",
        "honey": "#7a5600",
        "night": "#e3e6ea",
        "forage": "#e9eed9",
        "wood": "#f1e3c8",
        "foam": "#eef0f2",
        "stone": "#e2e2df",
        "fill": "#f5f2ea",
    }
)
"""``#rrggbb`` of every colour a shape may name."""
