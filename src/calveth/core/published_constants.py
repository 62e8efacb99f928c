"""Published checks of the constants themselves: each against a second source, or as it is printed.

Where a constant follows from others that everybody knows (molar masses, a formula of a standard)
it is worked out from those; where a standard lays it down it is held against the printed figure.
"""

from __future__ import annotations

from collections.abc import Sequence
from math import log, pi

from calveth.core import constants as c
from calveth.core import constants_building as cb
from calveth.core import constants_lifting as cl
from calveth.core import constants_year as y
from calveth.core.check import Check
from calveth.core.constant import Constant
from calveth.core.materials import wood_conductivity_w_mk

# Molar masses (IUPAC 2021) [g/mol], the gas constant (CODATA 2018) [J/(mol·K)].
_SUGAR, _CO2, _OXYGEN, _WATER, _AIR = 180.156, 44.0095, 31.998, 18.01528, 28.9647
_GAS = 8.314462618
_KCAL_J = 4184.0
_RADIATION_20_W_M2K = 4 * 5.670374419e-8 * 293.15**3
_EN_6946 = "EN ISO 6946:2017, table 7 from annex C: 1/(hc + 0.9·hr) at 20 °C"

Row = tuple[str, str, float, float, float, str]
"""What is checked, its unit, what is expected, what Calveth has, how far they may part, source."""


def constant_checks() -> list[Check]:
    """Return the checks of all constants marked published, computed now."""
    rows = [
        *_physics(),
        *_transport(),
        *_air_and_water(),
        *_bees(),
        *_films(),
        *_air(),
        *_wood(),
        *_workshop(),
        *_sky(),
    ]
    return [
        Check(
            name=name,
            unit=unit,
            expected=expected,
            computed=computed,
            tolerance=tolerance,
            source=source,
        )
        for name, unit, expected, computed, tolerance, source in rows
    ]


def _printed(rows: Sequence[tuple[str, Constant, float, str]]) -> list[Row]:
    """Return rows of constants that stand as their source prints them."""
    return [
        (name, constant.unit, printed, constant.value, 0.02 * abs(printed), source)
        for name, constant, printed, source in rows
    ]


def _physics() -> list[Row]:
    return [
        (
            "Stefan and Boltzmann's constant",
            "W/(m²·K⁴)",
            2 * pi**5 * 1.380649e-23**4 / (15 * 6.62607015e-34**3 * 299792458.0**2),
            c.STEFAN_BOLTZMANN.value,
            1e-12,
            "2π⁵k⁴/(15h³c²), SI 2019",
        ),
        ("0 °C", "K", 273.15, c.KELVIN_AT_0_DEGC.value, 0.01, "ITS-90, defined"),
        ("gravity", "m/s²", 9.80665, c.GRAVITY.value, 0.01, "ISO 80000-3, standard value"),
        (
            "gas constant of dry air",
            "J/(kg·K)",
            1000 * _GAS / _AIR,
            c.GAS_CONSTANT_DRY_AIR.value,
            0.5,
            "R over the molar mass 28.96 g/mol",
        ),
        (
            "gas constant of vapour",
            "J/(kg·K)",
            1000 * _GAS / _WATER,
            c.GAS_CONSTANT_VAPOUR.value,
            0.5,
            "R over the molar mass 18.02 g/mol",
        ),
        (
            "gas constant of CO2",
            "J/(kg·K)",
            1000 * _GAS / _CO2,
            c.GAS_CONSTANT_CO2.value,
            0.5,
            "R over the molar mass 44.01 g/mol",
        ),
        (
            "heat capacity of air",
            "J/(kg·K)",
            3.5e3 * _GAS / _AIR,
            c.AIR_HEAT_CAPACITY.value,
            5.0,
            "7/2·R of a gas of two atoms",
        ),
    ]


