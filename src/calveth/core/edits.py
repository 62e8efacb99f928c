"""Every change a user can make, as a pure function from project to project."""

from __future__ import annotations

from collections.abc import Callable, Container, Iterable, Mapping
from dataclasses import replace

from calveth.core.climate.place import MonthClimate, Place
from calveth.core.colony.colony import Colony
from calveth.core.colony.moved import moved_with_forage
from calveth.core.edits_diary import refuse_change, refuse_removal
from calveth.core.errors import DomainError, of_field
from calveth.core.hive.by_month import change_month
from calveth.core.hive.design import Design, Face, Tightness, Window
from calveth.core.hive.joinery import BLOCK_JOINT_SHARE, BLOCK_LEAST_M, Joinery
from calveth.core.hive.opening import Opening
from calveth.core.hive.plans import by_rules
from calveth.core.hive.season_plan import SeasonPlan, Setting
from calveth.core.materials import Layer, Material
from calveth.core.project import Project
from calveth.core.school import School
from calveth.core.solids.parts import inset_timber
from calveth.core.workshop.stock import Workshop

MORTAR = "mortar"
"""Id of what is between blocks."""


def change_design(project: Project, design_id: str, change: Callable[[Design], Design]) -> Project:
    """Return the project with one design changed.

    Raises
    ------
    DomainError
        When hives were built from it that have entries in the diary.
    """
    old = project.design(design_id)
    new = change(old)
    refuse_change(project, old, new)
    return replace(project, designs=tuple(new if d.id == design_id else d for d in project.designs))


def _change_stack(
    project: Project,
    design_id: str,
    face: Face,
    change: Callable[[tuple[Layer, ...]], tuple[Layer, ...]],
) -> Project:
    def with_stack(design: Design) -> Design:
        stack = change(design.shell.stack(face))
        return replace(design, shell=replace(design.shell, **{face: stack}))

    return change_design(project, design_id, with_stack)


def _at(stack: tuple[Layer, ...], face: Face, index: int) -> Layer:
    if not 0 <= index < len(stack):
        raise DomainError(f"{face} layer", index + 1, f"does not exist; there are {len(stack)}")
    return stack[index]


def set_layer_thickness(
    project: Project, design_id: str, face: Face, index: int, thickness_m: float
) -> Project:
    """Return the project with a layer (0 is outermost) made ``thickness_m`` thick."""

    def change(stack: tuple[Layer, ...]) -> tuple[Layer, ...]:
        layer = _at(stack, face, index)
        try:
            new = replace(layer, thickness_m=thickness_m)
        except DomainError as error:
            raise of_field(error, f"{face} layer {index + 1} thickness") from None
        return (*stack[:index], new, *stack[index + 1 :])

    return _change_stack(project, design_id, face, change)


def change_layer(
    project: Project, design_id: str, face: Face, index: int, layer: Layer, *new: Material
) -> Project:
    """Return the project with a layer replaced; ``new`` materials join the project."""
    for material in new:
        project = add_material(project, material)

    def change(stack: tuple[Layer, ...]) -> tuple[Layer, ...]:
        _at(stack, face, index)
        return (*stack[:index], layer, *stack[index + 1 :])

    return _change_stack(project, design_id, face, change)


def move_layer(project: Project, design_id: str, face: Face, index: int, step: int) -> Project:
    """Return the project with a layer moved outwards (-1) or inwards (+1)."""

    def change(stack: tuple[Layer, ...]) -> tuple[Layer, ...]:
        layer = _at(stack, face, index)
        rest = [*stack[:index], *stack[index + 1 :]]
        at = min(max(index + step, 0), len(rest))
        return (*rest[:at], layer, *rest[at:])

    return _change_stack(project, design_id, face, change)


def set_layer_material(
    project: Project, design_id: str, face: Face, index: int, material: Material
) -> Project:
    """Return the project with a layer of another material, which joins the project if new."""

    def change(stack: tuple[Layer, ...]) -> tuple[Layer, ...]:
        layer = _at(stack, face, index)
        return (*stack[:index], replace(layer, material=material.id), *stack[index + 1 :])

    return _change_stack(add_material(project, material), design_id, face, change)


def add_layer(
    project: Project, design_id: str, face: Face, index: int, material: Material, thickness_m: float
) -> Project:
    """Return the project with a new layer before position ``index`` (0: new outside)."""

    def change(stack: tuple[Layer, ...]) -> tuple[Layer, ...]:
        new = Layer(material=material.id, thickness_m=thickness_m)
        return (*stack[:index], new, *stack[index:])

    return _change_stack(add_material(project, material), design_id, face, change)


def remove_layer(project: Project, design_id: str, face: Face, index: int) -> Project:
    """Return the project without a layer; the last layer of a face cannot go."""

    def change(stack: tuple[Layer, ...]) -> tuple[Layer, ...]:
        _at(stack, face, index)
        if len(stack) == 1:
            raise DomainError(f"{face} layer", 1, "is the last one; a face needs a layer")
        return (*stack[:index], *stack[index + 1 :])

    return _change_stack(project, design_id, face, change)


