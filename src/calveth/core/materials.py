"""What a shell is made of: materials, and layers of them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from calveth.core.constants import Certainty
from calveth.core.errors import require_between, require_choice, require_text

Hatch = Literal["grain", "beads", "pores", "foam", "foil", "air", "shavings", "stone", "plain"]
MaterialKind = Literal["solid", "air gap"]


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
        ``solid``, or ``air gap`` whose resistance follows EN ISO 6946 instead of a conductivity.
    conductivity_w_mk : float
        Design thermal conductivity [W/(m·K)]; not used for an air gap.
    density_kg_m3 : float
        [kg/m³].
    specific_heat_j_kgk : float
        [J/(kg·K)].
    vapour_resistance_factor : float
        μ [-], dry cup.
    emissivity : float
        Product-side emissivity of the surfaces facing an air gap [-]; 0.9 for dull ones.
    hatch : str
        Pattern it is drawn with.
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
    conductivity_w_mk: float
    density_kg_m3: float
    specific_heat_j_kgk: float
    vapour_resistance_factor: float
    emissivity: float = 0.9
    hatch: Hatch = "plain"
    bee_safe_bare: bool = True
    cautions: tuple[str, ...] = ()
    source: str
    certainty: Certainty

    def __post_init__(self) -> None:
        require_text("material id", self.id)
        where = f"material “{self.id}”"
        require_text(f"{where} name", self.name)
        require_choice(f"{where} kind", self.kind, get_args(MaterialKind))
        require_between(f"{where} conductivity", self.conductivity_w_mk, 0.005, 500, "W/(m·K)")
        require_between(f"{where} density", self.density_kg_m3, 0.5, 12000, "kg/m³")
        require_between(f"{where} specific heat", self.specific_heat_j_kgk, 100, 5000, "J/(kg·K)")
        require_between(f"{where} vapour resistance factor", self.vapour_resistance_factor, 1, 1e7)
        require_between(f"{where} emissivity", self.emissivity, 0.01, 1)
        require_choice(f"{where} hatch", self.hatch, get_args(Hatch))
        require_choice(f"{where} certainty", self.certainty, get_args(Certainty))


@dataclass(frozen=True, slots=True, kw_only=True)
class Layer:
    """A thickness of one material; the stacks of a shell list layers from the outside in."""

    material: str
    thickness_m: float

    def __post_init__(self) -> None:
        require_text("layer material", self.material)
        require_between("layer thickness", self.thickness_m, 0.0001, 1.0, "m")
