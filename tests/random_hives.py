"""Random valid hives, places and projects from a seed, for tests and for longer runs by hand.

    .venv/bin/python -m tests.random_hives --count 300 --seed 1 --full

runs so many designs through everything Calveth works out of a design and prints what failed.
"""

from __future__ import annotations

import argparse
import random
import sys
import time
import traceback
from collections import Counter
from dataclasses import replace
from typing import get_args

import numpy as np

from calveth.catalogue.library import (
    OPENING_KINDS,
    opening_of_kind,
    shipped_frames,
    shipped_make_ups,
    shipped_places,
)
from calveth.catalogue.shipped import shipped_materials
from calveth.core.advice.dossier import Dossier, make_dossier
from calveth.core.climate.place import Place, Shelter, Terrain, WinterRoom
from calveth.core.colony.curves import STRENGTHS, curves_for
from calveth.core.errors import CalvethError, DomainError
from calveth.core.hive import joinery as j
from calveth.core.hive.design import FACES, Design, LidShape, Shell, Tightness, Window
from calveth.core.hive.forms import (
    BOTH,
    BarTrough,
    Beyond,
    Form,
    HollowTree,
    LittleBoxes,
    StackedBoxes,
    cavity_height_m,
    side_spans_m,
)
from calveth.core.hive.opening import WALL_SIDES, Opening
from calveth.core.hive.season_plan import NO_PLAN, Setting, monthly_plan
from calveth.core.materials import Layer, Material
from calveth.core.project import Project
from calveth.core.school import SCHOOLS
from tests.cases import hive_case

TABLE: dict[str, Material] = {m.id: m for m in shipped_materials()}
_SOLID = [m for m in TABLE.values() if m.kind == "solid"]
_FILMS = [m for m in TABLE.values() if m.kind == "film"]
_GAPS = [m for m in TABLE.values() if m.kind == "air gap"]


def random_form(r: random.Random) -> Form:
    """Return any of the forms, shipped sizes and odd ones."""
    if r.random() < 0.4:
        return r.choice(shipped_frames()).form
    kind = r.randrange(4)
    if kind == 0:
        count = r.randint(3, 20)
        beyond: Beyond = r.choice(get_args(Beyond))
        use = 0 if r.random() < 0.6 or count < 5 else r.randint(1, count - 3)
        height = r.uniform(0.1, 0.4)
        return StackedBoxes(
            frame_count=count,
            frame_pitch_m=r.uniform(0.03, 0.04),
            frame_length_m=r.uniform(0.2, 0.5),
            frame_height_m=height,
            box_height_m=height + r.uniform(0.006, 0.02),
            box_count=r.randint(1, 4),
            side_clearance_m=r.uniform(0.003, 0.015),
            bottom_space_m=r.uniform(0, 0.06),
            rack_m=r.choice([0.0, 0.0, 0.05]),
            frames_in_use=use,
            beyond=beyond if use else "empty room",
        )
    if kind == 1:
        count = r.randint(6, 30)
        use = 0 if r.random() < 0.6 else r.randint(1, count - 3)
        low, high = r.uniform(0.12, 0.3), r.uniform(0.3, 0.5)
        tall = r.uniform(0.2, 0.4)
        section: tuple[tuple[float, float], ...] = ((low, 0.0), (high, tall))
        if r.random() < 0.4:
            section = ((low, 0.0), (high, tall / 3), (high, 2 * tall / 3), (0.8 * high, tall))
        return BarTrough(
            bar_count=count,
            section=section,
            frames_in_use=use,
            beyond=r.choice(["empty room", BOTH, "second colony"]) if use else "empty room",
        )
    if kind == 2:
        return LittleBoxes(
            inner_width_m=r.uniform(0.08, 0.2),
            inner_length_m=r.uniform(0.08, 0.2),
            box_height_m=r.uniform(0.05, 0.15),
            box_count=r.randint(1, 5),
        )
    return HollowTree(inner_diameter_m=r.uniform(0.12, 0.4), cavity_height_m=r.uniform(0.4, 2.0))


