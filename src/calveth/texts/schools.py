"""The schools of wintering in words: what each does, why, and what it judges by.

None is right everywhere.
"""

from __future__ import annotations

from dataclasses import dataclass

from calveth.core.school import School


@dataclass(frozen=True, slots=True, kw_only=True)
class SchoolText:
    """What a school does, why, and what it looks at."""

    does: str
    why: str
    judges: str


SCHOOL_TEXT: dict[School, SchoolText] = {
    "breathing top": SchoolText(
        does="Vent holes in the top rim, a quilt of loose shavings, a space below.",
        why="Carry the moisture off, keep the ceiling dry.",
        judges="No liquid water above the cluster; shavings not soaked.",
    ),
    "sealed warm top": SchoolText(
        does="No upper vent, thick lid and cover, one low entrance.",
        why="Still air, less honey, more CO2, like a tree hollow.",
        judges="Ceiling above dew point always; water only on walls and floor; stores.",
    ),
    "upper entrance": SchoolText(
        does="A small hole high up besides the low one.",
        why="Free of snow and ice; lets warm wet air and CO2 out.",
        judges="An exit in every week of winter; ceiling dry; heat lost.",
    ),
    "high cross-flow": SchoolText(
        does="Openings on two sides high up, none low.",
        why="Air changes sideways above the comb.",
        judges="An exit in every week; ceiling dry; draught on the cluster.",
    ),
    "winter room": SchoolText(
        does="Many hives in a dark room at 4 to 6 °C, its air kept at 35 to 40 % humidity.",
        why="No weather.",
        judges="Humidity and CO2 of the room; a little water for the bees to drink.",
    ),
    "mass before insulation": SchoolText(
        does="Dense thick timber, an outer closet with a thin rising air gap.",
        why="Evens out day and night.",
        judges="Daily swing of the nest; hottest hour.",
    ),
}
