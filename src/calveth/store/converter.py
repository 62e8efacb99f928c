"""Strict conversion between values and JSON documents, with the path to a wrong field.

Default converters take ``"0.02"`` as a number, ``"false"`` as True, NaN as a length and drop
unknown keys. Here none of that passes.
"""

from __future__ import annotations

import json
import math
from typing import Any, TypeVar

import cattrs
from cattrs.errors import BaseValidationError, ForbiddenExtraKeysError
from cattrs.v import transform_error

from calveth.core.errors import CalvethError, DomainError
from calveth.core.hive.forms import BarTrough, Form, HollowTree, LittleBoxes, StackedBoxes

T = TypeVar("T")


class DocumentError(CalvethError, ValueError):
    """A document that cannot be read, with the path to the first wrong field."""


def _number(value: Any, _: type) -> float:
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise ValueError(f"{_shown(value)} is not a number")
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
    return value


def _flag(value: Any, _: type) -> bool:
    if not isinstance(value, bool):
        raise ValueError(f"{_shown(value)} is not true or false")
    return value


def _shown(value: Any) -> str:
    text = json.dumps(value, ensure_ascii=False, default=str)
    return text if len(text) <= 40 else text[:39] + "…"


_FORMS: dict[str, type[StackedBoxes | BarTrough | LittleBoxes | HollowTree]] = {
    "stacked boxes": StackedBoxes,
    "trough under bars": BarTrough,
    "little boxes": LittleBoxes,
    "hollow tree": HollowTree,
}


def _make() -> cattrs.Converter:
    converter = cattrs.Converter(forbid_extra_keys=True)
    converter.register_structure_hook(float, _number)
    converter.register_structure_hook(int, _whole)
    converter.register_structure_hook(str, _text)
    converter.register_structure_hook(bool, _flag)

    def form_in(value: Any, _: Any) -> Form:
        if not isinstance(value, dict) or value.get("kind") not in _FORMS:
            raise ValueError(f"kind must be one of {', '.join(_FORMS)}")
        rest = {key: item for key, item in value.items() if key != "kind"}
        form: Form = converter.structure(rest, _FORMS[value["kind"]])
        return form

    def form_out(form: Form) -> dict[str, Any]:
        kind = next(name for name, cls in _FORMS.items() if isinstance(form, cls))
        return {"kind": kind, **converter.unstructure(form, type(form))}

    converter.register_structure_hook(Form, form_in)
    converter.register_unstructure_hook(Form, form_out)
    return converter


_CONVERTER = _make()


def to_document(value: Any) -> Any:
    """Return a value as plain dicts, lists, numbers and texts."""
    return _CONVERTER.unstructure(value)


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
        first = str(lines[0]) if lines else str(error)
        more = f" (and {len(lines) - 1} more)" if len(lines) > 1 else ""
        raise DocumentError(first.replace(" @ .", " at ").replace(" @ ", " at ") + more) from error
    except (DomainError, ValueError, KeyError, TypeError, AttributeError) as error:
        raise DocumentError(_explain(error, None)) from error


def _explain(error: BaseException, _: type | None) -> str:
    if isinstance(error, DomainError):
        return str(error)
    if isinstance(error, KeyError):
        return f"required field missing: {error.args[0]}"
    if isinstance(error, ForbiddenExtraKeysError):
        return "unknown field " + ", ".join(sorted(error.extra_fields))
    if isinstance(error, TypeError | AttributeError):
        return "wrong kind of value"
    return str(error)
