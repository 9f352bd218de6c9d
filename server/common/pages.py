"""Lists a page at a time: each page begins after the last of the one before, however long."""

import base64
import binascii
import json
from typing import Any

from django.core.exceptions import ValidationError
from django.db import models
from django.db.models import F, Q

from powertrain.errors import Refusal

NO_PAGE = "is not the end of a page; begin at the first again"


def page_after(
    found: models.QuerySet[Any], by: list[str], after: str, limit: int
) -> tuple[list[Any], str]:
    """Return a page of a query, and what the next page is asked for with, empty after the last.

    Parameters
    ----------
    by : list of str
        Fields that it is ordered by, the last of them unlike in all rows; one with a minus falls.
    after : str
        As this function gave it; empty for the first page.

    Raises
    ------
    Refusal
        If `after` was not given by this function for such a list.
    """
    falling = by[0].startswith("-")
    names = [name.lstrip("-") for name in by]
    order = [F(name).desc() if falling else F(name).asc() for name in names]
    try:
        if after:
            found = found.filter(_beyond(names, falling, _opened(after, len(names))))
        rows = list(found.order_by(*order)[: limit + 1])
    except (ValidationError, ValueError):
        raise Refusal("after", NO_PAGE) from None
    more = len(rows) > limit
    return rows[:limit], _closed(rows[limit - 1], names) if more else ""


def _beyond(names: list[str], falling: bool, values: list[str]) -> Q:
    """Return what is beyond a row: equal in the first fields and beyond in the next."""
    sign = "lt" if falling else "gt"
    beyond, equal = Q(), Q()
    for name, value in zip(names, values, strict=True):
        beyond |= equal & Q(**{f"{name}__{sign}": value})
        equal &= Q(**{name: value})
    return beyond


def _closed(row: Any, names: list[str]) -> str:
    values = [str(getattr(row, name)) for name in names]
    return base64.urlsafe_b64encode(json.dumps(values).encode()).decode()


def _opened(after: str, count: int) -> list[str]:
    try:
        values = json.loads(base64.urlsafe_b64decode(after.encode()))
    except (ValueError, binascii.Error, RecursionError):
        values = None
    if (
        not isinstance(values, list)
        or len(values) != count
        or not all(isinstance(value, str) and "\0" not in value for value in values)
    ):
        raise Refusal("after", NO_PAGE)
    return values
