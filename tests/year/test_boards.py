"""What boards inside bind, drink and give back, and the ice in a low entrance, by hand."""

from __future__ import annotations

import unittest
from dataclasses import replace
from math import sqrt
from types import SimpleNamespace
from typing import Any
from unittest import mock

import numpy as np
from scipy.integrate import solve_ivp

from calveth.catalogue.shipped import shipped_materials
from calveth.core.case import estimated_case
from calveth.core.climate.air import saturation_pressure_pa
from calveth.core.hive.season_plan import NO_PLAN
from calveth.core.year import columns as cl
from calveth.core.year import kernel_arrays as ka
from calveth.core.year import kernel_ice, kernel_wood
from calveth.core.year.kernel_wood import (
    drunk_in,
    humidity_of,
    most_bound,
    slope_at,
    taken_up,
)
from calveth.core.year.run import run_year
from calveth.core.year.shells import binds_kg_m3
from tests.year.cases import PROJECT, year_of

HOUR = 3600.0
TABLE = {m.id: m for m in shipped_materials()}
STEEPER = 2.6
# EN ISO 13788, 4.4: of still air.
DELTA = 2e-10


def plain(function: Any) -> Any:
    """Return the lines of a compiled function as Python runs them."""
    return getattr(function, "py_func", function)


class Board:
    """A square metre of a board before air, in the cells a year has for it."""

    def __init__(self, key: str, metres: float, humidity: float, film_s_m: float = 5e7) -> None:
        material = TABLE[key]
        grows = 2.2 ** np.arange(ka.WOOD_CELLS)
        cells = metres * grows / grows.sum()
        delta = DELTA / material.vapour_resistance_factor
        self.binds = binds_kg_m3(material)
        self.delta, self.film, self.metres = delta, film_s_m, metres
        through = [1.0 / (film_s_m + 0.5 * cells[0] / delta)]
        through += list(delta / (0.5 * (cells[:-1] + cells[1:])))
        extra, walls = np.zeros(ka.EXTRA_COLUMNS), np.zeros((1, ka.WALL_COLUMNS))
        extra[ka.STEEPER] = STEEPER
        walls[0, ka.WALL_AREA], walls[0, ka.WALL_THIRSTY] = 1.0, 0.5
        walls[0, ka.WALL_DRINKS] = material.water_absorption_kg_m2_h05
        walls[0, ka.WALL_PORES] = 5.0
        self.shell = SimpleNamespace(
            wood_kg=(self.binds * cells)[None, :],
            wood_pass=np.array([through]),
            extra=extra,
            walls=walls,
        )
        start = humidity if humidity <= 0.8 else 0.8 + STEEPER * (humidity - 0.8)
        self.held = SimpleNamespace(
            bound=np.full((1, ka.WOOD_CELLS), start),
            film_kg=np.zeros(1),
            drunk_kg=np.zeros(1),
            ice=np.zeros(1),
        )

    @property
    def kg(self) -> float:
        """Water in it [kg/m²]."""
        bound = float((self.shell.wood_kg * self.held.bound).sum())
        return bound + float(self.held.drunk_kg[0])

    def hour(self, humidity: float, degc: float) -> float:
        """Take it through an hour of air; return what it took from it [kg]."""
        saturated = float(saturation_pressure_pa(np.array(degc)))
        first = float(self.held.bound[0, 0])
        store = self.shell.wood_kg[0, 0] * slope_at(first, STEEPER)
        taking = np.array([[taken_up(self.shell.wood_pass[0, 0], store, saturated), saturated]])
        x = np.zeros(10)
        x[3] = humidity * saturated
        hive = SimpleNamespace(surfaces=np.zeros((1, 7)))
        with mock.patch.object(kernel_wood, "soak", plain(kernel_wood.soak)):
            return float(plain(kernel_wood.keep_boards)(hive, self.shell, self.held, x, taking))

    def fine(self, humidity: float, degc: float, days: float, start: float) -> float:
        """Return the water after some days by eighty cells, stiff solver [kg/m²]."""
        n, saturated = 80, float(saturation_pressure_pa(np.array(degc)))
        deep = self.metres / n
        inner, first = self.delta / deep, 1.0 / (self.film + 0.5 * deep / self.delta)

        def growth(_: float, bound: np.ndarray) -> np.ndarray:
            phi = np.where(bound <= 0.8, bound, 0.8 + (bound - 0.8) / STEEPER)
            flow = np.empty(n + 1)
            flow[0] = first * (humidity - phi[0]) * saturated
            flow[1:-1] = inner * (phi[:-1] - phi[1:]) * saturated
            flow[-1] = 0.0
            return (flow[:-1] - flow[1:]) / (self.binds * deep)

        answer = solve_ivp(
            growth, (0.0, days * 86400.0), np.full(n, start), method="BDF", rtol=1e-6
        )
        return float(answer.y[:, -1].sum() * self.binds * deep)