def add_material(project: Project, material: Material) -> Project:
    """Return the project with a material in it; one already there is kept as it is."""
    if any(known.id == material.id for known in project.materials):
        return project
    return replace(project, materials=(*project.materials, material))


def put_material(project: Project, material: Material) -> Project:
    """Return the project with a material added, or put in the place of the one with its id."""
    if not any(known.id == material.id for known in project.materials):
        return add_material(project, material)
    return replace(
        project,
        materials=tuple(material if m.id == material.id else m for m in project.materials),
    )


def remove_material(project: Project, material_id: str) -> Project:
    """Return the project without a material; one that is built in cannot go."""
    for design in project.designs:
        if material_id in design.material_ids:
            raise DomainError(
                "material", material_id, f"is used in “{design.name}”; choose another there first"
            )
    return replace(project, materials=tuple(m for m in project.materials if m.id != material_id))


def add_design(project: Project, design: Design, materials: Iterable[Material]) -> Project:
    """Return the project with a design at the end; its materials join if they are new."""
    for material in materials:
        project = add_material(project, material)
    return replace(project, designs=(*project.designs, design))


def put_design(project: Project, design: Design, materials: Iterable[Material] = ()) -> Project:
    """Return the project with a design put in the place of the one with its id."""
    for material in materials:
        project = add_material(project, material)
    return change_design(project, design.id, lambda _: design)


def new_design_id(project: Project, stem: str) -> str:
    """Return an id like ``wanted`` that no design has."""
    taken = {d.id for d in project.designs}
    number = next(n for n in range(1, len(taken) + 2) if _numbered(stem, n) not in taken)
    return _numbered(stem, number)


def _numbered(text: str, number: int) -> str:
    return text if number == 1 else f"{text}-{number}"


def set_seasons(project: Project, design_id: str, seasons: SeasonPlan) -> Project:
    """Return the project with another season plan of a design; empty: nothing is changed."""
    return change_design(project, design_id, lambda d: replace(d, seasons=seasons))


def move_act(project: Project, design_id: str, from_day: int, to_day: int) -> Project:
    """Return the project with what a design's plan sets on one day (1 to 365) set on another."""

    def change(design: Design) -> Design:
        periods = design.seasons.periods
        if all(p.from_day != from_day for p in periods):
            raise DomainError("day of the act", from_day, "has none in the season plan")
        moved = [p for p in periods if p.from_day != from_day]
        if any(p.from_day == to_day for p in moved):
            raise DomainError("day of the act", to_day, "has another already; choose a day beside")
        own = next(p for p in periods if p.from_day == from_day)
        plan = SeasonPlan(periods=(*moved, replace(own, from_day=to_day, rule="")))
        return replace(design, seasons=plan)

    return change_design(project, design_id, change)


def set_month_setting(
    project: Project, design_id: str, month: int, change: Callable[[Setting], Setting]
) -> Project:
    """Return the project with the setting of one month (0 to 11) of a design changed."""
    return change_design(project, design_id, lambda d: change_month(d, month, change))


def set_window(
    project: Project, design_id: str, window: Window | None, materials: Iterable[Material] = ()
) -> Project:
    """Return the project with a window in a design, or without one."""
    for material in materials:
        project = add_material(project, material)
    return change_design(project, design_id, lambda d: replace(d, window=window))


def set_school(project: Project, school: School) -> Project:
    """Return the project judged by another school."""
    return replace(project, school=school)


def set_opening(project: Project, design_id: str, opening: Opening) -> Project:
    """Return the project with an opening put in the place of the one with its id, or added."""

    def change(design: Design) -> Design:
        if any(o.id == opening.id for o in design.openings):
            openings = tuple(opening if o.id == opening.id else o for o in design.openings)
        else:
            openings = (*design.openings, opening)
        return replace(design, openings=openings)

    return change_design(project, design_id, change)


def remove_opening(project: Project, design_id: str, opening_id: str) -> Project:
    """Return the project without an opening; the season plan forgets it too."""

    def change(design: Design) -> Design:
        seasons = design.seasons.each(lambda s: s.without(opening_id))
        kept = tuple(o for o in design.openings if o.id != opening_id)
        return replace(design, openings=kept, seasons=seasons)

    return change_design(project, design_id, change)


def set_joints(project: Project, design_id: str, joints: Tightness) -> Project:
    """Return the project with the joints of a design made tighter or looser."""
    return change_design(project, design_id, lambda d: replace(d, joints=joints))


def set_joinery(
    project: Project, design_id: str, joinery: Joinery, materials: Iterable[Material] = ()
) -> Project:
    """Return the project with other joints in a design; their materials join if they are new.

    Mortar or glue between blocks becomes a share of the walls' mineral layers.
    """
    for material in materials:
        project = add_material(project, material)
    table = project.material_table()

    def change(design: Design) -> Design:
        changed = replace(design, joinery=joinery)
        if joinery.blocks == design.joinery.blocks:
            return changed
        walls = tuple(_jointed(y, table, joinery) for y in design.shell.walls)
        return replace(changed, shell=replace(design.shell, walls=walls))

    return change_design(project, design_id, change)


