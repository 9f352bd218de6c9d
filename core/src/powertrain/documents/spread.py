"""One document with arrays for values: many variants of a build, made without reading each."""

from collections.abc import Mapping
from typing import Any

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from powertrain.documents.build import Build


def with_values(build: Build, values: Mapping[str, NDArray[np.float64]]) -> Build:
    """Return `build` with arrays at the given document paths.

    The outcome is for `Drive.of` and its like, which make parts of arrays from it. Nothing is
    checked: the values must be ones that a document may have.
    """
    tree: dict[str, Any] = {}
    for path, value in values.items():
        *steps, last = path.split(".")
        place = tree
        for step in steps:
            place = place.setdefault(step, {})
        place[last] = value
    changed: Build = _with(build, tree)
    return changed


def _with(part: Any, tree: dict[str, Any]) -> Any:
    if isinstance(part, list):
        return [_with(item, tree[str(i)]) if str(i) in tree else item
                for i, item in enumerate(part)]  # fmt: skip
    update = {
        key: _with(getattr(part, key), value) if isinstance(value, dict) else value
        for key, value in tree.items()
    }
    model: BaseModel = part
    return model.model_copy(update=update)


def number_at(build: Build, path: str) -> float | None:
    """Return the number at a document path, None where there is none."""
    part: Any = build
    for step in path.split("."):
        if part is None:
            return None
        part = part[int(step)] if isinstance(part, list) else getattr(part, step, None)
    return float(part) if isinstance(part, int | float) and not isinstance(part, bool) else None
