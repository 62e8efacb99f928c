"""Every constant of the model once: value, unit, source and how sure it is.

``published`` stands in a standard, handbook or paper; ``common practice`` is used in the trade
without a printed source; ``estimate`` is our own judgement and is shown to the user with a range.
Published values were entered from memory unless a test names the package that confirms them.
"""

from __future__ import annotations

from calveth.core.constant import Certainty, Constant
from calveth.core.constants_bees import (
    ACTIVITY_SHARE,
    BEARD_ALL,
    BEARD_FROM,
    BEARD_MOST,
    BROOD_BEES,
    BROOD_NEED,
    BROODLESS_AIRS,
    CLUSTER_CONDUCTANCE,
    CLUSTER_DENSITY,
    CLUSTER_INSIDE,
    CLUSTER_LEFT_ALL,
    CLUSTER_LEFT_FROM,
    CLUSTER_LOOSE_ALL,
    CO2_BAD,
    CO2_SUFFOCATES,
    COOLING_ALL,
    COOLING_FROM,
    COOLING_MOST,
    CORE_TEMPERATURE_BROOD,
    CORE_TEMPERATURE_NO_BROOD,
    FANNING,
    FANNING_COST,
    FANNING_DAMP_ALL,
    FANNING_DAMP_FROM,
    FANNING_FOUL_ALL,
    FANNING_FOUL_FROM,
    FANNING_HOT_ALL,
    FANNING_HOT_FROM,
    FANNING_MOST,
    FANNING_SPEED,
    HONEY_ENERGY,
    HONEY_WATER_SHARE,
    IDLE_LIKE,
    MANTLE_TEMPERATURE,
    MIXING_NEST_BASE,
    MIXING_NEST_CROWN,
    PLUME_SHARE,
    PORES_CO2,
    REST_HEAT,
    REST_HEAT_AT,
    REST_HEAT_Q10,
    REST_HEAT_UP_TO,
    SUGAR_TO_CO2,
    SUGAR_TO_OXYGEN,
    SUGAR_TO_WATER,
)
from calveth.core.constants_building import (
    ALONG_GRAIN,
    BEE_SPACE_HIGH,
    BEE_SPACE_LOW,
    COMB_PITCH,
    FASTENER_FACTOR,
    LEAST_OVERLAP,
    QUEEN_PASSES,
    RIM_WIDTH,
    SCREW_AREA_SHARE,
    SCREW_CONDUCTIVITY,
    WOOD_MOISTURE_SWING,
    WOOD_SHRINKAGE,
)

__all__ = [
    "ACTIVITY_SHARE",
    "ALONG_GRAIN",
    "BEARD_ALL",
    "BEARD_FROM",
    "BEARD_MOST",
    "BEE_SPACE_HIGH",
    "BEE_SPACE_LOW",
    "BROODLESS_AIRS",
    "BROOD_BEES",
    "BROOD_NEED",
    "CLUSTER_CONDUCTANCE",
    "CLUSTER_DENSITY",
    "CLUSTER_INSIDE",
    "CLUSTER_LEFT_ALL",
    "CLUSTER_LEFT_FROM",
    "CLUSTER_LOOSE_ALL",
    "CO2_BAD",
    "CO2_SUFFOCATES",
    "COMB_PITCH",
    "COOLING_ALL",
    "COOLING_FROM",
    "COOLING_MOST",
    "CORE_TEMPERATURE_BROOD",
    "CORE_TEMPERATURE_NO_BROOD",
    "FANNING",
    "FANNING_COST",
    "FANNING_DAMP_ALL",
    "FANNING_DAMP_FROM",
    "FANNING_FOUL_ALL",
    "FANNING_FOUL_FROM",
    "FANNING_HOT_ALL",
    "FANNING_HOT_FROM",
    "FANNING_MOST",
    "FANNING_SPEED",
    "FASTENER_FACTOR",
    "HONEY_ENERGY",
    "HONEY_WATER_SHARE",
    "IDLE_LIKE",
    "LEAST_OVERLAP",
    "MANTLE_TEMPERATURE",
    "MIXING_NEST_BASE",
    "MIXING_NEST_CROWN",
    "PLUME_SHARE",
    "PORES_CO2",
    "QUEEN_PASSES",
    "REST_HEAT",
    "REST_HEAT_AT",
    "REST_HEAT_Q10",
    "REST_HEAT_UP_TO",
    "RIM_WIDTH",
    "SCREW_AREA_SHARE",
    "SCREW_CONDUCTIVITY",
    "SUGAR_TO_CO2",
    "SUGAR_TO_OXYGEN",
    "SUGAR_TO_WATER",
    "WOOD_MOISTURE_SWING",
    "WOOD_SHRINKAGE",
    "Certainty",
    "Constant",
    "all_constants",
]

