"""What a part of a document states, by key: of one, or of many with columns for some numbers.

Everything that makes numbers of a document reads it here, so that one document and many variants
of it go the same way, and nothing below knows what a document is. A document stays as it was
checked; columns stand beside it, never in it.
"""

from collections.abc import Iterator, Mapping
from typing import Any

import numpy as np

from powertrain.arrays import Array, scalar, somewhere

Columns = Mapping[str, Array]
"""Arrays over many variants by document path; the document says the rest."""

Tree = dict[str, Any]
NOTHING: Tree = {}


class Stated:
    """One part of a document, and the columns that stand for some of its numbers."""

    __slots__ = ("_columns", "part")

    def __init__(self, part: Any, columns: Tree = NOTHING) -> None:
        """Read `part`, any object with keys for attributes; `columns` are those of `tree_of`."""
        self.part, self._columns = part, columns

    def number(self, key: str, otherwise: float | None = None) -> Array:
        """Return a number or its column; `otherwise` where none is stated.

        Raises
        ------
        TypeError
            Where none is stated and nothing stands for it.
        """
        column = self._columns.get(key)
        if column is not None:
            return column  # type: ignore[no-any-return]
        value = getattr(self.part, key)
        return scalar(otherwise if value is None else value)  # type: ignore[arg-type]

    def states(self, *keys: str) -> bool:
        """Return whether all of some values are stated."""
        return all(key in self._columns or getattr(self.part, key) is not None for key in keys)

    def gives(self, key: str) -> bool:
        """Return whether a value is written down, be it its usual one."""
        return key in self._columns or key in self.part.model_fields_set

    def varies(self, key: str) -> bool:
        """Return whether many variants each have a number of their own."""
        return key in self._columns

    def word(self, key: str) -> Any:
        """Return what is no number: a choice, a name, a list; the same for all variants."""
        return getattr(self.part, key)

    def under(self, key: str) -> "Stated":
        """Return a part of the part."""
        return Stated(getattr(self.part, key), self._columns.get(key, NOTHING))

    def each(self, key: str) -> Iterator["Stated"]:
        """Yield the parts of a list."""
        columns = self._columns.get(key, NOTHING)
        for index, item in enumerate(getattr(self.part, key)):
            yield Stated(item, columns.get(str(index), NOTHING))


def tree_of(columns: Columns) -> Tree:
    """Return columns by path as a tree, to be read part by part."""
    tree: Tree = {}
    for path, column in columns.items():
        *steps, last = path.split(".")
        place = tree
        for step in steps:
            place = place.setdefault(step, {})
        place[last] = column
    return tree


def first_stated(said: Stated, keys: tuple[str, ...], otherwise: float) -> Array:
    """Return the first of some numbers that is stated."""
    return next((said.number(key) for key in keys if said.states(key)), scalar(otherwise))


def unstated(value: Array) -> bool:
    """Return whether a limit is stated for none: it is infinite or no number."""
    return not somewhere(np.isfinite(value))