class Isotherm(unittest.TestCase):
    def test_softwood_holds_what_the_handbook_prints(self) -> None:
        """9, 16 and 28 % of its weight at 50, 80 and 100 % (Wood Handbook 2010, table 4-2)."""
        softwood = TABLE["softwood"]
        rise = binds_kg_m3(softwood) * (most_bound(STEEPER) - 0.8) / softwood.density_kg_m3
        self.assertAlmostEqual(0.16 + rise, 0.28, delta=0.005)
        kg_m2 = binds_kg_m3(softwood) * 0.019 * (most_bound(STEEPER) - 0.8)
        self.assertAlmostEqual(kg_m2, 1.1, delta=0.1)

    def test_humidity_follows_what_is_bound_and_never_passes_saturation(self) -> None:
        self.assertEqual(humidity_of(0.5, STEEPER), 0.5)
        self.assertAlmostEqual(humidity_of(0.8 + 0.1 * STEEPER, STEEPER), 0.9)
        self.assertEqual(humidity_of(most_bound(STEEPER), STEEPER), 1.0)
        self.assertEqual(humidity_of(9.0, STEEPER), 1.0)
        self.assertEqual([slope_at(b, STEEPER) for b in (0.5, 0.79, 0.81)], [1.0, 1.0, STEEPER])

    def test_moisture_buffer_values_are_those_measured(self) -> None:
        """33 and 75 % in turns of 16 and 8 hours at 23 °C; spruce 1.15, aerated concrete 1.05,
        gypsum 0.64, brick 0.48 g/(m²·%) (Rode et al. 2005, NORDTEST). A chain of published
        constants, none fitted, of groups of materials: within a factor of 2.3."""
        for key, metres, measured in (
            ("softwood", 0.019, 1.15),
            ("aircrete", 0.05, 1.05),
            ("gypsum-board", 0.0125, 0.64),
            ("brick", 0.05, 0.48),
        ):
            board = Board(key, metres, 0.5)
            swing = 0.0
            for _ in range(20):
                for _ in range(16):
                    board.hour(0.33, 23.0)
                low = board.kg
                for _ in range(8):
                    board.hour(0.75, 23.0)
                swing = board.kg - low
            with self.subTest(material=key):
                buffer = 1000.0 * swing / 42.0
                self.assertLess(buffer, 2.3 * measured)
                self.assertGreater(buffer, measured / 2.3)


