"""Flows as people count them; everything else in the core is SI with °C for temperatures."""

from __future__ import annotations


def litres_per_hour(flow_m3_s: float) -> float:
    """Return a volume flow [m³/s] in litres an hour."""
    return flow_m3_s * 3.6e6


def grams_per_day(flow_kg_s: float) -> float:
    """Return a mass flow [kg/s] in grams a day."""
    return flow_kg_s * 8.64e7
