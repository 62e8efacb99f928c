"""The words of a year: its figures, and the answers to what keepers ask of it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import isfinite

from calveth.core.calendar import FIRST_DAYS, MONTH_NAMES, month_of_day, week_of_day
from calveth.core.hive.design import FACES, Design
from calveth.core.hive.season_plan import Rule, Setting
from calveth.core.materials import Material
from calveth.core.year.draws import YearBands
from calveth.core.year.figures import nectar_need
from calveth.core.year.questions import Centimetre, Helped
from calveth.core.year.result import YearRun
from calveth.core.year.sweeps import SweptYear
from calveth.texts.remedies import what_is_done
from calveth.texts.units import METRIC, UnitSystem, to_unit


@dataclass(frozen=True, slots=True)
class YearWord:
    """How a figure of the year is called and written.

    ``unit`` is a quantity of `texts.units`, or the word behind a bare number; ``better`` says
    whether less (-1) or more (1) is better, or neither (0).
    """

    name: str
    unit: str
    digits: int
    better: int
    group: str


_DRIPS_KG = 0.05
"""What drips in a winter and is told [kg]."""
_QUANTITIES = ("mass", "temperature", "fraction")
WORDS: dict[str, YearWord] = {
    "winter_honey_kg": YearWord("Honey through the winter", "mass", 1, -1, "Larder"),
    "year_honey_kg": YearWord(
        "Honey in the year, brood and flight with it", "mass", 0, 0, "Larder"
    ),
    "reserve_kg": YearWord("Left when forage begins", "mass", 1, 1, "Larder"),
    "empty_day": YearWord("Larder empty on", "day", 0, 0, "Larder"),
    "lid_wet_nights": YearWord("Wet above the cluster", "winter nights", 0, -1, "Damp"),
    "rim_wet_nights": YearWord("Wet along the rim of the lid", "winter nights", 0, -1, "Damp"),
    "wall_wet_nights": YearWord("Wet on the walls above", "winter nights", 0, -1, "Damp"),
    "floor_wet_nights": YearWord("Wet floor", "winter nights", 0, -1, "Damp"),
    "lid_wet_hours": YearWord("Wet above the cluster", "winter hours", 0, -1, "Damp"),
    "rim_wet_hours": YearWord("Wet along the rim", "winter hours", 0, -1, "Damp"),
    "dripped_kg": YearWord("Dripped from the lid in winter", "mass", 2, -1, "Damp"),
    "drained_kg": YearWord("Ran out at the front", "mass", 1, 0, "Damp"),
    "frozen_most_kg": YearWord("Most ice inside at a time", "mass", 2, -1, "Damp"),
    "hottest_nest_degc": YearWord("Hottest hour of the nest air", "temperature", 1, -1, "Heat"),
    "hottest_lid_degc": YearWord("Hottest under the lid", "temperature", 0, -1, "Heat"),
    "harmful_hours": YearWord("Too warm for brood", "hours", 0, -1, "Heat"),
    "bearding_hours": YearWord("Bees hang out at the front", "hours", 0, -1, "Heat"),
    "fanning_hours": YearWord("Bees fan", "hours", 0, 0, "Heat"),
    "water_kg": YearWord("Water carried in to cool", "mass", 1, -1, "Heat"),
    "water_most_kg_day": YearWord("Water on the hottest day", "mass", 2, -1, "Heat"),
    "coldest_nest_degc": YearWord("Coldest air beside the cluster", "temperature", 1, 1, "Air"),
    "winter_co2": YearWord("CO2 beside the bees in winter", "fraction", 1, 0, "Air"),
    "most_co2": YearWord("CO2 at most", "fraction", 1, -1, "Air"),
    "iced_hours": YearWord("Ice closes the entrance", "hours", 0, -1, "Air"),
    "snow_days": YearWord("Snow lies on the lid", "winter days", 0, 0, "Damp"),
}
"""Every figure of `YearFigures` by its name."""

INPUTS: dict[str, str] = {
    "plume_share": "how much warm breath rises to the lid",
    "mixing_nest_crown_w_k": "how the air mixes below the lid",
    "mixing_nest_base_w_k": "how the air mixes above the floor",
    "shell_factor": "what the walls conduct as bought",
    "leakage_factor": "how tight the joints are",
    "wind_factor": "how sheltered the hive stands",
    "gust_factor": "gusts at the entrance",
    "cluster_factor": "how well the cluster keeps its warmth",
    "rest_factor": "the heat of resting bees",
    "fanning_factor": "how much bees fan for brood",
    "core_offset_k": "how warm the cluster keeps its core",
    "quilt_capacity_kg_kg": "how much water the quilt holds",
    "quilt_wash": "how well the quilt's vents dry it",
    "rain_fill": "how much rain the wall drinks",
    "rain_drying": "how fast a wet wall dries",
    "slats_share": "the rack below the combs",
    "crack_laminar_pa": "how narrow the cracks are",
    "activity_share": "how much brood and flight are paid for in the hive",
    "fanning_most_m3_s_kg": "how much air bees can fan",
    "fanning_speed_m_s": "how fast bees drive air through the entrance",
    "cooling_most_1_s": "how much water bees can spread",
    "brood_need": "what brood costs to keep warm",
    "rest_q10": "how much more warm bees eat",
    "mantle_degc": "how cold the mantle of a cluster is",
    "snow_on_lid_m": "how deep snow lies on the lid",
    "broodless_airs_k": "when bees without brood begin to air the nest",
    "liked_degc": "how warm bees with nothing to do like it",
    "fanning_cost_w_m3_s": "what fanning costs the bees",
    "pores_co2": "how open the pores of the walls are",
    "visible_g_day": "how little water is seen",
    "film_factor": "the air along the walls inside",
    "bees_factor": "the mass of your bees",
    "sun_factor": "how dark the outside is",
    "buffer_factor": "how much water boards and combs bind",
    "isotherm_steeper": "how much water nearly wet wood still binds",
    "cluster_leaves_k": "how warm it is when bees leave the cluster",
    "brood_bees": "how many bees sit on the brood",
    "heat_borne_k": "how warm a nest bees bear",
    "damp_borne": "how damp a nest bees bear",
    "cling_factor": "how much water clings before it drips",
    "comb_heat_factor": "how much honey is in the combs",
    "weather_chance": "what weather the year brings",
    "ice_at_mouth": "how much ice grows in a low entrance",
    "thirsty_inside": "how much of the wood inside is bare of propolis",
}
"""Every uncertain input by its name, as a beekeeper would say it."""


def day_words(day: float) -> str:
    """Return a day of the year as a date.

    >>> day_words(31)
    '1 February'
    """
    k = int(day)
    month = month_of_day(k)
    return f"{k - FIRST_DAYS[month] + 1} {MONTH_NAMES[month]}"


def hour_words(hour: int) -> str:
    """Return an hour of the year as a date with its time.

    >>> hour_words(30)
    '2 January, 6:00'
    """
    return f"{day_words(hour // 24)}, {hour % 24}:00"


def write(name: str, value: float, units: UnitSystem = METRIC) -> str:
    """Return a figure of the year as it is shown."""
    word = WORDS[name]
    if word.unit == "day":
        return day_words(value) if isfinite(value) else "never"
    if not isfinite(value):
        return "no winter here" if name == "winter_co2" else "no answer"
    if word.unit in _QUANTITIES:
        return units.write(value, word.unit, word.digits)
    return f"{value:.{word.digits}f} {word.unit}"


def shown(name: str, value: float, units: UnitSystem = METRIC) -> float:
    """Return a figure of the year as a number in the unit it is shown in."""
    unit = WORDS[name].unit
    return to_unit(value, unit, units.unit(unit)) if unit in _QUANTITIES else value


def unit_of(name: str, units: UnitSystem = METRIC) -> str:
    """Return the unit a figure of the year is shown in; nothing for a day of the year."""
    unit = WORDS[name].unit
    return "" if unit == "day" else units.unit(unit) if unit in _QUANTITIES else unit


def write_band(bands: YearBands, name: str, units: UnitSystem = METRIC) -> str:
    """Return a figure with its band, ``8.1 kg (7.2 to 9.6)``; without draws the figure alone."""
    likely = write(name, getattr(bands.likely, name), units)
    low, high = bands.band(name)
    if not bands.values.size or not (isfinite(low) and isfinite(high)):
        return likely
    ends = [write(name, v, units).split(" ")[0] for v in (low, high)]
    return likely if ends[0] == ends[1] else f"{likely} ({ends[0]} to {ends[1]})"


def dry_sentences(rows: Sequence[YearBands], units: UnitSystem = METRIC) -> list[str]:
    """Return which hives stay dry above the cluster all winter, and why the others do not."""
    sentences = []
    for row in rows:
        if row.trouble:
            sentences.append(f"{row.trouble[0].upper()}{row.trouble[1:]}.")
            continue
        name, f = row.case.design.name, row.likely
        low, high = row.band("lid_wet_nights")
        rim = write_band(row, "rim_wet_nights", units)
        if high < 1.0:
            ring = (
                "and so does the rim" if row.band("rim_wet_nights")[1] < 1.0 else f"the rim: {rim}"
            )
            over = ""
            if f.dripped_kg > _DRIPS_KG and _has_quilt(row.case.design):
                over = (
                    f" But its quilt is full and drips {units.write(f.dripped_kg, 'mass', 2)} on "
                    "the combs in winter: more vents above it, or a deeper one."
                )
            sentences.append(
                f"{name} stays dry above the cluster all winter, {ring}.{over}{_under_snow(row)}"
            )
        elif low < 1.0:
            sentences.append(
                f"{name} cannot be told: dry above the cluster in some hives built alike, "
                f"wet on up to {high:.0f} winter nights in others; the rim: {rim}."
                f"{_under_snow(row)}"
            )
        else:
            drip = ""
            if f.dripped_kg > _DRIPS_KG:
                drip = f", {units.write(f.dripped_kg, 'mass', 2)} drip"
            sentences.append(
                f"{name} gets wet above the cluster on "
                f"{write_band(row, 'lid_wet_nights', units)}{drip}: its lid comes below the dew "
                f"point of the breath under it, on clear nights first.{_under_snow(row)}"
            )
    return sentences


def _under_snow(row: YearBands) -> str:
    """Return for how long snow keeps the lid warmer than a bare one; nothing where it does not."""
    days = row.likely.snow_days
    if not days >= 1.0:
        return ""
    return f" On {days:.0f} of its winter days snow lies on the lid and keeps it warmer."


def _has_quilt(design: Design) -> bool:
    return any(layer.fitting == "quilt" for layer in design.shell.lid)


def larder_sentence(row: YearBands, units: UnitSystem = METRIC) -> str:
    """Return how much honey to leave, and what would be left of what is held."""
    place = row.case.place
    if row.trouble:
        return "No year to read honey off."
    _, high = row.band("winter_honey_kg")
    if high <= 0.0:
        return f"{place.name} has no weeks without forage: a dearth has no date here."
    text = (
        f"Leave {units.write(high, 'mass', 1)} of honey: from week {place.last_forage_week} to "
        f"week {place.first_forage_week} {row.case.design.name} burns "
        f"{write_band(row, 'winter_honey_kg', units)}."
    )
    held = row.case.colony.stores_kg
    if isfinite(row.likely.empty_day):
        return f"{text} The {units.write(held, 'mass')} held are empty on " + (
            f"{day_words(row.likely.empty_day)}, week {week_of_day(int(row.likely.empty_day))}."
        )
    return (
        f"{text} Of {units.write(held, 'mass')} held {write_band(row, 'reserve_kg', units)} last."
    )


def source_sentence(row: YearBands, name: str) -> str:
    """Return which input the band of a figure comes from; empty where none stands out."""
    source = row.comes_from(name)
    if not source:
        return ""
    most = " and ".join(INPUTS[key] for key, _ in source[:2])
    return f"The range comes most from {most}: know that first."


def unsettled_sentence(hours: int) -> str:
    """Return that some hours of a year came to no rest."""
    return f"{hours} hour{'s' if hours > 1 else ''} did not settle; the others do not rest on them."


def hot_sentence(row: YearBands, units: UnitSystem = METRIC) -> str:
    """Return what happens in the heat of the year."""
    if row.trouble:
        return "No year to read heat off."
    return (
        f"On the hottest day the nest air comes to {write_band(row, 'hottest_nest_degc', units)} "
        f"and the underside of the lid to {write_band(row, 'hottest_lid_degc', units)}; the bees "
        f"carry {write_band(row, 'water_most_kg_day', units)} of water. Over the year they hang "
        f"out for {write_band(row, 'bearding_hours', units)}, brood is too warm for "
        f"{write_band(row, 'harmful_hours', units)}."
    )


_LITTLE_KG = 0.01


def nectar_sentence(run: YearRun, units: UnitSystem = METRIC) -> str:
    """Return what drying a kilogram of water of nectar a day takes, and whether it can be had."""
    need = nectar_need(run)
    text = (
        f"To dry {units.write(1.0, 'mass', 0)} of water out of nectar in a day the bees fan "
        f"{1000 * need.air_m3_s:.1f} L/s day and night and give {need.heat_w:.0f} W for it"
    )
    if need.bound_days == 0:
        text += "; the openings let it through on every day of forage."
    else:
        text += f"; on {need.bound_days} days of forage the openings let less through: it waits."
    brought, dried = (units.write(v, "mass", 0) for v in (need.brought_kg, need.dried_kg))
    if need.brought_kg > 0.0:
        text += f" Of {brought} of water in the nectar of the year they dry {dried}"
        if need.waits_kg > _LITTLE_KG:
            text += f"; up to {units.write(need.waits_kg, 'mass', 1)} wait for drier air"
        text += "."
    return text


def centimetre_sentences(
    design: Design,
    materials: Mapping[str, Material],
    offers: Sequence[Centimetre],
    units: UnitSystem = METRIC,
) -> list[str]:
    """Return what one more centimetre of each layer brings, the most first.

    Layers that save less than ten grams a winter are counted, not listed.
    """
    rows = []
    for c in offers:
        if c.saved_kg < _LITTLE_KG:
            continue
        layer = design.shell.stack(c.face)[c.layer]
        low, high = (units.number(v, "mass", 2) for v in c.saved_range_kg)
        nights = ""
        if abs(c.rim_nights_fewer) >= 1.0:
            less = "fewer" if c.rim_nights_fewer > 0 else "more"
            nights = f", {abs(c.rim_nights_fewer):.0f} wet nights {less} on the rim"
        verdict = ("pays" if c.pays else "does not pay") + ("" if c.surely else ", not surely")
        rows.append(
            f"{c.face.capitalize()}, layer {c.layer + 1} from outside, "
            f"{materials[layer.material].name.lower()}: saves "
            f"{units.write(c.saved_kg, 'mass', 2)} a winter ({low} to {high}) for "
            f"{c.cost_eur:.2f} €{nights}; it {verdict}."
        )
    rest = len(offers) - len(rows)
    if rest:
        little = units.write(_LITTLE_KG, "mass", 2)
        rows.append(f"{rest} more layers save less than {little} a winter each.")
    return rows


def width_sentences(rows: Sequence[SweptYear], units: UnitSystem = METRIC) -> list[str]:
    """Return a line for each share an entrance is open by."""
    return [
        f"{100 * each.size:.0f} % open: "
        f"{units.write(each.bands.likely.winter_honey_kg, 'mass', 1)} of winter honey, "
        f"{each.bands.likely.lid_wet_nights:.0f} wet nights above the cluster, CO2 to "
        f"{100 * each.bands.likely.most_co2:.1f} %, nest to "
        f"{units.write(each.bands.likely.hottest_nest_degc, 'temperature', 1)}"
        for each in rows
    ]


def act_words(design: Design, before: Setting, setting: Setting) -> str:
    """Return what is opened, closed, put on and taken off between two settings; empty: nothing."""
    acts = []
    for o in design.openings:
        share = setting.share(o.id, o.free_share)
        if share != before.share(o.id, o.free_share):
            acts.append(f"{o.name} {100 * share:.0f} % open" if share else f"{o.name} shut")
    for name, (put, taken) in (
        ("quilt", ("on", "off")),
        ("cover", ("on", "off")),
        ("tray", ("in", "out")),
    ):
        there = name != "tray" or design.has_tray
        if name != "tray":
            faces = (design.shell.stack(face) for face in FACES)
            there = any(layer.fitting == name for stack in faces for layer in stack)
        if there and getattr(setting, name) != getattr(before, name):
            acts.append(f"{name} {put if getattr(setting, name) else taken}")
    return ", ".join(acts)


RULE_TEXT: dict[Rule, str] = {
    "": "",
    "forage begins": "with the first forage week",
    "forage ends": "after the last forage week",
    "first frost nights": "with the first frost nights",
    "nights over 5 °C": "when nights stay over 5 °C",
    "warm days": "with the first warm days",
    "cool days": "when days turn cool",
}
"""What the day of an act follows; nothing where a hand set it."""


def plan_rules(design: Design) -> dict[int, str]:
    """Return what days (0 to 364) of a plan follow, in words; days set by hand are left out."""
    return {p.from_day - 1: RULE_TEXT[p.rule] for p in design.seasons.periods if p.rule}


def plan_acts(design: Design, settings: Sequence[tuple[int, Setting]]) -> list[tuple[int, str]]:
    """Return the days (0 to 364) of a season plan on which something is done, and what."""
    acts = [
        (day, act_words(design, settings[number - 1][1], setting))
        for number, (day, setting) in enumerate(settings)
    ]
    return [(day, words) for day, words in acts if words]


def plan_settings(design: Design) -> tuple[tuple[int, Setting], ...]:
    """Return what a design's plan sets from which day (0 to 364) on."""
    return tuple((p.from_day - 1, p.setting) for p in design.seasons.periods)


