"""Compiles the scalar arithmetic of the balance, and keeps what was compiled.

The functions marked `compiled` are plain Python: with the environment variable
``NUMBA_DISABLE_JIT=1`` they run as they stand, some hundred times slower, to the same figures.
What was compiled is kept in a folder named after the content of all of them, so that a change in
one can never meet the old code of another.
"""

from __future__ import annotations

import os
import sys
from collections.abc import Callable
from hashlib import blake2b
from pathlib import Path
from typing import Any, Literal, ParamSpec, TypeVar

_P = ParamSpec("_P")
_R = TypeVar("_R")

CORE = Path(__file__).parent
KERNELS = (
    "constants.py",
    "constants_bees.py",
    "hive/zones.py",
    "airflow/kernel.py",
    "airflow/kernel_given.py",
    "nest/kernel.py",
    "nest/kernel_air.py",
    "nest/kernel_arrays.py",
    "nest/kernel_bees.py",
    "nest/kernel_parts.py",
    "nest/kernel_sides.py",
    "nest/kernel_solve.py",
    "constants_year.py",
    "year/chains.py",
    "year/columns.py",
    "year/kernel_arrays.py",
    "year/kernel_memory.py",
    "year/kernel_rain.py",
    "year/kernel_walls.py",
    "year/kernel_water.py",
    "year/kernel_year.py",
)
"""Files whose content decides what is compiled."""


def _folder() -> Path | None:
    """Return where compiled code is kept, None where nothing may be written."""
    content = blake2b(digest_size=8)
    for name in KERNELS:
        path = CORE / name
        content.update(path.read_bytes() if path.exists() else b"")
    cache = os.environ.get("XDG_CACHE_HOME") or Path.home() / ".cache"
    for place in (CORE / "__pycache__", Path(cache) / "calveth"):
        folder = place / f"kernel-{content.hexdigest()}"
        try:
            folder.mkdir(parents=True, exist_ok=True)
        except OSError:
            continue
        if os.access(folder, os.W_OK) or any(folder.rglob("*.nbi")):
            return folder
    return None


def is_kept() -> bool:
    """Return whether all of it was compiled before, for this Python and these files."""
    return _KEPT is not None and _mark(_KEPT).exists()


def keep() -> None:
    """Return nothing; note that all of it is compiled."""
    if _KEPT is not None:
        _mark(_KEPT).touch()


def _mark(folder: Path) -> Path:
    # Compiled code lies beside the path of its source: a copy of the folder has none yet.
    at = blake2b(str(CORE).encode(), digest_size=4).hexdigest()
    return folder / f"whole-{sys.implementation.cache_tag}-{at}"


def folded(function: Callable[_P, _R]) -> Callable[_P, _R]:
    """Return a function that is compiled into each that calls it: a part of a balance."""
    return _made(function, inline="always", counted=False)


def compiled(function: Callable[_P, _R]) -> Callable[_P, _R]:
    """Return a function compiled at its first call, or taken from what was compiled before.

    It may make no arrays (`making` may): who holds the arrays it is given is not counted, which
    would take several times as long as the sums, there being some forty of them in a hive.
    """
    return _made(function, inline="never", counted=False)


def making(function: Callable[_P, _R]) -> Callable[_P, _R]:
    """Return the same for a function that makes arrays."""
    return _made(function, inline="never", counted=True)


def _made(
    function: Callable[_P, _R], inline: Literal["never", "always"], counted: bool
) -> Callable[_P, _R]:
    # Compiled in two thirds of the time, and as fast.
    os.environ.setdefault("NUMBA_OPT", "1")
    import numba

    if _KEPT is not None:
        numba.config.CACHE_DIR = str(_KEPT)  # type: ignore[attr-defined]
    options: dict[str, Any] = {"inline": inline}
    if not counted:
        options["_nrt"] = False
    made: Callable[_P, _R] = numba.njit(
        cache=_KEPT is not None, nogil=True, error_model="numpy", fastmath=False, **options
    )(function)
    return made


_KEPT = _folder()