def needs_timber(project: Project, design_id: str, joinery: Joinery) -> bool:
    """Return whether joints ask for timber where the inner board of the walls is none."""
    if joinery.timber:
        return False
    design, table = project.design(design_id), project.material_table()
    asked = (
        joinery.stand == "legs"
        or joinery.corner == "posts"
        or joinery.fixing == "timber spacers"
        or joinery.entrance != "bare"
    )
    inner = table[inset_timber(design.shell.walls, "")]
    return asked and inner.group not in ("wood", "wood board")


def _jointed(layer: Layer, table: Mapping[str, Material], joinery: Joinery) -> Layer:
    """Return a layer with the joints between its blocks; boards and foam stay as they are."""
    mineral = table[layer.material].group == "mineral"
    if not mineral or layer.thickness_m < BLOCK_LEAST_M:
        return layer
    share = BLOCK_JOINT_SHARE[joinery.blocks]
    if share > 0:
        return replace(layer, mixed_with=MORTAR, mixed_share=share)
    return replace(layer, mixed_with="", mixed_share=0.0) if layer.mixed_with == MORTAR else layer


def rename_design(project: Project, design_id: str, name: str) -> Project:
    """Return the project with a design renamed."""
    return change_design(project, design_id, lambda d: replace(d, name=name))


def next_name(name: str, taken: Container[str]) -> str:
    """Return the next free name of a family: “Box” becomes “Box 2”, a copy of that “Box 3”.

    Only a number after other words counts as one: “Box 32 mm” is a name of its own.

    >>> next_name("Box 2", {"Box", "Box 2"})
    'Box 3'
    """
    stem, _, end = name.rpartition(" ")
    root, number = (stem, int(end)) if stem and end.isdecimal() and len(end) < 4 else (name, 1)
    while (candidate := f"{root} {(number := number + 1)}") in taken:
        pass
    return candidate


def duplicate_design(project: Project, design_id: str) -> tuple[Project, str]:
    """Return the project with a copy after the design, and the copy's id."""
    original = project.design(design_id)
    new_id = new_design_id(project, design_id)
    name = next_name(original.name, {d.name for d in project.designs})
    copy = replace(original, id=new_id, name=name, benchmark=False)
    at = project.designs.index(original) + 1
    designs = (*project.designs[:at], copy, *project.designs[at:])
    return replace(project, designs=designs), copy.id


def remove_design(project: Project, design_id: str) -> Project:
    """Return the project without a design; the last one cannot go, nor one that was built."""
    refuse_removal(project, project.design(design_id))
    return replace(project, designs=tuple(d for d in project.designs if d.id != design_id))


def set_place(project: Project, place: Place) -> Project:
    """Return the project at another place; acts that follow rules move to their days there."""
    designs = tuple(
        replace(d, seasons=by_rules(d.seasons, place)) if d.seasons.has_rules else d
        for d in project.designs
    )
    return replace(project, place=place, designs=designs)


def set_weather(project: Project, place: Place, *, move_bees: bool) -> Project:
    """Return the project with the weather of another place; the apiary itself stays as it is.

    What no weather file knows is kept: terrain, shelter, the way the front looks, winter room
    and shade. With ``move_bees`` the year of the colony moves with the forage weeks.
    """
    was = project.place
    there = replace(
        place,
        terrain=was.terrain,
        shelter=was.shelter,
        side_shelter=was.side_shelter,
        facing_deg=was.facing_deg,
        storm_wind_m_s=was.storm_wind_m_s,
        room=was.room,
        shade=was.shade,
    )
    moved = set_place(project, there)
    if not move_bees:
        return moved
    return replace(moved, colony=moved_with_forage(project.colony, was, there))


def set_month(project: Project, month: int, climate: MonthClimate) -> Project:
    """Return the project with one month (0 to 11) of its place changed."""
    months = list(project.place.months)
    months[month] = climate
    return set_place(project, replace(project.place, months=tuple(months)))


def set_workshop(project: Project, workshop: Workshop) -> Project:
    """Return the project with another stock list."""
    return replace(project, workshop=workshop)


def set_colony(project: Project, colony: Colony) -> Project:
    """Return the project with another colony."""
    return replace(project, colony=colony)


def set_values(
    project: Project,
    *,
    honey_price_eur_kg: float | None = None,
    years_of_use: float | None = None,
) -> Project:
    """Return the project with another price of honey or other years of use."""
    return replace(
        project,
        honey_price_eur_kg=project.honey_price_eur_kg
        if honey_price_eur_kg is None
        else honey_price_eur_kg,
        years_of_use=project.years_of_use if years_of_use is None else years_of_use,
    )
