"""Parts of a shelf, or builds, as a table, row by row, each number's unit in the header.

A column is a place in the document, ``motor.kv_rpm_per_v [rpm/V]``; an empty cell says
nothing. Numbers stand with all their digits, lists and provenance as JSON, so that what is
written is read back exactly. Words that a spreadsheet would take for a formula stand behind an
apostrophe, as spreadsheets have it. Rows are read one at a time, and one that is wrong is told
with its line and column while the others go on.

Tables of spreadsheets are read too: with semicolons or tabs between the cells, numbers there with
a comma for their point.
"""

import csv
import json
import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import cache
from itertools import chain
from types import UnionType
from typing import Annotated, Any, Union, get_args, get_origin

from pydantic import BaseModel

from powertrain.documents.build import Build
from powertrain.documents.reading import check_model
from powertrain.documents.shelf import KINDS
from powertrain.documents.text import parse
from powertrain.errors import Refusal

LONGEST_CELL = 200_000

TABLES: dict[str, type[BaseModel]] = {**KINDS, "builds": Build}
"""What may stand in a table: parts of each kind, and builds."""


@dataclass(frozen=True)
class Column:
    """A place in a part's document; `how` is number, truth, text, json or empty.

    An empty one is an object that was begun and says nothing yet.
    """

    path: str
    unit: str
    how: str

    @property
    def header(self) -> str:
        """What stands above it."""
        return f"{self.path} [{self.unit}]" if self.unit else self.path


@dataclass(frozen=True)
class BadRow:
    """A row that is no part: where, and what to do about it."""

    line: int
    column: str
    what: str


@cache
def columns_of(kind: str) -> tuple[Column, ...]:
    """Return every column that documents of a kind may have."""
    found: dict[str, Column] = {}
    for column in _columns(TABLES[kind], ""):
        found.setdefault(column.path, column)
    return tuple(found.values())


def _columns(model: type[BaseModel], prefix: str) -> Iterator[Column]:
    for name, field in model.model_fields.items():
        path, models = f"{prefix}{name}", list(_models_in(field.annotation))
        extra = field.json_schema_extra
        if models and get_origin(_bare(field.annotation)) not in (list, dict):
            if all(
                not inner.is_required() for one in models for inner in one.model_fields.values()
            ):
                yield Column(path, "", "empty")
            for inner in models:
                yield from _columns(inner, f"{path}.")
        elif isinstance(extra, dict):
            yield Column(path, str(extra["unit"]), "number")
        else:
            yield Column(path, "", _how(field.annotation))


def _needs_something(model: type[BaseModel]) -> bool:
    return any(field.is_required() for field in model.model_fields.values())


def _bare(annotation: Any) -> Any:
    """Return an annotation without ``Annotated`` and ``None``."""
    if get_origin(annotation) is Annotated:
        return _bare(get_args(annotation)[0])
    if get_origin(annotation) in (Union, UnionType):
        kept = [inner for inner in get_args(annotation) if inner is not type(None)]
        return _bare(kept[0]) if len(kept) == 1 else annotation
    return annotation


def _models_in(annotation: Any) -> Iterator[type[BaseModel]]:
    bare = _bare(annotation)
    if get_origin(bare) in (Union, UnionType):
        for inner in get_args(bare):
            yield from _models_in(inner)
    elif isinstance(bare, type) and issubclass(bare, BaseModel):
        yield bare


def _how(annotation: Any) -> str:
    bare = _bare(annotation)
    if bare is bool:
        return "truth"
    return "json" if get_origin(bare) in (list, dict) else "text"


def write_rows(kind: str, documents: Iterable[BaseModel | dict[str, Any]]) -> Iterator[str]:
    """Yield the lines of a table of documents, the header first.

    A document that can't be read as one of its kind may come as plain values, for what it says.
    """
    columns = columns_of(kind)
    line = _Line()
    writer = csv.writer(line, lineterminator="\n")
    writer.writerow([column.header for column in columns])
    yield line.text
    for document in documents:
        said = document
        if isinstance(document, BaseModel):
            said = document.model_dump(mode="json", exclude_unset=True)
        writer.writerow([_cell(column, said) for column in columns])
        yield line.text


class _Line:
    """Where the writer of one line leaves it."""

    text = ""

    def write(self, text: str) -> None:
        """Take a line."""
        self.text = text


def _cell(column: Column, document: Any) -> str:
    for step in column.path.split("."):
        if not isinstance(document, dict) or document.get(step) is None:
            return ""
        document = document[step]
    if column.how == "empty":
        return "" if document else "{}"
    if column.how == "json":
        return json.dumps(document, separators=(",", ":"))
    if column.how == "truth":
        return "yes" if document else "no"
    return repr(document) if column.how == "number" else _harmless(str(document))


