"""Published checks of the year by the hour: walls that remember, drying films, sun and sky."""

from __future__ import annotations

import numpy as np

from calveth.core import constants as c
from calveth.core import constants_year as y
from calveth.core.check import Check
from calveth.core.climate.sky import sky_loss_w_m2
from calveth.core.heat.periodic import (
    layer_matrix,
    resistance_matrix,
    transmittance_and_admittance,
)
from calveth.core.nest import kernel_parts as kp
from calveth.core.year.chains import CELLS, chains

_DAYS = 16


def year_checks() -> list[Check]:
    """Return the checks, computed now."""
    return [check for group in (_walls, _wet_bulb, _sky, _nectar) for check in group()]


def _walls() -> list[Check]:
    """32 mm of timber and 40 mm of foam under a daily sine inside and outside."""
    made = []
    for name, (d, lam, rho, heat) in (
        ("timber, 32 mm", (0.032, 0.13, 500.0, 1600.0)),
        ("foam, 40 mm", (0.04, 0.035, 20.0, 1450.0)),
    ):
        exact = layer_matrix(d, lam, rho, heat) @ resistance_matrix(0.13)
        y12, y11 = transmittance_and_admittance(resistance_matrix(0.04) @ exact)
        for what, which, reference in (("Y11", 0, y11), ("Y12", 1, y12)):
            made.append(
                Check(
                    name=f"{what} of {name}, as a chain of cells",
                    unit="W/(m²·K)",
                    expected=abs(reference),
                    computed=abs(_driven(d / lam, d * rho * heat, which)),
                    tolerance=0.01 * abs(reference),
                    source="EN ISO 13786:2017, 7 and 8",
                )
            )
    return made


def _driven(resistance: float, capacity: float, which: int) -> complex:
    """Return the flow of heat into a wall whose air inside (0) or outside (1) swings by 1 K."""
    wall = chains([[(resistance, capacity)]], np.array([1 / 0.13]), np.array([25.0]))
    modes, flows = np.zeros(CELLS), []
    for hour in range(24 * _DAYS):
        given = np.zeros(4)
        given[which] = np.sin(2 * np.pi * (hour + 0.5) / 24) * np.sinc(1 / 24)
        surface = wall.inner[0] @ modes + wall.inner_by[0] @ given
        flows.append(wall.film[0] * (given[0] - surface))
        modes = wall.decay[0] * modes + wall.gain[0] @ given
    turn = np.exp(-2j * np.pi * (np.arange(24) + 0.5) / 24)
    return complex(2j * np.mean(np.array(flows[-24:]) * turn) / np.sinc(1 / 24))


def _wet_bulb() -> list[Check]:
    surface, at = np.zeros((1, kp.SURFACE_COLUMNS)), np.zeros((1, kp.AT_COLUMNS))
    surface[0, kp.SURFACE_AREA], surface[0, kp.SURFACE_FILM] = 1.0, 0.2
    surface[0, kp.SURFACE_CONVECTION] = 5.0
    law = np.array([[1.0, 0.0, 0.2, 1e3, 1.0, 0.0]])
    kp.settle_on(surface, law, 0, 20.0, 0.3 * kp.saturation_pa(20.0), 101325.0, at)
    return [
        Check(
            name="wet bulb at 20 °C and 30 %",
            unit="°C",
            expected=10.6,
            computed=float(at[0, kp.AT_DEGC]),
            tolerance=0.5,
            source="ASHRAE Handbook Fundamentals 2017, psychrometric chart (from memory)",
        ),
    ]


def _sky() -> list[Check]:
    loss = sky_loss_w_m2(np.array([0.0]), np.array([610.5]), np.zeros(1))
    black = c.STEFAN_BOLTZMANN.value * c.KELVIN_AT_0_DEGC.value**4
    return [
        Check(
            name="emissivity of a clear sky, dew point 0 °C",
            unit="-",
            expected=0.711,
            computed=1 - float(loss[0]) / black,
            tolerance=0.002,
            source="Berdahl and Martin 1984 (from memory)",
        ),
    ]


def _nectar() -> list[Check]:
    air = 1000.0 / 86400.0 / y.NECTAR_UPTAKE.value / y.AIR_DENSITY.value
    heat = c.LATENT_HEAT_WATER.value / 86400.0
    return [
        Check(
            name="air that dries 1 kg of water a day",
            unit="L/s",
            expected=0.8,
            computed=air,
            tolerance=0.05,
            source="by hand: 12 g of water a kilogram of air of 1.2 kg/m³",
        ),
        Check(
            name="heat that dries 1 kg of water a day",
            unit="W",
            expected=28.4,
            computed=heat,
            tolerance=0.2,
            source="latent heat of water, 2.45 MJ/kg, over a day",
        ),
    ]
