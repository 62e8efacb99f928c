"""Run by `test_balance` with NUMBA_DISABLE_JIT=1: the balance as plain Python, printed as JSON."""

from __future__ import annotations

import json
from typing import Any

import numpy as np
from scipy.optimize import root

from calveth.core.colony.colony import colony_at
from calveth.core.nest import kernel_arrays as k
from calveth.core.nest import kernel_solve as ks
from calveth.core.nest.kernel import evaluate
from calveth.core.nest.lanes import packed
from tests.core.test_balance import PROJECT, january, model, outside

SCALE = np.array([1.0] * 3 + [1e-6] * 6)
UNIT = np.array([1.0] * 3 + [100.0] * 3 + [0.01] * 3)
KEYS = ("polystyrene", "plain-boards", "composite")


def main() -> None:
    """Print the states of three hives, what SciPy finds, and how good the slopes are."""
    told: dict[str, dict[str, Any]] = {"states": {}, "scipy": {}, "slopes": {}, "base": {}}
    for key in KEYS:
        hives, _, lanes = packed(model(PROJECT.design(key)).terms, january(), outside(-4.0))
        one = {name: value[0] for name, value in hives._asdict().items()}
        hive = k.Hive(**{**one, "path_share": hives.path_share})
        work, x = k.new_work(hive), np.zeros(10)
        ks.solve_lane(hive, lanes[0], x, work)
        told["states"][key] = x.tolist()
        told["slopes"][key] = _off(hive, lanes[0], x, work)
        # In heat they fan, hang out and go to the base, where that is cooler.
        july = colony_at(PROJECT.colony, np.array([6]))
        hot_lane = packed(model(PROJECT.design(key)).terms, july, outside(30.0, 0.4))[2][0]
        hot, hot_work = np.zeros(10), k.new_work(hive)
        ks.solve_lane(hive, hot_lane, hot, hot_work)
        told["slopes"][f"{key} in July"] = _off(hive, hot_lane, hot, hot_work)
        told["base"][key] = [float(hot[k.T]), float(hot[k.T + 1])]

        def residual(nine: Any, hive: Any = hive, work: Any = work, lane: Any = lanes[0]) -> Any:
            evaluate(hive, lane, np.append(nine * UNIT, 0.0), work)
            return work.residual / SCALE

        # They are caught on a kink of ice or of an opening now and then: two methods, two starts.
        away = np.array([0.8, -0.5, 0.6, 0.3, 0.2, -0.3, 0.1, 0.1, 0.1])
        tried = [
            root(residual, x[:9] / UNIT + far * away, method=m, options={"xtol": 1e-12})
            for m in ("hybr", "lm")
            for far in (1.0, -0.4)
        ]
        best = min(tried, key=lambda found: float(np.abs(residual(found.x)).max()))
        told["scipy"][key] = (best.x * UNIT).tolist()
    print(json.dumps(told))


def _off(hive: k.Hive, lane: Any, x: Any, work: k.Work) -> float:
    """Return how far the slopes are from finite steps, of the largest of each balance."""
    evaluate(hive, lane, x, work)
    jacobian, before = work.jacobian * UNIT[None, :], work.residual.copy()
    finite = np.empty((9, 9))
    for j in range(9):
        moved = x.copy()
        moved[j] += 1e-6 * UNIT[j]
        evaluate(hive, lane, moved, work)
        finite[:, j] = (work.residual - before) / 1e-6
    off = np.abs(jacobian - finite) / np.abs(finite).max(axis=1)[:, None]
    return float(off.max())


if __name__ == "__main__":
    main()
