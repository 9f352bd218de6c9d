"""Documents that state the same things: one with arrays stands for all of them."""

from typing import Any

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array
from powertrain.documents.model import Model

SILENT = {"name", "price", "rated_cells", "count"}
"""What a document may say or not without any figure or limit changing."""

Columns = dict[str, Array]
Places = NDArray[np.int64]


def alike_of(documents: list[Any], beside: list[Any] | None = None) -> list[Places]:
    """Return the places of documents that state the same things, group by group."""
    groups: dict[Any, list[int]] = {}
    for place, document in enumerate(documents):
        said = (_words(document), None if beside is None else beside[place])
        groups.setdefault(said, []).append(place)
    return [np.array(places) for places in groups.values()]


def _words(document: Model) -> tuple[Any, ...]:
    """Return everything a document says but its numbers, and which numbers it states."""
    said: list[Any] = [type(document).__name__]
    for key in type(document).model_fields:
        value = getattr(document, key)
        if key in SILENT:
            continue
        if isinstance(value, Model):
            said.append((key, _words(value)))
        else:
            said.append((key, _is_number(value) or str(value)))
    return tuple(said)


def _is_number(value: Any) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)


def numbers_of(documents: list[Any], prefix: str) -> Columns:
    """Return every number that documents of one kind state, as columns by document path."""
    columns: Columns = {}
    for key in type(documents[0]).model_fields:
        values = [getattr(document, key) for document in documents]
        if isinstance(values[0], Model):
            columns |= numbers_of(values, f"{prefix}{key}.")
        elif key not in SILENT and _is_number(values[0]):
            columns[f"{prefix}{key}"] = np.array(values, float)
    return columns


def differs(column: Array) -> bool:
    """Return whether rows differ in a number at all."""
    return bool(np.any(column != column[0]))