class Drying(unittest.TestCase):
    def test_a_wet_board_dries_as_a_fine_grid_does(self) -> None:
        """Four cells against eighty: within a tenth of what dries, in spring and summer."""
        for degc, humidity, days in ((8.0, 0.6, 30), (20.0, 0.5, 14)):
            board = Board("softwood", 0.019, 1.0)
            wet = board.kg
            for _ in range(24 * days):
                board.hour(humidity, degc)
            fine = board.fine(humidity, degc, days, most_bound(STEEPER))
            with self.subTest(degc=degc, days=days):
                self.assertGreater(wet - fine, 0.1)
                self.assertAlmostEqual((wet - board.kg) / (wet - fine), 1.0, delta=0.1)

    def test_two_cells_left_alone_come_to_one_humidity(self) -> None:
        """All that joins them is between the first and the second: (c1·0.7 + c2·0.3)/(c1 + c2)."""
        board = Board("softwood", 0.019, 0.3)
        board.held.bound[0, 0] = 0.7
        board.shell.wood_pass[0] = 0.0, 1.0, 0.0, 0.0
        board.hour(0.3, 20.0)
        first, second = board.shell.wood_kg[0, :2]
        even = (0.7 * first + 0.3 * second) / (first + second)
        self.assertAlmostEqual(float(board.held.bound[0, 0]), even, places=12)
        self.assertAlmostEqual(float(board.held.bound[0, 1]), even, places=12)

    def test_more_than_a_face_binds_stands_on_it(self) -> None:
        board = Board("softwood", 0.019, 1.0)
        board.shell.wood_pass[0] = 1e-6, 0.0, 0.0, 0.0
        before = board.kg
        taken = board.hour(1.2, 20.0)
        self.assertAlmostEqual(float(board.held.bound[0, 0]), most_bound(STEEPER), places=12)
        self.assertAlmostEqual(float(board.held.film_kg[0]), taken + before - board.kg, places=12)
        self.assertGreater(float(board.held.film_kg[0]), 0.01)

    def test_it_takes_weeks_as_boards_do(self) -> None:
        """25 mm softwood air-dries from green in 1 to 4 months in summer (Forest Products
        Laboratory, from memory); from fibre saturation, one side, half of it in a month."""
        board = Board("softwood", 0.025, 1.0)
        wet, dry = board.kg, board.binds * 0.025 * 0.6
        days = 0
        while board.kg > 0.5 * (wet + dry):
            for _ in range(24):
                board.hour(0.6, 20.0)
            days += 1
        self.assertGreater(days, 10)
        self.assertLess(days, 90)

    def test_water_is_neither_made_nor_lost(self) -> None:
        board = Board("softwood", 0.019, 0.7)
        random = np.random.default_rng(3)
        before, taken = board.kg, 0.0
        for _ in range(500):
            taken += board.hour(float(random.uniform(0.3, 1.0)), float(random.uniform(-5, 30)))
            if random.random() < 0.1:
                board.held.drunk_kg[0] += 0.01
                taken += 0.01
        after = board.kg + float(board.held.film_kg[0])
        self.assertAlmostEqual(after - before, taken, delta=1e-12)


class Drinking(unittest.TestCase):
    def test_a_front_goes_with_the_root_of_time_in_steps_of_any_length(self) -> None:
        for steps in (1, 4, 48):
            held = 0.0
            for _ in range(steps):
                held += drunk_in(48.0 / steps, held, 0.9)
            self.assertAlmostEqual(held, 0.9 * sqrt(48.0), places=9)

    def _drinks(self, film: float, settled: float, ice: float = 0.0, drunk: float = 0.0) -> Board:
        board = Board("softwood", 0.019, 1.0)
        board.held.film_kg[0], board.held.ice[0] = film, ice
        board.held.drunk_kg[0] = drunk
        board.shell.walls[0, ka.WALL_CLING] = 0.07
        plain(kernel_wood.drink_inside)(board.shell, board.held, 0, settled)
        self.assertAlmostEqual(
            float(board.held.film_kg[0] + board.held.drunk_kg[0]), film + drunk, delta=1e-15
        )
        return board

    def test_the_bare_share_drinks_what_settles_on_it(self) -> None:
        board = self._drinks(0.03, 0.02)
        self.assertAlmostEqual(float(board.held.drunk_kg[0]), 0.01)

    def test_what_runs_over_it_is_drunk_too_and_ice_is_not(self) -> None:
        board = self._drinks(0.13, 0.0)
        self.assertAlmostEqual(float(board.held.drunk_kg[0]), 0.03)
        board = self._drinks(0.10, 0.02, ice=1.0)
        self.assertEqual(float(board.held.drunk_kg[0]), 0.0)
        board = self._drinks(0.15, 0.0, ice=0.8)
        self.assertAlmostEqual(float(board.held.drunk_kg[0]), 0.03)
        self.assertAlmostEqual(float(board.held.ice[0]), 1.0)

    def test_full_pores_drink_no_more(self) -> None:
        self.assertEqual(float(self._drinks(0.10, 0.05, drunk=5.0).held.drunk_kg[0]), 5.0)

    def test_what_was_drunk_saturates_the_cells_from_the_face_inwards(self) -> None:
        board = Board("softwood", 0.019, 0.8)
        board.held.drunk_kg[0] = 0.1
        plain(kernel_wood.soak)(board.shell, board.held, 0, most_bound(STEEPER))
        room = board.shell.wood_kg[0] * 0.2 * STEEPER
        self.assertEqual(float(board.held.drunk_kg[0]), 0.0)
        self.assertAlmostEqual(float(board.held.bound[0, 0]), most_bound(STEEPER))
        self.assertGreater(0.1, float(room[0]))
        self.assertLess(float(board.held.bound[0, 2]), 0.81)


