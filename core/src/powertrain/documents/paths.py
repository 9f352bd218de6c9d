"""Document paths ('gearing.0.driver_teeth'): reading, changing and comparing by them."""

from collections.abc import Iterator, Mapping
from copy import deepcopy
from typing import Any

from pydantic import BaseModel

from powertrain.errors import Refusal

Changes = Mapping[str, Any]
"""New values by document path; None takes an optional value out."""

LONGEST_PATH = 200


def known_path(model: Any, path: str) -> bool:
    """Return whether `path` names a field, filled or not, of a document part."""
    for step in path.split("."):
        if isinstance(model, BaseModel):
            if step not in type(model).model_fields:
                return False
            model = getattr(model, step)
        elif isinstance(model, list):
            if not step.isdecimal() or int(step) >= len(model):
                return False
            model = model[int(step)]
        else:
            return False
    return True


def number_at(model: Any, path: str) -> float | None:
    """Return the number at a path of a checked document, None where there is none."""
    for step in path.split("."):
        if model is None:
            return None
        model = model[int(step)] if isinstance(model, list) else getattr(model, step, None)
    return float(model) if isinstance(model, int | float) and not isinstance(model, bool) else None


def value_at(document: Any, path: str) -> Any:
    """Return the value at `path` in a plain document, None where there is none."""
    for step in path.split("."):
        if isinstance(document, dict):
            document = document.get(step)
        elif isinstance(document, list) and step.isdecimal() and int(step) < len(document):
            document = document[int(step)]
        else:
            return None
    return document


def changed(document: dict[str, Any], changes: Changes) -> dict[str, Any]:
    """Return a copy of a plain `document` with `changes` made.

    Sections that don't exist yet are begun; what is said of the origin of a value that is gone
    goes with it. Whether the outcome is a valid document is for the caller to check.

    Raises
    ------
    Refusal
        If a path runs into a value that has no parts, or to a list item that isn't there.
    """
    copy = deepcopy(document)
    for path, value in changes.items():
        _set(copy, path, value)
    _forget_lost_origins(copy)
    return copy


def _set(document: dict[str, Any], path: str, value: Any) -> None:
    *steps, last = path.split(".")
    if len(path) > LONGEST_PATH:
        raise Refusal(path[:40], "is no path of a document")
    place: Any = document
    for step in steps:
        if isinstance(place, dict):
            if place.get(step) is None:
                place[step] = {}
            place = place[step]
        else:
            place = place[_index(place, step, path)]
    if isinstance(place, dict):
        if value is None:
            place.pop(last, None)
        else:
            place[last] = value
    else:
        place[_index(place, last, path)] = value


def _index(place: Any, step: str, path: str) -> int:
    if not isinstance(place, list) or not step.isdecimal() or int(step) >= len(place):
        raise Refusal(path, "does not exist in this document")
    return int(step)


def _forget_lost_origins(document: dict[str, Any]) -> None:
    origins = document.get("provenance")
    if isinstance(origins, dict):
        lost = [path for path in origins if value_at(document, path) is None]
        for path in lost:
            del origins[path]


def differences(before: Any, after: Any, path: str = "") -> Iterator[tuple[str, Any, Any]]:
    """Yield (path, before, after) for each value that differs between two plain documents.

    Lists of unlike length differ as a whole, since their items can't be matched by place.
    """
    if isinstance(before, dict) and isinstance(after, dict):
        for key in [*before, *(k for k in after if k not in before)]:
            inner = f"{path}.{key}" if path else key
            yield from differences(before.get(key), after.get(key), inner)
    elif isinstance(before, list) and isinstance(after, list) and len(before) == len(after):
        for index, (old, new) in enumerate(zip(before, after, strict=True)):
            yield from differences(old, new, f"{path}.{index}")
    elif before != after:
        yield path, before, after