def _transport() -> list[Row]:
    """Return how air, vapour and CO2 move and what their change of state costs."""
    return [
        (
            "viscosity of air at 5 °C",
            "Pa·s",
            1.716e-5 * (278.15 / 273.15) ** 1.5 * (273.15 + 110.4) / (278.15 + 110.4),
            c.AIR_VISCOSITY.value,
            2e-7,
            "Sutherland's law, 17.16 µPa·s at 0 °C (any handbook)",
        ),
        (
            "vapour permeability of still air",
            "kg/(m·s·Pa)",
            2.31e-5 * (283.15 / 273.15) ** 1.81 / (461.5 * 283.15),
            c.VAPOUR_PERMEABILITY_AIR.value,
            1.5e-11,
            "Schirmer 1938 at 10 °C; EN ISO 13788 rounds it to 2e-10",
        ),
        (
            "CO2 diffuses in air",
            "m²/s",
            1.38e-5 * (283.15 / 273.15) ** 1.75,
            c.CO2_DIFFUSIVITY_AIR.value,
            8e-7,
            "13.8 mm²/s at 0 °C (handbook, from memory)",
        ),
        (
            "evaporation of water at 20 °C",
            "J/kg",
            2.4535e6,
            c.LATENT_HEAT_WATER.value,
            1e4,
            "steam table",
        ),
        (
            "sublimation of ice at 0 °C",
            "J/kg",
            2.5009e6 + 3.335e5,
            c.LATENT_HEAT_ICE.value,
            1e4,
            "steam table: evaporation and melting",
        ),
        (
            "melting of ice at 0 °C",
            "J/kg",
            1000 * 6.0095e3 / _WATER,
            c.LATENT_HEAT_FUSION.value,
            3e3,
            "6.0095 kJ/mol (IAPWS) over the molar mass",
        ),
        (
            "Lewis factor of vapour in air",
            "-",
            0.87 ** (2 / 3),
            c.LEWIS_FACTOR.value,
            0.005,
            "Le^(2/3), Le = 0.87 (Incropera et al.)",
        ),
        (
            "evaporation by convection",
            "kg/(s·m²·Pa) per W/(m²·K)",
            0.622 / (1006.0 * 101325.0 * 0.87 ** (2 / 3)),
            c.EVAPORATION_BY_CONVECTION.value,
            2e-10,
            "Lewis relation by the pressure of the air, 0.622/(cp·p·Le^(2/3))",
        ),
    ]


def _air_and_water() -> list[Row]:
    return [
        (
            "CO2 is heavier than air",
            "-",
            _CO2 / _AIR,
            c.CO2_OVER_AIR_MOLAR_MASS.value,
            0.005,
            "molar masses",
        ),
        (
            "CO2 outside, by mass",
            "kg/kg",
            425e-6 * _CO2 / _AIR,
            c.CO2_OUTSIDE_MASS_FRACTION.value,
            1e-5,
            "425 ppm by volume, mean of the 2020s",
        ),
        (
            "pressure at sea level",
            "Pa",
            101325.0,
            c.PRESSURE_SEA_LEVEL.value,
            100.0,
            "ISO 2533, standard atmosphere",
        ),
        (
            "density of air at 20 °C",
            "kg/m³",
            101325.0 * _AIR / (1000 * _GAS * 293.15),
            y.AIR_DENSITY.value,
            0.01,
            "gas law at sea level",
        ),
        (
            "heat capacity of water",
            "J/(kg·K)",
            4186.0,
            y.WATER_HEAT_CAPACITY.value,
            20.0,
            "at 15 °C: the calorie",
        ),
    ]


def _bees() -> list[Row]:
    return [
        (
            "energy of honey",
            "J/kg",
            304 * _KCAL_J / 0.1,
            c.HONEY_ENERGY.value,
            5e4,
            "304 kcal in 100 g, USDA FoodData Central",
        ),
        (
            "water of capped honey",
            "kg/kg",
            0.171,
            c.HONEY_WATER_SHARE.value,
            0.005,
            "17.1 g in 100 g, USDA FoodData Central",
        ),
        (
            "CO2 of a kilogram of sugar",
            "kg/kg",
            6 * _CO2 / _SUGAR,
            c.SUGAR_TO_CO2.value,
            0.005,
            "C6H12O6 + 6 O2 = 6 CO2 + 6 H2O",
        ),
        (
            "oxygen for a kilogram of sugar",
            "kg/kg",
            6 * _OXYGEN / _SUGAR,
            c.SUGAR_TO_OXYGEN.value,
            0.005,
            "C6H12O6 + 6 O2 = 6 CO2 + 6 H2O",
        ),
        (
            "water of a kilogram of sugar",
            "kg/kg",
            6 * _WATER / _SUGAR,
            c.SUGAR_TO_WATER.value,
            0.005,
            "C6H12O6 + 6 O2 = 6 CO2 + 6 H2O",
        ),
        (
            "oxygen left where bees suffocate",
            "-",
            0.03,
            0.2095 - c.CO2_SUFFOCATES.value,
            0.01,
            "a breath of oxygen for each of CO2; 3 % left is none for a cluster (from memory)",
        ),
        ("brood nest", "°C", 34.5, c.CORE_TEMPERATURE_BROOD.value, 1.5, "33 to 36 °C, by many"),
        (
            "density of honey",
            "kg/m³",
            1420.0,
            cl.HONEY_DENSITY.value,
            20.0,
            "17 % of water, general reference (from memory)",
        ),
    ]