class InAHive(unittest.TestCase):
    def test_without_a_flow_nothing_is_wet_by_day_in_summer(self) -> None:
        """Common practice: a summer hive is dry inside but for dew on cool nights."""
        colony = replace(PROJECT.colony, nectar_kg_day=(0.0,) * 12)
        project = replace(PROJECT, colony=colony)
        summer = slice(151 * 24, 243 * 24)
        for key in ("plain-boards", "timber", "polystyrene"):
            design = replace(project.design(key), seasons=NO_PLAN)
            run = run_year(estimated_case(project, design))
            water = run.series[summer, cl.S_FILM : cl.S_FILM + 7] / np.maximum(run.areas_m2, 1e-9)
            noon = water.reshape(-1, 24, 7)[:, 10:20]
            with self.subTest(hive=key):
                self.assertLess(float((noon > 0.01).mean()), 0.005)
                self.assertLess(float((water > 0.01).mean()), 0.03)

    def test_thin_boards_are_wet_through_the_winter_and_drip_little(self) -> None:
        """Wood drinks: keepers see dark wet boards and mould, and drops where it is sealed."""
        run = year_of("plain-boards")
        winter = run.series[:59, cl.S_FILM] / run.areas_m2[0]
        self.assertGreater(float((winter > 0.01).mean()), 0.9)
        sealed = year_of("plain-boards", thirsty_inside=0.1)
        self.assertGreater(
            float(sealed.column("dripped_kg").sum()), 1.3 * float(run.column("dripped_kg").sum())
        )


class Ice(unittest.TestCase):
    """A low opening of 12.9 cm²: 12.9 g of rime close it; out leave 0.6 g of air a second."""

    CLOSES = 0.0129

    def _hours(self, count: int, outside: float, base: float, drain: float = 0.0) -> float:
        extra, row = np.zeros(ka.EXTRA_COLUMNS), np.zeros(len(cl.SERIES))
        extra[ka.ICE_SHARE], extra[ka.ICE_CLOSES] = 0.1, self.CLOSES
        row[cl.S_DRAIN] = drain
        shell = SimpleNamespace(extra=extra)
        hour = np.zeros(ka.HOUR_COLUMNS)
        hour[0] = outside
        x = np.zeros(10)
        x[0], x[3] = base, 0.95 * float(saturation_pressure_pa(np.array(base)))
        held = SimpleNamespace(x=x, iced=np.array([self.start, 0.0]))
        work = SimpleNamespace(zone_flows=np.array([[0.0, 6e-4]]))
        for _ in range(count):
            plain(kernel_ice.keep_ice)(shell, held, hour, work, 101325.0, row)
        return float(held.iced[0])

    def setUp(self) -> None:
        self.start = 0.0

    def test_an_hour_of_frost_by_hand(self) -> None:
        """Base -6 °C, 95 %, outside -10: rim -8 °C. 351·0.95 - 310 Pa over ice, 0.622/1013 each."""
        grown = self._hours(1, -10.0, -6.0)
        vapour, rim = 0.95 * 368.6, 309.9
        kg = 0.622 / 101325.0 * (vapour - rim) * 6e-4 * 3600.0 * 0.1
        self.assertAlmostEqual(grown / kg, 1.0, delta=0.03)

    def test_long_frost_closes_it_and_a_thaw_opens_it(self) -> None:
        self.assertLess(self._hours(72, -10.0, -6.0), self.CLOSES)
        self.assertEqual(self._hours(24 * 60, -10.0, -6.0), self.CLOSES)
        self.start = self.CLOSES
        self.assertEqual(self._hours(48, 3.0, 4.0), 0.0)

    def test_warm_air_that_leaves_keeps_it_free(self) -> None:
        self.assertEqual(self._hours(240, -3.0, 8.0), 0.0)

    def test_water_that_drains_over_a_frozen_sill_freezes_in_it(self) -> None:
        self.assertGreater(self._hours(1, -5.0, -1.0, drain=0.02), 0.1 * 0.02 - 1e-9)

    def test_only_low_openings_ice_up_in_a_year(self) -> None:
        run = year_of("plain-boards")
        iced = run.column("entrance_iced")
        self.assertGreater(float(iced.max()), 0.05)
        self.assertEqual(float(iced[180 * 24 : 240 * 24].max()), 0.0)
        none = year_of("plain-boards", ice_at_mouth=0.0)
        self.assertEqual(float(none.column("entrance_iced").max()), 0.0)


if __name__ == "__main__":
    unittest.main()
