"""A season plan to start from, by school and climate."""

from __future__ import annotations

from calveth.core.calendar import DAYS_IN_MONTH
from calveth.core.climate.place import Place, days_without_forage
from calveth.core.hive.design import Design
from calveth.core.hive.forms import cavity_height_m
from calveth.core.hive.opening import is_high
from calveth.core.hive.season_plan import SeasonPlan, Setting, monthly_plan
from calveth.core.school import School

# Common practice, no source: the low entrance is narrowed to keep mice and robbers out.
_WINTER_SHARE, _TURN_SHARE = 0.3, 0.6
_COVER_OFF_DEGC = 15.0


def starting_plan(design: Design, place: Place, school: School) -> SeasonPlan:
    """Return the plan a keeper of a school might start from.

    Winter is a month mostly without forage. In it the low entrance is narrowed; what is high up
    stays open for the schools that breathe above and is shut for the sealed top; cross-flow shuts
    what is low. Quilt and cover are on in winter, off in warm months; the tray is in for the
    sealed top and out in warm months.
    """
    days = days_without_forage(place)
    settings = tuple(
        _setting(
            design,
            school,
            winter=days[k] >= DAYS_IN_MONTH[k] / 2,
            turning=0 < days[k] < DAYS_IN_MONTH[k] / 2,
            warm=place.months[k].temperature_degc >= _COVER_OFF_DEGC,
        )
        for k in range(12)
    )
    return monthly_plan(settings)


def _setting(design: Design, school: School, *, winter: bool, turning: bool, warm: bool) -> Setting:
    shares = []
    for opening in design.openings:
        high = is_high(opening, cavity_height_m(design.form))
        if opening.shape == "screen":
            share = opening.free_share
        elif high:
            share = 0.0 if winter and school == "sealed warm top" else opening.free_share
        elif winter and school == "high cross-flow":
            share = 0.0
        else:
            part = _WINTER_SHARE if winter else _TURN_SHARE if turning else 1.0
            share = round(opening.free_share * part, 3)
        shares.append((opening.id, share))
    return Setting(
        open_shares=tuple(shares),
        quilt=winter or turning,
        cover=not warm,
        tray=winter and school != "breathing top",
    )
