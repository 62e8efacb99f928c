"""Years of a hive with one thing taken through its sizes: an opening, the bees, or a layer."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Literal, get_args

from calveth.core.case import HiveCase
from calveth.core.compare.sweep import insulation_of, with_thickness
from calveth.core.errors import DomainError, require_choice
from calveth.core.hive.design import FACES, Design, Face
from calveth.core.solids.openings_cut import colony_openings
from calveth.core.year.draws import YearBands, year_bands

_LEAST_COLONY_KG = 0.01

What = Literal["opening", "bees", "layer"]
OPEN_SHARES = (0.1, 0.25, 0.5, 0.75, 1.0)
BEES_SHARES = (0.4, 0.6, 0.8, 1.0, 1.25, 1.6)
THICKER_M = (-0.02, -0.01, 0.0, 0.01, 0.02, 0.04, 0.06)
_LEAST_M = 0.005


@dataclass(frozen=True, slots=True, kw_only=True)
class SweptYear:
    """A year at one size of what is swept: a share, or a thickness [m]."""

    size: float
    bands: YearBands


def swept_cases(
    case: HiveCase, what: What, *, opening: str = "", face: Face = "walls", layer: int = -1
) -> list[tuple[float, HiveCase]]:
    """Return sizes and the hive at each: as it is but for what is swept.

    An opening (the entrance without a name) is open by `OPEN_SHARES` all year; the bees are
    `BEES_SHARES` as many with the same stores; a layer (the one that insulates best with -1) is
    thinner and thicker by `THICKER_M`, its edges those of the shell as it is.

    Raises
    ------
    DomainError
        For what there is not.
    """
    require_choice("sweep", what, get_args(What))
    if what == "opening":
        chosen = opening or entrance_of(case.design)
        if not chosen:
            raise DomainError("openings", "none", "are there; give the hive an entrance")
        return _opened(case, chosen)
    if what == "bees":
        return [
            (
                share,
                replace(
                    case,
                    colony=replace(
                        case.colony,
                        mass_kg=tuple(
                            max(share * m, _LEAST_COLONY_KG) for m in case.colony.mass_kg
                        ),
                    ),
                ),
            )
            for share in BEES_SHARES
        ]
    require_choice("face", face, FACES)
    stack = case.design.shell.stack(face)
    index = insulation_of(stack, case.materials) if layer < 0 else layer
    if index >= len(stack):
        raise DomainError(f"{face} layer", index + 1, f"does not exist; there are {len(stack)}")
    now = stack[index].thickness_m
    sizes = sorted({round(now + more, 4) for more in THICKER_M if now + more >= _LEAST_M} | {now})
    cases = []
    for size in sizes:
        try:
            cases.append((size, case.of(with_thickness(case.design, face, index, size))))
        except DomainError:
            continue  # thicker than a layer may be
    return cases


def _opened(case: HiveCase, key: str) -> list[tuple[float, HiveCase]]:
    if all(o.id != key for o in case.design.openings):
        raise DomainError("opening", key, "is not in the design")
    sides = []
    for share in OPEN_SHARES:
        openings = tuple(
            replace(o, free_share=share) if o.id == key else o for o in case.design.openings
        )
        plan = case.design.seasons.each(lambda s, share=share: s.with_share(key, share))  # type: ignore[misc]
        sides.append((share, case.of(replace(case.design, openings=openings, seasons=plan))))
    return sides


def swept_years(
    cases: Sequence[tuple[float, HiveCase]],
    *,
    draws: int = 0,
    report: Callable[[float], None] = lambda _: None,
) -> list[SweptYear]:
    """Return the years of hives of several sizes, paired draw by draw."""
    bands = year_bands([case for _, case in cases], draws, report)
    return [SweptYear(size=s, bands=b) for (s, _), b in zip(cases, bands, strict=True)]


def entrance_of(design: Design) -> str:
    """Return the id of the largest opening of the first colony; empty where it has none."""
    ways = colony_openings(design)
    return max(ways, key=lambda o: o.width_m * o.height_m * o.count).id if ways else ""