RUN = ("=", "+", "-", "@", "\t", "\r")
"""What a spreadsheet takes a formula by, at the beginning of a cell."""


def _harmless(text: str) -> str:
    return f"'{text}" if text.startswith((*RUN, "'")) else text


def _as_written(cell: str) -> str:
    return cell[1:] if cell.startswith("'") and cell[1:].startswith((*RUN, "'")) else cell


def read_rows(kind: str, lines: Iterable[str]) -> Iterator[Any]:
    """Yield, row by row, the document that a table holds, or a `BadRow`.

    Parameters
    ----------
    lines : iterable of str
        Lines of text, as an open file gives them; no more than one row is held at a time.

    Raises
    ------
    Refusal
        If there is no header, or it names a column that such documents don't have.
    """
    csv.field_size_limit(LONGEST_CELL)
    coming = iter(lines)
    first = next(coming, "").lstrip("\ufeff")
    between = max(BETWEEN, key=lambda sign: _known_names(kind, first, sign))
    rows = csv.reader(chain([first] if first else [], coming), strict=True, delimiter=between)
    columns = _header(kind, rows)
    while True:
        try:
            cells = next(rows, None)
        except csv.Error as problem:
            yield BadRow(rows.line_num, "", f"is not a row of a table: {problem}")
            continue
        if cells is None:
            return
        if any(cell.strip() for cell in cells):
            yield _row(kind, columns, cells, rows.line_num, between != ",")


BETWEEN = (",", ";", "\t")
"""Signs that may stand between cells."""


def _known_names(kind: str, header: str, between: str) -> int:
    """Return how many columns a header names, were they parted by a sign."""
    known = _by_name(kind)
    return sum(name.strip().strip('"') in known for name in header.split(between))


@cache
def _by_name(kind: str) -> dict[str, Column]:
    """Return columns by what may stand above them, with their unit or without."""
    columns = columns_of(kind)
    return {name: column for column in columns for name in (column.header, column.path)}


def _header(kind: str, rows: Any) -> list[Column]:
    try:
        header = next(rows, None)
    except csv.Error as problem:
        raise Refusal("line 1", f"can't be read as names of columns: {problem}") from None
    if header is None:
        raise Refusal("line 1", "is missing: a table begins with the names of its columns")
    found = []
    for name in header:
        column = _by_name(kind).get(name.strip())
        if column is None:
            raise Refusal(f"line 1, {name.strip()[:60]!r}", f"is no column of {kind}")
        found.append(column)
    if len({column.path for column in found}) != len(found):
        raise Refusal("line 1", "names a column twice")
    return found


def _row(
    kind: str, columns: list[Column], cells: list[str], line: int, comma_for_point: bool
) -> Any:
    if len(cells) != len(columns):
        what = f"has {len(cells)} cells under {len(columns)} columns"
        return BadRow(line, "", what)
    document: dict[str, Any] = {}
    for column, cell in zip(columns, cells, strict=True):
        if cell.strip():
            if "\0" in cell:
                return BadRow(line, column.header, "holds a null character")
            try:
                _put(document, column.path, _value(column, cell, comma_for_point))
            except (ValueError, Refusal):
                return BadRow(line, column.header, f"must be {_noun(column)}, not {cell[:40]!r}")
    try:
        return check_model(TABLES[kind], document)
    except Refusal as refusal:
        headers = {column.path: column.header for column in columns}
        return BadRow(line, headers.get(refusal.where, refusal.where), refusal.what)


def _noun(column: Column) -> str:
    nouns = {"number": "a number", "truth": "yes or no", "json": "a list in JSON", "empty": "{}"}
    return nouns.get(column.how, "text")


NUMBER = re.compile(r"[+-]?(\d{1,400}(\.\d{0,400})?|\.\d{1,400})([eE][+-]?\d{1,4})?", re.ASCII)
"""A number as programs write it: no signs between thousands, no digits of other scripts."""


def _value(column: Column, cell: str, comma_for_point: bool) -> Any:
    if column.how == "number":
        written = cell.strip()
        if comma_for_point and "." not in written:
            written = written.replace(",", ".", 1)
        if NUMBER.fullmatch(written) is None:
            raise ValueError(cell)
        return int(written) if written.lstrip("+-").isdigit() else float(written)
    if column.how == "truth":
        word = cell.strip().lower()
        if word not in ("yes", "no"):
            raise ValueError(cell)
        return word == "yes"
    if column.how == "empty" and cell.strip() != "{}":
        raise ValueError(cell)
    return _as_written(cell) if column.how == "text" else parse(cell)


def _put(document: dict[str, Any], path: str, value: Any) -> None:
    *steps, last = path.split(".")
    place = document
    for step in steps:
        place = place.setdefault(step, {})
    place[last] = value
