"""The published checks: each expected value with its source beside what Calveth computes."""

from __future__ import annotations

from collections.abc import Callable
from math import sqrt

import numpy as np

from calveth.core import constants as c
from calveth.core.airflow.flow import balanced_pressure_pa, flows
from calveth.core.airflow.paths import AirPaths
from calveth.core.check import Check
from calveth.core.climate.air import (
    dew_point_degc,
    saturation_pressure_pa,
    station_pressure_pa,
    vapour_pressure_pa,
)
from calveth.core.colony.colony import honey_ledger
from calveth.core.heat.shell import box_shape_factor_m, cylinder_conductance_w_mk
from calveth.core.heat.slab import (
    Direction,
    air_gap_resistance_m2k_w,
    outer_film_m2k_w,
    transmittance_w_m2k,
)
from calveth.core.published_balance import balance_checks
from calveth.core.published_conduction import conduction_checks
from calveth.core.published_constants import constant_checks
from calveth.core.published_year import year_checks

__all__ = ["Check", "published_checks"]

_DIRECTIONS: tuple[Direction, ...] = ("up", "horizontal", "down")


def published_checks() -> list[Check]:
    """Return every published check, computed now."""
    groups: tuple[Callable[[], list[Check]], ...] = (
        _air,
        _films,
        _shapes,
        conduction_checks,
        _flow,
        _honey,
        balance_checks,
        year_checks,
        constant_checks,
    )
    return [check for group in groups for check in group()]


def _air() -> list[Check]:
    source = "EN ISO 13788:2012, annex E, table of saturation pressures (from memory)"
    rows = [
        Check(
            name=f"saturation pressure at {t:g} °C",
            unit="Pa",
            expected=p,
            computed=float(saturation_pressure_pa(t)),
            tolerance=1.0,
            source=source,
        )
        for t, p in ((20.0, 2337.0), (10.0, 1228.0), (0.0, 611.0), (-10.0, 260.0))
    ]
    rows.append(
        Check(
            name="dew point of 20 °C, 50 %",
            unit="°C",
            expected=9.3,
            computed=float(dew_point_degc(vapour_pressure_pa(20.0, 0.5))),
            tolerance=0.05,
            source="psychrometric tables, common to EN ISO 13788 and ASHRAE",
        )
    )
    rows.append(
        Check(
            name="air pressure at 1000 m",
            unit="Pa",
            expected=89875.0,
            computed=station_pressure_pa(1000.0),
            tolerance=30.0,
            source="ISO 2533 standard atmosphere, table (898.75 hPa)",
        )
    )
    return rows


def _films() -> list[Check]:
    source = "EN ISO 6946, table of unventilated air layers (from memory)"
    rows = [
        Check(
            name=f"air gap {mm} mm, heat {direction}",
            unit="m²·K/W",
            expected=r,
            computed=air_gap_resistance_m2k_w(mm / 1000, direction),
            tolerance=0.0055,
            source=source,
        )
        for mm, up, level, down in (
            (5, 0.11, 0.11, 0.11),
            (7, 0.13, 0.13, 0.13),
            (10, 0.15, 0.15, 0.15),
            (15, 0.16, 0.17, 0.17),
            (25, 0.16, 0.18, 0.19),
            (50, 0.16, 0.18, 0.21),
            (100, 0.16, 0.18, 0.22),
            (300, 0.16, 0.18, 0.23),
        )
        for direction, r in zip(_DIRECTIONS, (up, level, down), strict=True)
    ]
    rows.append(
        Check(
            name="outer film at 4 m/s and 0 °C",
            unit="m²·K/W",
            expected=0.04,
            computed=float(outer_film_m2k_w(4.0, 0.0)),
            tolerance=0.0015,
            source="EN ISO 6946, table 7 and annex C",
        )
    )
    rows.append(
        Check(
            name="U of 100 mm insulation, λ 0.04, wall",
            unit="W/(m²·K)",
            expected=1 / (0.13 + 2.5 + 0.04),
            computed=transmittance_w_m2k([0.1 / 0.04], "horizontal"),
            tolerance=1e-9,
            source="EN ISO 6946, 6.5: U = 1/(Rsi + ΣR + Rse)",
        )
    )
    return rows


def _shapes() -> list[Check]:
    langmuir = "Langmuir, Adams and Meikle 1913: A/L + 0.54·Σ edges + 0.15·8·L"
    rows = []
    for thickness in (0.02, 0.05, 0.1):
        sides = (0.374, 0.467, 0.508)
        area = 2 * (sides[0] * sides[1] + sides[1] * sides[2] + sides[0] * sides[2])
        expected = area / thickness + 0.54 * 4 * sum(sides) + 0.15 * 8 * thickness
        rows.append(
            Check(
                name=f"shape factor of a hollow box, wall {thickness * 1000:g} mm",
                unit="m",
                expected=expected,
                computed=box_shape_factor_m(sides, thickness),
                tolerance=0.01 * expected,
                source=langmuir + "; ours has 0.559 and 0.10, hence 1 %",
            )
        )
    rows.append(
        Check(
            name="hollow cylinder, r 0.10 and 0.25 m, λ 0.15",
            unit="W/(m·K)",
            expected=1.02857,
            computed=cylinder_conductance_w_mk(0.10, 0.25, 0.15),
            tolerance=1e-4,
            source="Fourier: 2·π·λ/ln(r2/r1)",
        )
    )
    return rows