# Air and water vapour -------------------------------------------------------------------------
STEFAN_BOLTZMANN = Constant(
    value=5.670374e-8, unit="W/(m²·K⁴)", source="CODATA 2018", certainty="published"
)
KELVIN_AT_0_DEGC = Constant(value=273.15, unit="K", source="ITS-90", certainty="published")
GRAVITY = Constant(value=9.80665, unit="m/s²", source="ISO 80000-3", certainty="published")
GAS_CONSTANT_DRY_AIR = Constant(
    value=287.055, unit="J/(kg·K)", source="EN ISO 15927-1 / ICAO", certainty="published"
)
GAS_CONSTANT_VAPOUR = Constant(
    value=461.5, unit="J/(kg·K)", source="EN ISO 13788:2012, 3.2", certainty="published"
)
GAS_CONSTANT_CO2 = Constant(
    value=188.92, unit="J/(kg·K)", source="8.314462 / 0.04401", certainty="published"
)
AIR_HEAT_CAPACITY = Constant(
    value=1006.0, unit="J/(kg·K)", source="EN ISO 10456:2007, table 3", certainty="published"
)
AIR_VISCOSITY = Constant(
    value=1.75e-5, unit="Pa·s", source="Sutherland's law at 5 °C", certainty="published"
)
VAPOUR_PERMEABILITY_AIR = Constant(
    value=2.0e-10, unit="kg/(m·s·Pa)", source="EN ISO 13788:2012, 5.1", certainty="published"
)
CO2_DIFFUSIVITY_AIR = Constant(
    value=1.5e-5, unit="m²/s", source="CO2 in air at 10 °C", certainty="published"
)
LATENT_HEAT_WATER = Constant(
    value=2.45e6, unit="J/kg", source="evaporation of water near 20 °C", certainty="published"
)
LATENT_HEAT_ICE = Constant(
    value=2.83e6, unit="J/kg", source="sublimation of ice near 0 °C", certainty="published"
)
LATENT_HEAT_FUSION = Constant(
    value=3.335e5,
    unit="J/kg",
    source="melting of ice at 0 °C, steam table; snow and rime are not in the books of the hive, "
    "whose films freeze by the difference of `LATENT_HEAT_ICE` and `LATENT_HEAT_WATER`",
    certainty="published",
)
LEWIS_FACTOR = Constant(
    value=0.91,
    unit="-",
    source="Le^(2/3), Le = 0.87 for vapour in air (Incropera et al.)",
    certainty="published",
)
COOL_AIR = Constant(
    value=278.0,
    unit="K",
    source="of the air that dries wet walls and quilts: 5 °C, own choice; "
    "10 K change the flow by 2 % and β by 7 %",
    certainty="estimate",
    low=268.0,
    high=288.0,
)
EVAPORATION_BY_CONVECTION = Constant(
    value=1.0
    / (
        1.27
        * AIR_HEAT_CAPACITY.value
        * LEWIS_FACTOR.value
        * GAS_CONSTANT_VAPOUR.value
        * COOL_AIR.value
    ),
    unit="kg/(s·m²·Pa) per W/(m²·K)",
    source="β = hc/(ρ·cp·Le^(2/3)·Rv·T), the Lewis relation (Incropera et al.), at 5 °C, where "
    "air weighs 1.27 kg/m³",
    certainty="published",
)
CO2_OVER_AIR_MOLAR_MASS = Constant(
    value=44.01 / 28.97, unit="-", source="molar masses of CO2 and dry air", certainty="published"
)
CO2_OUTSIDE_MASS_FRACTION = Constant(
    value=425e-6 * CO2_OVER_AIR_MOLAR_MASS.value,
    unit="kg/kg",
    source="425 ppm by volume, global mean of the 2020s",
    certainty="published",
)
PRESSURE_SEA_LEVEL = Constant(
    value=101325.0, unit="Pa", source="ISO 2533 standard atmosphere", certainty="published"
)

