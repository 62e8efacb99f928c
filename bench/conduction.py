"""Times conduction and prints the ratios; run by ``bench/run.py``, or alone.

``python bench/conduction.py --memory`` solves about half a million unknowns and prints the peak.
"""

from __future__ import annotations

import resource
import subprocess
import sys
import time
from dataclasses import replace
from pathlib import Path

import numpy as np
import skfem
from numpy.typing import NDArray
from skfem.helpers import grad

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "src"))

from calveth.catalogue.library import make_design, shipped_frames, shipped_make_ups
from calveth.catalogue.shipped import demo_project, shipped_materials
from calveth.core.conduction.elements import Elements
from calveth.core.conduction.grid import make_grid
from calveth.core.conduction.hive import zone_conductances
from calveth.core.conduction.hive_model import hive_parts
from calveth.core.conduction.joint_section import section_conduction
from calveth.core.conduction.solve import solve_conduction
from calveth.core.conduction.solved import Solved, fineness_of, solve_hive
from calveth.core.hive.design import Design

FloatArray = NDArray[np.float64]
TABLE = {m.id: m for m in shipped_materials()}
_LIBRARY_RUNS, _RUNS = 1, 3


def whole_w_k(solved: Solved) -> float:
    """Return L of a solved hive [W/K]."""
    return float(zone_conductances(solved).sum())


def best_s(act: object, runs: int = _RUNS) -> float:
    """Return the shortest of a few runs [s]."""
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        act()  # type: ignore[operator]
        times.append(time.perf_counter() - start)
    return min(times)


def hives() -> dict[str, Design]:
    """Return hives of every way of solving."""
    project = demo_project()
    frames = {f.id: f for f in shipped_frames()}
    make_ups = {m.id: m for m in shipped_make_ups()}
    return {
        "timber, box": project.design("timber"),
        "aircrete, box": project.design("aircrete"),
        "composite, box": project.design("composite"),
        "sloped sides": make_design(make_ups["standard"], frames["sloped"]),
        "octagon, sandwich": make_design(make_ups["sandwich"], frames["octagon"]),
        "pitched lid": replace(
            project.design("composite"), lid_slope_deg=15.0, lid_shape="pitched"
        ),
        "hollow tree, domed": project.design("hollow-tree"),
    }


def accuracy() -> None:
    """Time one solve of every hive and hold it against a grid twice as fine."""
    for name, design in hives().items():
        took = best_s(lambda design=design: solve_hive(design, TABLE, "heat"))
        first = solve_hive(design, TABLE, "heat")
        finer = solve_hive(design, TABLE, "heat", 1.8)
        # The error falls with the square of the cells: what is left after the finer grid is little.
        off = whole_w_k(first) / whole_w_k(finer) - 1
        bent = first.parts.model.bend is not None
        asked = 1.0 if bent or first.parts.model.round else 0.5
        print(
            f"{name + ', 3-D':<35}{1000 * took:8.1f} ms   {took / asked:5.2f} of {asked:g} s "
            f"asked, {first.field.unknowns} unknowns, {100 * off:+.2f} % from a finer grid"
        )


def sections() -> None:
    """Time the section the joint of lid and wall is found from, and halve its cells."""
    design = demo_project().design("composite")
    middle = 0.5 * design.form.spans_m[1]
    high = 0.5 * design.form.height_m

    def section(finer: float) -> float:
        found = section_conduction(
            design,
            TABLE,
            "heat",
            "x",
            0.1,
            lambda s: replace(s, y1=min(s.y1, middle), z0=max(s.z0, high)),
            finer=finer,
        ).field
        names = [s.name for s in found.model.spaces]
        out = names.index("outside")
        return float(sum(found.coupling_w_k[out, k] for k in range(len(names)) if k != out))

    took = best_s(lambda: section(1.0))
    off = section(1.0) / section(2.5) - 1
    print(
        f"{'one 2-D section of a joint':<35}{1000 * took:8.1f} ms   {took / 0.1:5.2f} of 0.1 s "
        f"asked, {100 * off:+.3f} % from a finer grid"
    )


