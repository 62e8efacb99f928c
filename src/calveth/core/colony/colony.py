"""The colony over the year and the heat, honey, water and CO2 it turns over."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.errors import DomainError, require_between

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class Colony:
    """A colony as twelve monthly means, January first; every figure is an estimate.

    Attributes
    ----------
    mass_kg : tuple of 12 float
        Bees [kg]; about 7 500 to 8 500 bees a kilogram.
    brood_share : tuple of 12 float
        0 without brood to 1 at full brood [-]; sets the temperature the core is held at.
    stores_kg : float
        Honey in the hive when forage ends [kg].
    activity_kg_day : tuple of 12 float
        Honey used beyond keeping warm, for brood and flight [kg/day].
    nectar_kg_day : tuple of 12 float
        Water to be dried out of nectar [kg/day]; a kilogram of honey leaves two to three behind.
    core_rest_degc, core_brood_degc : float
        Temperature of the core without brood and at full brood [°C].
    cluster_conductance_w_k_kg23 : float
        g0 [W/(K·kg^(2/3))]; the cluster loses g0·m^(2/3) per kelvin.
    rest_heat_w_kg : float
        Heat a kilogram of bees gives off even when it is warm [W/kg].
    """

    mass_kg: tuple[float, ...]
    brood_share: tuple[float, ...]
    stores_kg: float = 18.0
    activity_kg_day: tuple[float, ...] = (0.0,) * 12
    nectar_kg_day: tuple[float, ...] = (0.0,) * 12
    core_rest_degc: float = c.CORE_TEMPERATURE_NO_BROOD.value
    core_brood_degc: float = c.CORE_TEMPERATURE_BROOD.value
    cluster_conductance_w_k_kg23: float = c.CLUSTER_CONDUCTANCE.value
    rest_heat_w_kg: float = c.REST_HEAT.value

    def __post_init__(self) -> None:
        for name, values, high in (
            ("colony mass", self.mass_kg, 12.0),
            ("brood share", self.brood_share, 1.0),
            ("activity", self.activity_kg_day, 2.0),
            ("water of nectar", self.nectar_kg_day, 10.0),
        ):
            if len(values) != 12:
                raise DomainError(name, len(values), "values given; a year has 12")
            low = 0.01 if name == "colony mass" else 0.0
            for month, value in enumerate(values, start=1):
                require_between(f"{name} of month {month}", value, low, high)
        require_between("core without brood", self.core_rest_degc, 5, 36, "°C")
        require_between("core at full brood", self.core_brood_degc, 20, 37, "°C")
        require_between("stores", self.stores_kg, 0, 150, "kg")
        require_between("cluster conductance", self.cluster_conductance_w_k_kg23, 0.05, 1.5)
        require_between("rest heat", self.rest_heat_w_kg, 0.2, 10, "W/kg")


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class ColonyState:
    """The colony at N conditions, as arrays [N].

    ``activity_w`` is the honey for brood and flight as heat, wherever it is spent [W];
    ``nectar_kg_s`` the water of nectar there is to dry [kg/s]; ``brood_share`` 0 to 1.
    """

    mass_kg: FloatArray
    core_degc: FloatArray
    cluster_conductance_w_k: FloatArray
    rest_heat_w: FloatArray
    fanning_m3_s: FloatArray
    activity_w: FloatArray
    nectar_kg_s: FloatArray
    brood_share: FloatArray

    def take(self, index: NDArray[np.int_]) -> ColonyState:
        """Return the conditions at ``index``."""
        return ColonyState(
            mass_kg=self.mass_kg[index],
            core_degc=self.core_degc[index],
            cluster_conductance_w_k=self.cluster_conductance_w_k[index],
            rest_heat_w=self.rest_heat_w[index],
            fanning_m3_s=self.fanning_m3_s[index],
            activity_w=self.activity_w[index],
            nectar_kg_s=self.nectar_kg_s[index],
            brood_share=self.brood_share[index],
        )


def colony_at(colony: Colony, month: NDArray[np.int_]) -> ColonyState:
    """Return the colony in the given months (indices 0 to 11, shape [N])."""
    mass = np.asarray(colony.mass_kg, dtype=float)[month]
    brood = np.asarray(colony.brood_share, dtype=float)[month]
    return colony_moment(
        colony,
        mass,
        brood,
        np.asarray(colony.activity_kg_day)[month],
        nectar_kg_day=np.asarray(colony.nectar_kg_day, dtype=float)[month],
    )


def colony_moment(
    colony: Colony,
    mass_kg: FloatArray,
    brood_share: FloatArray,
    activity_kg_day: FloatArray,
    away_share: FloatArray | float = 0.0,
    nectar_kg_day: FloatArray | float = 0.0,
) -> ColonyState:
    """Return the colony with bees, brood and activity as arrays [N]; ``away_share`` is out."""
    cold, warm = colony.core_rest_degc, colony.core_brood_degc
    home = mass_kg * (1.0 - np.asarray(away_share))
    return ColonyState(
        mass_kg=home,
        core_degc=cold + brood_share * (warm - cold),
        # A cluster loses through its skin, which grows with the two thirds of its mass.
        cluster_conductance_w_k=colony.cluster_conductance_w_k_kg23 * home ** (2.0 / 3.0),
        rest_heat_w=colony.rest_heat_w_kg * home,
        # With little brood bees hardly fan: the square is an estimate, and drawn with FANNING.
        fanning_m3_s=c.FANNING.value * home * brood_share**2,
        activity_w=activity_kg_day / 86400 * c.HONEY_ENERGY.value,
        nectar_kg_s=np.broadcast_to(np.asarray(nectar_kg_day) / 86400, home.shape),
        brood_share=np.broadcast_to(np.asarray(brood_share, dtype=float), home.shape),
    )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class HoneyLedger:
    """What burning honey at a steady heat gives, per second; any array shape."""

    honey_kg_s: FloatArray
    water_kg_s: FloatArray
    co2_kg_s: FloatArray
    oxygen_kg_s: FloatArray
    latent_w: FloatArray
    dry_heat_w: FloatArray


def honey_ledger(metabolic_heat_w: FloatArray) -> HoneyLedger:
    """Return the honey burnt for a heat [W] and the water, CO2 and oxygen that go with it.

    12.7 MJ/kg; 17 % of the honey is water and 83 % sugar, of which 0.60 becomes water and 1.47
    CO2. All the water is taken to leave the bees as vapour, so its latent heat does not warm
    the nest.

    Parameters
    ----------
    metabolic_heat_w : array
        Heat of the bees, any shape [W].

    >>> ledger = honey_ledger(np.array(12.7))  # a milligram a second
    >>> round(float(ledger.water_kg_s / ledger.honey_kg_s), 2)
    0.67
    """
    honey = np.asarray(metabolic_heat_w, dtype=float) / c.HONEY_ENERGY.value
    sugar = honey * (1.0 - c.HONEY_WATER_SHARE.value)
    water = honey * c.HONEY_WATER_SHARE.value + sugar * c.SUGAR_TO_WATER.value
    latent = water * c.LATENT_HEAT_WATER.value
    return HoneyLedger(
        honey_kg_s=honey,
        water_kg_s=water,
        co2_kg_s=sugar * c.SUGAR_TO_CO2.value,
        oxygen_kg_s=sugar * c.SUGAR_TO_OXYGEN.value,
        latent_w=latent,
        dry_heat_w=np.asarray(metabolic_heat_w, dtype=float) - latent,
    )


def cluster_radius_m(mass_kg: float) -> float:
    """Return the radius [m] of a ball of bees and comb of that mass; an estimate for drawing.

    Parameters
    ----------
    mass_kg : float
        Bees and the comb among them [kg].
    """
    volume_m3 = mass_kg / c.CLUSTER_DENSITY.value / 1000.0
    return float((3.0 * volume_m3 / (4.0 * np.pi)) ** (1.0 / 3.0))
