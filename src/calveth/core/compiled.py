"""Compiles the scalar arithmetic of the balance, and keeps what was compiled.

The functions marked `compiled` are plain Python: with the environment variable
``NUMBA_DISABLE_JIT=1`` they run as they stand, some hundred times slower, to the same figures.
What was compiled is kept in a folder named after the content of all of them, so that a change in
one can never meet the old code of another. It is compiled for any processor of its kind, whatever
this one is, and knows no path: what is shipped beside this file (`PACKED`) was compiled elsewhere
and gives the same figures to the last bit.
"""

from __future__ import annotations

import atexit
import contextlib
import os
import platform
import re
import shutil
import sys
import tempfile
from collections.abc import Callable
from hashlib import blake2b
from importlib.util import find_spec
from pathlib import Path
from typing import TYPE_CHECKING, Any, Literal, ParamSpec, TypeVar

if TYPE_CHECKING:
    import tarfile

_P = ParamSpec("_P")
_R = TypeVar("_R")

CORE = Path(__file__).parent
KERNELS = (
    "constants.py",
    "constants_bees.py",
    "hive/zones.py",
    "make_compiled.py",
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
    "year/kernel_ice.py",
    "year/kernel_memory.py",
    "year/kernel_rain.py",
    "year/kernel_snow.py",
    "year/kernel_walls.py",
    "year/kernel_water.py",
    "year/kernel_wood.py",
    "year/kernel_year.py",
)
"""Files whose content decides what is compiled."""
PACKED = CORE / f"kernel-{sys.implementation.cache_tag}-{platform.machine()}.tar.xz"
"""What was compiled for this Python on such a machine, shipped with the program."""
_DIGEST = "digest"
_WHOLE = "whole"
# Text between three quotes that begins a line; kernels have no other.
_DOCSTRING = re.compile(r'^[ \t]*r?""".*?"""[ \t]*$', re.MULTILINE | re.DOTALL)
_COMMENT = re.compile(r"^[ \t]*#.*$", re.MULTILINE)
_EMPTY = re.compile(r"^[ \t]*\n", re.MULTILINE)


def digest() -> str:
    """Return the digest of sources and compiler: another digest is other machine code.

    Words do not count: a comment or docstring that is put right costs nobody two minutes.
    """
    content = blake2b(_numba_version().encode(), digest_size=8)
    for name in KERNELS:
        path = CORE / name
        if path.exists():
            content.update(without_words(path.read_text(encoding="utf-8")).encode())
    return content.hexdigest()


def without_words(source: str) -> str:
    """Return a source without docstrings, lines of comment and empty lines."""
    return _EMPTY.sub("", _COMMENT.sub("", _DOCSTRING.sub("", source)))


def _numba_version() -> str:
    """Return the version of the compiler, read without loading it: that takes a second."""
    spec = find_spec("numba")
    if spec is None or spec.origin is None:
        return ""
    text = (Path(spec.origin).parent / "_version.py").read_text(encoding="utf-8")
    match = re.search(r'"version": "([^"]+)"', text)
    return match[1] if match else ""


def _folder() -> Path:
    """Return where compiled code is kept: beside the sources, else with the user's own files.

    Where neither may be written it is a folder of this run alone.
    """
    cache = os.environ.get("XDG_CACHE_HOME") or Path.home() / ".cache"
    name = f"kernel-{digest()}"
    for place in (CORE / "__pycache__", Path(cache) / "calveth"):
        folder = place / name
        try:
            folder.mkdir(parents=True, exist_ok=True)
        except OSError:
            continue
        if os.access(folder, os.W_OK):
            return folder
    of_this_run = Path(tempfile.mkdtemp(prefix="calveth-"))
    atexit.register(shutil.rmtree, of_this_run, ignore_errors=True)
    folder = of_this_run / name
    folder.mkdir()
    return folder


def is_kept() -> bool:
    """Return whether all of it was compiled before, for this Python and these files."""
    return _mark(_KEPT).exists()


def keep() -> None:
    """Return nothing; note that all of it is compiled."""
    _mark(_KEPT).touch()


def forget() -> None:
    """Return nothing; throw away what is compiled, so that it is made anew."""
    shutil.rmtree(_KEPT)
    _KEPT.mkdir()


def _mark(folder: Path) -> Path:
    return folder / f"{_WHOLE}-{sys.implementation.cache_tag}-{platform.machine()}"