# Films, EN ISO 6946:2017 table 7 and annex C ---------------------------------------------------
RSI_UP = Constant(value=0.10, unit="m²·K/W", source="EN ISO 6946, table 7", certainty="published")
RSI_HORIZONTAL = Constant(
    value=0.13, unit="m²·K/W", source="EN ISO 6946, table 7", certainty="published"
)
RSI_DOWN = Constant(value=0.17, unit="m²·K/W", source="EN ISO 6946, table 7", certainty="published")
RSE = Constant(value=0.04, unit="m²·K/W", source="EN ISO 6946, table 7", certainty="published")
RSI_EDGE = Constant(
    value=0.25,
    unit="m²·K/W",
    source="EN ISO 13788:2012, 4.4.1: inner surface resistance for edges and corners",
    certainty="published",
)
CONVECTION_UP = Constant(
    value=5.0, unit="W/(m²·K)", source="EN ISO 6946, annex C", certainty="published"
)
CONVECTION_HORIZONTAL = Constant(
    value=2.5, unit="W/(m²·K)", source="EN ISO 6946, annex C", certainty="published"
)
CONVECTION_DOWN = Constant(
    value=0.7, unit="W/(m²·K)", source="EN ISO 6946, annex C", certainty="published"
)
EMISSIVITY_DULL = Constant(
    value=0.9, unit="-", source="EN ISO 6946, annex C", certainty="published"
)

# Edges and corners of a thick-walled box -------------------------------------------------------
EDGE_SHAPE_FACTOR = Constant(
    value=0.559,
    unit="-",
    source="exact two-dimensional edge term; Langmuir, Adams and Meikle 1913 give 0.54",
    certainty="published",
)
CORNER_SHAPE_FACTOR = Constant(
    value=0.10,
    unit="-",
    source="per corner and wall thickness, fitted with films; Langmuir et al. 1913 give 0.15",
    certainty="estimate",
    low=0.05,
    high=0.15,
)

# Materials -------------------------------------------------------------------------------------
DESIGN_TEMPERATURE = Constant(
    value=10.0,
    unit="°C",
    source="EN ISO 10456:2007, reference of design values",
    certainty="published",
)
WOOD_CONDUCTIVITY_DRY = Constant(
    value=0.1941,
    unit="W/(m·K)",
    source="USDA Wood Handbook (FPL-GTR-282), eq. 4-7",
    certainty="published",
)
WOOD_CONDUCTIVITY_MOISTURE = Constant(
    value=0.004064,
    unit="W/(m·K) per %",
    source="USDA Wood Handbook, eq. 4-7",
    certainty="published",
)
WOOD_CONDUCTIVITY_OFFSET = Constant(
    value=0.01864, unit="W/(m·K)", source="USDA Wood Handbook, eq. 4-7", certainty="published"
)
FILM_THICKNESS = Constant(
    value=0.0002,
    unit="m",
    source="a brushed coat or a thin foil, drawn as a line",
    certainty="common practice",
)
WINTER_HUMIDITY = Constant(
    value=0.8,
    unit="-",
    source="humidity a hive wall stands in through a damp winter; sets the moist λ",
    certainty="estimate",
    low=0.6,
    high=0.9,
)
SUMMER_INSIDE = Constant(
    value=28.0,
    unit="°C",
    source="inner face of a hive's shell in a warm month; sets the warm λ",
    certainty="estimate",
    low=22.0,
    high=33.0,
)
WARM_MONTH = Constant(
    value=15.0,
    unit="°C",
    source="mean from which the walls stand as in summer",
    certainty="estimate",
    low=12.0,
    high=18.0,
)
VENTILATED_FROM = Constant(
    value=0.0005,
    unit="m²/m",
    source="EN ISO 6946:2017, 6.9.3: 500 mm² per metre",
    certainty="published",
)
VENTILATED_WELL = Constant(
    value=0.0015,
    unit="m²/m",
    source="EN ISO 6946:2017, 6.9.4: 1500 mm² per metre",
    certainty="published",
)

