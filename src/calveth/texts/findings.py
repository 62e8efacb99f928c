"""The words of what is said of a hive, and how the values of a message are written."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from calveth.core.advice.finding import Finding, Tone
from calveth.core.calendar import MONTH_NAMES
from calveth.core.hive.design import Face
from calveth.core.message import Message, Value
from calveth.texts.units import METRIC, UnitSystem

WORDS: dict[str, str] = {
    "bees fan": "In a month of forage bees fan; the air they move is an estimate, and nectar is "
    "left out.",
    "lid dry": "Dry under the lid in {month}: even the rim is {spare} above dew point.",
    "lid hardly damp": "Dry to the finger under the lid in {month}, but only just: the rim is "
    "{below} below dew point, too little water to be seen.",
    "wet ring": "Wet ring in {month}: the rim of the lid is at {surface}, dew point {dew}, about "
    "{water} of water a day. The middle stays dry.",
    "lid drips": "Wet above the cluster in {month}: the lid is at {surface}, dew point {dew}, "
    "about {water} a day drips on it. Thicken the lid first.",
    "lid runs": "Wet above the cluster in {month}: the lid is at {surface}, dew point {dew}, "
    "about {water} a day runs to the rim. Thicken the lid first.",
    "lid freezes": "Wet above the cluster in {month}: the lid is at {surface}, dew point {dew}, "
    "about {water} a day freezes there and drips in the thaw. Thicken the lid first.",
    "a warmer edge": "a warmer edge: carry the insulation over the rim, thicken the worse of the "
    "two",
    "a thicker lid, a quilt or air": "a thicker lid, a quilt, or more air above",
    "walls let most heat through": "the {face} let most heat through, U {u}",
    "face lets most heat through": "the {face} lets most heat through, U {u}",
    "inner board bridges the rim": "the inner board of the lid lies on the rim and leads the heat "
    "out: factor {factor}, {plain} as if the joint were not there",
    "two cold faces meet": "two cold faces meet there: factor {factor}, {plain} as if the joint "
    "were not there",
    "walls and floor dry": "Walls and floor are dry.",
    "water below": "Water gathers on {surfaces}: {water} a day. Tilt the hive a little forward so "
    "that it runs out.",
    "water below runs out": "Water gathers on {surfaces}: {water} a day. It runs down and out, the "
    "hive leans forward.",
    "walls below are coldest": "the walls below the cluster are the coldest place the damp air "
    "meets",
    "some leave it to drink": "some leave it for the bees to drink; thicker walls make it less",
    "air": "Air: {flow} an hour, {changes} changes; CO2 about {co2}.",
    "air thick": "Air: {flow} an hour, {changes} changes; CO2 about {co2}, thick: open the "
    "entrance a little.",
    "a wider entrance or a hole above": "a wider entrance, or a small hole above",
    "stores last": "Winter honey about {need} of {held} held (estimate).",
    "stores short": "Winter honey about {need} of {held} held, but busy bees would burn {high} "
    "(estimate): heft the hive in late winter.",
    "stores do not last": "Stores of {held} do not last: about {need} are burnt (estimate).",
    "no week without forage": "No week without forage here: there is no winter to hold honey for.",
    "bare to the bees": "Bees meet {material} bare in the {face}: they chew it and carry it out.",
    "a board or cloth towards the bees": "a thin board or a cloth over it, towards the bees",
    "feed or insulate": "feed in autumn, or insulate",
    "window frost": "Frost on the window: {surface}, {water} a day.",
    "window wet": "The window is wet: {surface}, {water} a day.",
    "glass is thin": "glass is thin",
    "a second pane or a cover": "a second pane, or a cover board over it",
    "draught": "Draught at the comb from the {opening}: about {speed} (estimate).",
    "wind and warm air draw": "wind and warm air draw through it, and the combs hang close",
    "a rack, a smaller opening or a turn": "a slatted rack, a smaller opening, or a turn away from "
    "the wind",
    "a smaller opening or a turn": "a smaller opening, or a turn away from the wind",
    "air hot": "In {month} the air inside comes to {air}: combs sink and bees leave.",
    "heat finds no way out": "the heat of the bees finds no way out",
    "larger openings or less insulation": "larger openings, fewer bees in so small a room, or less "
    "insulation",
    "rim colder than told": "The rim of the lid is colder than told here, by about {share} of the "
    "difference between inside and outside.",
    "metal leads heat away": "metal leads its heat away faster than air brings it",
    "joint leads heat away": "the joint there leads its heat away faster than air brings it",
    "keep metal from the rim": "keep metal from the rim",
    "quilt fills": "The quilt fills to {share} of what it holds.",
    "quilt drips": "The quilt fills to {share} of what it holds: it drips, {over} in a year.",
    "more vents or a deeper quilt": "more vents above the shavings, or a deeper quilt",
    "mould": "Mould may grow in {month}: over 80 % humidity at {surfaces}.",
    "80 % at the surface": "EN ISO 13788: a monthly mean of more than 80 % at the surface",
    "warmer surfaces or more air": "warmer surfaces or more air; combs are kept clean by the bees "
    "on them",
    "rain wets walls": "Bare walls drink rain: they let up to {more} more heat through, and chill "
    "as they dry (estimate).",
    "nothing keeps rain off": "nothing keeps driving rain off the blocks",
    "paint or render": "paint, render or an outer board",
    "snow suffocates": "When snow closes the {shut} in {month} the bees suffocate: the air is bad "
    "after about {bad} hours (8 % CO2), without oxygen after {end}.",
    "snow makes air bad": "When snow closes the {shut} in {month} CO2 comes to about {co2}; the "
    "air is bad (8 %) after about {bad} hours.",
    "lid in so many of ten": "How sure is that? Of ten hives built alike, about {of_ten_0} would "
    "be dry under the lid, {of_ten_1} have a wet ring and {of_ten_2} be wet above the bees.",
    "lid untold": "It cannot be told: of ten hives built alike, about {of_ten_0} would be dry "
    "under the lid, {of_ten_1} have a wet ring and {of_ten_2} be wet above the bees.",
    "not known exactly": "nobody knows exactly how the breath rises and mixes, how much wind and "
    "leaks there are, how well the walls hold heat, and how strong the bees are",
    "two ways to breathe": "In {month} this hive may also breathe another way: once its air is "
    "foul, CO2 stays at about {co2}.",
    "humidity of the air": "The air between the combs is at {here}, dew point {dew}. A logger "
    "beside the cluster, {warmer} warmer, would show {beside}.",
    "humidity held by wet walls": "The air between the combs is at {here}, dew point {dew}: wet "
    "walls hold it there. A logger beside the cluster, {warmer} warmer, would show {beside}.",
    "air bad": "Air: {flow} an hour, {changes} changes; CO2 about {co2}, bad for bees: open the "
    "entrance.",
    "snow leaves an exit": "Snow may close the {shut} for {days} days of {month}: CO2 then about "
    "{co2}, an exit stays above.",
    "snow leaves no exit": "Snow may close the {shut} for {days} days of {month}: CO2 then about "
    "{co2}, no exit is left.",
    "a hole above or a free entrance": "a small hole high up, or keep the entrance free",
    "water stays inside": "Inside the {face} water gathers from {first}, {most} by {worst}; not "
    "all of it dries by autumn.",
    "water inside dries": "Inside the {face} water gathers from {first}, {most} by {worst}; it "
    "dries in summer.",
    "vapour gets in faster than out": "vapour gets in faster from the warm side than it gets out "
    "on the cold side",
    "thicker layer": "Make the {material} in the {face} {more} thicker",
    "foam under a board": "Put {foam} of foam into the {face}, under a thin board towards the bees",
    "lay a quilt": "Lay a vented quilt of {deep} shavings under the lid",
    "drill a hole high": "Drill a {wide} hole high in the front",
    "shut the opening above": "Shut the opening above",
    "narrow to half": "Narrow the {opening} to half",
    "twice as wide": "Make the {opening} twice as wide",
    "seal the joints": "Seal the joints",
    "insulation past the rim": "Carry the insulation of the lid past the rim",
    "insulation past the floor": "Carry the insulation of the walls past the floor",
    "lid wet longer": "the lid turns wet in {wetter} winter months, not in {wet} as now",
    "air thicker": "CO2 beside the bees rises from {now} to {then} in winter",
    "no exit, bees suffocate": "when snow closes the low entrance no exit is left, and the bees "
    "suffocate",
    "no exit, air bad": "when snow closes the low entrance no exit is left, and CO2 comes to {co2}",
    "glue": "bees glue it",
    "comb": "bees build into it",
    "bee space": "bee space",
    "small bees pass": "10 to 15 mm let small bees through (common practice)",
    "beside comb": "side of a comb to the wall; 6 to 20 mm in use",
    "below comb": "6 to 20 mm; more wants a slatted rack",
    "queen passes": "no gap round it may reach {queen}, a queen passes",
    "let it slide": "no gap round it may reach {queen}, a queen passes; a board as high shrinks "
    "{shrinks} when it dries: let it slide",
    "under boxes": "under boxes in a fixed sleeve; more, and the lid no longer comes {down} down",
    "rim over it": "the rim of the lid comes down over it: cut the rim out, or move it",
    "tighter inside or more open outside": "a tighter layer inside, or a more open one outside",
}
"""What a message says, by its id; its values stand in braces."""

SURFACE_WORDS: dict[str, str] = {
    "lid middle": "lid middle",
    "lid rim": "lid rim",
    "upper wall": "upper wall",
    "middle wall": "middle wall",
    "lower wall": "lower wall",
    "floor": "floor",
    "window": "window",
    "lid": "lid",
    "walls": "walls",
}


def message_text(message: Message | None, units: UnitSystem = METRIC) -> str:
    """Return a message in words and units; nothing for none."""
    if message is None:
        return ""
    shown = {name: written(value, units) for name, value in message.values}
    return WORDS[message.id].format(**shown)


def finding_text(finding: Finding, units: UnitSystem = METRIC) -> str:
    """Return what was found, as a sentence."""
    return message_text(finding.message, units)


@dataclass(frozen=True, slots=True, kw_only=True)
class Sentence:
    """A finding in words: what a screen or a page shows of it."""

    text: str
    tone: Tone
    face: Face | None = None
    cause: str = ""
    helps: str = ""


def in_words(finding: Finding, units: UnitSystem = METRIC) -> Sentence:
    """Return a finding in words and units."""
    return Sentence(
        text=finding_text(finding, units),
        tone=finding.tone,
        face=finding.face,
        cause=message_text(finding.cause, units),
        helps=message_text(finding.helps, units),
    )


def written(value: Value, units: UnitSystem) -> str:
    """Return a value in words and units."""
    v = value.value
    digits = value.digits if units.name == "metric" else value.inch_digits
    if isinstance(v, tuple):
        return _list([SURFACE_WORDS[x] for x in v] if value.kind == "surfaces" else list(v))
    if isinstance(v, str):
        return SURFACE_WORDS[v] if value.kind == "surface" else v
    if value.kind in _PLAIN:
        return _PLAIN[value.kind](v, value.digits)
    if value.kind == "flow":
        return units.write(v, "flow", digits).removesuffix("/h")
    if value.kind == "water per area":
        return units.write(v, "water", digits) + "/m²"
    return units.write(v, value.kind, digits)


_PLAIN: dict[str, Callable[[float, int | None], str]] = {
    "month": lambda v, _: MONTH_NAMES[int(v)],
    "share": lambda v, digits: f"{v:.{digits or 0}%}",
    "number": lambda v, digits: f"{v:.{2 if digits is None else digits}f}",
    "transmittance": lambda v, _: f"{v:.2f} W/(m²·K)",
    "angle": lambda v, digits: f"{v:.{digits or 0}f}°",
}
"""Kinds that are written alike in all units."""


def _list(names: list[str]) -> str:
    return " and ".join([", ".join(names[:-1]), names[-1]] if len(names) > 1 else names)
