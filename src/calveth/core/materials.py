"""What a shell is made of: materials, and layers of them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from math import exp
from typing import Literal, get_args

from calveth.core.constants import (
    DESIGN_TEMPERATURE,
    FILM_THICKNESS,
    WOOD_CONDUCTIVITY_DRY,
    WOOD_CONDUCTIVITY_MOISTURE,
    WOOD_CONDUCTIVITY_OFFSET,
    Certainty,
)
from calveth.core.errors import (
    DomainError,
    require_between,
    require_choice,
    require_note,
    require_text,
)
from calveth.core.remembered import remembered

# Up to this dry μ a block or a cloth is called open; an estimate.
_OPEN_MU = 20
_NEW_LAYER_M = 0.02
# Pores fill from here on, and the two tabulated points say no more.
_PORES_FILL = 0.95

Hatch = Literal[
    "grain",
    "beads",
    "pores",
    "foam",
    "foil",
    "air",
    "shavings",
    "stone",
    "plain",
    "glass",
    "cork",
    "straw",
    "brick",
]
MaterialKind = Literal["solid", "air gap", "film"]
Group = Literal[
    "wood",
    "wood board",
    "foam",
    "plant and wool",
    "mineral",
    "glass and plastic",
    "metal",
    "sheet",
    "film",
    "air",
]
Fitting = Literal["fixed", "quilt", "cover"]
SoldAs = Literal[
    "",
    "board",
    "sheet",
    "block",
    "cast",
    "render",
    "fill",
    "coat",
    "cloth",
    "trunk",
    "nothing",
]


_SOLD_AS: dict[str, SoldAs] = {"wood": "board", "sheet": "cloth", "film": "coat"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Material:
    """One material with its design values.

    Attributes
    ----------
    id : str
        Key by which layers refer to it; never changes.
    name : str
        What the beekeeper calls it.
    kind : str
        ``solid``; ``air gap``, whose resistance follows EN ISO 6946 instead of a conductivity; or
        ``film``, a coat or foil that counts by its sd value and by the look of its surface.
    group : str
        Where it stands in a list.
    conductivity_w_mk : float
        Design thermal conductivity [W/(m·K)] at 10 °C and the moisture it has at 23 °C and 50 %;
        not used for an air gap.
    density_kg_m3 : float
        [kg/m³].
    specific_heat_j_kgk : float
        [J/(kg·K)].
    vapour_resistance_factor : float
        μ [-], dry cup; not used for a film.
    wet_vapour_resistance_factor : float or None
        μ [-], wet cup; None takes the dry one.
    film_sd_m : float
        Vapour resistance of a film as a layer of still air [m].
    moisture_conversion, temperature_conversion_1_k : float
        fu [kg/kg] and fT [1/K] of λ2 = λ1·exp(fu·(u2 - u1) + fT·(T2 - T1)), EN ISO 10456.
    moisture_50, moisture_80 : float
        Moisture content by mass at 23 °C and 50 % and 80 % relative humidity [kg/kg].
    buffer_value_g_m2 : float
        Practical moisture buffer value [g/(m²·%RH)].
    water_absorption_kg_m2_h05 : float
        Water absorption coefficient [kg/(m²·√h)].
    solar_absorptance, emissivity : float
        Of the surface [-]; emissivity also of the surfaces that face an air gap.
    price_eur_m3 : float
        Rough price [€/m³]; of a film [€/m²].
    stock_m : tuple of float
        Thicknesses it is sold or sawn in [m].
    hatch : str
        Pattern it is drawn with.
    is_sheet : bool
        Whether it is a sheet of crossed or chopped wood, whose fibres run along no one axis.
    sold_as : SoldAs
        How it comes to the workshop; empty is as its group does (`bought_as`).
    bee_safe_bare : bool
        Whether bees may touch it; foam may not.
    cautions : tuple of str
        Shown beside the layer.
    source, certainty : str
        Where the values come from and how sure they are.
    """

    id: str
    name: str
    kind: MaterialKind = "solid"
    group: Group = "wood"
    conductivity_w_mk: float
    density_kg_m3: float
    specific_heat_j_kgk: float
    vapour_resistance_factor: float
    wet_vapour_resistance_factor: float | None = None
    film_sd_m: float = 0.0
    moisture_conversion: float = 0.0
    temperature_conversion_1_k: float = 0.0
    moisture_50: float = 0.0
    moisture_80: float = 0.0
    buffer_value_g_m2: float = 0.0
    water_absorption_kg_m2_h05: float = 0.0
    solar_absorptance: float = 0.6
    emissivity: float = 0.9
    price_eur_m3: float = 0.0
    stock_m: tuple[float, ...] = ()
    hatch: Hatch = "plain"
    is_sheet: bool = False
    sold_as: SoldAs = ""
    bee_safe_bare: bool = True
    cautions: tuple[str, ...] = ()
    source: str
    certainty: Certainty

    def __post_init__(self) -> None:
        require_text("material id", self.id)
        where = f"material “{self.name or self.id}”"
        require_text(f"{where} name", self.name)
        require_choice(f"{where} kind", self.kind, get_args(MaterialKind))
        require_choice(f"{where} group", self.group, get_args(Group))
        for field, value, low, high, unit in (
            ("conductivity", self.conductivity_w_mk, 0.005, 500, "W/(m·K)"),
            ("density", self.density_kg_m3, 0.5, 12000, "kg/m³"),
            ("specific heat", self.specific_heat_j_kgk, 100, 5000, "J/(kg·K)"),
            ("vapour resistance factor", self.vapour_resistance_factor, 1, 1e7, ""),
            ("wet vapour resistance factor", self.mu_wet, 1, 1e7, ""),
            ("sd value", self.film_sd_m, 0, 1e5, "m"),
            ("moisture conversion", self.moisture_conversion, 0, 20, ""),
            ("temperature conversion", self.temperature_conversion_1_k, 0, 0.02, "1/K"),
            ("moisture at 50 %", self.moisture_50, 0, 1, "kg/kg"),
            ("moisture at 80 %", self.moisture_80, self.moisture_50, 1, "kg/kg"),
            ("moisture buffer value", self.buffer_value_g_m2, 0, 20, "g/(m²·%)"),
            ("water absorption", self.water_absorption_kg_m2_h05, 0, 60, "kg/(m²·√h)"),
            ("solar absorptance", self.solar_absorptance, 0.01, 1, ""),
            ("emissivity", self.emissivity, 0.01, 1, ""),
            ("price", self.price_eur_m3, 0, 1e6, "€/m³"),
        ):
            require_between(f"{where} {field}", value, low, high, unit)
        if self.kind == "film" and self.film_sd_m <= 0:
            raise DomainError(
                f"{where} sd value", self.film_sd_m, "m must be above zero for a film"
            )
        for size in self.stock_m:
            require_between(f"{where} stock thickness", size, 0.0001, 1.0, "m")
        for caution in self.cautions:
            require_note(f"{where} caution", caution)
        require_note(f"{where} source", self.source)
        require_choice(f"{where} hatch", self.hatch, get_args(Hatch))
        require_choice(f"{where} way of sale", self.sold_as, get_args(SoldAs))
        require_choice(f"{where} certainty", self.certainty, get_args(Certainty))

    @property
    def bought_as(self) -> SoldAs:
        """How it comes to the workshop: as said, or as its group does."""
        if self.sold_as:
            return self.sold_as
        if self.kind == "air gap":
            return "nothing"
        return _SOLD_AS.get(self.group, "sheet")

    @property
    def is_open_pored(self) -> bool:
        """Whether gases pass its pores: air, loose and woolly fills, open mineral blocks, cloth.

        By its group and a dry μ of at most 20.
        """
        if self.kind == "air gap":
            return True
        open_group = self.group in ("mineral", "plant and wool", "sheet")
        return self.kind == "solid" and open_group and self.vapour_resistance_factor <= _OPEN_MU

    @property
    def mu_wet(self) -> float:
        """Wet-cup vapour resistance factor [-]."""
        wet = self.wet_vapour_resistance_factor
        return self.vapour_resistance_factor if wet is None else wet

    @property
    def new_layer_m(self) -> float:
        """Thickness a new layer of it starts with [m]."""
        if self.kind == "film":
            return FILM_THICKNESS.value
        return self.stock_m[len(self.stock_m) // 2] if self.stock_m else _NEW_LAYER_M

    def moisture_content(self, relative_humidity: float) -> float:
        """Return the moisture content [kg/kg] at a humidity (0 to 1).

        Straight through the two tabulated points and not beyond 95 %, from where pores fill.
        """
        slope = (self.moisture_80 - self.moisture_50) / (0.8 - 0.5)
        return max(0.0, self.moisture_50 + slope * (min(relative_humidity, _PORES_FILL) - 0.5))

    def conductivity_at(self, temperature_degc: float, moisture: float) -> float:
        """Return λ [W/(m·K)] at a mean temperature [°C] and a moisture content [kg/kg].

        λ2 = λ1·exp(fu·(u2 - u1) + fT·(T2 - T1)), EN ISO 10456:2007, clause 7.
        """
        return self.conductivity_w_mk * exp(
            self.moisture_conversion * (moisture - self.moisture_50)
            + self.temperature_conversion_1_k * (temperature_degc - DESIGN_TEMPERATURE.value)
        )

    def sd_m(self, thickness_m: float, *, wet: bool = False) -> float:
        """Return the equivalent layer of still air of a thickness [m]."""
        if self.kind == "film":
            return self.film_sd_m
        if self.kind == "air gap":
            return thickness_m
        return thickness_m * (self.mu_wet if wet else self.vapour_resistance_factor)

    @property
    def has_grain(self) -> bool:
        """Whether it conducts better along its fibres, as sawn wood does."""
        return self.hatch == "grain" and not self.is_sheet


def wood_conductivity_w_mk(specific_gravity: float, moisture_percent: float) -> float:
    """Return λ [W/(m·K)] of wood across the grain.

    λ = G·(0.1941 + 0.004064·M) + 0.01864, USDA Wood Handbook (FPL-GTR-282), eq. 4-7; G is the
    oven-dry specific gravity, M the moisture content in per cent.

    Raises
    ------
    DomainError
        Outside G 0.3 to 1.2 and M 0 to 25, where the equation does not hold.

    >>> round(wood_conductivity_w_mk(0.35, 12.0), 3)
    0.104
    """
    require_between("specific gravity", specific_gravity, 0.3, 1.2)
    require_between("moisture content", moisture_percent, 0, 25, "%")
    return (
        specific_gravity
        * (WOOD_CONDUCTIVITY_DRY.value + WOOD_CONDUCTIVITY_MOISTURE.value * moisture_percent)
        + WOOD_CONDUCTIVITY_OFFSET.value
    )


def wood_of_species(
    material_id: str, name: str, specific_gravity: float, moisture_percent: float, like: Material
) -> Material:
    """Return a wood made from its specific gravity and moisture; the rest is that of ``like``."""
    return replace(
        like,
        id=material_id,
        name=name,
        group="wood",
        conductivity_w_mk=round(wood_conductivity_w_mk(specific_gravity, moisture_percent), 4),
        density_kg_m3=round(1000 * specific_gravity * (1 + moisture_percent / 100)),
        source=(
            f"USDA Wood Handbook eq. 4-7 at specific gravity {specific_gravity:g} and "
            f"{moisture_percent:g} % moisture; the rest as {like.name}"
        ),
        certainty="published",
    )


def materials_at(
    materials: Mapping[str, Material], temperature_degc: float, relative_humidity: float
) -> dict[str, Material]:
    """Return the materials with λ at a mean temperature [°C] and a humidity (0 to 1)."""
    return {
        key: m
        if not (m.moisture_conversion or m.temperature_conversion_1_k)
        else _at(m, temperature_degc, relative_humidity)
        for key, m in materials.items()
    }


@remembered(1024)
def _at(material: Material, temperature_degc: float, relative_humidity: float) -> Material:
    moisture = material.moisture_content(relative_humidity)
    return replace(material, conductivity_w_mk=material.conductivity_at(temperature_degc, moisture))


@dataclass(frozen=True, slots=True, kw_only=True)
class Layer:
    """A thickness of one material; the stacks of a shell list layers from the outside in.

    Attributes
    ----------
    material : str
        Id of the material.
    thickness_m : float
        [m].
    mixed_with, mixed_share : str, float
        A second material that runs through the same thickness (studs, spacers, mortar, an entrance
        block) and its share of the area [-].
    vents_m2_m : float
        Of an air gap: its openings to the outside per metre of width [m²/m].
    fitting : str
        ``fixed``; ``quilt`` or ``cover`` are taken off by the season plan.
    """

    material: str
    thickness_m: float
    mixed_with: str = ""
    mixed_share: float = 0.0
    vents_m2_m: float = 0.0
    fitting: Fitting = "fixed"

    def __post_init__(self) -> None:
        require_text("layer material", self.material)
        require_between("layer thickness", self.thickness_m, 0.0001, 1.0, "m")
        require_between("share of the second material", self.mixed_share, 0, 0.9, "share")
        require_between("vents of the air gap", self.vents_m2_m, 0, 1, "m²/m")
        require_choice("fitting", self.fitting, get_args(Fitting))
        if self.mixed_share > 0 and not self.mixed_with:
            raise DomainError(
                "second material",
                "none",
                "is chosen for its share; choose one or set 0",
            )

    @property
    def materials(self) -> tuple[str, ...]:
        """Ids of the materials in the layer."""
        return (self.material, self.mixed_with) if self.mixed_share > 0 else (self.material,)
