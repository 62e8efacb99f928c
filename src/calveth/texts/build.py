"""Words and sizes of a build plan: as a beekeeper with a saw reads them."""

from __future__ import annotations

from collections.abc import Mapping
from math import floor, gcd

from calveth.core.materials import Material
from calveth.core.message import Message
from calveth.core.solids.parts import PartId
from calveth.core.workshop.lifting import LiftVerdict
from calveth.core.workshop.panels import Panel
from calveth.core.workshop.piece import Bulk, Piece, Row
from calveth.core.workshop.standing import Standing
from calveth.texts.build_words import BULK, ROLE, WORDS
from calveth.texts.findings import written
from calveth.texts.units import UnitSystem

_HALF_MM, _PARTS = 0.0005, 32
_PLACE = {"outer": "outer", "inner": "inner", "middle": "middle", "whole": ""}
_UNITS = {"litres": "volume", "area": "area", "mass": "mass", "length": "length"}


def build_message(message: Message, units: UnitSystem) -> str:
    """Return what the core says of a build in words and units."""
    shown = {name: written(value, units) for name, value in message.values}
    return WORDS[message.id].format(**shown)


def saw_size(value_m: float, units: UnitSystem) -> str:
    """Return a size as it is marked out: to half a millimetre, or to 1/32 inch; without unit.

    >>> from calveth.texts.units import INCH, METRIC
    >>> saw_size(0.2445, METRIC), saw_size(0.244, INCH), saw_size(0.019, INCH)
    ('244.5', '9 19/32', '3/4')
    """
    if units.name == "metric":
        halves = round(value_m / _HALF_MM)
        return f"{halves // 2}" if halves % 2 == 0 else f"{halves / 2:.1f}"
    parts = round(value_m / 0.0254 * _PARTS)
    inches, rest = floor(parts / _PARTS), parts % _PARTS
    if rest == 0:
        return f"{inches}"
    shared = gcd(rest, _PARTS)
    fraction = f"{rest // shared}/{_PARTS // shared}"
    return f"{inches} {fraction}" if inches else fraction


def size_text(piece: Piece, units: UnitSystem) -> str:
    """Return length x width x thickness as it is marked out."""
    sizes = (piece.length_m, piece.width_m, piece.thickness_m)
    return " x ".join(saw_size(s, units) for s in sizes)


def parts_text(parts: tuple[PartId, ...]) -> str:
    """Return parts in words: ``box 1, 2``, ``floor``."""
    by_part: dict[str, list[str]] = {}
    for part in parts:
        role = "stand" if part.role == "legs" else part.role
        by_part.setdefault(role, [])
        if part.number:
            by_part[role].append(str(part.number))
    return "; ".join(
        f"{role} {', '.join(numbers)}" if numbers else role for role, numbers in by_part.items()
    )


def piece_name(piece: Piece, sides: tuple[str, ...] = ()) -> str:
    """Return what a piece is called within its part: ``inner front, back``."""
    if piece.role in ROLE:
        role = ROLE[piece.role]
        return role
    where = ", ".join(sides or ((piece.side,) if piece.side else ())) or "plate"
    return f"{_PLACE.get(piece.place, '')} {where}".strip()


def row_name(row: Row) -> str:
    """Return what a row is called."""
    return piece_name(row.piece, row.sides)


def work_text(
    row: Row, units: UnitSystem, panels: Mapping[int, Panel], joined: Mapping[int, int]
) -> str:
    """Return all that is worked on a row, in one line."""
    piece, acts = row.piece, []
    panel = panels.get(row.number)
    if panel is not None and panel.strips > 1:
        acts.append(f"glued from {panel.strips} strips of {saw_size(panel.strip_m, units)}")
    if panel is not None and panel.layers > 1:
        acts.append(f"glued up from {panel.layers} layers")
    if panel is not None and panel.planed_from_m > 0:
        acts.append(f"planed from {saw_size(panel.planed_from_m, units)}")
    if piece.bought_as == "block":
        acts.append("laid in courses, see the blocks")
    if piece.bought_as == "cast":
        acts.append("part of one cast")
    if row.number in joined:
        acts.append(f"butted from {joined[row.number]} parts, joints taped")
    if piece.outline:
        acts.append("cut to its outline")
    acts += [build_message(m, units) for m in piece.work]
    for cutout in piece.cutouts:
        where = f"at {saw_size(cutout.u_m, units)} / {saw_size(cutout.v_m, units)}"
        if cutout.round:
            acts.append(f"{cutout.what}: hole {saw_size(cutout.wide_m, units)} {where}")
        else:
            size = f"{saw_size(cutout.wide_m, units)} x {saw_size(cutout.high_m, units)}"
            deep = "" if cutout.deep_m is None else f", {saw_size(cutout.deep_m, units)} deep"
            acts.append(f"{cutout.what}: {size}{deep} {where}")
    return "; ".join(acts)


