"""A small diary of two invented hives; shared by the tests."""

from __future__ import annotations

from dataclasses import replace

from calveth.core.project import Project
from calveth.core.records.diary import Diary, Inspection, Mark, StandingHive
from tests.year.cases import PROJECT

WET_RING: tuple[Mark, ...] = ("wet", "wet", "wet", "wet", "dry", "wet", "wet", "ice", "wet")
BOARDS = StandingHive(
    id="hive-1", name="Lake 1", design="plain-boards", since="2025-05-01", colony="A"
)
WARM = StandingHive(id="hive-2", name="Lake 2", design="composite", since="2025-05-01", colony="B")
AUTUMN = Inspection(
    id="look-1",
    hive="hive-1",
    at="2025-10-05T14:00",
    stores_kg=17.0,
    stores_by="scale",
    stores_sure_kg=0.5,
)
WINTER = Inspection(
    id="look-2",
    hive="hive-1",
    at="2026-01-04T13:00",
    lid=WET_RING,
    floor="wet",
    stores_kg=13.0,
    alive=True,
    text="drops in the corners",
)
DIARY = Diary(hives=(BOARDS, WARM), inspections=(WINTER, AUTUMN))
KEPT: Project = replace(PROJECT, diary=DIARY)
