"""The hive as its season plan sets it in a month."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from calveth.core.constants_tables import TRAY_LEAK
from calveth.core.errors import DomainError
from calveth.core.hive.design import FACES, Design, Face
from calveth.core.hive.season_plan import NO_PLAN, Setting


def setting_of(design: Design, month: int) -> Setting:
    """Return the setting of a design in a month (0 to 11); a design without a plan has one."""
    return design.seasons.in_month(month)


def in_month(design: Design, month: int) -> Design:
    """Return the hive as it stands in a month (0 to 11): sliders, quilt, cover and tray."""
    return as_set(design, setting_of(design, month))


def month_designs(design: Design) -> tuple[Design, ...]:
    """Return the hive of each month; months that are set alike share one value."""
    if not design.seasons:
        return (design,) * 12
    settings = [design.seasons.in_month(month) for month in range(12)]
    made = {setting: as_set(design, setting) for setting in dict.fromkeys(settings)}
    return tuple(made[setting] for setting in settings)


def as_set(design: Design, setting: Setting) -> Design:
    """Return the hive in a setting, without a plan of its own."""
    off = {
        fitting for fitting, on in (("quilt", setting.quilt), ("cover", setting.cover)) if not on
    }
    shell = design.shell
    if off:
        for face in FACES:
            stack = shell.stack(face)
            kept = tuple(layer for layer in stack if layer.fitting not in off)
            if kept and len(kept) != len(stack):
                shell = replace(shell, **{face: kept})
    openings = []
    for opening in design.openings:
        share = setting.share(opening.id, opening.free_share)
        if opening.shape == "screen" and opening.side == "floor" and design.has_tray:
            share = min(share, TRAY_LEAK.value) if setting.tray else share
        openings.append(
            opening if share == opening.free_share else replace(opening, free_share=share)
        )
    return replace(design, shell=shell, openings=tuple(openings), seasons=NO_PLAN)


def change_month(design: Design, month: int, change: Callable[[Setting], Setting]) -> Design:
    """Return the design with the setting of a month changed; a plan is begun if there is none.

    Raises
    ------
    DomainError
        When the month is not 0 to 11.
    """
    if not 0 <= month < 12:
        raise DomainError("month", month + 1, "is not a month; use 1 to 12")
    setting = change(design.seasons.in_month(month))
    return replace(design, seasons=design.seasons.with_month(month, setting))


def kept_layers(design: Design, month: int, face: Face) -> tuple[int, ...]:
    """Return the layers of a face that are on in a month (0 to 11), by their place in the design.

    The k-th layer of `in_month` is the design's layer number ``kept_layers(...)[k]``.
    """
    return layers_on(design, setting_of(design, month), face)


def layers_on(design: Design, setting: Setting, face: Face) -> tuple[int, ...]:
    """Return the layers of a face that are on in a setting, by their place in the design."""
    off = {f for f, on in (("quilt", setting.quilt), ("cover", setting.cover)) if not on}
    stack = design.shell.stack(face)
    kept = tuple(k for k, layer in enumerate(stack) if layer.fitting not in off)
    return kept or tuple(range(len(stack)))
