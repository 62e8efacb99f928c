"""The text of the printed report: the answer on one page, then a page a hive, as simple HTML."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from html import escape

from calveth.core.advice.dossier import Dossier
from calveth.core.advice.findings import findings
from calveth.core.calendar import MONTH_NAMES
from calveth.core.climate.place import has_forage
from calveth.core.compare.table import compare_row
from calveth.core.materials import Material
from calveth.core.project import Project
from calveth.core.school import SCHOOLS
from calveth.core.solids.cost import material_cost_eur
from calveth.core.solids.quantities import outer_size_m
from calveth.core.year.draws import YearBands
from calveth.texts.build import money
from calveth.texts.criteria import meant_for
from calveth.texts.findings import in_words
from calveth.texts.html import MUTED, table
from calveth.texts.remedies import effect, what_is_done
from calveth.texts.summary import listed, summary_sentences
from calveth.texts.units import UnitSystem
from calveth.texts.year import (
    dry_sentences,
    hot_sentence,
    larder_sentence,
    plan_sentences,
    plan_settings,
    write_band,
)

_HOT_HOURS = 24.0
"""Less in a summer is not told as a danger."""
_MOST_FINDINGS, _MOST_REMEDIES, _MOST_CAUTIONS = 5, 3, 4
RANGES, YEAR = "ranges", "year"
"""Names of the pictures that are as wide as the page."""
_SURE = (
    "Figures on bees are estimates with a range, for planning, and never a reason to skip an "
    "inspection. Differences between designs are surer than absolute figures. Local law and the "
    "local bee inspector decide on bees, siting and disease; local codes on building."
)


def answer_page(
    project: Project,
    wholes: Sequence[Dossier],
    years: Sequence[YearBands],
    month: int,
    units: UnitSystem,
) -> str:
    """Return the first page: what is dangerous, which hive for whom, how sure it is."""
    place = project.place
    rows = [compare_row(w.monthly, w.follow_up.nights, month, w.follow_up.snow) for w in wholes]
    says = dry_sentences(years, units) or summary_sentences(
        rows, month, forage=has_forage(place, month), units=units
    )
    dangers = _dangers(wholes, years, units)
    danger = f"<h2>Dangerous for the bees</h2>{_items(dangers)}" if dangers else ""
    ranges = f"<p><img src='{RANGES}' width='640'></p>" if years else ""
    return (
        f"<h1>{escape(project.name)}</h1>"
        f"<p>{escape(place.name)} · {escape(place.source)} · "
        f"{units.write(place.altitude_m, 'height')} · no forage from week "
        f"{place.last_forage_week} to week {place.first_forage_week}</p>"
        f"{danger}<h2>Dry or wet through the winter</h2>{_items(says)}"
        f"<h2>For whom</h2>{_items(_for_whom(wholes))}"
        f"<h2>Honey through the winter</h2>{ranges}{_side_by_side(project, wholes, years, units)}"
        f"<h2>How sure it is</h2><p>{escape(_SURE)}</p>"
    )


def _items(sentences: Sequence[str]) -> str:
    return "<ul>" + "".join(f"<li>{escape(text)}</li>" for text in sentences) + "</ul>"


def _dangers(wholes: Sequence[Dossier], years: Sequence[YearBands], units: UnitSystem) -> list[str]:
    """Return what may kill bees: no air under snow, an empty larder, a year without an answer."""
    dangers = []
    buried = [w.monthly.design.name for w in wholes if w.follow_up.snow.danger]
    if buried:
        dangers.append(
            f"Under snow that closes the entrance the bees run out of air: "
            f"{listed(buried)}. Keep the entrance free, or give an upper one."
        )
    hungry = [y for y in years if not y.trouble and y.band("reserve_kg")[0] < 0]
    if hungry:
        names = listed([y.case.design.name for y in hungry])
        stores = units.write(hungry[0].case.colony.stores_kg, "mass", 0)
        dangers.append(
            f"With {stores} the larder may be empty before forage: {names}. Feed in autumn."
        )
    hot = sorted(
        (y for y in years if not y.trouble and y.likely.harmful_hours >= _HOT_HOURS),
        key=lambda y: -y.likely.harmful_hours,
    )
    if hot:
        counted = listed([f"{y.case.design.name} ({y.likely.harmful_hours:.0f})" for y in hot])
        dangers.append(f"In high summer the brood is too warm, for so many hours: {counted}.")
    return dangers


def _for_whom(wholes: Sequence[Dossier]) -> list[str]:
    """Return for each way of wintering the hives that meet it, else those that are built for it."""
    answers = []
    for school in SCHOOLS:
        verdicts = {
            w.monthly.design.name: v
            for w in wholes
            for v in w.follow_up.verdicts
            if v.school == school
        }
        if not any(v.applies for v in verdicts.values()):
            continue
        met = [name for name, v in verdicts.items() if v.passed]
        near = [name for name, v in verdicts.items() if meant_for(v) and not v.passed]
        text = f"met by {listed(met)}" if met else "met by none of them"
        if not met and near:
            text += f", built for it are {listed(near)}"
        answers.append(f"{school[0].upper()}{school[1:]}: {text}.")
    return answers


def _side_by_side(
    project: Project,
    wholes: Sequence[Dossier],
    years: Sequence[YearBands],
    units: UnitSystem,
) -> str:
    by_id = {y.case.design.id: y for y in years}
    currency = project.workshop.currency
    lines = [
        [
            "hive",
            "heat",
            "winter honey",
            "left in spring",
            "wet rim",
            "CO2 at most",
            "empty",
            "material",
        ]
    ]
    for dossier in wholes:
        design = dossier.monthly.design
        year = by_id.get(design.id)
        cells = [
            write_band(year, name, units) if year is not None else ""
            for name in ("winter_honey_kg", "reserve_kg", "rim_wet_nights", "most_co2")
        ]
        lines.append(
            [
                escape(design.name),
                f"{dossier.monthly.conductance_w_k:.2f} W/K",
                *(escape(text.replace(" winter nights", "")) for text in cells),
                units.write(_empty_kg(dossier), "mass", 0),
                money(material_cost_eur(design, dossier.monthly.materials), currency),
            ]
        )
    key = "Wet rim in winter nights; in brackets 8 of 10 hives built alike."
    return f"{table(lines)}<p style='color:{MUTED}'>{key}</p>"


def _empty_kg(dossier: Dossier) -> float:
    from calveth.core.solids.quantities import part_weights_kg

    return sum(part_weights_kg(dossier.monthly.model.hive, dossier.monthly.materials).values())


def hive_page(
    dossier: Dossier,
    project: Project,
    month: int,
    units: UnitSystem,
    pictures: Sequence[str],
    year: YearBands | None = None,
) -> str:
    """Return the page of a hive: section, year, honey, cost, weight, plan, and what helps."""
    design = dossier.monthly.design
    drawn = "".join(f"<img src='{name}' width='330'>" for name in pictures if name != YEAR)
    through = f"<p><img src='{YEAR}' width='640'></p>" if YEAR in pictures else ""
    note = f"<p>{escape(design.note)}</p>" if design.note else ""
    return (
        f"<h1>{escape(design.name)}</h1>{note}<p>{drawn}</p>{_facts(dossier, project, units)}"
        f"<h2>What it says in {MONTH_NAMES[month]}</h2>{_findings(dossier, month, units)}"
        f"{_helps(dossier, units)}{through}{_year(year, units)}"
        f"{_cautions(dossier, project.material_table())}"
    )


def _facts(dossier: Dossier, project: Project, units: UnitSystem) -> str:
    model, design = dossier.monthly.model, dossier.monthly.design
    materials = project.material_table()
    width, length, height = (units.number(v, "length") for v in outer_size_m(model.hive))
    stacks = {
        face: " + ".join(
            f"{units.write(y.thickness_m, 'length')} {escape(materials[y.material].name.lower())}"
            for y in design.shell.stack(face)
        )
        for face in model.faces
    }
    how = "solved in three dimensions" if dossier.monthly.solved else "estimated to about 6 %"
    return (
        "<p>" + "; ".join(f"{face} {text}" for face, text in stacks.items()) + ". "
        f"Outside {width} × {length} × {height} {units.unit('length')}, "
        f"{units.write(model.litres, 'volume')} inside, "
        f"{units.write(_empty_kg(dossier), 'mass', 0)} "
        f"empty, {money(material_cost_eur(design, materials), project.workshop.currency)} of "
        f"material; loses {dossier.monthly.conductance_w_k:.2f} W/K ({how}).</p>"
    )


def _findings(dossier: Dossier, month: int, units: UnitSystem) -> str:
    judged = findings(dossier.monthly, month, dossier.follow_up.depth(month))[:_MOST_FINDINGS]
    items = ""
    for finding in judged:
        sentence = in_words(finding, units)
        because = (
            f" <span style='color:{MUTED}'>Because {escape(sentence.cause)}.</span>"
            if sentence.cause
            else ""
        )
        items += f"<li>{escape(sentence.text)}{because}</li>"
    return f"<ul>{items}</ul>"


def _helps(dossier: Dossier, units: UnitSystem) -> str:
    tried = dossier.remedies[:_MOST_REMEDIES]
    if not tried:
        return ""
    sentences = [f"{what_is_done(r, units)}: {effect(r, units)}" for r in tried]
    return f"<h2>What helps, tried on this hive</h2>{_items(sentences)}"


def _year(year: YearBands | None, units: UnitSystem) -> str:
    """Return the larder, the heat and the plan of the year in sentences."""
    if year is None:
        return ""
    design = year.case.design
    sentences = [
        f"Honey through the winter {write_band(year, 'winter_honey_kg', units)}.",
        larder_sentence(year, units),
        hot_sentence(year, units),
    ]
    plan = plan_sentences(design, plan_settings(design))
    season = f" <b>Season plan:</b> {escape(' '.join(plan))}" if plan else ""
    return f"<p>{escape(' '.join(text for text in sentences if text))}{season}</p>"


def _cautions(dossier: Dossier, materials: Mapping[str, Material]) -> str:
    notes = [
        note for key in dossier.monthly.design.material_ids for note in materials[key].cautions
    ]
    notes.append("Bolt legs and stands, wider than the body; a strap against wind.")
    kept = list(dict.fromkeys(notes))[:_MOST_CAUTIONS]
    return f"<p><b>Mind:</b> {escape(' '.join(kept))}</p>"
