"""A third project that ships: the demo's designs as six hives that stand, with two winters seen.

The diary is made by ``tools/make_apiary.py`` out of years with other parameters than the designs
take (they are told there and in the docs), so that what was seen differs from what is expected.
"""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from hashlib import sha256
from importlib.resources import as_file, files

from calveth.catalogue.shipped import demo_project, read_data
from calveth.core.diary.take_in import take_in
from calveth.core.hive.design import Design
from calveth.core.project import Project
from calveth.core.records.diary import Diary, StandingHive
from calveth.core.records.quantity import Where
from calveth.store.converter import from_document
from calveth.store.log_csv import DateOrder, read_log

BUILT = (
    StandingHive(
        id="hive-1",
        name="Jetty",
        design="plain-boards",
        since="2023-05-06",
        until="2024-02-26",
        fate="lost",
        colony="north swarm",
    ),
    StandingHive(
        id="hive-2", name="Boathouse", design="plain-boards", since="2023-05-06", colony="old one"
    ),
    StandingHive(id="hive-3", name="Reeds", design="timber", since="2023-05-13", colony="dark one"),
    StandingHive(
        id="hive-4", name="Alder", design="composite", since="2023-05-13", colony="quiet one"
    ),
    StandingHive(
        id="hive-5", name="Willow", design="composite", since="2023-06-03", colony="late swarm"
    ),
    StandingHive(
        id="hive-6",
        name="Slipway",
        design="warm-lid-boards",
        since="2024-05-04",
        colony="split of old one",
    ),
)
"""The hives of the apiary; the last is version two of the plain boards."""


def apiary_designs() -> tuple[Design, ...]:
    """Return the designs of the demo, and version two of the plain boards: foam over its lid."""
    demo = demo_project()
    plain = demo.design("plain-boards")
    warm = next(d for d in demo.designs if d.id == "composite").shell.lid
    second = replace(
        plain,
        id="warm-lid-boards",
        of="plain-boards",
        name="Plain 19 mm boards 2",
        shell=replace(plain.shell, lid=warm),
        note="from Plain 19 mm boards: wet under the lid in February 2024 in Jetty and Boathouse",
    )
    return (*demo.designs, second)


LOGGED: tuple[tuple[str, str, DateOrder | None, tuple[tuple[str, str, Where], ...]], ...] = (
    (
        "boathouse.csv",
        "Etc/GMT-1",
        None,
        (
            ("lid °C", "hive-2", "under the lid"),
            ("lid %", "hive-2", "under the lid"),
            ("lid CO2 ppm", "hive-2", "under the lid"),
            ("scale kg", "hive-2", "scale"),
            ("outside °C", "", "outside"),
        ),
    ),
    (
        "alder.csv",
        "Etc/GMT-1",
        None,
        (
            ("lid °C", "hive-4", "under the lid"),
            ("lid CO2 ppm", "hive-4", "under the lid"),
        ),
    ),
)
"""Files of two loggers, the zone of their clocks, and where the probe of each column is."""


@cache
def apiary_project() -> Project:
    """Return the apiary by the invented lake: six hives, two winters, two of them logged."""
    diary = with_logs(from_document(read_data("apiary.json"), Diary))
    return replace(demo_project(), name="Lake Velm apiary", designs=apiary_designs(), diary=diary)


def with_logs(diary: Diary) -> Diary:
    """Return the diary with the two files read into it, as anybody's would be."""
    for name, zone, order, columns in LOGGED:
        with as_file(files("calveth.catalogue").joinpath(name)) as path:
            log = read_log(path, zone, order)
            digest = sha256(path.read_bytes()).hexdigest()
        for header, hive, at in columns:
            series = next(c.series for c in log.columns if c.name == header)
            diary = take_in(
                diary, series, hive=hive, at=at, name=header, file=name, sha256=digest, zone=zone
            )
    return diary
