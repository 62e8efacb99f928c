"""Designs and places the tests start from; values are made up."""

from __future__ import annotations

from dataclasses import replace

from calveth.catalogue.shipped import demo_project, shipped_materials
from calveth.core.climate.place import MonthClimate, Place
from calveth.core.hive.design import Design, Shell
from calveth.core.hive.forms import Form, StackedBoxes
from calveth.core.hive.opening import Opening
from calveth.core.materials import Layer, Material

TABLE: dict[str, Material] = {m.id: m for m in shipped_materials()}


def layer(material: str, mm: float) -> Layer:
    """Return a layer by millimetres."""
    return Layer(material=material, thickness_m=mm / 1000)


def slot(width: float = 0.1, height: float = 0.0127, bottom: float = 0.003) -> Opening:
    """Return a low slot in the front [m]."""
    return Opening(
        id="low",
        name="low entrance",
        shape="slot",
        bottom_m=bottom,
        width_m=width,
        height_m=height,
    )


def hole(bottom: float, diameter: float = 0.019, name: str = "high") -> Opening:
    """Return a round hole in the front [m]."""
    return Opening(
        id=name, name=name, shape="hole", bottom_m=bottom, width_m=diameter, height_m=diameter
    )


def box(
    *layers: Layer,
    lid: tuple[Layer, ...] | None = None,
    floor: tuple[Layer, ...] | None = None,
    form: Form | None = None,
    openings: tuple[Opening, ...] | None = None,
    **rest: object,
) -> Design:
    """Return a box hive with the same layers all round unless lid or floor are given."""
    walls = layers or (layer("softwood", 19),)
    design = Design(
        id="test",
        name="test hive",
        form=form or StackedBoxes(frame_count=10, box_count=2),
        shell=Shell(walls=walls, lid=lid or walls, floor=floor or walls),
        openings=(slot(),) if openings is None else openings,
    )
    return replace(design, **rest)  # type: ignore[arg-type]


def steady_place(
    temperature: float = 0.0, humidity: float = 0.85, wind: float = 0.0, swing: float = 6.0
) -> Place:
    """Return a place with twelve like months."""
    month = MonthClimate(
        temperature_degc=temperature,
        daily_swing_k=swing,
        relative_humidity=humidity,
        wind_m_s=wind,
    )
    return replace(demo_project().place, months=(month,) * 12, first_snow_week=0, last_snow_week=0)
