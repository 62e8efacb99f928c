"""Older documents of a project, made into today's: one step a version, over the whole document.

Steps take and return what JSON holds (`dict`, `list`, `str`, numbers), never values of the core,
so that they go on meaning the same when those change. They run on reading, in memory; a file is
rewritten whole by the first edit, never by opening it. Files and JSON share them.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from calveth.store.errors import DocumentError

VERSION = 10
"""Of today's documents, in files and JSON alike."""
Document = dict[str, Any]

# First days of the months, 1 to 365; the calendar of that version.
_FIRST_DAYS = (1, 32, 60, 91, 121, 152, 182, 213, 244, 274, 305, 335)


_SHEETS = (
    "plywood",
    "oriented-board",
    "three-layer-board",
    "particle-board",
    "fibreboard",
    "hardboard",
)


def _only_new_fields(document: Document) -> Document:
    """Versions 2, 3 and 6 to 10 only gained fields, which have defaults."""
    return document


def _version_4(document: Document) -> Document:
    """Version 4: settings of twelve months become periods that begin on a day; sheets say so."""
    made = dict(document)
    for key, change in (("designs", _design_by_days), ("materials", material_as_sheet)):
        if isinstance(document.get(key), list):
            made[key] = [change(item) for item in document[key]]
    return made


def material_as_sheet(material: object) -> object:
    """Sheets of wood, known by six ids before, say so themselves."""
    if not isinstance(material, dict) or material.get("id") not in _SHEETS:
        return material
    return {**material, "is_sheet": True}


def _design_by_days(design: object) -> object:
    if not isinstance(design, dict) or not isinstance(design.get("seasons"), list):
        return design
    months = design["seasons"]
    if not months:
        return {key: value for key, value in design.items() if key != "seasons"}
    if len(months) != 12:
        raise DocumentError(f"seasons: {len(months)} months given; a year has 12")
    periods = [
        {"from_day": first, "setting": setting}
        for first, setting in zip(_FIRST_DAYS, months, strict=True)
    ]
    return {**design, "seasons": {"periods": periods}}


# How materials of the catalogue come to the workshop, where their group does not say it.
_SOLD_AS = {
    "block": (
        "aircrete-light",
        "aircrete",
        "aircrete-dense",
        "brick",
        "sandstone",
    ),
    "cast": (
        "cast-600",
        "cast-1000",
        "cast-1400",
        "dense-concrete",
        "straw-clay",
    ),
    "render": (
        "lime-render",
        "clay-render",
        "mortar",
    ),
    "fill": (
        "cork-granules",
        "shavings",
        "cedar-shavings",
        "sawdust",
        "cellulose",
        "moss",
        "leaves",
    ),
    "trunk": ("tree-trunk",),
    "coat": (
        "paint-white",
        "paint-dark",
        "gloss-paint",
        "oil",
        "wax",
        "bitumen",
    ),
    "cloth": (
        "foil-film",
        "polythene",
        "kraft-paper",
    ),
    "nothing": ("propolis",),
}


def _version_5(document: Document) -> Document:
    """Version 5: materials say how they are sold; all else are fields with defaults."""
    if not isinstance(document.get("materials"), list):
        return document
    return {**document, "materials": [material_as_sold(m) for m in document["materials"]]}


def material_as_sold(material: object) -> object:
    """Blocks, casts, fills and coats, known by their ids before, say so themselves."""
    if not isinstance(material, dict) or "sold_as" in material:
        return material
    for sold_as, ids in _SOLD_AS.items():
        if material.get("id") in ids:
            return {**material, "sold_as": sold_as}
    return material


STEPS: dict[int, Callable[[Document], Document]] = {
    1: _only_new_fields,
    2: _only_new_fields,
    3: _version_4,
    4: _version_5,
    5: _only_new_fields,
    6: _only_new_fields,
    7: _only_new_fields,
    8: _only_new_fields,
    9: _only_new_fields,
}


def upgraded(document: Any, version: int) -> Any:
    """Return a project's document of some version as today's.

    Raises
    ------
    DocumentError
        When a step finds something that version never had.
    """
    if not isinstance(document, dict):
        return document
    for step in range(version, VERSION):
        document = STEPS[step](document)
    return document
