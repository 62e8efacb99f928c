"""Ready make-ups around every cavity, and what the trade knows of their sizes and weights."""

from __future__ import annotations

import unittest
from dataclasses import replace

from calveth.catalogue.library import (
    make_design,
    materials_of,
    new_project,
    shipped_frames,
    shipped_make_ups,
    shipped_places,
)
from calveth.catalogue.shipped import demo_project, shipped_materials
from calveth.core.assess.result import assess_months
from calveth.core.colony.curves import STRENGTHS, curves_for
from calveth.core.hive.forms import LittleBoxes, StackedBoxes, side_spans_m
from calveth.core.nest.network import hive_model
from calveth.core.solids.quantities import part_weights_kg
from tests.cases import hive_case
from tests.core.test_colony import COLONY

PLACE = demo_project().place
TABLE = {m.id: m for m in shipped_materials()}
FRAMES = {f.id: f for f in shipped_frames()}
MAKE_UPS = {m.id: m for m in shipped_make_ups()}
CLIMATES = (
    "cold and dry",
    "cold and damp",
    "ocean",
    "upland",
    "Mediterranean",
    "humid subtropical",
    "wet tropical",
    "high and dry",
    "steppe",
    "sub-arctic",
)


class EveryCombination(unittest.TestCase):
    def test_each_make_up_goes_round_each_cavity(self) -> None:
        for frames in shipped_frames():
            for make_up in shipped_make_ups():
                with self.subTest(frames=frames.id, make_up=make_up.id):
                    design = make_design(make_up, frames)
                    model = hive_model(hive_case(design, PLACE, COLONY, TABLE))
                    self.assertGreater(model.litres, 1.0)
                    self.assertLessEqual({m.id for m in materials_of(design)}, set(TABLE))

    def test_the_list_of_constructions(self) -> None:
        """Those a user looks for, by id."""
        self.assertLessEqual(
            {
                "standard",
                "heavy",
                "cover",
                "sleeve",
                "block-trough",
                "cast",
                "quilt",
                "cork",
                "straw",
            },
            set(MAKE_UPS),
        )

    def test_each_climate_has_its_place(self) -> None:
        climates = [p.climate for p in shipped_places()]
        for wanted in CLIMATES:
            with self.subTest(climate=wanted):
                self.assertTrue(any(wanted in c for c in climates))
        south = [p.place for p in shipped_places() if p.place.latitude_deg < 0]
        self.assertGreaterEqual(len(south), 2)
        for place in south:
            with self.subTest(place=place.name):
                self.assertGreater(
                    place.months[0].temperature_degc, place.months[6].temperature_degc
                )

    def test_a_year_everywhere(self) -> None:
        """No place and no strength of colony is beyond the model."""
        for number, place in enumerate(shipped_places()):
            strength = STRENGTHS[number % len(STRENGTHS)]
            frames = FRAMES["stingless" if "stingless" in strength else "deep-10x2"]
            project = new_project("n", place, frames, MAKE_UPS["heavy"], strength)
            with self.subTest(place=place.id, strength=strength):
                year = assess_months(
                    hive_case(project.designs[0], project.place, project.colony, TABLE)
                )
                balance = year.months.balance
                self.assertTrue((balance.temperature_degc[1] > -30).all())
                self.assertTrue((balance.temperature_degc[1] < 45).all())
                self.assertTrue((year.honey_kg_month > 0).all())


class Trade(unittest.TestCase):
    """Sizes and weights; common practice, no source."""

    def test_frames_that_fit_a_pitch(self) -> None:
        """Ten frames at 35 mm take the room of eleven at 32 mm."""
        deep = FRAMES["deep-10x2"].form
        assert isinstance(deep, StackedBoxes)
        closer = replace(deep, frame_count=11, frame_pitch_m=0.032)
        wide, other = side_spans_m(deep)[0], side_spans_m(closer)[0]
        self.assertAlmostEqual(other, wide, delta=0.005)

    def test_a_cast_concrete_hive_weighs_about_ninety_kilograms(self) -> None:
        """Each super 23 kg, a lid of 23 to 24, about 100 kg with one super over the brood part."""
        design = make_design(MAKE_UPS["cast"], FRAMES["deep-10x2"])
        weights = part_weights_kg(hive_model(hive_case(design, PLACE, COLONY, TABLE)).hive, TABLE)
        self.assertAlmostEqual(weights["box 2"], 23, delta=2)
        self.assertAlmostEqual(weights["lid"], 23.5, delta=2.5)
        self.assertTrue(85 < sum(weights.values()) < 105, weights)

    def test_a_stingless_box_holds_about_a_litre(self) -> None:
        """0.105 × 0.105 × 0.09 m."""
        form = FRAMES["stingless"].form
        assert isinstance(form, LittleBoxes)
        wide, long = side_spans_m(form)
        self.assertAlmostEqual(1000 * wide * long * form.box_height_m, 1.0, delta=0.05)

    def test_bees_at_the_height_of_winter(self) -> None:
        for place in shipped_places():
            weak, strong = (curves_for(place.place, s) for s in ("weak", "strong"))
            with self.subTest(place=place.id):
                self.assertTrue(
                    all(a < b for a, b in zip(weak.mass_kg, strong.mass_kg, strict=True))
                )


if __name__ == "__main__":
    unittest.main()
