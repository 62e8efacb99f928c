"""Strict conversion between values and JSON documents, with the path to a wrong field.

Default converters take ``"0.02"`` as a number, ``"false"`` as True, NaN as a length and drop
unknown keys. Here none of that passes.
"""

from __future__ import annotations

import base64
import json
import math
from collections.abc import Callable
from typing import Any, Literal, TypeVar, get_args, get_origin

import cattrs
import numpy as np
from cattrs.errors import (
    BaseValidationError,
    ForbiddenExtraKeysError,
    IterableValidationError,
    IterableValidationNote,
)
from cattrs.v import transform_error

from calveth.core.calendar import HOURS_IN_YEAR
from calveth.core.climate.hours import HourArray, HourlyWeather
from calveth.core.errors import DomainError, plain, printable
from calveth.core.hive.forms import FORMS, Form
from calveth.core.records.blob import Blob
from calveth.store.errors import DocumentError

__all__ = ["DocumentError", "from_document", "to_document", "to_row"]

T = TypeVar("T")

# A list of a project is shorter than this, a text too: more is no project but an attack.
_LONGEST_LIST = 2_000
_LONGEST_TEXT = 20_000


def _number(value: Any, _: type) -> float:
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise ValueError(f"{_shown(value)} is not a number")
    if isinstance(value, int) and abs(value) > 10**15:
        raise ValueError("a number of many digits is not one a hive can have")
    if not math.isfinite(value):
        raise ValueError(f"{str(value).replace('nan', 'NaN')} is not a number a hive can have")
    return float(value)


def _whole(value: Any, _: type) -> int:
    if isinstance(value, bool) or not isinstance(value, int):
        raise ValueError(f"{_shown(value)} is not a whole number")
    return value


def _text(value: Any, _: type) -> str:
    if not isinstance(value, str):
        raise ValueError(f"{_shown(value)} is not a text")
    if len(value) > _LONGEST_TEXT:
        raise ValueError(f"a text of {len(value)} characters is too long")
    if not all(printable(c) or c in "\n\t" for c in value):
        raise ValueError(f"{_shown(value)} holds characters that cannot be shown")
    return value


def _flag(value: Any, _: type) -> bool:
    if not isinstance(value, bool):
        raise ValueError(f"{_shown(value)} is not true or false")
    return value


def _choice(value: Any, kind: Any) -> Any:
    known = get_args(kind)
    if not isinstance(value, str) or value not in known:
        raise ValueError(f"{_shown(value)} is not known; choose one of {', '.join(known)}")
    return value


def _is(origin: Any) -> Callable[[Any], bool]:
    """Return whether a type is made of another, as `tuple[int, ...]` is of `tuple`."""
    return lambda kind: get_origin(kind) is origin


def _shown(value: Any) -> str:
    if isinstance(value, list | dict):
        return "a list" if isinstance(value, list) else "an object"
    return plain(json.dumps(value, ensure_ascii=False, default=str), 40)


_FORMS: dict[str, type[Form]] = {form.kind: form for form in FORMS}


def _hours(column: Any) -> HourArray:
    """Return a column of hours; null is an hour that is missing."""
    if isinstance(column, np.ndarray):
        return column
    if not isinstance(column, list) or len(column) != HOURS_IN_YEAR:
        raise ValueError("a column of hours holds 8760 numbers")
    return np.array([np.nan if v is None else _number(v, float) for v in column], dtype=np.float32)


def _listed(values: HourArray) -> list[float | None]:
    # Nine digits tell every single number from the next; read again they are the same hours.
    return [float(f"{v:.9g}") if math.isfinite(v) else None for v in values.tolist()]


def _blob_in(value: Any, _: Any) -> Blob:
    if isinstance(value, Blob):
        return value
    text = value.get("base64") if isinstance(value, dict) and len(value) == 1 else None
    if not isinstance(text, str):
        raise ValueError(f"{_shown(value)} is not bytes in base64")
    try:
        return Blob(base64.b64decode(text, validate=True))
    except ValueError:
        raise ValueError("the base64 is damaged") from None


def _blob_whole(blob: Blob) -> dict[str, str]:
    return {"base64": base64.b64encode(blob.data).decode()}


def _blob_named(blob: Blob) -> dict[str, str]:
    return {"digest": blob.digest}


