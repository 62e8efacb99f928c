"""Reads the shipped data files."""

from __future__ import annotations

import json
from functools import cache
from importlib.resources import files
from typing import Any

from calveth.core.materials import Material
from calveth.core.project import Project
from calveth.store.converter import from_document


@cache
def shipped_materials() -> tuple[Material, ...]:
    """Return the shipped materials in the order of the file."""
    return from_document(read_data("materials.json"), tuple[Material, ...])


@cache
def demo_project() -> Project:
    """Return the demo: an invented orchard by an invented lake, six designs, two benchmarks.

    The file says everything but the materials, which come from the catalogue.
    """
    document = read_data("demo.json")
    used = {
        layer["material"]
        for design in document["designs"]
        for stack in design["shell"].values()
        for layer in stack
    } | set(document.pop("also_at_hand"))
    catalogue = read_data("materials.json")
    document["materials"] = [row for row in catalogue if row["id"] in used]
    return from_document(document, Project)


def read_data(name: str) -> Any:
    """Return a shipped JSON document."""
    text = files("calveth.catalogue").joinpath(name).read_text(encoding="utf-8")
    return json.loads(text)