def closed_form_paths(openings: list[tuple[float, float, float]], top_m: float = 2.0) -> AirPaths:
    """Return frictionless slots (bottom, height, width) [m] without joints, for flow checks."""
    n = len(openings)
    bottom, height, width = (
        np.array(column).reshape(-1, 1) for column in zip(*openings, strict=True)
    )
    return AirPaths(
        part_ids=tuple(f"slot {k}" for k in range(n)),
        part_zone=np.full(n, 1),
        strip_part=np.arange(n),
        joint_zone=np.zeros(0, dtype=int),
        part_area_m2=height * width,
        part_lid_exchange=np.zeros((n, 1)),
        strip_bottom_m=bottom,
        strip_top_m=bottom + height,
        strip_area_m2=height * width,
        strip_friction=np.zeros((n, 1)),
        strip_cp=np.zeros((n, 1)),
        joint_height_m=np.zeros((0, 1)),
        joint_coefficient=np.zeros((0, 1)),
        joint_cp=np.zeros((0, 1)),
        zone_tops_m=np.array([[0.0], [top_m]]),
        gust_share=np.array([[c.WIND_FLUCTUATION.value]]),
        laminar_pa=np.array([[c.CRACK_LAMINAR.value]]),
    )


def _flow() -> list[Check]:
    """Two small openings one above the other, and one tall opening, by buoyancy alone."""
    rho_out, rho_in = np.array([1.30]), np.full((3, 1), 1.25)
    calm = np.zeros(1)
    cd, g = c.DISCHARGE_COEFFICIENT.value, c.GRAVITY.value

    two = closed_form_paths([(0.0, 0.002, 0.1), (0.5, 0.002, 0.1)])
    dp = balanced_pressure_pa(two, rho_out, rho_in, calm)
    into = float(flows(two, dp, rho_out, rho_in, calm).opening_in.sum())
    # Mass through both: m = Cd·A·√(2·Δp1·ρo) = Cd·A·√(2·Δp2·ρi), Δp1 + Δp2 = Δρ·g·H.
    stack = 0.05 * g * 0.5
    expected = cd * 2e-4 * sqrt(2 * stack / (1 / 1.30 + 1 / 1.25))

    one = closed_form_paths([(0.0, 0.3, 0.02)])
    dp1 = balanced_pressure_pa(one, rho_out, rho_in, calm)
    inflow = float(flows(one, dp1, rho_out, rho_in, calm).opening_in.sum())
    # Brown and Solvason 1962 for unequal densities; (Cd/3)·A·√(g·H·Δρ/ρ) when they are close.
    ratio = (1.30 / 1.25) ** (1 / 3)
    tall = 2 / 3 * cd * 0.02 * sqrt(2 * g * 0.05 / 1.30) * (0.3 / (1 + ratio)) ** 1.5 * 1.30
    simple = cd / 3 * 0.006 * sqrt(g * 0.3 * 0.05 / 1.275) * 1.275
    return [
        Check(
            name="two openings 0.5 m apart, stack only",
            unit="g/s",
            expected=1e3 * expected,
            computed=1e3 * into,
            tolerance=1e-4 * 1e3 * expected,
            source="orifice flow in series, Cd·A·√(2·g·H·Δρ/...) (any ventilation handbook)",
        ),
        Check(
            name="one tall opening, both ways",
            unit="g/s",
            expected=1e3 * tall,
            computed=1e3 * inflow,
            tolerance=1e-4 * 1e3 * tall,
            source="Brown and Solvason 1962, unequal densities",
        ),
        Check(
            name="one tall opening, short formula",
            unit="g/s",
            expected=1e3 * simple,
            computed=1e3 * inflow,
            tolerance=0.01 * 1e3 * simple,
            source="(Cd/3)·A·√(g·H·ΔT/T)",
        ),
    ]


def _honey() -> list[Check]:
    one_kg_s = honey_ledger(np.array([c.HONEY_ENERGY.value]))
    source = "304 kcal/100 g and 17 % water (USDA); C6H12O6 + 6 O2 = 6 CO2 + 6 H2O"
    water, co2 = float(one_kg_s.water_kg_s[0]), float(one_kg_s.co2_kg_s[0])
    oxygen = float(one_kg_s.oxygen_kg_s[0])
    carbon_in, carbon_out = 0.83 * 72.066 / 180.156, co2 * 12.011 / 44.009
    return [
        Check(
            name="water from 1 kg of honey",
            unit="kg",
            expected=0.67,
            computed=water,
            tolerance=0.005,
            source=source,
        ),
        Check(
            name="CO2 from 1 kg of honey",
            unit="kg",
            expected=1.22,
            computed=co2,
            tolerance=0.005,
            source=source,
        ),
        Check(
            name="heat of 1 kg of honey",
            unit="MJ",
            expected=304 * 4184 * 10 / 1e6,
            computed=c.HONEY_ENERGY.value / 1e6,
            tolerance=0.05,
            source=source,
        ),
        Check(
            name="carbon in minus carbon out",
            unit="kg",
            expected=0.0,
            computed=carbon_in - carbon_out,
            tolerance=5e-4,
            source="conservation of carbon",
        ),
        Check(
            name="mass in minus mass out",
            unit="kg",
            expected=0.0,
            computed=1 + oxygen - water - co2,
            tolerance=2e-3,
            source="conservation of mass",
        ),
    ]
