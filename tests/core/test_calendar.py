"""Days, weeks and months, and plans by the day. Source of the calendar: ISO 8601, year of 365."""

from __future__ import annotations

import datetime
import unittest

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from calveth.core import calendar as cal
from calveth.core.errors import DomainError
from calveth.core.hive.season_plan import (
    AS_BUILT,
    NO_PLAN,
    Period,
    SeasonPlan,
    Setting,
    monthly_plan,
)

A_YEAR = 2023  # without a leap day
SETTINGS = st.builds(
    Setting,
    quilt=st.booleans(),
    cover=st.booleans(),
    open_shares=st.lists(
        st.tuples(st.sampled_from(["low", "high"]), st.sampled_from([0.0, 0.5, 1.0])), max_size=3
    ).map(tuple),
)
PLANS = st.dictionaries(st.integers(1, 365), SETTINGS, max_size=6).map(
    lambda d: SeasonPlan(periods=tuple(Period(from_day=k, setting=s) for k, s in d.items()))
)


class Calendar(unittest.TestCase):
    def test_months_are_those_of_the_standard_library(self) -> None:
        first = datetime.date(A_YEAR, 1, 1)
        for day in range(365):
            date = first + datetime.timedelta(days=day)
            self.assertEqual(cal.month_of_day(day), date.month - 1)
            self.assertEqual(cal.week_of_day(day), min(52, (date.timetuple().tm_yday - 1) // 7 + 1))
        self.assertEqual(
            [cal.middle_day(k) for k in range(12)],
            [(datetime.date(A_YEAR, k + 1, 15) - first).days for k in range(12)],
        )

    def test_hours_and_spans(self) -> None:
        self.assertEqual([cal.day_of_hour(h) for h in (0, 23, 24, 8759, 8783)], [0, 0, 1, 364, 364])
        self.assertEqual(sum(cal.days_by_month(cal.days_between(300, 60))), 125)
        self.assertEqual(cal.days_by_month(cal.days_between(364, 1))[11], 1)
        self.assertEqual(list(cal.days_between(5, 5)), [])
        for day in (-1, 365):
            with self.assertRaisesRegex(DomainError, "0 to 364"):
                cal.month_of_day(day)


QUIETLY = settings(deadline=None, suppress_health_check=[HealthCheck.too_slow], max_examples=60)


class Plans(unittest.TestCase):
    @QUIETLY
    @given(PLANS)
    def test_a_plan_says_the_same_written_day_by_day(self, plan: SeasonPlan) -> None:
        daily = SeasonPlan(
            periods=tuple(Period(from_day=d + 1, setting=plan.on(d)) for d in range(365))
        )
        self.assertEqual([daily.on(d) for d in range(365)], [plan.on(d) for d in range(365)])
        if plan and len(plan.periods) > 1:
            self.assertEqual(daily, plan)

    @QUIETLY
    @given(PLANS, st.integers(0, 11), SETTINGS)
    def test_a_month_that_is_set_changes_its_own_days_alone(
        self, plan: SeasonPlan, month: int, setting: Setting
    ) -> None:
        changed = plan.with_month(month, setting)
        for day in range(365):
            inside = cal.month_of_day(day) == month
            self.assertEqual(changed.on(day), setting if inside else plan.on(day), day)

    def test_settings_that_say_the_same_are_one(self) -> None:
        a = Setting().with_share("low", 0.3).with_share("high", 0.0)
        b = Setting().with_share("high", 0.0).with_share("low", 0.3)
        self.assertEqual(a, b)
        self.assertEqual(a.without("low").without("high"), AS_BUILT)

    def test_twelve_months_become_the_periods_there_are(self) -> None:
        winter = Setting(open_shares=(("low", 0.3),))
        plan = monthly_plan((*(winter,) * 3, *(AS_BUILT,) * 6, *(winter,) * 3))
        self.assertEqual([p.from_day for p in plan.periods], [91, 274])
        # Over the turn of the year the last setting holds on.
        self.assertEqual(
            [plan.in_month(k).share("low", 1.0) for k in (0, 2, 3, 9)], [0.3, 0.3, 1.0, 0.3]
        )
        self.assertFalse(NO_PLAN)
        self.assertTrue(monthly_plan((winter,) * 12))


if __name__ == "__main__":
    unittest.main()
