"""The published checks of conduction: standards, exact solutions, another program, itself."""

from __future__ import annotations

from calveth.core.check import Check

LANGMUIR_SIDES_M = (0.45, 0.37, 0.5)


def conduction_checks() -> list[Check]:
    """Return every check of conduction, computed now."""
    return [*_cases(), *_exact(), *_boxes(), *_itself()]


def _cases() -> list[Check]:
    """Return the cases of EN ISO 10211, point by point."""
    # The solver's library takes half a second to load; no other command waits for it.
    from calveth.core.conduction.cases import (
        CASE_1_DEGC,
        CASE_2_DEGC,
        CASE_2_W_M,
        case_1_degc,
        case_2,
        case_2_degc,
    )

    source = "EN ISO 10211:2017, annex C, case {}; from memory"
    temperatures = case_1_degc()
    checks = [
        Check(
            name=f"conduction case 1, row {row + 1}, point {at + 1}",
            unit="°C",
            expected=printed,
            computed=float(temperatures[row, at]),
            tolerance=0.1,
            source=source.format(1),
        )
        for row, line in enumerate(CASE_1_DEGC)
        for at, printed in enumerate(line)
    ]
    checks.append(
        Check(
            name="conduction case 2, heat flow",
            unit="W/m",
            expected=CASE_2_W_M,
            computed=20 * float(case_2().coupling_w_k[1, 0]),
            tolerance=0.1,
            source=source.format(2),
        )
    )
    checks += [
        Check(
            name=f"conduction case 2, point {name}",
            unit="°C",
            expected=printed,
            computed=degc,
            tolerance=0.1,
            source=source.format(2),
        )
        for (name, _, _, printed), degc in zip(CASE_2_DEGC, case_2_degc(), strict=True)
    ]
    return checks


def _exact() -> list[Check]:
    from calveth.core.conduction.exact import (
        SLOPED_W_K,
        cylinder_w_k,
        edge_term,
        half_sphere_w_k,
        sloped_w_k,
    )

    book = "Incropera et al., table 3.3 (from memory)"
    checks = [
        Check(
            name="edge of a box",
            unit="-",
            expected=0.559,
            computed=edge_term(),
            tolerance=0.003,
            source="exact, by a conformal map (Langmuir et al. print 0.54)",
        )
    ]
    for way, name in (("volumes", "by volumes"), ("elements", "by elements")):
        solved, exact = cylinder_w_k(way)  # type: ignore[arg-type]
        checks.append(
            Check(
                name=f"hollow cylinder {name}",
                unit="W/K",
                expected=exact,
                computed=solved,
                tolerance=0.002 * exact,
                source=book,
            )
        )
    solved, exact = half_sphere_w_k(2.0)
    checks.append(
        Check(
            name="half a hollow sphere by elements",
            unit="W/K",
            expected=exact,
            computed=solved,
            tolerance=0.001 * exact,
            source=book,
        )
    )
    checks.append(
        Check(
            name="section of a trough with sloped sides",
            unit="W/K",
            expected=SLOPED_W_K,
            computed=sloped_w_k(),
            tolerance=0.001 * SLOPED_W_K,
            source="scikit-fem 12.0.2, quadratic elements (tests/core/test_elements.py)",
        )
    )
    return checks


def _boxes() -> list[Check]:
    from calveth.core.conduction.exact import hollow_box_m

    a, b, h = LANGMUIR_SIDES_M
    area = 2 * (a * b + b * h + a * h)
    checks = []
    for thick in (0.02, 0.05, 0.1, 0.2, 0.3):
        printed = area / thick + 0.54 * 4 * (a + b + h) + 0.15 * 8 * thick
        shape = hollow_box_m(thick, LANGMUIR_SIDES_M)
        checks.append(
            Check(
                name=f"hollow box, walls of {1000 * thick:.0f} mm",
                unit="m",
                expected=printed,
                computed=8 * float(shape.coupling_w_k[0, 1]),
                tolerance=0.006 * printed,
                source="Langmuir, Adams and Meikle 1913 (from memory)",
            )
        )
    return checks


def _itself() -> list[Check]:
    """Return what every right solver shows: balance, both ways alike, bounds, its order."""
    from calveth.core.conduction.exact import corner, half_sphere_w_k, hollow_box_m

    box = hollow_box_m(0.05, LANGMUIR_SIDES_M)
    low, high = (float(corner(0.3, way, 0.1).coupling_w_k[0, 1]) for way in ("volumes", "elements"))
    errors = [abs(solved / exact - 1) for solved, exact in map(half_sphere_w_k, (1.0, 2.0))]
    own = "every right solution has it"
    return [
        Check(
            name="heat in less heat out, of the heat",
            unit="-",
            expected=0.0,
            computed=box.imbalance,
            tolerance=1e-6,
            source=own,
        ),
        Check(
            name="in to out less out to in",
            unit="W/K",
            expected=0.0,
            computed=float(box.coupling_w_k[0, 1] - box.coupling_w_k[1, 0]),
            tolerance=1e-5,
            source=own,
        ),
        Check(
            name="elements above volumes, of both",
            unit="-",
            expected=0.0005,
            computed=high / low - 1,
            tolerance=0.0005,
            source="variational bounds: one lies above the truth, the other below",
        ),
        Check(
            name="error when cells are halved, sphere",
            unit="times",
            expected=4.0,
            computed=errors[0] / errors[1],
            tolerance=0.5,
            source="trilinear elements converge with the square of their size",
        ),
    ]
