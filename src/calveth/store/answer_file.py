"""Answers of the core as bytes: numbers, texts and arrays, and nothing that could run.

A file is a digest, then numpy's archive of arrays read without pickles, with everything else as
JSON in it. Read again the figures are the same bit by bit.
"""

from __future__ import annotations

import io
import json
from collections.abc import Callable, Mapping
from contextvars import ContextVar
from hashlib import blake2b
from types import MappingProxyType
from typing import Any, TypeVar, get_args, get_origin

import cattrs
import numpy as np

T = TypeVar("T")
_DIGEST_BYTES = 32
_JSON = "json"

# The arrays of the answer that is being written or read.
_ARRAYS: ContextVar[dict[str, Any]] = ContextVar("arrays")


def _array_out(value: np.ndarray[Any, Any]) -> str:
    name = f"a{len(_ARRAYS.get())}"
    _ARRAYS.get()[name] = value
    return name


def _array_in(name: Any, _: Any) -> Any:
    return _ARRAYS.get()[name]


def _is_array(kind: Any) -> bool:
    return get_origin(kind) is np.ndarray or kind is np.ndarray


def _is_mapping(kind: Any) -> bool:
    return isinstance(get_origin(kind), type) and issubclass(get_origin(kind), Mapping)


def _converter() -> cattrs.Converter:
    made = cattrs.Converter(forbid_extra_keys=True)
    made.register_structure_hook_func(_is_array, _array_in)
    made.register_unstructure_hook_func(_is_array, _array_out)

    def mapping_in(value: Any, kind: Any) -> Mapping[Any, Any]:
        key_kind, item_kind = get_args(kind)
        return MappingProxyType(
            {
                made.structure(key, key_kind): made.structure(item, item_kind)
                for key, item in value.items()
            }
        )

    def mapping_out(kind: Any) -> Callable[[Any], Any]:
        _, item_kind = get_args(kind)
        return lambda value: {k: made.unstructure(v, item_kind) for k, v in value.items()}

    made.register_structure_hook_func(_is_mapping, mapping_in)
    made.register_unstructure_hook_factory(_is_mapping, mapping_out)
    return made


_CONVERTER = _converter()


def to_bytes(answer: object) -> bytes:
    """Return an answer, a dataclass of numbers, texts, arrays and the like, as bytes."""
    arrays: dict[str, Any] = {}
    token = _ARRAYS.set(arrays)
    try:
        document = json.dumps(_CONVERTER.unstructure(answer))
    finally:
        _ARRAYS.reset(token)
    stream = io.BytesIO()
    text = np.frombuffer(document.encode(), dtype=np.uint8)
    np.savez(stream, allow_pickle=False, **arrays, **{_JSON: text})
    content = stream.getvalue()
    return blake2b(content, digest_size=_DIGEST_BYTES).digest() + content


def from_bytes(content: bytes, kind: type[T]) -> T:
    """Return the answer of a kind that bytes hold.

    Raises
    ------
    ValueError
        When they are damaged or hold something else.
    """
    digest, archive = content[:_DIGEST_BYTES], content[_DIGEST_BYTES:]
    if blake2b(archive, digest_size=_DIGEST_BYTES).digest() != digest:
        raise ValueError("is damaged")
    with np.load(io.BytesIO(archive), allow_pickle=False) as stored:
        arrays = {name: stored[name] for name in stored.files}
    document = json.loads(arrays.pop(_JSON).tobytes())
    for array in arrays.values():
        array.setflags(write=False)
    token = _ARRAYS.set(arrays)
    try:
        return _CONVERTER.structure(document, kind)
    except Exception as error:  # whatever a converter makes of another kind's content
        raise ValueError("holds another answer") from error
    finally:
        _ARRAYS.reset(token)
