"""Solved shells for the balance: every shell a season plan makes of a design, solved once."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from calveth.core.case import HiveCase
from calveth.core.climate.place import Place
from calveth.core.errors import CalvethError, CancelledError
from calveth.core.heat.correction import AS_ESTIMATED, ShellCorrection, Shells, as_estimated
from calveth.core.heat.seasons import winter_materials
from calveth.core.heat.shell import FaceHeat, shell_heat, window_heat
from calveth.core.hive.by_month import in_month, month_designs
from calveth.core.hive.design import Design, Face
from calveth.core.hive.details import Details
from calveth.core.hive.season_plan import NO_PLAN
from calveth.core.hive.zones import BASE, FRACTIONS, NEST
from calveth.core.materials import Material
from calveth.core.remembered import remembered
from calveth.core.solids.build import build_solids

if TYPE_CHECKING:
    from calveth.core.conduction.hive import HiveConduction

# A face cannot conduct less than this share of its estimate, or so much more, and be believed.
_LEAST, _MOST = 0.02, 50.0
# Layers behind a rim that is as cold as its films alone leave it [m²·K/W].
_LEAST_RIM_M2K_W = 1e-4


@remembered(256)
def conduction_key(design: Design) -> Design:
    """Return a design with all that does not change its conduction put aside."""
    return replace(
        design,
        id="shell",
        name="shell",
        openings=tuple(
            replace(o, free_share=1.0, mesh_share=1.0, propolis_share=0.0, tunnel_m=None)
            for o in design.openings
        ),
        joinery=replace(design.joinery, corner_cut="butt", frame_rest="rebate"),
        details=Details(),
        joints="planed",
        has_tray=False,
        tilt_deg=0.0,
        seasons=NO_PLAN,
        benchmark=False,
        note="",
        factors=None,
        of="",
    )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SolvedShells:
    """Solved shells of a design, by `conduction_key`; called for the correction of a design."""

    solved: Mapping[Design, HiveConduction]
    corrections: Mapping[Design, ShellCorrection]

    def __call__(self, design: Design) -> ShellCorrection:
        """Return the correction of a shell: its own, or that of its like."""
        own = self.corrections.get(conduction_key(design))
        if own is not None:
            return own
        like = next(iter(self.corrections.values()), AS_ESTIMATED)
        return replace(like, solved=False)

    def conduction(self, design: Design) -> HiveConduction | None:
        """Return the solved shell of a design as it is set in a month."""
        return self.solved.get(conduction_key(design))


def conduction_in(shells: Shells, design: Design, month: int) -> HiveConduction | None:
    """Return the solved shell of a design in a month (0 to 11), None where it is estimated."""
    if not isinstance(shells, SolvedShells):
        return None
    return shells.conduction(in_month(design, month))


def solved_shells(
    design: Design,
    place: Place,
    materials: Mapping[str, Material],
    report: Callable[[float], None] = lambda _: None,
    finer: float = 1.0,
    *,
    spots: bool = True,
) -> SolvedShells:
    """Return the solved shells of a design at a place; equal shells are solved once.

    ``finer`` is how many times as fine the grid is as the usual one. Without ``spots`` the cold
    spots are left until somebody asks for them.

    Raises
    ------
    DomainError
        When parts fold over themselves or there are more of them than a grid can follow.
    NotSolvedError
        When there is no answer.
    """
    # The solver's library takes half a second to load; nothing else waits for it.
    from calveth.core.conduction.hive import hive_conduction

    winter = winter_materials(materials, place)
    keys = dict.fromkeys(conduction_key(d) for d in month_designs(design))
    solved = {}
    for number, key in enumerate(keys):
        solved[key] = hive_conduction(key, winter, finer)
        if spots:
            _ = solved[key].coldest
        report((number + 1) / len(keys))
    corrections = {key: correction_of(key, winter, shells) for key, shells in solved.items()}
    return SolvedShells(solved=solved, corrections=corrections)


def solved_case(case: HiveCase, finer: float = 1.0, *, spots: bool = True) -> tuple[HiveCase, str]:
    """Return a case with its shells solved, or with the estimate and the sentence why.

    The sentence is empty when they are solved. ``finer`` and ``spots`` are as in `solved_shells`.
    """
    try:
        shells = solved_shells(case.design, case.place, case.materials, finer=finer, spots=spots)
    except CancelledError:
        raise
    except CalvethError as error:
        return replace(case, shells=as_estimated), str(error)
    return replace(case, shells=shells), ""


def correction_of(
    design: Design, materials: Mapping[str, Material], solved: HiveConduction
) -> ShellCorrection:
    """Return the factors that turn the estimate of a shell into what was solved.

    Base and crown lose through their share of the walls and a plate, the nest through walls and
    window; from the three solved zones follow walls, lid and floor. Where no such factor exists
    (a lid whose zone loses less than its share of the walls would) the nearest stands, and the
    zone itself takes a factor: the zones lose what was solved in any case.
    """
    faces = shell_heat(design, build_solids(design), materials)
    window = window_heat(design, materials)
    share = FRACTIONS[BASE]
    glass = float(window.whole_w_k()) if window is not None else 0.0
    base, nest, crown = (float(v) for v in solved.zone_w_k)
    walls = (nest - glass) / FRACTIONS[NEST]
    factor = {
        "walls": _factor(faces["walls"], walls),
        "lid": _factor(faces["lid"], crown - share * walls),
        "floor": _factor(faces["floor"], base - share * walls),
    }
    had = {f: float(_times(h, factor[f]).whole_w_k()) for f, h in faces.items()}
    side = share * had["walls"]
    middle = FRACTIONS[NEST] * had["walls"] + glass
    zones = (base / (side + had["floor"]), nest / middle, crown / (side + had["lid"]))
    rim, warmer = _rim(faces, solved)
    return ShellCorrection(**factor, rim=rim, rim_warmer=warmer, zones=zones, solved=True)


def _rim(faces: Mapping[Face, FaceHeat], solved: HiveConduction) -> tuple[float, float]:
    """Return the factor on the layers behind the rim, and how much too warm it leaves the rim.

    The rim has the mean temperature of its strip. The second is a difference of temperature
    factors; above nought only where the strip is colder than its two films alone would make it, as
    beside metal.
    """
    mean = solved.rim_factor
    if mean is None:
        return 1.0, 0.0
    film = faces["lid"].film_m2k_w
    behind = film * mean / max(1 - mean, 1e-6)
    outer = float(faces["lid"].outer_film_m2k_w()) / faces["lid"].outer_ratio
    layers = min(sum(faces[f].layers_m2k_w) for f in ("lid", "walls"))
    rest = max(behind - outer, _LEAST_RIM_M2K_W)
    return rest / max(layers, 1e-6), (rest + outer) / (film + rest + outer) - mean


def _times(face: FaceHeat, factor: float) -> FaceHeat:
    return replace(face, shape_w_k=face.shape_w_k * factor)


def _factor(face: FaceHeat, whole_w_k: float) -> float:
    """Return the factor on the layers' conductance that makes a face let through ``whole_w_k``."""
    films = face.film_m2k_w / face.area.inner_m2
    films += float(face.outer_film_m2k_w()) / face.area.outer_m2
    if whole_w_k <= 0:
        return _LEAST
    layers = 1 / whole_w_k - films
    return min(max(1 / (layers * face.shape_w_k), _LEAST), _MOST) if layers > 0 else _MOST