def library_s(solved: Solved) -> tuple[float, float]:
    """Return how long scikit-fem takes to assemble and solve the same hive [s], and its L [W/K]."""
    found, parts = solved.field, solved.parts
    scheme = Elements(parts.model, found.grid)
    points = scheme._points.reshape(-1, 3)[scheme._used].T
    nodes = scheme._number[scheme._nodes]
    # Corners of ours count x slowest; those of the library as its reference cube says.
    order = [0, 4, 2, 1, 6, 5, 3, 7]
    lam = np.array([[b.along(axis) for axis in "xyz"] for b in parts.model.bodies])[scheme._body]
    clock = time.perf_counter
    start = clock()
    mesh = skfem.MeshHex(points, nodes[:, order].T)
    basis = skfem.Basis(mesh, skfem.ElementHex1())

    @skfem.BilinearForm
    def stiffness(u, v, w):  # type: ignore[no-untyped-def]
        g, h = grad(u), grad(v)
        return sum(w[axis] * g[k] * h[k] for k, axis in enumerate("xyz"))

    p0 = basis.with_element(skfem.ElementHex0())
    fields = {axis: p0.interpolate(lam[:, k]) for k, axis in enumerate("xyz")}
    matrix = stiffness.assemble(basis, **fields)

    @skfem.BilinearForm
    def film(u, v, w):  # type: ignore[no-untyped-def]
        return u * v * w["h"]

    @skfem.LinearForm
    def load(v, w):  # type: ignore[no-untyped-def]
        return v * w["h"]

    took = clock() - start
    # Which facet faces which air is our own bookkeeping and not counted.
    facets = {tuple(f): k for k, f in enumerate(np.sort(mesh.facets.T, axis=1).tolist())}
    surfaces = scheme.surfaces
    ours = np.sort(scheme._face_nodes, axis=1)
    spaces = parts.model.spaces
    inside = np.array([s.name.startswith(("base", "nest", "crown")) for s in spaces])
    side = {0: "horizontal", 1: "horizontal"}
    right = np.zeros(matrix.shape[0])
    flows = []
    upper = _faces_up(scheme)
    ways = [
        side.get(int(a), "up" if u else "down") for a, u in zip(surfaces.axis, upper, strict=True)
    ]
    films = np.array([spaces[s].film_m2k_w[w] for s, w in zip(surfaces.space, ways, strict=True)])
    for warm in (True, False):
        for r in np.unique(films[inside[surfaces.space] == warm]):
            rows = np.flatnonzero((inside[surfaces.space] == warm) & (films == r))
            chosen = np.array([facets[tuple(f)] for f in ours[rows].tolist()])
            start = clock()
            face = skfem.FacetBasis(mesh, skfem.ElementHex1(), facets=chosen)
            h = np.full(face.nelems, 1 / r)[:, None]
            matrix = matrix + film.assemble(face, h=h)
            if warm:
                part = load.assemble(face, h=h)
                right += part
                flows.append(part)
            took += clock() - start
    start = clock()
    theta = skfem.solve(matrix, right, solver=skfem.solver_iter_pcg(rtol=1e-7))
    took += clock() - start
    watts = sum(part @ (1 - theta) for part in flows)
    return took, float(watts) * parts.times


def _faces_up(scheme: Elements) -> NDArray[np.bool_]:
    """Tell which level faces look down into air below them: heat goes up into those."""
    middle = scheme.surfaces.box_m[:, 2]
    z = scheme.grid.edges_m[2]
    below = np.clip(np.searchsorted(z, middle - 1e-9) - 1, 0, len(z) - 2)
    edges = scheme.grid.edges_m
    at = [
        np.clip(np.searchsorted(edges[k], scheme.surfaces.box_m[:, k]) - 1, 0, len(edges[k]) - 2)
        for k in range(2)
    ]
    return np.asarray(scheme.grid.body[at[0], at[1], below] < 0)


def against_a_library() -> None:
    """Solve the same hives with a general finite-element library on the same points."""
    for name in ("timber, box", "octagon, sandwich"):
        design = hives()[name]
        parts = hive_parts(design, TABLE, "heat")
        # One temperature inside, as the library is asked for; ours answers for three zones.
        grid = make_grid(parts.model, fineness_of(parts))
        own = best_s(lambda design=design: solve_hive(design, TABLE, "heat"))
        solved = Solved(parts=parts, field=solve_conduction(parts.model, grid))
        took, watts = library_s(solved)
        print(
            f"{name + ', scikit-fem':<35}{1000 * took:8.1f} ms   {took / own:5.1f} times ours "
            f"(5 asked); L differs by {100 * (watts / whole_w_k(solved) - 1):+.2f} %"
        )


def memory() -> None:
    """Solve half a million unknowns in this process and print how much memory it took."""
    start = time.perf_counter()
    solved = solve_hive(hives()["composite, box"], TABLE, "heat", 2.52)
    took = time.perf_counter() - start
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(
        f"{'half a million unknowns':<35}{1000 * took:8.1f} ms   "
        f"{solved.field.unknowns} unknowns; the process took {peak:.0f} MB at most, 1024 MB asked"
    )


def main() -> None:
    """Print everything."""
    accuracy()
    sections()
    against_a_library()
    subprocess.run([sys.executable, __file__, "--memory"], check=True)


if __name__ == "__main__":
    memory() if "--memory" in sys.argv else main()
