"""Bee space and fits as a small table."""

from __future__ import annotations

from collections.abc import Mapping
from html import escape

from calveth.core.hive.design import Design
from calveth.core.hive.forms import StackedBoxes
from calveth.core.materials import Material
from calveth.core.solids.build import build_solids
from calveth.core.solids.clearances import PITCHES_M, clearances, frames_that_fit
from calveth.core.solids.quantities import centre_of_gravity_m, part_weights_kg
from calveth.texts.findings import message_text
from calveth.texts.html import table
from calveth.texts.units import UnitSystem

GAPS: dict[str, str] = {
    "comb to slope": "comb to the sloped wall",
    "behind plates": "gap at the back of the plates",
    "frame ends": "frame ends to the wall",
    "outer frame": "outer frame to the wall",
    "under frames": "under the frames",
    "above frames": "above the frames",
    "divider": "divider or follower board",
    "shim": "shim or rim that can be put in",
}
"""What each gap is called, by its id; an opening goes by its own name."""


def clearances_html(design: Design, units: UnitSystem, materials: Mapping[str, Material]) -> str:
    """Return weight, balance and clearances of a design; faults are named in words."""
    hive = build_solids(design)
    kilos = sum(part_weights_kg(hive, materials).values())
    height = centre_of_gravity_m(hive, materials)[2]
    weighs = (
        f"<p>Empty {units.write(kilos, 'mass')}; balances {units.write(height, 'length')} above "
        "the floor inside.</p>"
    )
    rows = [["clearance", "", ""]]
    for clearance in clearances(design):
        gap = "" if clearance.gap_m is None else units.write(clearance.gap_m, "length", 1)
        mark = "! " if clearance.verdict in ("glued", "built up") else ""
        rows.append(
            [
                escape(clearance.opening or GAPS[clearance.id]),
                gap,
                mark + escape(message_text(clearance.message, units)),
            ]
        )
    if len(rows) == 1:
        return weighs
    text = weighs + table(rows, words=(0, 2))
    form = design.form
    if isinstance(form, StackedBoxes):
        fit = ", ".join(
            f"{frames_that_fit(form, pitch)} at {units.write(pitch, 'length')}"
            for pitch in PITCHES_M
        )
        text += f"<p>Frames that fit: {fit}.</p>"
    return text
