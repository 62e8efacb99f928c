"""The appendix of the printed report: every table of a hive, and where the figures come from."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from html import escape

from calveth.core.advice.dossier import Dossier
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.calendar import MONTH_NAMES
from calveth.core.compare.table import CompareRow, compare_row
from calveth.core.materials import Material
from calveth.core.nest.network import SURFACES, WINDOW
from calveth.core.project import Project
from calveth.core.solids.quantities import centre_of_gravity_m, outer_size_m
from calveth.core.units import litres_per_hour
from calveth.core.workshop.lifting import judge
from calveth.core.workshop.weights import lifts_of
from calveth.core.year.draws import YearBands
from calveth.texts.build import lift_text
from calveth.texts.criteria import criterion_text, said_of
from calveth.texts.html import MUTED, table
from calveth.texts.joints import joints_html
from calveth.texts.measures import MEASURES
from calveth.texts.units import UnitSystem
from calveth.texts.year import WORDS, write_band


def comparison_page(
    project: Project, wholes: Sequence[Dossier], month: int, units: UnitSystem
) -> str:
    """Return the months of the place and every figure of a month side by side."""
    place = project.place
    rows = [compare_row(w.monthly, w.follow_up.nights, month, w.follow_up.snow) for w in wholes]
    weather = table(
        [
            ["", *(name[:3] for name in MONTH_NAMES)],
            [
                f"temperature {units.unit('temperature')}",
                *(units.number(m.temperature_degc, "temperature") for m in place.months),
            ],
            ["humidity %", *(f"{100 * m.relative_humidity:.0f}" for m in place.months)],
            [
                f"wind {units.unit('speed')}",
                *(units.number(m.wind_m_s, "speed") for m in place.months),
            ],
            [
                f"bees {units.unit('mass')}",
                *(units.number(v, "mass", 2) for v in project.colony.mass_kg),
            ],
        ]
    )
    return (
        f"<h1>Appendix: the tables</h1>{weather}"
        f"<h2>{MONTH_NAMES[month]}, side by side</h2>{_comparison(rows, units)}"
    )


def _comparison(rows: Sequence[CompareRow], units: UnitSystem) -> str:
    lines = [["", *(escape(r.name) for r in rows)]]
    for measure in MEASURES:
        name = escape(measure.name.replace("\n", ", "))
        lines.append([name, *(escape(measure.write(r, units).replace("\n", "; ")) for r in rows)])
    return table(lines)


def tables_page(
    dossier: Dossier,
    project: Project,
    month: int,
    units: UnitSystem,
    profiles: str = "",
    year: YearBands | None = None,
) -> str:
    """Return every table of a hive; ``profiles`` names the picture through its faces."""
    materials = project.material_table()
    drawn = f"<p><img src='{profiles}' width='500'></p>" if profiles else ""
    return (
        f"<h1>{escape(dossier.monthly.design.name)}: tables</h1>{drawn}"
        f"{_layers(dossier, materials, units)}{_openings(dossier, month, units)}"
        f"{_year(year, units)}{_schools(dossier, units)}{_months(dossier, units)}"
        f"{_dew(dossier, units)}{_joints(dossier, units)}"
        f"{_weights(dossier, materials, units)}{_cautions(dossier, materials)}"
    )


def _year(year: YearBands | None, units: UnitSystem) -> str:
    """Return every figure of the year by the hour with its range."""
    if year is None:
        return ""
    figures = [["", "likely (8 of 10 built alike)"]]
    figures += [
        [escape(f"{word.group}: {word.name}"), escape(write_band(year, name, units))]
        for name, word in WORDS.items()
    ]
    return f"<h2>The year by the hour</h2>{table(figures)}"


def _layers(resistance: Dossier, materials: Mapping[str, Material], units: UnitSystem) -> str:
    design, model = resistance.monthly.design, resistance.monthly.model
    width, length, height = (units.number(v, "length") for v in outer_size_m(model.hive))
    lines = [["face", "layers from the outside in", "insulation"]]
    for face, heat in model.faces.items():
        stack = ", ".join(
            f"{units.write(y.thickness_m, 'length')} {escape(materials[y.material].name)}"
            + (
                f" with {y.mixed_share:.0%} {escape(materials[y.mixed_with].name)}"
                if y.mixed_share
                else ""
            )
            + (f" ({y.fitting})" if y.fitting != "fixed" else "")
            for y in design.shell.stack(face)
        )
        lines.append([face, stack, units.resistance(float(heat.middle_w_m2k()))])
    return (
        f"<h2>Layers</h2>{table(lines, words=(0, 1), wide=False)}"
        f"<p>{units.write(model.litres, 'volume')} inside; outside "
        f"{width} × {length} × {height} {units.unit('length')}; joints {design.joints}; "
        f"lid to wall: {design.joinery.lid}, "
        f"floor to wall: {design.joinery.floor}; "
        f"{resistance.monthly.conductance_w_k:.2f} W/K, {_how(resistance.monthly)}.</p>"
    )


def _how(monthly: MonthlyAssessment) -> str:
    return "solved in three dimensions" if monthly.solved else "estimated to about 6 %"


def _joints(dossier: Dossier, units: UnitSystem) -> str:
    """Return the joints and what each costs, where the shell is solved."""
    if dossier.joints is None or not dossier.joints.joints:
        return ""
    return f"<h2>Joints</h2>{joints_html(dossier.joints, units, MUTED)}"


def _openings(dossier: Dossier, month: int, units: UnitSystem) -> str:
    names = {o.id: o.name for o in dossier.monthly.design.openings}
    lines = [["opening", "in", "out", "speed", "heat", "at the comb"]]
    for air in dossier.monthly.months.openings(month):
        lines.append(
            [
                escape(names[air.opening]),
                units.write(air.in_l_h, "flow"),
                units.write(air.out_l_h, "flow"),
                units.write(air.speed_m_s, "speed", 2),
                f"{air.heat_w:.2f} W",
                units.write(air.draught_m_s, "speed", 2),
            ]
        )
    flow = litres_per_hour(float(dossier.monthly.months.exchange_m3_s[month]))
    return (
        f"<h2>Air in {MONTH_NAMES[month]}</h2>{table(lines, wide=False)}"
        f"<p>Fresh air in all {units.write(flow, 'flow')}.</p>"
    )


def _schools(dossier: Dossier, units: UnitSystem) -> str:
    rows = "".join(
        f"<li><b>{verdict.school}</b>: {said_of(verdict)}. "
        + "; ".join(
            ("✓ " if c.passed else "✗ not met: ") + escape(criterion_text(c, units))
            for c in verdict.criteria
        )
        + "</li>"
        for verdict in dossier.follow_up.verdicts
    )
    return f"<h2>By each way of wintering</h2><ul>{rows}</ul>"


def _months(dossier: Dossier, units: UnitSystem) -> str:
    months = dossier.monthly.months
    low, high = dossier.follow_up.nights.winter_honey_range_kg
    lines = [["", *(name[:3] for name in MONTH_NAMES)]]
    t, u = months.balance.temperature_degc, units
    for name, values in (
        (f"nest {u.unit('temperature')}", [u.number(float(v), "temperature") for v in t[1]]),
        ("crown humidity %", [f"{100 * min(1, v):.0f}" for v in months.relative_humidity[2]]),
        (
            f"air {u.unit('flow')}",
            [u.number(litres_per_hour(float(v)), "flow", 0) for v in months.exchange_m3_s],
        ),
        ("CO2 %", [f"{100 * v:.1f}" for v in months.co2_volume_share[1]]),
        (
            f"honey {u.unit('mass')}",
            [u.number(float(v), "mass") for v in dossier.monthly.honey_kg_month],
        ),
    ):
        lines.append([name, *values])
    return (
        f"<h2>The year</h2>{table(lines)}<p>Winter honey "
        f"{u.write(dossier.monthly.winter_honey_kg, 'mass')}, range {u.number(low, 'mass')} to "
        f"{u.write(high, 'mass')} (the bees' own heat: estimates); "
        f"{u.write(dossier.monthly.colony.stores_kg, 'mass', 0)} held.</p>"
    )


def _dew(dossier: Dossier, units: UnitSystem) -> str:
    """Return how far every surface is above the dew point, by month and in the coldest night."""
    monthly, night = dossier.monthly, dossier.follow_up.nights.coldest_night
    lines = [["", *(name[:3] for name in MONTH_NAMES), "coldest night"]]
    for k, name in enumerate(SURFACES):
        if k == WINDOW and monthly.design.window is None:
            continue
        margins = [*monthly.months.margin_k[k], night.margin_k[k, 0]]
        lines.append([name, *(units.margin(float(v)) for v in margins)])
    return (
        f"<h2>Above the dew point, {units.unit('temperature difference')}</h2>{table(lines)}"
        "<p>What has a minus is wet, or white with frost.</p>"
    )


def _weights(dossier: Dossier, materials: Mapping[str, Material], units: UnitSystem) -> str:
    lines = [["part", "empty", "lift"]]
    design, hive = dossier.monthly.design, dossier.monthly.model.hive
    for lift in lifts_of(design, hive, materials, dossier.monthly.colony):
        verdict = lift_text(judge(lift, design), units)
        lines.append([escape(lift.part.label), units.write(lift.empty_kg, "mass"), escape(verdict)])
    height = centre_of_gravity_m(dossier.monthly.model.hive, materials)[2]
    return (
        f"<h2>Weights</h2>{table(lines, words=(0, 2), wide=False)}"
        f"<p>Empty it balances {units.write(height, 'length')} above the floor inside.</p>"
        f"<p style='color:{MUTED}'>Guidance for work from ISO 11228-1 and the revised NIOSH "
        "equation, as in Build; local rules decide.</p>"
    )


def _cautions(dossier: Dossier, materials: Mapping[str, Material]) -> str:
    notes = [
        note for key in dossier.monthly.design.material_ids for note in materials[key].cautions
    ]
    notes.append("Bolt legs and stands, wider than the body; a strap against wind.")
    notes.append("A lid that stays open by itself keeps hands and bees whole.")
    items = "".join(f"<li>{escape(note)}</li>" for note in dict.fromkeys(notes))
    return f"<h2>Cautions</h2><ul>{items}</ul>"


def sources_page(project: Project, materials: Sequence[Material]) -> str:
    """Return the materials with their values and sources, and the methods."""
    lines = [["material", "λ W/(m·K)", "kg/m³", "μ", "source"]]
    lines += [
        [
            escape(m.name),
            f"{m.conductivity_w_mk:.3f}",
            f"{m.density_kg_m3:.0f}",
            f"{m.vapour_resistance_factor:g}",
            escape(f"{m.source} ({m.certainty})"),
        ]
        for m in materials
    ]
    return (
        f"<h1>Sources</h1><p>{escape(project.name)}</p>{table(lines, words=(0, 4))}"
        "<p>Heat through faces: EN ISO "
        "6946; edges and joints: EN ISO 10211, Langmuir, Adams and Meikle 1913; vapour and "
        "damp: EN ISO 13788; air: EN 16798-7, Warren and Parkins 1984, Epstein 1988; "
        "honey: USDA FoodData Central; wood: USDA Wood Handbook. The colony, mixing in the nest, "
        "shelter, leakage, quilt and rain are "
        "estimates; docs/method.md says how good each is.</p>"
    )
