"""A logger's text as lines of cells: its coding, its separator, its decimal mark, its header."""

import csv
import re
from collections.abc import Iterator
from dataclasses import dataclass

from powertrain.errors import Refusal
from powertrain.telemetry.columns import is_unit

MOST_BYTES = 200_000_000
LONGEST_LINE = 100_000
MOST_COLUMNS = 500
LOOKED_AT = 60
"""Lines at the beginning from which a table's form is told."""

MARKS = ((b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16"))
SEPARATORS = (";", "\t", "|", ",")

NUMBER = re.compile(r"[+-]?(\d+([.,]\d*)?|[.,]\d+)([eE][+-]?\d+)?")
CLOCK = re.compile(r"\d{1,4}[:\-/.]\d{1,2}([:\-/.]\d{1,4})?.*")
MISSING = {"", "-", "--", "---", "nan", "null", "none", "n/a", "na", "inf", "-inf", "#n/a", "?"}
"""How loggers write that they read nothing."""


@dataclass(frozen=True)
class Form:
    """How a table is written; lines count from one."""

    coding: str
    separator: str
    comma_decimals: bool
    header: tuple[str, ...]
    units: tuple[str, ...]
    """From a line of its own below the header; empty where there is none."""
    first_row: int


def decoded(text: bytes) -> tuple[str, str]:
    """Return a logger's text, and the coding that it is in.

    Raises
    ------
    Refusal
        If it is too long, or no text.
    """
    if len(text) > MOST_BYTES:
        raise Refusal("file", f"may have {MOST_BYTES:,} bytes; cut it into several")
    for mark, coding in MARKS:
        if text.startswith(mark):
            try:
                return text.decode(coding), coding
            except UnicodeError:
                raise Refusal("file", "says that it is Unicode, and is not") from None
    for coding in ("utf-8", "cp1252"):
        try:
            found = text.decode(coding)
        except UnicodeError:
            continue
        if "\x00" in found[:4096]:
            break
        return found, coding
    raise Refusal("line 1", "is not text; save the log as CSV")


def form_of(text: str, coding: str) -> Form:
    """Return how a table is written.

    Raises
    ------
    Refusal
        If there are no two columns with numbers anywhere near its beginning.
    """
    lines = text[: LOOKED_AT * LONGEST_LINE].splitlines()[:LOOKED_AT]
    for number, line in enumerate(lines, 1):
        if len(line) > LONGEST_LINE:
            raise Refusal(f"line {number}", f"is longer than {LONGEST_LINE:,} letters")
    separator, first = _separator(lines)
    cells = [_cells(line, separator) for line in lines]
    comma = separator != "," and _has_commas(cells[first:])
    header, units = _header(cells, first, comma)
    if len(header) > MOST_COLUMNS:
        raise Refusal(f"line {first}", f"has more than {MOST_COLUMNS} columns")
    return Form(coding, separator, comma, header, units, first + 1)


def rows_of(text: str, form: Form) -> Iterator[tuple[int, list[str]]]:
    """Yield the number and cells of each row.

    Raises
    ------
    Refusal
        Naming the line, if one is too long or its quotes are never closed.
    """
    lines = text.splitlines()[form.first_row - 1 :]
    csv.field_size_limit(LONGEST_LINE)
    number = form.first_row - 1
    for line in lines:
        number += 1
        if not line.strip() or line.lstrip().startswith("#"):
            continue
        if len(line) > LONGEST_LINE:
            raise Refusal(f"line {number}", f"is longer than {LONGEST_LINE:,} letters")
        yield number, _cells(line, form.separator)


def number_of(cell: str, *, comma: bool) -> float | None:
    """Return the number in a cell, NaN where nothing was read, None where it is something else."""
    plain = cell.strip().strip('"').strip()
    if plain.lower() in MISSING:
        return float("nan")
    if comma:
        plain = plain.replace(".", "") if plain.count(",") == 1 and "." in plain else plain
        plain = plain.replace(",", ".")
    elif plain.count(",") >= 1 and re.fullmatch(r"[+-]?\d{1,3}(,\d{3})+(\.\d+)?", plain):
        plain = plain.replace(",", "")
    try:
        return float(plain)
    except ValueError:
        return None


def _cells(line: str, separator: str) -> list[str]:
    try:
        row = next(csv.reader([line], delimiter=separator), [])
    except csv.Error:
        row = line.split(separator)
    return [cell.strip() for cell in row]


def _looks(cell: str) -> bool:
    """Return whether a cell looks like something that was logged: a number, a time, or nothing."""
    plain = cell.strip()
    return bool(NUMBER.fullmatch(plain) or CLOCK.fullmatch(plain) or plain.lower() in MISSING)


def _separator(lines: list[str]) -> tuple[str, int]:
    """Return the separator that makes most lines rows of equal width, and the first of them."""
    best: tuple[int, str, int] | None = None
    for separator in SEPARATORS:
        rows = [_cells(line, separator) for line in lines]
        counts: dict[int, list[int]] = {}
        for place, row in enumerate(rows):
            full = sum(1 for cell in row if _looks(cell) and cell)
            if len(row) >= 2 and full >= 2 and sum(map(_looks, row)) >= 0.6 * len(row):
                counts.setdefault(len(row), []).append(place)
        if not counts:
            continue
        width, places = max(counts.items(), key=lambda one: (len(one[1]), one[0]))
        # Of two that fit equally often, the one that gives whole numbers fewer pieces: a decimal
        # comma is no separator.
        score = len(places) * 1000 - (width if separator == "," else 0)
        if best is None or score > best[0]:
            best = (score, separator, places[0])
    if best is None:
        raise Refusal("line 1", "holds no table: no line has two columns of numbers")
    return best[1], best[2]


def _has_commas(rows: list[list[str]]) -> bool:
    with_comma = sum(bool(re.fullmatch(r"[+-]?\d+,\d+", cell)) for row in rows for cell in row)
    with_point = sum(bool(re.fullmatch(r"[+-]?\d+\.\d+", cell)) for row in rows for cell in row)
    return with_comma > with_point


def _header(
    cells: list[list[str]], first: int, comma: bool
) -> tuple[tuple[str, ...], tuple[str, ...]]:
    width = len(cells[first])
    above = [row for row in cells[:first] if any(row) and not row[0].startswith("#")]
    commented = [
        [row[0].lstrip("# "), *row[1:]] for row in cells[:first] if row and row[0].startswith("#")
    ]
    if not above:
        above = [row for row in commented if len(row) == width]
    if not above or len(above[-1]) < 2:
        return tuple(f"column {place + 1}" for place in range(width)), ()
    last = [*above[-1], *[""] * width][:width]
    if len(above) > 1 and _all_units(last) and len(above[-2]) >= 2:
        return tuple([*above[-2], *[""] * width][:width]), tuple(last)
    return tuple(last), ()


def _all_units(row: list[str]) -> bool:
    return sum(1 for cell in row if is_unit(cell) or not cell) >= 0.8 * len(row) and any(row)