def random_stack(r: random.Random, thickest_m: float = 0.12) -> tuple[Layer, ...]:
    """Return one to five layers: boards, foam, metal, films, gaps."""
    layers = []
    for _ in range(r.choice([1, 1, 2, 2, 3, 4, 5])):
        pick = r.random()
        if pick < 0.12:
            layers.append(Layer(material=r.choice(_FILMS).id, thickness_m=0.0002))
        elif pick < 0.27:
            vents = r.choice([0.0, 0.0, 0.0004, 0.001, 0.002])
            layers.append(
                Layer(
                    material=r.choice(_GAPS).id,
                    thickness_m=r.uniform(0.005, 0.05),
                    vents_m2_m=vents,
                )
            )
        else:
            material = r.choice(_SOLID)
            thin = material.group in ("metal", "sheet")
            size = r.uniform(0.0005, 0.003) if thin else r.uniform(0.003, thickest_m)
            if material.stock_m and r.random() < 0.6:
                size = r.choice(material.stock_m)
            layers.append(Layer(material=material.id, thickness_m=size))
    return tuple(layers)


def random_opening(r: random.Random, form: Form, number: int) -> Opening:
    """Return an opening of any kind on any side; it may not fit."""
    opening = opening_of_kind(r.choice(OPENING_KINDS), form)
    spans, height = side_spans_m(form), cavity_height_m(form)
    changed: dict[str, object] = {"id": f"o{number}", "name": f"opening {number}"}
    if opening.shape == "lid gap" or not opening.level:
        changed["side"] = r.choice(WALL_SIDES)
    if opening.shape in ("slot", "hole", "row of holes") and not opening.level:
        changed["bottom_m"] = r.uniform(0, max(0.0, height - opening.height_m))
    if opening.shape == "slot":
        changed["width_m"] = r.uniform(0.01, 0.9 * min(spans))
    changed["free_share"] = r.choice([1.0, 1.0, 0.5, 0.1])
    return replace(opening, **changed)  # type: ignore[arg-type]


def random_joinery(r: random.Random) -> j.Joinery:
    """Return any joints."""
    return j.Joinery(
        lid=r.choice(get_args(j.LidJoint)),
        floor=r.choice(get_args(j.FloorJoint)),
        overlap_m=r.uniform(0.01, 0.08),
        corner=r.choice(get_args(j.CornerJoint)),
        window_frame=r.choice(get_args(j.WindowFrame)),
        entrance=r.choice(get_args(j.EntranceWay)),
        blocks=r.choice(get_args(j.BlockJoint)),
        fixing=r.choice(get_args(j.Fixing)),
        stand=r.choice(get_args(j.Stand)),
        timber=r.choice(["", "", "oak"]),
    )


def random_window(r: random.Random, form: Form) -> Window | None:
    """Return a window, now and then."""
    if r.random() < 0.75 or isinstance(form, HollowTree):
        return None
    spans, height = side_spans_m(form), cavity_height_m(form)
    tall = r.uniform(0.2, 0.5) * height
    glass = Layer(material="glass", thickness_m=0.004)
    cover = Layer(material="softwood", thickness_m=0.019)
    gap = Layer(material="air-gap", thickness_m=0.01)
    return Window(
        side=r.choice(WALL_SIDES),
        bottom_m=r.uniform(0.1, 0.4) * height,
        width_m=r.uniform(0.2, 0.6) * min(spans),
        height_m=tall,
        stack=r.choice([(glass,), (glass, gap, glass), (cover, glass)]),
    )


def random_design(r: random.Random, design_id: str = "random") -> Design:
    """Return a valid design; what does not fit is drawn again."""
    while True:
        form = random_form(r)
        try:
            if r.random() < 0.3:
                shell = r.choice(shipped_make_ups()).shell
            else:
                small = isinstance(form, LittleBoxes)
                shell = Shell(**{f: random_stack(r, 0.05 if small else 0.12) for f in FACES})
            openings = tuple(random_opening(r, form, k) for k in range(r.choice([0, 1, 1, 2, 3])))
            seasons = NO_PLAN
            if r.random() < 0.3:
                seasons = monthly_plan(
                    tuple(
                        Setting(
                            open_shares=tuple((o.id, r.choice([0.0, 0.3, 1.0])) for o in openings),
                            quilt=r.random() < 0.5,
                            cover=r.random() < 0.5,
                            tray=r.random() < 0.5,
                        )
                        for _ in range(12)
                    )
                )
            return Design(
                id=design_id,
                name=f"hive {design_id}",
                form=form,
                shell=shell,
                openings=openings,
                joints=r.choice(get_args(Tightness)),
                window=random_window(r, form),
                has_tray=r.random() < 0.3,
                tilt_deg=r.choice([0.0, 3.0]),
                lid_slope_deg=r.choice([0.0, 0.0, 10.0, 30.0]),
                lid_shape=r.choice(get_args(LidShape)),
                joinery=random_joinery(r),
                seasons=seasons,
            )
        except DomainError:
            continue