def _make(blob_out: Callable[[Blob], dict[str, str]]) -> cattrs.Converter:
    converter = cattrs.Converter(forbid_extra_keys=True)
    converter.register_structure_hook(float, _number)
    converter.register_structure_hook(int, _whole)
    converter.register_structure_hook(str, _text)
    converter.register_structure_hook(bool, _flag)
    converter.register_structure_hook_func(_is(Literal), _choice)

    def row_in(value: Any, kind: Any) -> tuple[Any, ...]:
        """Read a list item by item; the first wrong one ends it, with its number."""
        if not isinstance(value, list):
            raise ValueError(f"{_shown(value)} is not a list")
        if len(value) > _LONGEST_LIST:
            raise ValueError(f"a list of {len(value)} is too long; {_LONGEST_LIST} are read")
        kinds = get_args(kind)
        if kinds[-1] is not ... and len(kinds) != len(value):
            raise ValueError(f"a list of {len(value)} is given where {len(kinds)} belong")
        hooks = []
        for number, item in enumerate(value):
            kind_asked = kinds[0] if kinds[-1] is ... else kinds[number]
            try:
                hooks.append(converter.structure(item, kind_asked))
            except Exception as error:
                error.add_note(IterableValidationNote(f"@ index {number}", number, kind_asked))
                raise IterableValidationError("list", [error], kind) from error
        return tuple(hooks)

    converter.register_structure_hook_func(_is(tuple), row_in)

    def form_in(value: Any, _: Any) -> Form:
        if not isinstance(value, dict) or value.get("kind") not in _FORMS:
            raise ValueError(f"kind must be one of {', '.join(_FORMS)}")
        rest = {key: item for key, item in value.items() if key != "kind"}
        form: Form = converter.structure(rest, _FORMS[value["kind"]])
        return form

    def form_out(form: Form) -> dict[str, Any]:
        return {"kind": form.kind, **converter.unstructure(form, type(form))}

    def hours_in(value: Any, _: Any) -> HourlyWeather:
        columns = value.get("columns") if isinstance(value, dict) else None
        if not isinstance(columns, dict):
            raise ValueError("hours must hold columns of 8760 numbers")
        return HourlyWeather({name: _hours(column) for name, column in columns.items()})

    def hours_out(hours: HourlyWeather) -> dict[str, Any]:
        return {"columns": {name: _listed(values) for name, values in hours.columns.items()}}

    converter.register_structure_hook(HourlyWeather, hours_in)
    converter.register_unstructure_hook(HourlyWeather, hours_out)
    converter.register_structure_hook(Blob, _blob_in)
    converter.register_unstructure_hook(Blob, blob_out)
    converter.register_structure_hook(Form, form_in)
    converter.register_unstructure_hook(Form, form_out)
    return converter


_CONVERTER = _make(_blob_whole)
_BY_DIGEST = _make(_blob_named)


def to_document(value: Any) -> Any:
    """Return a value as plain dicts, lists, numbers and texts."""
    return _CONVERTER.unstructure(value)


def to_row(value: Any) -> Any:
    """Return the same with bytes by their digests, for a file that keeps those beside it."""
    return _BY_DIGEST.unstructure(value)


def from_document(document: Any, cls: type[T]) -> T:
    """Return the value a document describes.

    Raises
    ------
    DocumentError
        Naming the path of the first field that is missing, unknown, of the wrong type or out of
        range.
    """
    try:
        return _CONVERTER.structure(document, cls)
    except BaseValidationError as error:
        lines = transform_error(error, path="", format_exception=_explain)
        first = str(lines[0]) if lines else "the document cannot be read"
        sentence, _, path = first.rpartition(" @ ")
        path = path.removeprefix(".")
        raise DocumentError(f"{sentence} at {path}" if path else sentence) from error
    except (DomainError, ValueError, KeyError, TypeError, AttributeError) as error:
        raise DocumentError(_explain(error, None)) from error
    except RecursionError:
        raise DocumentError("the document is nested too deeply to be a project") from None


def _explain(error: BaseException, _: type | None) -> str:
    if isinstance(error, DomainError):
        return str(error)
    if isinstance(error, KeyError):
        return f"required field missing: {error.args[0]}"
    if isinstance(error, ForbiddenExtraKeysError):
        return "unknown field " + ", ".join(plain(f, 40) for f in sorted(error.extra_fields)[:3])
    if isinstance(error, TypeError | AttributeError):
        return "something else is given than belongs here"
    return str(error)