# Air flow --------------------------------------------------------------------------------------
DISCHARGE_COEFFICIENT = Constant(
    value=0.6, unit="-", source="sharp-edged orifice, EN 16798-7", certainty="published"
)
CRACK_EXPONENT = Constant(
    value=0.65, unit="-", source="flow through cracks, EN 16798-7", certainty="published"
)
CRACK_LAMINAR = Constant(
    value=0.05,
    unit="Pa",
    source="below it the flow through hair cracks is laminar and grows with the pressure itself",
    certainty="estimate",
    low=0.01,
    high=0.5,
)
LID_FADE = Constant(
    value=0.5,
    unit="-",
    source="how fast exchange through a level hole fades with the air that "
    "goes through it one way: exp(-a·through/exchange)",
    certainty="estimate",
    low=0.2,
    high=1.0,
)
LID_EXCHANGE = Constant(
    value=0.055,
    unit="-",
    source="Epstein 1988: exchange 0.055·√(g·Δρ/ρ)·D^2.5 through a level hole under warm air",
    certainty="published",
)
JET_DECAY = Constant(
    value=6.0,
    unit="-",
    source="round free jet: axis speed falls as 6·D/x from six diameters on",
    certainty="published",
)
SLATS_SHARE = Constant(
    value=0.5,
    unit="-",
    source="share of a draught that passes a slatted rack",
    certainty="estimate",
    low=0.3,
    high=0.7,
)
WIND_FLUCTUATION = Constant(
    value=0.025,
    unit="-",
    source="Warren and Parkins 1984: single-sided exchange 0.025·A·v",
    certainty="published",
)

# Water on surfaces, in quilts and in blocks ---------------------------------------------------
RUNNING_SLOPE = Constant(
    value=10.0,
    unit="°",
    source="slope from which drops under a ceiling run instead of falling",
    certainty="common practice",
)
DRAINING_TILT = Constant(
    value=1.0,
    unit="°",
    source="tilt forward at which water runs out of the entrance",
    certainty="common practice",
)
VISIBLE_WATER = Constant(
    value=2.0,
    unit="g/day",
    source="water on one surface of a hive that a beekeeper calls wet",
    certainty="estimate",
    low=1.0,
    high=5.0,
)
MOULD_HUMIDITY = Constant(
    value=0.8,
    unit="-",
    source="EN ISO 13788:2012, 5.3: monthly mean at the surface",
    certainty="published",
)
QUILT_CAPACITY = Constant(
    value=0.6,
    unit="kg/kg",
    source="water loose shavings hold before they drip, times their own weight",
    certainty="estimate",
    low=0.3,
    high=1.0,
)
QUILT_VENT_HEIGHT = Constant(
    value=0.02,
    unit="m",
    source="a vent of the box of a quilt; estimate",
    certainty="estimate",
    low=0.01,
    high=0.04,
)
QUILT_WASH = Constant(
    value=0.5,
    unit="-",
    source="how far air that washes wet shavings gets to saturation",
    certainty="estimate",
    low=0.2,
    high=0.8,
)
THIRSTY_ABSORPTION = Constant(
    value=1.0,
    unit="kg/(m²·√h)",
    source="above it a facade counts as water absorbing (EN 998-1)",
    certainty="published",
)
RAIN_FILL = Constant(
    value=0.12,
    unit="-",
    source="share of the pores rain fills before a block takes no more",
    certainty="estimate",
    low=0.05,
    high=0.3,
)
RAIN_MOST_GROWN = Constant(
    value=1.5,
    unit="-",
    source="ln of what rain in a layer makes λ grow by at the most, for which EN ISO 10456 gives "
    "no figures any more",
    certainty="estimate",
    low=1.0,
    high=2.0,
)
RAIN_DRYING = Constant(
    value=0.3,
    unit="-",
    source="share of the free evaporation a drying face still gives",
    certainty="estimate",
    low=0.1,
    high=0.6,
)

ZONE_SHARE = Constant(
    value=0.2,
    unit="-",
    source="share of the cavity height counted as crown, and as base",
    certainty="estimate",
    low=0.1,
    high=0.3,
)


DRAUGHT_SPEED = Constant(
    value=0.2,
    unit="m/s",
    source="air at the comb felt as a draught; common practice, no source",
    certainty="estimate",
    low=0.15,
    high=0.3,
)
STONE_DENSITY = Constant(
    value=2600.0,
    unit="kg/m³",
    source="of what mineral building materials are without their pores: quartz 2.65, lime 2.71, "
    "clay 2.6 t/m³",
    certainty="published",
)
MOUTH_OF_HOLE = Constant(
    value=0.85,
    unit="-",
    source="radii of still air before one mouth of a hole: end correction of a tube with a wall "
    "round it, 8/(3π), Rayleigh",
    certainty="published",
)


def all_constants() -> dict[str, Constant]:
    """Return every constant of this module by its name, in the order they stand here."""
    return {name: item for name, item in globals().items() if isinstance(item, Constant)}