def pack(target: Path, *, quick: bool = False) -> None:
    """Return nothing; write what is compiled into a file to be shipped, with its digest.

    A ``quick`` one is larger.

    Raises
    ------
    ValueError
        When not all of it is compiled, or of sources that have changed since.
    """
    if not is_kept():
        raise ValueError("not all of the balance is compiled yet")
    if _KEPT.name != f"kernel-{digest()}":
        raise ValueError("the sources changed while they were compiled; compile them again")
    import tarfile

    part = target.with_suffix(".part")
    with tarfile.open(part, "w:xz", preset=0 if quick else 9) as out:
        # The digest first: it is read without unpacking the rest.
        _add(out, _DIGEST, digest().encode())
        for path in sorted(_KEPT.rglob("*.nb?")):
            _add(out, str(path.relative_to(_KEPT)), path.read_bytes())
    part.replace(target)


def _add(out: tarfile.TarFile, name: str, content: bytes) -> None:
    import io
    from tarfile import TarInfo

    info = TarInfo(name)
    info.size, info.mode = len(content), 0o644
    out.addfile(info, io.BytesIO(content))


def packed_digest(source: Path = PACKED) -> str:
    """Return which sources a packed file is of; nothing where there is none that can be read."""
    import tarfile
    from lzma import LZMAError

    try:
        with tarfile.open(source, "r:xz") as packed:
            first = packed.next()
            content = packed.extractfile(first) if first and first.name == _DIGEST else None
            return content.read().decode() if content else ""
    except (OSError, ValueError, tarfile.TarError, LZMAError, EOFError):
        return ""


def unpack(folder: Path, source: Path = PACKED) -> bool:
    """Return whether what is shipped was there; put it into the folder where it is looked for."""
    import tarfile
    from lzma import LZMAError

    if packed_digest(source) != digest():
        return False
    made = folder.with_name(f"{folder.name}-{os.getpid()}.part")
    try:
        with tarfile.open(source, "r:xz") as packed:
            for info in packed:
                # The oldest Python 3.11 has no filter of its own for what leads out of a folder.
                content = packed.extractfile(info)
                if (
                    content is None
                    or ".." in Path(info.name).parts
                    or Path(info.name).is_absolute()
                ):
                    continue
                path = made / info.name
                path.parent.mkdir(parents=True, exist_ok=True)
                path.write_bytes(content.read())
        for path in sorted(made.rglob("*.nb?")):
            target = folder / path.relative_to(made)
            target.parent.mkdir(exist_ok=True)
            path.replace(target)
        _mark(folder).touch()
    except (OSError, tarfile.TarError, LZMAError, EOFError):
        return False
    finally:
        shutil.rmtree(made, ignore_errors=True)
    return True


class ByContent:
    """Tells numba where code is kept: under the digest of the sources, not their path or time."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    @classmethod
    def from_function(cls, _function: object, file: str) -> ByContent | None:
        """Return the place of a function of the core; None for others."""
        path = Path(file)
        if CORE not in path.parents:
            return None
        return cls(_KEPT / path.parent.name)

    def get_cache_path(self) -> str:
        """Return the folder of the index and the code."""
        return str(self._folder)

    def ensure_cache_path(self) -> None:
        """Return nothing; make the folder."""
        self._folder.mkdir(parents=True, exist_ok=True)

    def get_source_stamp(self) -> str:
        """Return what says that the code is of these sources."""
        return _KEPT.name

    def get_disambiguator(self) -> str:
        """Return nothing: no two functions of a file have the same name."""
        return "f"


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
    if _PLAIN:
        _later.append((function, inline, counted))
        return function
    # Compiled in two thirds of the time, and as fast.
    os.environ.setdefault("NUMBA_OPT", "1")
    # For any processor of the kind: figures do not hang on which one it is, and it can be shipped.
    os.environ["NUMBA_CPU_NAME"], os.environ["NUMBA_CPU_FEATURES"] = "generic", ""
    import numba

    config: Any = numba.config
    config.CACHE_LOCATOR_CLASSES = f"{__name__}.ByContent"
    options: dict[str, Any] = {"inline": inline}
    if not counted:
        options["_nrt"] = False
    made: Callable[_P, _R] = numba.njit(
        cache=True, nogil=True, error_model="numpy", fastmath=False, **options
    )(function)
    return made


_PLAIN: list[bool] = []
_later: list[tuple[Callable[..., Any], Literal["never", "always"], bool]] = []


def stay_plain() -> None:
    """Return nothing; leave what is marked from now on as plain Python, until `take_up`."""
    _PLAIN[:] = [True]


def take_up() -> None:
    """Return nothing; put compiled functions in the place of the plain ones, in every module."""
    _PLAIN.clear()
    made = {id(function): _made(function, inline, counted) for function, inline, counted in _later}
    for name, module in list(sys.modules.items()):
        if name.split(".")[0] != __name__.split(".")[0]:
            continue
        for key, value in list(vars(module).items()):
            with contextlib.suppress(TypeError):
                if id(value) in made:
                    setattr(module, key, made[id(value)])
    _later.clear()


_KEPT = _folder()
if not _mark(_KEPT).exists():
    unpack(_KEPT)
