"""What stands in one hour of the year, for whatever shows a month."""

from __future__ import annotations

from dataclasses import dataclass

from calveth.app.results import Results
from calveth.app.view_state import ViewState
from calveth.core.assess.readings import NestReadings
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.calendar import MONTH_NAMES
from calveth.core.climate.place import Place
from calveth.core.hive.by_month import as_set
from calveth.core.hive.design import Design
from calveth.core.year.columns import S_FILM
from calveth.core.year.faces import FaceSun, sun_at, sun_of_month
from calveth.core.year.in_month import with_hour
from calveth.core.year.result import YearRun
from calveth.texts.findings import Sentence
from calveth.texts.year import hour_words
from calveth.texts.year_hours import hour_lines


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class HourView:
    """An hour: the design as it is set, the months with it in the place of its month, its sun."""

    run: YearRun
    design: Design
    monthly: MonthlyAssessment
    readings: NestReadings
    sun: FaceSun
    films_g: tuple[float, ...]
    sentences: list[Sentence]


def hour_view(results: Results, design: Design, view: ViewState) -> HourView | None:
    """Return the hour under the hand; None while the hours of the year are worked out."""
    from calveth.core.year.run import moments_at

    run, monthly = results.year(design.id), results.monthly(design.id)
    if run is None or monthly is None:
        return None
    readings = moments_at(run, view.hour)
    return HourView(
        run=run,
        design=as_set(design, design.seasons.on(view.hour // 24)),
        monthly=with_hour(monthly, view.month, readings),
        readings=readings,
        sun=sun_at(run, view.hour),
        films_g=tuple(1000.0 * float(v) for v in run.series[view.hour, S_FILM : S_FILM + 7]),
        sentences=[
            Sentence(text=text, tone=tone)
            for tone, text in hour_lines(run, view.hour, readings, view.units)
        ],
    )


def month_sun(results: Results, design_id: str, month: int) -> FaceSun | None:
    """Return the sun of a month; None while the hours are worked out."""
    run = results.year(design_id)
    return None if run is None else sun_of_month(run, month)


def moment_text(place: Place, view: ViewState, hour: HourView | None) -> str:
    """Return what is looked at, the month or the hour, with the air outside in it."""
    outside = place.months[view.month].temperature_degc
    words = MONTH_NAMES[view.month]
    if view.by_hour:
        words = hour_words(view.hour).replace(words, words[:3])
        if hour is None:
            return f"  {words}: the hours are worked out …"
        outside = float(hour.run.weather.temperature_degc[view.hour])
    return f"  {words}, {view.units.write(outside, 'temperature')}"
