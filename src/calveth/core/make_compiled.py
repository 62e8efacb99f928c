"""Compiles the balance ahead of the first use: ``python -m calveth.core.make_compiled``.

What is shipped for a Python is made by ``python -m calveth.core.make_compiled --pack``, once for
each version and whenever a kernel has changed; the tests say when it has.
"""

from __future__ import annotations

import sys
from collections.abc import Sequence
from typing import TYPE_CHECKING

import numpy as np

from calveth.core import compiled

if TYPE_CHECKING:
    from calveth.core.nest import kernel_arrays as k


def _compile_the_year(hives: k.Hive) -> None:
    """Compile the hours of a year: none of them is run."""
    from calveth.core.nest import kernel_arrays as k
    from calveth.core.year import columns as cl
    from calveth.core.year import kernel_arrays as ka
    from calveth.core.year import kernel_rain as kr
    from calveth.core.year import kernel_year as ky
    from calveth.core.year.chains import CELLS

    walls = np.zeros((7, ka.WALL_COLUMNS))
    modes, by = np.zeros((7, CELLS)), np.zeros((7, 4))
    square = np.zeros((7, CELLS, CELLS))
    shell = ka.Shell(
        walls,
        modes,
        np.zeros((7, CELLS, 4)),
        modes,
        modes,
        by,
        by,
        square,
        square,
        modes,
        np.zeros(7),
        np.zeros(7),
        np.zeros((3, ka.COMB_COLUMNS)),
        np.zeros(ka.EXTRA_COLUMNS),
        np.zeros((17, 1)),
        np.zeros((17, 1)),
        np.zeros((1, 2)),
        np.zeros((1, 2)),
        np.zeros((2, ka.RAIN_COLUMNS)),
        np.zeros((7, ka.WOOD_CELLS)),
        np.zeros((7, ka.WOOD_CELLS)),
    )
    one = k.Hive(*(a if n == "path_share" else a[0] for n, a in hives._asdict().items()))
    held, hours = ka.new_held(), np.zeros((0, ka.HOUR_COLUMNS))
    exposed = np.zeros((17, 4))
    exposed.setflags(write=False)  # it is remembered, and what is remembered cannot be changed
    ky.run_hours(
        one,
        shell,
        held,
        hours,
        0,
        0,
        exposed,
        np.zeros((0, len(cl.SERIES))),
        np.zeros(cl.LEDGER_COLUMNS),
        k.new_work(one),
    )
    ky.change_setting(shell, shell, held)
    kr.wet_conducts(shell, held, 0)
    kr.stands_for(shell, held)


def _compile_the_months() -> k.Hive:
    """Compile the steady balance; return hives of no size for what follows."""
    from calveth.core.airflow import kernel as air
    from calveth.core.airflow.kernel_given import move_all
    from calveth.core.nest import kernel_arrays as k
    from calveth.core.nest import kernel_parts as kp
    from calveth.core.nest import kernel_solve as ks

    none = np.zeros(0, dtype=np.int64)
    strips, parts = np.zeros((1, 1, air.STRIP_COLUMNS)), np.zeros((1, 1, air.PART_COLUMNS))
    joints, tops = np.zeros((1, 1, air.JOINT_COLUMNS)), np.zeros((1, 2))
    part_flows, joint_flows = np.zeros((0, 1, 2)), np.zeros((0, 1, 2))
    lanes = np.zeros((0, k.LANE_COLUMNS))
    move_all(
        strips,
        parts,
        joints,
        tops,
        np.zeros((1, 2)),
        none,
        lanes,
        np.zeros(0),
        part_flows,
        joint_flows,
    )
    hives = k.Hive(
        strips,
        parts,
        joints,
        tops,
        np.zeros((1, 7, kp.SURFACE_COLUMNS)),
        np.zeros((1, 4, kp.PATH_COLUMNS)),
        np.zeros((1, 3, kp.ZONE_COLUMNS)),
        np.zeros((3, 4)),
        np.zeros((1, k.HIVE_SCALARS)),
    )
    answers = ks.Answers(
        np.zeros((0, 10)),
        none,
        part_flows,
        joint_flows,
        np.zeros((0, 7, kp.AT_COLUMNS)),
        np.zeros((0, 3)),
        np.zeros((0, 3)),
        np.zeros((0, k.SUM_COLUMNS)),
        np.zeros((0, k.NINE)),
    )
    ks.solve_all(hives, none, lanes, answers)
    return hives


def main(arguments: Sequence[str] = ()) -> int:
    """Return 0 when every function that is called from Python is compiled."""
    if "--pack" in arguments:
        compiled.forget()
    if not compiled.is_kept():
        for number, what in enumerate(("the months", "the hours"), start=1):
            print(
                f"compiling the balance of heat, water and air, once, some two minutes: {what}, "
                f"{number} of 2 ...",
                file=sys.stderr,
                flush=True,
            )
            if number == 1:
                hives = _compile_the_months()
            else:
                _compile_the_year(hives)
        compiled.keep()
    if "--pack" in arguments:
        compiled.pack(compiled.PACKED)
        size = compiled.PACKED.stat().st_size / 1e6
        print(f"wrote {compiled.PACKED.name}, {size:.1f} MB", file=sys.stderr)
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
