"""What a version of a design has another than the one it comes from, in words."""

from __future__ import annotations

from collections.abc import Mapping

from calveth.core.hive.design import FACES, Design
from calveth.core.hive.opening import Opening
from calveth.core.materials import Layer, Material
from calveth.core.project import Project
from calveth.texts.units import METRIC, UnitSystem

_JOINERY = {
    "lid": "lid",
    "floor": "floor",
    "corner": "corners",
    "window_frame": "frame of the window",
    "entrance": "entrance lining",
    "blocks": "joints of the blocks",
    "fixing": "fixing",
    "stand": "stand",
}


def design_changes(
    old: Design, new: Design, materials: Mapping[str, Material], units: UnitSystem = METRIC
) -> list[str]:
    """Return the differences of two versions, a short line each; none for the same hive.

    Names, notes and what logs told are no differences.
    """
    changes: list[str] = []
    if old.form != new.form:
        changes.append("another cavity")
    for face in FACES:
        changes += _layers(face, old.shell.stack(face), new.shell.stack(face), materials, units)
    changes += _openings(old.openings, new.openings, units)
    if old.joints != new.joints:
        changes.append(f"joints {new.joints} instead of {old.joints}")
    for field, words in _JOINERY.items():
        was, now = getattr(old.joinery, field), getattr(new.joinery, field)
        if was != now:
            changes.append(f"{words}: {now} instead of {was}")
    for words, same in (
        ("window", old.window == new.window),
        (
            "shape of the lid",
            (old.lid_shape, old.lid_slope_deg) == (new.lid_shape, new.lid_slope_deg),
        ),
        ("tilt", old.tilt_deg == new.tilt_deg),
        ("tray", old.has_tray == new.has_tray),
        ("details of the build", old.details == new.details),
        ("season plan", old.seasons == new.seasons),
    ):
        if not same:
            changes.append(f"another {words}")
    return changes


def version_sentences(project: Project, design: Design, units: UnitSystem = METRIC) -> list[str]:
    """Return from which version a design comes, what it has another and why; none without one."""
    old = next((d for d in project.designs if d.id == design.of), None)
    if old is None:
        return []
    changes = design_changes(old, design, project.material_table(), units)
    listed_changes = "; ".join(changes) if changes else "nothing is another yet"
    return [
        f"{design.name}, after {old.name}: {listed_changes}.",
        *([design.note] if design.note else []),
    ]


def _layers(
    face: str,
    old: tuple[Layer, ...],
    new: tuple[Layer, ...],
    materials: Mapping[str, Material],
    units: UnitSystem,
) -> list[str]:
    if old == new:
        return []
    if [y.material for y in old] == [y.material for y in new]:
        return [
            f"{face}: {_name(b, materials)} {units.write(b.thickness_m, 'length')} instead of "
            f"{units.write(a.thickness_m, 'length')}"
            for a, b in zip(old, new, strict=True)
            if a.thickness_m != b.thickness_m
        ] or [f"{face}: another fitting"]
    more = [y for y in new if y.material not in {o.material for o in old}]
    less = [y for y in old if y.material not in {n.material for n in new}]
    texts = [f"{_name(y, materials)} {units.write(y.thickness_m, 'length')} added" for y in more]
    texts += [f"{_name(y, materials)} left out" for y in less]
    return [f"{face}: {', '.join(texts)}" if texts else f"{face}: layers in another order"]


def _name(layer: Layer, materials: Mapping[str, Material]) -> str:
    return materials[layer.material].name if layer.material in materials else layer.material


def _openings(old: tuple[Opening, ...], new: tuple[Opening, ...], units: UnitSystem) -> list[str]:
    was, now = {o.id: o for o in old}, {o.id: o for o in new}
    changes = [f"{o.name} added" for o in new if o.id not in was]
    changes += [f"{o.name} closed for good" for o in old if o.id not in now]
    for key in was.keys() & now.keys():
        a, b = was[key], now[key]
        if a == b:
            continue
        sizes = [
            f"{units.write(o.width_m, 'length')} by {units.write(o.height_m, 'length')}"
            for o in (b, a)
        ]
        same = (a.width_m, a.height_m) == (b.width_m, b.height_m)
        changes.append(
            f"{b.name}: changed" if same else f"{b.name}: {sizes[0]} instead of {sizes[1]}"
        )
    return sorted(changes)
