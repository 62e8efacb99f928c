"""A third project that ships: the demo's designs as six hives that stand, with two winters seen.

The diary is made by ``tools/make_apiary.py`` out of years with other parameters than the designs
take (they are told there and in the docs), so that what was seen differs from what is expected.
"""

from __future__ import annotations

from dataclasses import replace
from functools import cache

from calveth.catalogue.shipped import demo_project, read_data
from calveth.core.hive.design import Design
from calveth.core.project import Project
from calveth.core.records.diary import Diary, StandingHive
from calveth.store.converter import from_document

BUILT = (
    StandingHive(id="hive-1", name="Jetty", design="plain-boards", since="2023-05-06",
                 until="2024-02-26", fate="lost", colony="north swarm"),
    StandingHive(id="hive-2", name="Boathouse", design="plain-boards", since="2023-05-06",
                 colony="old one"),
    StandingHive(id="hive-3", name="Reeds", design="timber", since="2023-05-13",
                 colony="dark one"),
    StandingHive(id="hive-4", name="Alder", design="composite", since="2023-05-13",
                 colony="quiet one"),
    StandingHive(id="hive-5", name="Willow", design="composite", since="2023-06-03",
                 colony="late swarm"),
    StandingHive(id="hive-6", name="Slipway", design="warm-lid-boards", since="2024-05-04",
                 colony="split of old one"),
)  # fmt: skip
"""The hives of the apiary; the last is version two of the plain boards."""


def apiary_designs() -> tuple[Design, ...]:
    """Return the designs of the demo, and version two of the plain boards: foam over its lid."""
    demo = demo_project()
    plain = demo.design("plain-boards")
    warm = next(d for d in demo.designs if d.id == "composite").shell.lid
    second = replace(
        plain, id="warm-lid-boards", name="Plain 19 mm boards 2",
        shell=replace(plain.shell, lid=warm),
        note="from Plain 19 mm boards: wet under the lid in February 2024 in Jetty and Boathouse",
    )  # fmt: skip
    return (*demo.designs, second)


@cache
def apiary_project() -> Project:
    """Return the apiary by the invented lake: six hives, two winters."""
    diary = from_document(read_data("apiary.json"), Diary)
    return replace(demo_project(), name="Lake Velm apiary", designs=apiary_designs(), diary=diary)