def random_place(r: random.Random) -> Place:
    """Return a shipped place with some of it changed."""
    place = r.choice(shipped_places()).place
    changed: dict[str, object] = {
        "terrain": r.choice(get_args(Terrain)),
        "shelter": r.choice(get_args(Shelter)),
        "facing_deg": r.uniform(0, 360),
    }
    if r.random() < 0.3:
        changed["side_shelter"] = tuple(r.choice(get_args(Shelter)) for _ in range(4))
    if r.random() < 0.5:
        snow = r.random() < 0.5
        changed["first_snow_week"] = r.randint(40, 52) if snow else 0
        changed["last_snow_week"] = r.randint(1, 14) if snow else 0
    if r.random() < 0.2:
        changed["room"] = WinterRoom()
    return replace(place, **changed)  # type: ignore[arg-type]


def random_project(seed: int, designs: int = 1) -> Project:
    """Return a valid project from a seed."""
    r = random.Random(seed)
    place = random_place(r)
    return Project(
        name=f"random {seed}",
        place=place,
        colony=curves_for(place, r.choice(STRENGTHS)),
        materials=tuple(TABLE.values()),
        designs=tuple(random_design(r, f"d{k}") for k in range(designs)),
        school=r.choice(SCHOOLS),
    )


def whole_of(project: Project, finer: float, *, remedies: bool = False) -> Dossier:
    """Return everything about the first design of a project."""
    return make_dossier(
        hive_case(project.designs[0], project.place, project.colony, project.material_table()),
        catalogue=TABLE if remedies else None,
        finer=finer,
    )


def open_ledgers(whole: Dossier) -> dict[str, float]:
    """Return how far heat, water and CO2 are open, as a share of what flows, over the year."""
    balance = whole.monthly.months.balance
    heat, water, carbon = (balance.residual[k : k + 3] for k in (0, 3, 6))
    given = {
        "heat": (heat, balance.metabolic_w),
        "water": (water, balance.ledger.water_kg_s),
        "CO2": (carbon, balance.ledger.co2_kg_s),
    }
    return {
        name: float(np.max(abs(left.sum(axis=0)) / np.maximum(flow, 1e-12)))
        for name, (left, flow) in given.items()
    }


def main() -> int:
    """Run random designs through everything and say what failed."""
    ask = argparse.ArgumentParser()
    ask.add_argument("--count", type=int, default=100)
    ask.add_argument("--seed", type=int, default=0)
    ask.add_argument("--finer", type=float, default=0.35, help="grid; 1 is the usual one")
    ask.add_argument("--remedies", action="store_true")
    given = ask.parse_args()
    outcome: Counter[str] = Counter()
    times = []
    for seed in range(given.seed, given.seed + given.count):
        began = time.process_time()
        if sys.stderr.isatty() or (seed - given.seed) % 20 == 0:
            print(f"\r{seed - given.seed} of {given.count}", end="", file=sys.stderr, flush=True)
        try:
            whole = whole_of(random_project(seed), given.finer, remedies=given.remedies)
            worst = max(open_ledgers(whole).values())
            outcome["balanced" if worst <= 1e-6 else f"open ({worst:.0e}) seed {seed}"] += 1
            if whole.estimated_because:
                outcome["estimated: " + whole.estimated_because] += 1
        except CalvethError as error:
            outcome[f"refused: {error}"] += 1
        except Exception:
            outcome["crashed"] += 1
            print(f"seed {seed}", traceback.format_exc(), file=sys.stderr)
        times.append((time.process_time() - began, seed))
    for what, count in outcome.most_common():
        print(count, what)
    print("slowest [CPU s, seed]:", [(round(t, 1), s) for t, s in sorted(times)[-5:]])
    return 1 if outcome["crashed"] else 0


if __name__ == "__main__":
    sys.exit(main())