def _films() -> list[Row]:
    radiation = 0.9 * _RADIATION_20_W_M2K
    at_10 = 0.9 * 4 * 5.670374419e-8 * 283.15**3
    return [
        (
            "edge term of two walls",
            "-",
            1 - 2 / pi * log(2),
            c.EDGE_SHAPE_FACTOR.value,
            0.002,
            "a square corner by conformal mapping: 1 - (2/π)·ln 2",
        ),
        (
            "mouth of a hole in a wall",
            "-",
            8 / (3 * pi),
            c.MOUTH_OF_HOLE.value,
            0.06,
            "8/(3π) radii, Rayleigh, a flanged tube",
        ),
        ("film under a lid", "m²·K/W", 1 / (5.0 + radiation), c.RSI_UP.value, 0.003, _EN_6946),
        (
            "film on a wall",
            "m²·K/W",
            1 / (2.5 + radiation),
            c.RSI_HORIZONTAL.value,
            0.003,
            _EN_6946,
        ),
        ("film on a floor", "m²·K/W", 1 / (0.7 + radiation), c.RSI_DOWN.value, 0.004, _EN_6946),
        (
            "film outside in 4 m/s",
            "m²·K/W",
            1 / (4.0 + 4 * 4.0 + at_10),
            c.RSE.value,
            0.002,
            "EN ISO 6946:2017, C.2: hc = 4 + 4·v",
        ),
        *_printed(
            [
                ("film where mould is looked for", c.RSI_EDGE, 0.25, "EN ISO 13788:2012, 4.4.1"),
                ("convection upwards", c.CONVECTION_UP, 5.0, "EN ISO 6946:2017, table C.1"),
                (
                    "convection at walls",
                    c.CONVECTION_HORIZONTAL,
                    2.5,
                    "EN ISO 6946:2017, table C.1",
                ),
                ("convection downwards", c.CONVECTION_DOWN, 0.7, "EN ISO 6946:2017, table C.1"),
                ("emissivity of dull surfaces", c.EMISSIVITY_DULL, 0.9, "EN ISO 6946:2017, C.1"),
                ("α of fasteners that go through", c.FASTENER_FACTOR, 0.8, "EN ISO 6946:2017, F.3"),
                ("stone without its pores", c.STONE_DENSITY, 2650.0, "quartz, general reference"),
                ("λ of steel", c.SCREW_CONDUCTIVITY, 50.0, "EN ISO 10456:2007, table 3"),
                (
                    "temperature of design values",
                    c.DESIGN_TEMPERATURE,
                    10.0,
                    "EN ISO 10456:2007, 4",
                ),
                ("a gap is ventilated from", c.VENTILATED_FROM, 500e-6, "EN ISO 6946:2017, 6.9.3"),
                ("a gap is well ventilated from", c.VENTILATED_WELL, 1500e-6, "EN ISO 6946, 6.9.4"),
                ("mould from a humidity of", c.MOULD_HUMIDITY, 0.8, "EN ISO 13788:2012, 5.3"),
                (
                    "a wall drinks rain from",
                    c.THIRSTY_ABSORPTION,
                    1.0,
                    "kg/(m²·√h), common reference",
                ),
            ]
        ),
    ]


def _air() -> list[Row]:
    return [
        (
            "discharge of a sharp edge",
            "-",
            pi / (pi + 2),
            c.DISCHARGE_COEFFICIENT.value,
            0.015,
            "free streamline through a slot, Kirchhoff 1869",
        ),
        *_printed(
            [
                ("exponent of cracks", c.CRACK_EXPONENT, 0.65, "EN 16798-7"),
                ("exchange through a hole in a lid", c.LID_EXCHANGE, 0.055, "Epstein 1988"),
                ("a round jet slows by", c.JET_DECAY, 6.0, "6·D/x (from memory)"),
                ("gusts at one opening", c.WIND_FLUCTUATION, 0.025, "Warren and Parkins 1984"),
            ]
        ),
    ]


