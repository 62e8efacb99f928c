"""More insulation does not make bees burn more, nor cook them, wherever they stand."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from calveth.catalogue.library import shipped_places
from calveth.catalogue.shipped import demo_project
from calveth.core.case import estimated_case
from calveth.core.colony.curves import Strength, curves_for
from calveth.core.edits import set_layer_thickness
from calveth.core.project import Project
from calveth.core.year.figures import year_figures
from calveth.core.year.result import YearRun
from calveth.core.year.run import run_year

WALLS_M = (0.02, 0.04, 0.1)


def placed(name: str, strength: Strength) -> Project:
    """The demo at a shipped place, with the bees that live there."""
    chosen = next(p.place for p in shipped_places() if p.place.name.startswith(name))
    return replace(demo_project(), place=chosen, colony=curves_for(chosen, strength))


def year_of(project: Project, design: str) -> YearRun:
    return run_year(estimated_case(project, project.design(design)))


class Insulation(unittest.TestCase):
    def rise(self, name: str, strength: Strength) -> float:
        """How much more than the least of thinner walls the honey of a winter ever is."""
        honey = np.array(
            [
                year_figures(
                    year_of(
                        set_layer_thickness(
                            placed(name, strength), "polystyrene", "walls", 0, thickness
                        ),
                        "polystyrene",
                    )
                ).winter_honey_kg
                for thickness in WALLS_M
            ]
        )
        return float((honey / np.minimum.accumulate(honey)).max()) - 1.0

    def test_thicker_walls_never_cost_a_normal_colony_honey(self) -> None:
        """Common practice, no source; 3 % are left for what bees do against damp and heat."""
        for name in ("Orchard at Lake Velm", "Pell Bayou", "Skerrel Coast", "Norrvatn Clearing"):
            with self.subTest(place=name):
                self.assertLess(self.rise(name, "normal"), 0.03)

    def test_nor_a_strong_one_where_winters_are_cold(self) -> None:
        """Strong colonies on mild coasts have brood all winter and air what they keep: to 8 %."""
        for name, most in (("Orchard at Lake Velm", 0.02), ("Skerrel Coast", 0.08)):
            with self.subTest(place=name):
                self.assertLess(self.rise(name, "strong"), most)

    def test_a_cold_winter_costs_most_in_the_hive_that_loses_most(self) -> None:
        """In the order of their W/K: boards, timber, polystyrene, composite (physics)."""
        project = placed("Norrvatn Clearing", "normal")
        honey = [
            year_figures(year_of(project, design)).winter_honey_kg
            for design in ("plain-boards", "timber", "polystyrene", "composite")
        ]
        self.assertEqual(honey, sorted(honey, reverse=True))
        self.assertGreater(honey[0] / honey[-1], 1.15)

    def test_no_month_of_a_brood_nest_is_above_what_brood_bears(self) -> None:
        """Below 36.5 °C in the mean of every month; it dies above 37 (from memory)."""
        for name in ("Pell Bayou", "Tamoru Grove", "Castrello Terraces"):
            for design in ("plain-boards", "composite"):
                with self.subTest(place=name, design=design):
                    nest = year_of(placed(name, "strong"), design).column("nest_degc")
                    months = nest.reshape(12, 730).mean(axis=1)
                    self.assertLess(float(months.max()), 36.5)
                    self.assertGreater(float(months.max()), 30.0)
