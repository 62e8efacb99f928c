"""Names of hives that nobody has named yet: they follow the make, so that none lies."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from calveth.catalogue.library import shipped_make_ups
from calveth.core.hive.design import Design, Shell
from calveth.core.materials import Layer, Material
from calveth.core.project import Project

# Thinner layers, films and paint, name no hive [m].
_SEEN_M = 0.005


def follow_make(before: Project, after: Project) -> Project:
    """Return a project in which hives that were named after their make still are.

    A hive is while it bears the name and the note of a shipped construction, or the name this
    function gave it; once somebody gives it another, that stays.
    """
    old = {d.id: d for d in before.designs}
    tables = before.material_table(), after.material_table()
    made = []
    for design in after.designs:
        was = old.get(design.id)
        if was is not None and was.shell != design.shell and was.name == design.name:
            design = _renamed(was, design, *tables)  # noqa: PLW2901
        made.append(design)
    return after if tuple(made) == after.designs else replace(after, designs=tuple(made))


def _renamed(
    was: Design, now: Design, before: Mapping[str, Material], after: Mapping[str, Material]
) -> Design:
    root, number = numbered(was.name)
    as_shipped = any(
        m.name == root and m.shell == was.shell and was.note in (m.note, "")
        for m in shipped_make_ups()
    )
    if not as_shipped and root != make_name(was.shell, before):
        return now
    back = next((m for m in shipped_make_ups() if m.shell == now.shell), None)
    name = back.name if back else make_name(now.shell, after)
    # What the catalogue said of the make it was holds no more.
    note = "" if as_shipped and now.note == was.note else now.note
    return replace(now, name=f"{name} {number}" if number else name, note=note)


def numbered(name: str) -> tuple[str, str]:
    """Return a name without the number of its copy, and the number; empty for none.

    >>> numbered("Box 32 mm 2"), numbered("Box 32 mm")
    (('Box 32 mm', '2'), ('Box 32 mm', ''))
    """
    stem, _, end = name.rpartition(" ")
    return (stem, end) if stem and end.isdecimal() and len(end) < 4 else (name, "")


def make_name(shell: Shell, materials: Mapping[str, Material]) -> str:
    """Return what a hive is made of, as short as it can be said: walls, and a lid that differs."""
    walls, lid = _stack_name(shell.walls, materials), _stack_name(shell.lid, materials)
    thickest = max(shell.lid, key=lambda layer: layer.thickness_m, default=None)
    if not walls or lid in (walls, "") or thickest is None:
        return walls or lid or "Hive"
    return f"{walls}, {_short(materials[thickest.material])} lid"


def _stack_name(layers: tuple[Layer, ...], materials: Mapping[str, Material]) -> str:
    seen = [layer for layer in layers if layer.thickness_m >= _SEEN_M]
    if not seen:
        return ""
    thick = max(seen, key=lambda layer: layer.thickness_m)
    name = f"{1000 * thick.thickness_m:g} mm {_short(materials[thick.material])}"
    skin = seen[0].material
    return name if skin == thick.material else f"{name} in {_short(materials[skin])}"


def _short(material: Material) -> str:
    """Return a material as one says it: “Softwood board” is softwood."""
    name = material.name.split(" (")[0].split(",")[0].removesuffix(" board").removesuffix(" block")
    return name[:1].lower() + name[1:]