def bulk_text(bulk: Bulk, units: UnitSystem, materials: Mapping[str, Material]) -> str:
    """Return what is bought, with how much of it."""
    name = BULK[bulk.what]
    if bulk.material:
        name += f": {materials[bulk.material].name}"
    if bulk.message is not None:
        name += f", {build_message(bulk.message, units)}"
    return f"{name} · {amount_text(bulk, units)}"


def amount_text(bulk: Bulk, units: UnitSystem) -> str:
    """Return an amount with its unit."""
    if bulk.unit == "count":
        return f"{bulk.amount:.0f}"
    if bulk.unit == "area":
        factor, unit = (1.0, "m²") if units.name == "metric" else (10.7639, "ft²")
        return f"{bulk.amount * factor:.2f} {unit}"
    if bulk.unit == "length":
        factor, unit = (1.0, "m") if units.name == "metric" else (3.28084, "ft")
        return f"{bulk.amount * factor:.1f} {unit}"
    if bulk.unit == "litres":
        digits = 1 if bulk.amount < 20 else 0
        return units.write(bulk.amount, "volume", digits)
    return units.write(bulk.amount, "mass", 1)


def lift_text(verdict: LiftVerdict, units: UnitSystem) -> str:
    """Return what a lift weighs full, and what the guideline says of it."""
    lift = verdict.lift
    full = units.write(lift.full_kg, "mass", 0 if lift.full_kg >= 10 else 1)
    if verdict.stays:
        empty = units.write(lift.empty_kg, "mass", 0 if lift.empty_kg >= 10 else 1)
        hard = {"fine": "", "hard": ", by two", "too heavy": ", with a trolley or in pieces"}
        return (
            f"{full} full: stays in its place; carried there {empty} empty{hard[verdict.verdict]}"
        )
    if verdict.verdict == "fine":
        return f"{full} full: fine for one"
    limit = units.write(verdict.limit_kg, "mass", 0)
    two = (
        "two persons may"
        if verdict.needs_two
        else ("too heavy for two" if lift.full_kg > verdict.two_kg else "hard for one")
    )
    return f"{full} full; one is advised {limit} at this reach: {two}"


def standing_text(s: Standing, strap: str) -> str:
    """Return in a sentence whether a hive stands in a state."""
    state = {"empty": "Empty", "february": "In February", "full": "Full"}[s.state]
    text = f"{state} it tips at {s.angle_deg:.0f}° or by a push of {s.push_n:.0f} N at the top"
    weakest = min(s.joints, key=lambda j: j.ratio)
    if s.stands:
        return f"{text}; it stands in the storm of the place ({s.ratio:.1f} times safe)."
    if not s.lid_stays and weakest.ratio >= 1:
        text += f"; the storm lifts its lid ({s.lid_up_n:.0f} N against {s.lid_n:.0f} N)"
    else:
        way = "slides" if weakest.slides < weakest.tips else "tips"
        text += f"; in the storm it {way} at the joint under {_the(weakest.above)}"
    if strap == "none":
        return f"{text}: strap it."
    if s.joints[0].ratio < 1:
        pull = f"{s.anchor_n:.0f} N each" if s.anchor_n > 0 else "against sliding"
        if strap == "to ground anchors":
            return f"{text}: the anchors hold it, {pull}."
        return f"{text}. The strap makes hive and stand one body; as one it goes over: anchor it."
    return f"{text}; the strap holds it together."


def _the(part: PartId) -> str:
    return part.label if part.number else f"the {part.label}"


def to_buy_text(own: int, bought: int) -> str:
    """Return how many are there and how many are to be bought."""
    if not own:
        return f"{bought} to buy"
    return f"{own} of your own" + (f", {bought} to buy" if bought else "")


def money(value: float, currency: str) -> str:
    """Return a price in a currency."""
    return f"{value:.2f} {currency}" if value < 100 else f"{value:.0f} {currency}"
