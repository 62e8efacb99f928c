"""How a figure comes about: its formula, what went in, and where that is from."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from calveth.core import constants as c
from calveth.core.assess.nights import NightAssessment
from calveth.core.assess.readings import LID_MIDDLE, LID_RIM
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.calendar import MONTH_NAMES
from calveth.core.climate.place import days_without_forage
from calveth.core.constants import Constant
from calveth.core.heat.slab import outer_film_m2k_w
from calveth.core.hive.design import FACES
from calveth.core.hive.zones import CROWN, NEST
from calveth.core.materials import Material
from calveth.core.nest.network import SURFACES
from calveth.core.solids.cost import material_cost_eur
from calveth.core.solids.quantities import part_weights_kg
from calveth.core.units import litres_per_hour
from calveth.texts.units import METRIC, UnitSystem


@dataclass(frozen=True, slots=True, kw_only=True)
class Input:
    """One quantity that went in, as text, with its source."""

    name: str
    value: str
    source: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Working:
    """A figure, its formula, its inputs and what to think of it."""

    title: str
    result: str
    formula: str
    inputs: tuple[Input, ...]
    source: str
    note: str = ""


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Asked:
    """Everything a working may look at; ``month`` is 0 to 11."""

    monthly: MonthlyAssessment
    nights: NightAssessment | None
    month: int
    materials: Mapping[str, Material]
    units: UnitSystem = METRIC


def working(figure: str, asked: Asked) -> Working:
    """Return the working of a figure of `FIGURES`."""
    return _MAKERS[figure](asked)


def plain_number(value: float) -> str:
    """Return a number as people write it, without powers of ten."""
    if 1e-4 <= abs(value) < 1e5 or value == 0:
        return f"{value:g}"
    if abs(value) >= 1e5:
        return f"{value:,.0f}".replace(",", " ")
    return f"{value:.10f}".rstrip("0")


def _from(constant: Constant) -> str:
    span = ""
    if constant.low is not None:
        span = f", {constant.low:g} to {constant.high:g}"
    return f"{constant.source} ({constant.certainty}{span})"


def _constant(name: str, constant: Constant) -> Input:
    return Input(
        name=name, value=f"{plain_number(constant.value)} {constant.unit}", source=_from(constant)
    )


def _heat_loss(a: Asked) -> Working:
    model = a.monthly.model
    inputs = []
    for face in FACES:
        heat = model.faces[face]
        inputs.append(
            Input(
                name=face,
                value=(
                    f"{float(heat.whole_w_k()):.3f} W/K = 1/({heat.film_m2k_w:.2f}/"
                    f"{heat.area.inner_m2:.3f} + 1/{heat.shape_w_k:.3f} + "
                    f"{float(heat.outer_film_m2k_w()):.2f}/{heat.area.outer_m2:.3f})"
                ),
                source="areas from the solids; R of the layers by EN ISO 6946",
            )
        )
    k = model.correction
    inputs.append(
        Input(
            name="k of walls, lid, floor",
            value=f"{k.walls:.3f}, {k.lid:.3f}, {k.floor:.3f}",
            source="solved in three dimensions" if k.solved else "not solved",
        )
    )
    if model.window is not None:
        inputs.append(Input(name="window", value=f"{float(model.window.whole_w_k()):.3f} W/K"))
    inputs += [
        _constant("edge factor", c.EDGE_SHAPE_FACTOR),
        _constant("corner factor", c.CORNER_SHAPE_FACTOR),
        _constant("humidity the walls stand in", c.WINTER_HUMIDITY),
    ]
    return Working(
        title="Heat loss of the whole shell",
        result=f"{a.monthly.conductance_w_k:.3f} W/K",
        formula=(
            "L = Σ 1/(Rsi/A_inside + 1/(k·λ·S) + Rse/A_outside),  S = A/d + 0.559·edges/2 + …"
        ),
        inputs=tuple(inputs),
        source="EN ISO 6946; Langmuir, Adams and Meikle 1913 for edges and corners; EN ISO 10211",
        note=(
            "k makes each face lose what the solved shell loses, with all that runs through it."
            if model.correction.solved
            else "An estimate: boards that run through from cold to warm are not in it. For "
            "boxes it lies 6 % below to 3 % above the solved shell, for others up to 25 % off."
        ),
    )


def _honey(a: Asked) -> Working:
    days = np.array(days_without_forage(a.monthly.place))
    rate = a.monthly.months.balance.ledger.honey_kg_s * 86400
    heat = a.monthly.months.balance.metabolic_w
    inputs = [
        Input(
            name=MONTH_NAMES[k],
            value=(
                f"{days[k]:.0f} days × {1000 * rate[k]:.1f} g a day ({heat[k]:.1f} W)"
                + (
                    f" + {1000 * a.monthly.colony.activity_kg_day[k]:.0f} g for brood and flight"
                    if a.monthly.colony.activity_kg_day[k]
                    else ""
                )
            ),
        )
        for k in range(12)
        if days[k] > 0
    ]
    inputs += [
        _constant("energy of honey", c.HONEY_ENERGY),
        Input(
            name="cluster conductance g0",
            value=f"{a.monthly.colony.cluster_conductance_w_k_kg23:g} W/(K·kg^(2/3))",
            source=_from(c.CLUSTER_CONDUCTANCE),
        ),
        Input(
            name="heat at rest",
            value=f"{a.monthly.colony.rest_heat_w_kg:g} W/kg",
            source=_from(c.REST_HEAT),
        ),
    ]
    span = ""
    if a.nights is not None:
        low, high = a.nights.winter_honey_range_kg
        span = f", {a.units.number(low, 'mass')} to {a.units.write(high, 'mass')}"
    return Working(
        title="Winter honey",
        result=a.units.write(a.monthly.winter_honey_kg, "mass") + span,
        formula="Σ days without forage × Q/12.7 MJ/kg,  Q = max(q·m, g0·m^(2/3)·(T_core − T_nest))",
        inputs=tuple(inputs),
        source="energy and water of honey: USDA; the colony: estimates with their ranges",
        note="An estimate for planning. Heft the hive all the same.",
    )


def _dew(at: int) -> Callable[[Asked], Working]:
    def make(a: Asked) -> Working:
        m, i, u = a.monthly.months, a.month, a.units
        degc, dew = float(m.balance.surface_degc[at, i]), float(m.dew_point_degc[CROWN, i])
        terms = m.model_at(i).terms
        film = float(terms.surface_film_m2k_w[at, 0])
        layers = float(terms.surface_layers_m2k_w[at, 0])
        rse = float(outer_film_m2k_w(m.outside.wind_m_s[i], m.outside.temperature_degc[i]))
        return Working(
            title=f"{SURFACES[at].capitalize()} above dew point in {MONTH_NAMES[i]}",
            result=f"{degc - dew:+.2f} K",
            formula="surface temperature − dew point of the air under the lid",
            inputs=(
                Input(
                    name="surface",
                    value=u.write(degc, "temperature", 2),
                    source="T_crown − (T_crown − T_outside)·Rsi/(Rsi + R + Rse), and the heat "
                    "its own water sets free",
                ),
                Input(
                    name="air under the lid",
                    value=u.write(float(m.balance.temperature_degc[CROWN, i]), "temperature", 2),
                ),
                Input(
                    name="outside",
                    value=u.write(float(m.outside.temperature_degc[i]), "temperature", 2),
                ),
                Input(
                    name="Rsi",
                    value=f"{film:.2f} m²·K/W",
                    source="EN ISO 6946, table 7; at the rim 0.25 of EN ISO 13788",
                ),
                Input(name="R of the layers", value=f"{layers:.3f} m²·K/W"),
                Input(name="Rse", value=f"{rse:.3f} m²·K/W", source="EN ISO 6946, annex C"),
                Input(
                    name="vapour pressure under the lid",
                    value=f"{float(m.balance.vapour_pressure_pa[CROWN, i]):.0f} Pa",
                ),
                Input(
                    name="dew point",
                    value=u.write(dew, "temperature", 2),
                    source="EN ISO 13788:2012, annex E",
                ),
            ),
            source="EN ISO 13788",
            note="The rim is taken as cold as the worse of lid and wall." if at == LID_RIM else "",
        )

    return make


def _air(a: Asked) -> Working:
    m, i, u = a.monthly.months, a.month, a.units
    names = {o.id: o.name for o in a.monthly.design.openings}
    inputs = [
        Input(
            name=names[air.opening],
            value=(
                f"in {u.write(air.in_l_h, 'flow')}, out {u.write(air.out_l_h, 'flow')}, "
                f"{air.speed_m_s:.2f} m/s, carries {air.heat_w:.2f} W"
            ),
        )
        for air in m.openings(i)
    ]
    inputs += [
        Input(
            name="joints",
            value=f"in {u.write(m.joints_l_h(i), 'flow')}",
            source="C·Δp^0.65 per metre by tightness class (estimate, factor 3)",
        ),
        Input(name="wind at the hive", value=u.write(float(m.outside.wind_m_s[i]), "speed", 2)),
        Input(
            name="pressure at the floor",
            value=f"{float(m.balance.floor_pressure_pa[i]) * 1000:.1f} mPa",
        ),
        _constant("discharge coefficient", c.DISCHARGE_COEFFICIENT),
        _constant("gusts", c.WIND_FLUCTUATION),
    ]
    flow = litres_per_hour(float(m.exchange_m3_s[i]))
    return Working(
        title=f"Fresh air in {MONTH_NAMES[i]}",
        result=f"{u.write(flow, 'flow')}, {m.air_changes_per_hour[i]:.2f} changes an hour",
        formula=(
            "Σ in = Σ out:  Δp(z) = Δp0 − (ρe − ρi)·g·z + Cp·½ρv²,  (1/Cd²)·½ρu² + 32μL/D²·u = Δp"
        ),
        inputs=tuple(inputs),
        source="orifice flow and EN 16798-7; gusts by Warren and Parkins 1984",
    )


def _co2(a: Asked) -> Working:
    m, i = a.monthly.months, a.month
    share = float(m.co2_volume_share[NEST, i])
    made = float(m.balance.ledger.co2_kg_s[i]) * 8.64e7
    return Working(
        title=f"CO2 in the nest in {MONTH_NAMES[i]}",
        result=f"{share:.2%} by volume",
        formula="breathed out = carried off by the air + diffused through shell and openings",
        inputs=(
            Input(
                name="breathed out",
                value=f"{made:.0f} g a day",
                source="1.22 kg per kg of honey: 0.83 × 6·44.01/180.16",
            ),
            Input(
                name="fresh air",
                value=a.units.write(litres_per_hour(float(m.exchange_m3_s[i])), "flow"),
            ),
            _constant("outside", c.CO2_OUTSIDE_MASS_FRACTION),
            _constant("share that rises to the crown", c.PLUME_SHARE),
        ),
        source="mass balance of three zones",
    )


def _ratio(a: Asked) -> Working:
    mass = a.monthly.colony.mass_kg[a.monthly.coldest_month]
    return Working(
        title="Bees per heat loss",
        result=f"{a.monthly.mass_to_conductance_kg_k_w:.2f} kg·K/W",
        formula="mass of bees in the coldest month ÷ heat loss of the shell",
        inputs=(
            Input(name="bees", value=a.units.write(mass, "mass", 2)),
            Input(name="heat loss", value=f"{a.monthly.conductance_w_k:.3f} W/K"),
        ),
        source="Mitchell, Int. J. Biometeorology 2016: below 0.8 for common board hives",
    )


def _nights(a: Asked) -> Working:
    rows: tuple[Input, ...] = ()
    if a.nights is None:
        text = "being worked out"
    else:
        wet = a.nights.wet_nights
        text = f"lid middle {a.nights.crown_wet_nights:.0f}, rim {a.nights.rim_wet_nights:.0f}"
        rows = tuple(
            Input(
                name=MONTH_NAMES[k],
                value=f"middle {wet[LID_MIDDLE, k]:.1f}, rim {wet[LID_RIM, k]:.1f}",
            )
            for k in range(12)
            if wet[LID_RIM, k] + wet[LID_MIDDLE, k] > 0.05
        )
    return Working(
        title="Wet nights of the winter",
        result=text,
        formula="nights × share of a normal spread that is colder than where the margin is zero",
        inputs=(
            Input(
                name="day-to-day spread",
                value=f"{a.monthly.place.day_to_day_spread_k:g} K",
                source=a.monthly.place.source,
            ),
            *rows,
        ),
        source="the margin is taken as straight between a mean and a cold night",
    )


def _weight(a: Asked) -> Working:
    weights = part_weights_kg(a.monthly.model.hive, a.materials)
    return Working(
        title="Weight, empty",
        result=a.units.write(sum(weights.values()), "mass"),
        formula="Σ volume of the solids × density",
        inputs=tuple(
            Input(name=part, value=a.units.write(kg, "mass")) for part, kg in weights.items()
        ),
        source="densities of the materials; openings are cut out",
        note="Without frames, combs, honey and bees.",
    )


def _cost(a: Asked) -> Working:
    used = [a.materials[key] for key in a.monthly.design.material_ids]
    return Working(
        title="Material",
        result=a.units.write(material_cost_eur(a.monthly.design, a.materials), "money"),
        formula="Σ volume of the solids × price",
        inputs=tuple(
            Input(
                name=m.name,
                value=f"{m.price_eur_m3:g} {'€/m²' if m.kind == 'film' else '€/m³'}",
                source="rough shop price, estimate",
            )
            for m in used
        ),
        source="edit the prices of your materials",
        note="Without work, waste and fittings.",
    )


_MAKERS: dict[str, Callable[[Asked], Working]] = {
    "heat loss": _heat_loss,
    "winter honey": _honey,
    "lid middle above dew": _dew(LID_MIDDLE),
    "lid rim above dew": _dew(LID_RIM),
    "fresh air": _air,
    "CO2 in the nest": _co2,
    "bees per heat loss": _ratio,
    "wet nights": _nights,
    "weight": _weight,
    "material": _cost,
}
FIGURES = tuple(_MAKERS)
"""Names of the figures that have a working."""
