"""The sheets of tests without bees: what is needed, what to do, what it tells, and the caution."""

from __future__ import annotations

from html import escape
from typing import Literal

from calveth.texts.logs import HEATER_CAUTION

TestKind = Literal["heater", "decay", "smoke"]
TITLES: dict[TestKind, str] = {
    "heater": "A heater in the empty hive",
    "decay": "CO2 that leaves the empty hive",
    "smoke": "Smoke or light at the joints",
}
_STEPS: dict[TestKind, tuple[str, ...]] = {
    "heater": (
        "Empty, dry hive, closed as it will stand; every opening taped over for the shell alone, "
        "or open as built for shell and air together. Two tests give the share of the air.",
        "In a shed or in full shade: sun on a wall makes the result too small by a tenth.",
        "A lamp or heating mat of known watts in the middle; one probe beside it in the air, "
        "shaded from it, one outside in the shade. Enough watts for 5 K or more of difference; "
        "for most hives 10 to 25 W.",
        "Leave it on for three days, logged every ten minutes, and do not touch it. The first "
        "twelve hours are left out; nights alone would be a quarter off, as the shell still gives.",
        "The log needs a time, °C inside, °C outside and W in its columns.",
    ),
    "decay": (
        "Empty hive, closed as it will stand, in the wind or shelter it will stand in.",
        "Let CO2 in until a meter inside reads 2 % or so: from a bottle, or a spoon of baking soda "
        "in vinegar. Stir once with a small fan.",
        "Read it every ten minutes for two hours; stop while it is well above the air outside.",
        "The log needs a time and ppm of CO2.",
    ),
    "smoke": (
        "At dusk a bright lamp inside the closed, empty hive: what shines out is a leak. Or smoke "
        "from outside on a calm day, a hand pump drawing at the entrance.",
        "Mark the places; seal them with wax, tape or a better joint; look again.",
        "It says where, not how much: the decay of CO2 says how much.",
    ),
}
_CAUTION: dict[TestKind, str] = {
    "heater": HEATER_CAUTION,
    "decay": "CO2 smothers: do it outdoors or with doors open, and do not bend over the hive.",
    "smoke": "A lamp that stays cool; no open flame near straw, foam or wax, and water at hand.",
}
_STANDARD: dict[TestKind, str] = {
    "heater": "ISO 9869-1 asks for three days, and for a result a day before the end within 5 %.",
    "decay": "ISO 12569, concentration decay: n = ln((C0 - Ce)/(C - Ce))/t.",
    "smoke": "",
}


def sheet_of(kind: TestKind) -> str:
    """Return the sheet of a test as HTML."""
    steps = "".join(f"<li>{escape(step)}</li>" for step in _STEPS[kind])
    standard = f"<p><small>{escape(_STANDARD[kind])}</small></p>" if _STANDARD[kind] else ""
    return (
        f"<h3>{escape(TITLES[kind])}</h3><p><b>{escape(_CAUTION[kind])}</b></p>"
        f"<ol>{steps}</ol>{standard}"
    )