def plan_sentences(design: Design, settings: Sequence[tuple[int, Setting]]) -> list[str]:
    """Return the acts of a season plan with their dates; what is done on a day in one line."""
    if not settings:
        return ["No plan: the hive stays the same all year."]
    sentences = [
        f"{day_words(day)}, week {week_of_day(day)}: {words}."
        for day, words in plan_acts(design, settings)
    ]
    return sentences or ["The plan changes nothing on this hive."]


def helped_sentences(helped: Sequence[Helped], units: UnitSystem = METRIC) -> list[str]:
    """Return what each remedy does through the year, what helps most first."""
    rows = []
    for h in sorted(helped, key=lambda h: h.wet_nights_more):
        was, now = h.before.likely, h.after.likely
        sure = f", drier in {h.drier_of_ten:.0f} of 10 built alike" if h.before.values.size else ""
        done = what_is_done(h.remedy, units)
        verdict = ""
        if h.wet_nights_more >= 1:
            verdict = "Through the year it is wetter with it. "
        elif h.wet_nights_more > -1 and now.winter_honey_kg > 0.99 * was.winter_honey_kg:
            verdict = "Through the year it does nothing. "
        rows.append(
            f"{done[0].upper()}{done[1:]}. {verdict}Wet above the cluster "
            f"{was.lid_wet_nights:.0f} → {now.lid_wet_nights:.0f} winter nights, along the rim "
            f"{was.rim_wet_nights:.0f} → {now.rim_wet_nights:.0f}{sure}; honey "
            f"{units.number(was.winter_honey_kg, 'mass', 1)} → "
            f"{write_band(h.after, 'winter_honey_kg', units)}."
        )
    return rows