def _wood() -> list[Row]:
    return [
        # Each species of the table moves another of the equation's three constants most.
        (
            "λ of wood of 0.31 at 12 %",
            "W/(m·K)",
            0.094,
            wood_conductivity_w_mk(0.31, 12.0),
            0.0012,
            "USDA Wood Handbook, table 4-7: northern white cedar (from memory)",
        ),
        (
            "λ of wood of 0.68 at 12 %",
            "W/(m·K)",
            0.184,
            wood_conductivity_w_mk(0.68, 12.0),
            0.0025,
            "USDA Wood Handbook, table 4-7: sugar maple, 0.66 to 0.68 (from memory)",
        ),
        (
            "λ of dry wood of 0.45",
            "W/(m·K)",
            0.106,
            wood_conductivity_w_mk(0.45, 0.0),
            0.0015,
            "USDA Wood Handbook, table 4-7, oven-dry column (from memory)",
        ),
        (
            "what a per cent of moisture adds",
            "W/(m·K)",
            0.004064 * 0.45,
            (wood_conductivity_w_mk(0.45, 16.0) - wood_conductivity_w_mk(0.45, 6.0)) / 10,
            5e-5,
            "USDA Wood Handbook (FPL-GTR-282), eq. 4-7",
        ),
        (
            "λ of wood of no weight",
            "W/(m·K)",
            0.01864,
            2 * wood_conductivity_w_mk(0.5, 12.0) - wood_conductivity_w_mk(1.0, 12.0),
            3e-4,
            "USDA Wood Handbook (FPL-GTR-282), eq. 4-7",
        ),
        (
            "wood along the grain over across",
            "-",
            0.5 * (1.5 + 2.8),
            c.ALONG_GRAIN.value,
            0.15,
            "USDA Wood Handbook, chapter 4: 1.5 to 2.8",
        ),
        (
            "wood shrinks by a per cent of moisture",
            "1/%",
            0.075 / 30,
            c.WOOD_SHRINKAGE.value,
            1e-4,
            "7.5 % from green (30 %) to dry, softwood flat-sawn, USDA Wood Handbook",
        ),
    ]


def _workshop() -> list[Row]:
    return _printed(
        [
            ("overlap of blocks by height", cb.BOND_SHARE, 0.4, "EN 1996-1-1, 8.1.4 (from memory)"),
            ("overlap of blocks at least", cb.LEAST_BOND, 0.04, "EN 1996-1-1, 8.1.4 (from memory)"),
            ("thin bed of glue", cb.GLUE_JOINT, 0.002, "EN 1996-1-1: 0.5 to 3 mm (from memory)"),
            ("tolerance of aircrete blocks", cb.BLOCK_TOLERANCE, 0.0015, "EN 771-4 (from memory)"),
            ("water cement binds", cb.CEMENT_WATER, 0.2, "general reference, 0.2 to 0.25"),
            ("grains of cement", cb.CEMENT_DENSITY, 3100.0, "general reference"),
            ("grains of quartz", cb.SAND_DENSITY, 2650.0, "density of quartz"),
            ("lifting constant", cl.LIFT_CONSTANT, 23.0, "Waters et al. 1993"),
            ("reference mass, men", cl.LIFT_MEN, 25.0, "ISO 11228-1, annex C"),
            ("reference mass, women", cl.LIFT_WOMEN, 20.0, "ISO 11228-1, annex C"),
            ("reference mass, women younger or older", cl.LIFT_OLDER_WOMEN, 15.0, "ISO 11228-1"),
            ("two lift of the sum of both", cl.TWO_PERSONS, 2 / 3, "ISO/TR 12295"),
            ("air in gusts", cl.GUST_AIR_DENSITY, 1.25, "EN 1991-1-4, 4.5"),
            ("suction on a flat lid", cl.UPLIFT, -1.2, "EN 1991-1-4, table 7.2, zone H"),
            ("safety on wind", cl.WIND_SAFETY, 1.5, "EN 1990, EQU"),
            ("safety on weight", cl.WEIGHT_SAFETY, 0.9, "EN 1990, EQU"),
        ]
    )


def _sky() -> list[Row]:
    return [
        (
            "vapour of warmer air at 10 °C",
            "1/K",
            17.269 * 237.3 / (237.3 + 10.0) ** 2,
            y.VAPOUR_BY_WARMTH.value,
            0.005,
            "slope of EN ISO 13788:2012, formula (E.7)",
        ),
        ("sky a wall sees", "-", 0.5, y.SKY_OF_WALL.value, 0.02, "half of it, by symmetry"),
        (
            "λ of snow of 250 kg/m³",
            "W/(m·K)",
            0.138 - 1.01 * 0.25 + 3.233 * 0.25**2,
            y.SNOW_CONDUCTIVITY.value,
            0.003,
            "Sturm et al. 1997 (from memory)",
        ),
        *_printed(
            [
                ("sun back from grass and soil", y.ALBEDO, 0.2, "ISO 52010-1:2017, 6.4.4.1"),
                ("sun from the day's swing", y.SUN_OF_SWING, 0.16, "Hargreaves and Samani 1982"),
                ("emissivity of snow", y.SNOW_EMITS, 0.97, "0.96 to 0.99, general reference"),
            ]
        ),
    ]
